/** Where a file lies in a bundle. */
export function bundlePath(file: string): string {
  return `files/${file.slice(0, 2)}/${file}`;
}
