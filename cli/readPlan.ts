import { readFile } from 'node:fs/promises';
import { planSchema } from '../contract/index.ts';
import type { Plan } from '../core/plan/index.ts';
import { inWords } from '../server/faults.ts';
import { UsageError } from './arguments.ts';

/** @throws UsageError naming the file, the field and what is wrong with it. */
export async function readPlan(file: string): Promise<Plan> {
  let content: unknown;
  try {
    content = JSON.parse(await readFile(file, 'utf8'));
  } catch (error) {
    throw new UsageError(`${file} cannot be read as JSON (${inWords(error)})`);
  }
  const result = planSchema.safeParse(content);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  throw new UsageError(`${file}: ${issue.path.join('.') || 'the plan'}: ${issue.message}`);
}
