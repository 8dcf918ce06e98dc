/** Gives a text to the browser as a file to keep. */
export function saveText(name: string, text: string): void {
  const link = document.createElement('a');
  link.href = `data:text/plain;charset=utf-8,${encodeURIComponent(text)}`;
  link.download = name;
  link.click();
}
