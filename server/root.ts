import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';

/** The project's own folder, from the sources and from what is built of them alike. */
export const root = ((): string => {
  let folder = import.meta.dirname;
  while (!existsSync(join(folder, 'package.json')) && folder !== dirname(folder)) folder = dirname(folder);
  return folder;
})();
