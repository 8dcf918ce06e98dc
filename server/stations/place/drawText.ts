import { createRequire } from 'node:module';
import * as fontkit from 'fontkit';
import type { CardFont, Drawn } from '../../../core/place/index.ts';

/** The fonts that ship with the application, each as its Latin file and the one with more letters. */
const files: Record<CardFont, { name: string; weight: number }> = {
  plain: { name: 'archivo', weight: 500 },
  bold: { name: 'archivo', weight: 700 },
  figures: { name: 'red-hat-mono', weight: 500 },
};

const opened = new Map<CardFont, fontkit.Font[]>();

function fontsOf(font: CardFont): fontkit.Font[] {
  const there = opened.get(font);
  if (there) return there;
  const { name, weight } = files[font];
  const { resolve } = createRequire(import.meta.url);
  const fonts = ['latin', 'latin-ext'].map((letters) => {
    // Of fixed weight: the library draws no other weight of a compressed variable font.
    const file = resolve(`@fontsource/${name}/files/${name}-${letters}-${weight}-normal.woff2`);
    return fontkit.openSync(file) as fontkit.Font;
  });
  opened.set(font, fonts);
  return fonts;
}

/** A text as outlines, for an em of one; letters that no font has are left out. */
export function drawText(text: string, font: CardFont): Drawn {
  const fonts = fontsOf(font);
  let width = 0;
  const parts: string[] = [];
  for (const { run, of } of runsOf(text, fonts)) {
    const scale = 1 / of.unitsPerEm;
    const laid = of.layout(run);
    laid.glyphs.forEach((glyph, n) => {
      const { xOffset, yOffset, xAdvance } = laid.positions[n];
      const x = width + xOffset * scale;
      if (glyph.path.commands.length)
        parts.push(
          glyph.path
            .scale(scale, -scale)
            .translate(x, -yOffset * scale)
            .toSVG(),
        );
      width += xAdvance * scale;
    });
  }
  return { width, path: parts.join('') };
}

/** The text in stretches that one font can draw. */
function runsOf(text: string, fonts: readonly fontkit.Font[]): { run: string; of: fontkit.Font }[] {
  const runs: { run: string; of: fontkit.Font }[] = [];
  for (const letter of text) {
    const of = fonts.find((font) => font.hasGlyphForCodePoint(letter.codePointAt(0) ?? 0));
    if (!of) continue;
    const last = runs.at(-1);
    if (last?.of === of) last.run += letter;
    else runs.push({ run: letter, of });
  }
  return runs;
}
