/** Relative luminance of linear sRGB (ITU-R BT.709 primaries): Y = 0.2126 R + 0.7152 G + 0.0722 B. */
export function luminance(r: number, g: number, b: number): number {
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
