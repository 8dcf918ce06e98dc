import { createRequire } from 'node:module';
import * as fontkit from 'fontkit';
import PDFDocument from 'pdfkit';

/** A PDF, drawn by `draw`; the same drawing made on the same day gives the same bytes. @throws what drawing throws. */
export function pdfOf(
  options: PDFKit.PDFDocumentOptions,
  draw: (pdf: PDFKit.PDFDocument) => void,
  made: Date = new Date(),
): Promise<Buffer> {
  const info = { Creator: 'Silent Lawn', CreationDate: made, ModDate: made, ...options.info };
  const pdf = new PDFDocument({ ...options, info });
  const chunks: Buffer[] = [];
  return new Promise<Buffer>((resolve, reject) => {
    pdf.on('data', (chunk: Buffer) => chunks.push(chunk));
    pdf.on('end', () => resolve(Buffer.concat(chunks)));
    pdf.on('error', reject);
    draw(pdf);
    pdf.end();
  });
}

/** The words’ font: a file with the usual letters and one with more. */
const fontFiles = ['latin', 'latin-ext'].map((letters) => (weight: 400 | 700) => {
  const { resolve } = createRequire(import.meta.url);
  return resolve(`@fontsource/archivo/files/archivo-${letters}-${weight}-normal.woff`);
});
let opened: fontkit.Font[] | undefined;

export interface LineStyle {
  size?: number;
  bold?: boolean;
  align?: 'left' | 'right';
}

/** Writes a text on one line in the application’s own font, cut off with an ellipsis where it is wider. */
export function writeLine(
  pdf: PDFKit.PDFDocument,
  text: string,
  x: number,
  y: number,
  width: number,
  { size = 9, bold = false, align = 'left' }: LineStyle = {},
): void {
  pdf.fontSize(size);
  const runs = runsOf(text);
  const use = ({ font }: Run) => pdf.font(fontFiles[font](bold ? 700 : 400));
  const wide = (run: Run): number => use(run).widthOfString(run.text);
  const whole = runs.reduce((sum, run) => sum + wide(run), 0);
  let at = align === 'right' ? x + Math.max(0, width - whole) : x;
  for (const run of runs) {
    const room = x + width - at;
    if (room <= 0) return;
    const fits = whole <= width || wide(run) <= room;
    let part = run.text;
    if (!fits) while (part && use(run).widthOfString(`${part}…`) > room) part = part.slice(0, -1);
    use(run).text(fits ? part : `${part}…`, at, y, { lineBreak: false });
    if (!fits) return;
    at += wide(run);
  }
}

interface Run {
  text: string;
  font: number;
}

/** Stretches that one font can write; letters that neither has become a question mark. */
function runsOf(text: string): Run[] {
  opened ??= fontFiles.map((file) => fontkit.openSync(file(400)) as fontkit.Font);
  const runs: Run[] = [];
  for (const letter of text) {
    const found = opened.findIndex((font) => font.hasGlyphForCodePoint(letter.codePointAt(0) ?? 0));
    const font = Math.max(0, found);
    const last = runs.at(-1);
    const shown = found < 0 ? '?' : letter;
    if (last?.font === font) last.text += shown;
    else runs.push({ text: shown, font });
  }
  return runs;
}
