import { parseArgs, type ParseArgsConfig } from 'node:util';

/** Wrong use of the command line; the message says what was expected. */
export class UsageError extends Error {
  override name = 'UsageError';
}

/** Options and files of a command. @throws UsageError for what it does not know. */
export function argumentsOf<O extends NonNullable<ParseArgsConfig['options']>>(args: string[], options: O) {
  try {
    return parseArgs({ args, options, allowPositionals: true });
  } catch (error) {
    throw new UsageError((error as Error).message);
  }
}
