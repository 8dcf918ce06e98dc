/** A part of the application that could not be loaded: it was renewed since the page was opened, or does not answer. */
export class PartAway extends Error {
  override name = 'PartAway';
}

/**
 * Loads a part of the application that is wanted only now.
 * @throws PartAway if it cannot be had.
 */
export async function part<T>(load: () => Promise<T>): Promise<T> {
  try {
    return await load();
  } catch (cause) {
    throw new PartAway('A part of the application could not be loaded', { cause });
  }
}
