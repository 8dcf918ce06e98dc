import { readFile } from 'node:fs/promises';
import { consentWords, type Consent } from '../../../core/gather/subject.ts';
import { pdfOf, writeLine, type LineStyle } from '../../pictures/pdf.ts';
import type { Store } from '../../store/store.ts';
import type { HandedOver, Listed } from './manifest.ts';

/** What is printed beside the pictures: contact sheets, and slips by subject. */

const page = { size: 'A4' as const, margin: 36, width: 595.28, height: 841.89 };
const inner = { width: page.width - 2 * page.margin, height: page.height - 2 * page.margin };
const grid = { across: 4, down: 5, gap: 10, words: 24 };

/** Pictures of a slip in a row, height of a row with its words, and of a line below. */
const slip = { across: 3, down: 222, line: 14 };

type Pictures = Map<Listed, Buffer>;

async function readAll(files: readonly Listed[], store: Store): Promise<Pictures> {
  const there = files.filter(({ missing }) => !missing);
  return new Map(
    await Promise.all(
      there.map(async (file): Promise<[Listed, Buffer]> => {
        return [file, await readFile(await store.need(file.sha256, 'this small picture'))];
      }),
    ),
  );
}

/** All pictures, small, with their names. */
export async function contactPdf({ shoot, small, made }: HandedOver, store: Store): Promise<Buffer> {
  const pictures = await readAll(small, store);
  const title = `${shoot.name}, ${shoot.date}`;
  const perPage = grid.across * grid.down;
  const width = (inner.width - (grid.across - 1) * grid.gap) / grid.across;
  const height = (inner.height - 30 - (grid.down - 1) * grid.gap) / grid.down;
  const pages = Math.max(1, Math.ceil(small.length / perPage));
  return pdfOf(
    { size: page.size, margin: 0, autoFirstPage: false, info: { Title: `${title}: contact sheet` } },
    (pdf) => {
      for (let n = 0; n < pages; n++) {
        pdf.addPage();
        writeLine(pdf, title, page.margin, page.margin, inner.width - 60, { size: 11, bold: true });
        writeLine(pdf, `${n + 1} of ${pages}`, page.margin, page.margin + 2, inner.width, { size: 8, align: 'right' });
        for (const [k, file] of small.slice(n * perPage, (n + 1) * perPage).entries()) {
          const x = page.margin + (k % grid.across) * (width + grid.gap);
          const y = page.margin + 30 + Math.floor(k / grid.across) * (height + grid.gap);
          drawPicture(pdf, pictures.get(file), x, y, width, height - grid.words);
          const under = y + height - grid.words;
          writeLine(pdf, file.frame, x, under + 4, width, { size: 7 });
          writeLine(pdf, [file.number, file.subject].filter(Boolean).join(' '), x, under + 13, width, { size: 7 });
        }
      }
    },
    made,
  );
}

/** For each subject a page, or as many as it takes: their pictures, what they ordered, what was made. */
export async function slipsPdf({ shoot, small, files, made }: HandedOver, store: Store): Promise<Buffer> {
  const pictures = await readAll(small, store);
  const subjects = [...new Set(small.map(({ subject }) => subject))].filter(Boolean);
  return pdfOf(
    { size: page.size, margin: 0, autoFirstPage: false, info: { Title: `${shoot.name}: order slips` } },
    (pdf) => {
      if (!subjects.length) writeLine(pdf.addPage(), 'Nobody is named on these pictures.', 36, 36, inner.width);
      for (const subject of subjects) {
        const own = small.filter((file) => file.subject === subject);
        const [{ number, group, products, consent }] = own;
        pdf.addPage();
        const say = (text: string, down: number, style?: LineStyle): void =>
          writeLine(pdf, text, page.margin, page.margin + down, inner.width, style);
        say([number, subject].filter(Boolean).join('  '), 0, { size: 18, bold: true });
        say([group, shoot.name, shoot.date].filter(Boolean).join(', '), 24);
        say(`Ordered: ${products || 'nothing noted'}`, 38);
        say(`Consent: ${consentWords[consent as Consent] ?? consent}`, 50);
        let y = page.margin + 72;
        const below = (height: number): void => {
          if (y + height <= page.height - page.margin) return;
          pdf.addPage();
          writeLine(
            pdf,
            `${[number, subject].filter(Boolean).join('  ')}, continued`,
            page.margin,
            page.margin,
            inner.width,
          );
          y = page.margin + 24;
        };
        const width = (inner.width - (slip.across - 1) * grid.gap) / slip.across;
        for (let n = 0; n < own.length; n += slip.across) {
          below(slip.down);
          for (const [k, file] of own.slice(n, n + slip.across).entries()) {
            const x = page.margin + k * (width + grid.gap);
            drawPicture(pdf, pictures.get(file), x, y, width, slip.down - 22);
            writeLine(pdf, file.frame, x, y + slip.down - 18, width, { size: 7 });
          }
          y += slip.down;
        }
        y += 14;
        for (const file of files.filter((one) => one.subject === subject)) {
          below(slip.line);
          pdf.rect(page.margin, y, 8, 8).lineWidth(0.5).stroke('#000');
          writeLine(pdf, `${file.preset}: ${file.file}`, page.margin + 14, y - 1, inner.width - 14, { size: 8 });
          y += slip.line;
        }
      }
    },
    made,
  );
}

function drawPicture(
  pdf: PDFKit.PDFDocument,
  picture: Buffer | undefined,
  x: number,
  y: number,
  w: number,
  h: number,
): void {
  if (picture) pdf.image(picture, x, y, { fit: [w, h], align: 'center', valign: 'center' });
  else pdf.rect(x, y, w, h).lineWidth(0.5).stroke('#999');
}
