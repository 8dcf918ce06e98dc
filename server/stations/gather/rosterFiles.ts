import { stringify } from 'csv-stringify/sync';
import QRCode from 'qrcode';
import { rosterRows } from '../../../core/gather/roster.ts';
import { slateText } from '../../../core/gather/slate.ts';
import type { Subject } from '../../../core/gather/subject.ts';
import { pdfOf } from '../../pictures/pdf.ts';

/** The roster on paper and as a list. */

/** Formulas are escaped, as spreadsheets would run them. */
export function rosterCsv(subjects: readonly Subject[]): string {
  return stringify(rosterRows(subjects), { escape_formulas: true, bom: true });
}

const PAGE = { size: 'A4', margin: 42 } as const;
/** Rim around a code that readers need, in its squares. */
const RIM = 4;

/** One slate on each page: a code over most of it, number and name under it. */
export function slatesPdf(
  shoot: string,
  subjects: readonly Pick<Subject, 'number' | 'name' | 'group'>[],
): Promise<Buffer> {
  return pdfOf({ ...PAGE, autoFirstPage: false, info: { Title: `${shoot} – slates` } }, (pdf) => {
    for (const { number, name, group } of subjects) {
      pdf.addPage();
      const inner = pdf.page.width - 2 * PAGE.margin;
      drawCode(pdf, slateText(number), PAGE.margin, PAGE.margin, inner);
      const line = (text: string, size: number): void => {
        // Made smaller until it fits one line.
        let fitting = size;
        while (fitting > 12 && pdf.fontSize(fitting).widthOfString(text) > inner) fitting -= 2;
        pdf
          .fontSize(fitting)
          .text(text, PAGE.margin, pdf.y, { width: inner, align: 'center', lineBreak: fitting === 12 });
      };
      pdf.y = PAGE.margin + inner + 4;
      pdf.font('Helvetica-Bold');
      line(number, 110);
      pdf.font('Helvetica');
      line(name, 36);
      line(group || shoot, 16);
    }
  });
}

function drawCode(pdf: PDFKit.PDFDocument, text: string, x: number, y: number, side: number): void {
  // The letters that codes hold most densely, so that it is the smallest of codes with the largest squares.
  const dense = /^[0-9A-Z $%*+\-./:]+$/.test(text);
  const segments = dense ? [{ data: text, mode: 'alphanumeric' as const }] : text;
  const { size, data } = QRCode.create(segments, { errorCorrectionLevel: 'Q' }).modules;
  const square = side / (size + 2 * RIM);
  for (let row = 0; row < size; row++)
    for (let column = 0; column < size; column++)
      if (data[row * size + column])
        pdf.rect(x + (column + RIM) * square, y + (row + RIM) * square, square + 0.1, square + 0.1);
  pdf.fill('#000');
}
