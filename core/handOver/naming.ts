/**
 * File name of a delivered picture in its folder: the frame’s name without its ending, and a number if that is
 * taken. Characters that some file system refuses become an underscore.
 */
export function deliveredName(
  frameName: string,
  kind: 'cutout' | 'finished',
  extension: string,
  taken: ReadonlySet<string>,
): string {
  const base = safeName(frameName.replace(/\.[^.]*$/, ''));
  const folder = kind === 'cutout' ? 'cutouts' : 'finished';
  for (let n = 1; ; n++) {
    const name = `${folder}/${base}${n === 1 ? '' : `-${n}`}.${extension}`;
    if (![...taken].some((other) => other.toLowerCase() === name.toLowerCase())) return name;
  }
}

export function safeName(name: string): string {
  const safe = name
    .replace(/[\u0000-\u001f\u007f<>:"/\\|?*]/g, '_')
    .replace(/^[.\s]+|[.\s]+$/g, '')
    .slice(0, 120);
  // Windows keeps these for devices, whatever their ending.
  return /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i.test(safe) ? `_${safe}` : safe || 'frame';
}
