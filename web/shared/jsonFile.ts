import type { z } from 'zod';

/**
 * What a JSON file holds.
 * @param words what it should be (“a plan that was exported here”), and how it comes in again (“import it”).
 * @returns why it cannot be used, as a sentence with its remedy, if that is so.
 */
export function readJsonFile<T>(
  name: string,
  text: string,
  schema: z.ZodType<T, unknown>,
  words: { wanted: string; whole: string; again: string },
): { value: T } | { refused: string } {
  let content: unknown;
  try {
    content = JSON.parse(text);
  } catch {
    return { refused: `${name} is not JSON. Choose ${words.wanted}.` };
  }
  const result = schema.safeParse(content);
  if (result.success) return { value: result.data };
  const [issue] = result.error.issues;
  return {
    refused: `${name}: ${issue.path.join('.') || words.whole}: ${issue.message}. Correct it and ${words.again} again.`,
  };
}
