import type { Size } from '../place/placement.ts';
import type { PaperSheet } from './preset.ts';

/** A picture on a paper, mm from its left upper corner, as it lies there; turned ones lie on their side. */
export interface OnPaper extends Size {
  x: number;
  y: number;
  turned: boolean;
  /** Which of the sheet’s pictures. */
  of: number;
}

/** What is larger than the paper, in words; undefined if all fit. */
export function sheetFlaw({ width, height, margin, pictures }: PaperSheet): string | undefined {
  const [short, long] = [Math.min(width, height), Math.max(width, height)].map((side) => side - 2 * margin);
  const large = pictures.find((p) => Math.min(p.width, p.height) > short || Math.max(p.width, p.height) > long);
  return (
    large && `a picture of ${large.width} × ${large.height} mm does not fit on ${width} × ${height} mm with its margin`
  );
}

interface Free extends Size {
  x: number;
  y: number;
}

/**
 * Lays a sheet’s pictures on as few papers as it can: the largest first, each into the smallest free rectangle that it
 * fits, turned where that wastes less; what is left of the rectangle is parted along its shorter rest (guillotine
 * packing, Jylänki 2010), so that every cut goes straight through.
 * @returns the papers, each with its pictures.
 */
export function packSheet(sheet: PaperSheet): OnPaper[][] {
  const { margin, gap, pictures } = sheet;
  // Each takes the gap to its right and below with it; the paper is larger by one gap.
  const area = { x: margin, y: margin, width: sheet.width - 2 * margin + gap, height: sheet.height - 2 * margin + gap };
  const waiting = pictures
    .flatMap(({ width, height, count }, of) => Array.from({ length: count }, () => ({ width, height, of })))
    .sort((a, b) => b.width * b.height - a.width * a.height);
  const papers: { free: Free[]; laid: OnPaper[] }[] = [];
  for (const picture of waiting) {
    if (papers.some((paper) => layOn(paper, picture, gap))) continue;
    const fresh = { free: [area], laid: [] };
    if (layOn(fresh, picture, gap)) papers.push(fresh);
  }
  return papers.map(({ laid }) => laid);
}

function layOn(
  paper: { free: Free[]; laid: OnPaper[] },
  { width, height, of }: Size & { of: number },
  gap: number,
): boolean {
  const ways = [
    { width, height, turned: false },
    { width: height, height: width, turned: true },
  ];
  let best: { free: Free; way: (typeof ways)[number]; waste: number } | undefined;
  for (const free of paper.free)
    for (const way of ways) {
      const [right, below] = [free.width - way.width - gap, free.height - way.height - gap];
      if (right < -1e-9 || below < -1e-9) continue;
      const waste = Math.min(right, below);
      if (!best || waste < best.waste) best = { free, way, waste };
    }
  if (!best) return false;
  const { free, way } = best;
  const [w, h] = [way.width + gap, way.height + gap];
  const [right, below] = [free.width - w, free.height - h];
  const across = right < below;
  paper.free = paper.free.filter((one) => one !== free);
  paper.free.push(
    { x: free.x + w, y: free.y, width: right, height: across ? h : free.height },
    { x: free.x, y: free.y + h, width: across ? free.width : w, height: below },
  );
  paper.laid.push({ x: free.x, y: free.y, width: way.width, height: way.height, turned: way.turned, of });
  return true;
}
