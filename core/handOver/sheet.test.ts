import { expect, test } from 'vitest';
import { seededRandom } from '../random.ts';
import type { PaperSheet } from './preset.ts';
import { packSheet, sheetFlaw } from './sheet.ts';

const sheet = (pictures: PaperSheet['pictures'], part: Partial<PaperSheet> = {}): PaperSheet => ({
  kind: 'sheet',
  width: 210,
  height: 297,
  resolution: 300,
  margin: 5,
  gap: 4,
  marks: true,
  paper: 'gloss',
  pictures,
  ...part,
});

test('two of 13 × 18 go on one A4 only when they are turned; paper is saved', () => {
  const papers = packSheet(sheet([{ width: 130, height: 180, count: 2 }]));
  expect(papers).toHaveLength(1);
  expect(papers[0].every(({ turned }) => turned)).toBe(true);
});

test('what is larger than the paper is refused by name', () => {
  expect(sheetFlaw(sheet([{ width: 250, height: 250, count: 1 }]))).toContain('250 × 250');
  expect(sheetFlaw(sheet([{ width: 280, height: 190, count: 1 }]))).toBeUndefined();
});

test('all pictures are laid once, within the margins, apart by the gap (seeded)', () => {
  const random = seededRandom(11);
  for (let n = 0; n < 200; n++) {
    const pictures = Array.from({ length: 1 + Math.floor(4 * random()) }, () => ({
      width: Math.round(20 + 150 * random()),
      height: Math.round(20 + 150 * random()),
      count: 1 + Math.floor(5 * random()),
    }));
    const one = sheet(pictures);
    if (sheetFlaw(one)) continue;
    const papers = packSheet(one);
    const laid = papers.flat();
    pictures.forEach(({ count }, of) => expect(laid.filter((p) => p.of === of)).toHaveLength(count));
    for (const paper of papers)
      for (const [k, a] of paper.entries()) {
        expect(a.x).toBeGreaterThanOrEqual(5);
        expect(a.y).toBeGreaterThanOrEqual(5);
        expect(a.x + a.width).toBeLessThanOrEqual(205 + 1e-6);
        expect(a.y + a.height).toBeLessThanOrEqual(292 + 1e-6);
        const { width, height } = pictures[a.of];
        expect(a.turned ? [a.height, a.width] : [a.width, a.height]).toEqual([width, height]);
        for (const b of paper.slice(k + 1)) {
          const apart =
            a.x + a.width + 4 <= b.x + 1e-6 ||
            b.x + b.width + 4 <= a.x + 1e-6 ||
            a.y + a.height + 4 <= b.y + 1e-6 ||
            b.y + b.height + 4 <= a.y + 1e-6;
          expect(apart).toBe(true);
        }
      }
  }
});
