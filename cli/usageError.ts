/** Wrong use of the command line; the message says what was expected. */
export class UsageError extends Error {
  override name = 'UsageError';
}
