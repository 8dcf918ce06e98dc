import { pdfOf } from '../../pictures/pdf.ts';
import {
  fingertips,
  reportOn,
  scheduleOf,
  setSheet,
  type Plan,
  type SheetSection,
  type Units,
} from '../../../core/plan/index.ts';

const PAGE = { size: 'A4', margin: 42 } as const;

/** The set sheet as a PDF: the set from above, then the sections of the sheet. */
export function sheetPdf(plan: Plan, units: Units): Promise<Buffer> {
  const report = reportOn(plan);
  const sections = setSheet(plan, report, scheduleOf(plan, report.kit, report.forecast), units);
  return pdfOf({ ...PAGE, info: { Title: `${plan.name} – set sheet` } }, (pdf) => {
    pdf.font('Helvetica-Bold').fontSize(16).text(plan.name);
    pdf.font('Helvetica').fontSize(9).text(`Set sheet, ${plan.event.date}`).moveDown(0.5);
    drawFromAbove(pdf, plan);
    for (const section of sections) writeSection(pdf, section);
  });
}

function drawFromAbove(pdf: PDFKit.PDFDocument, plan: Plan): void {
  const { room, screen, camera } = plan;
  const width = PAGE.margin;
  const inner = pdf.page.width - 2 * width;
  const height = 210;
  const top = pdf.y;
  const across = Math.min(room.left + room.right, 14);
  const deep = Math.min(room.behind + room.front, 20);
  const scale = Math.min(inner / deep, height / across);
  // The screen on the left, the camera to the right, so that the long side of the room runs along the paper.
  const x = (z: number): number => width + (z + room.behind) * scale;
  const y = (side: number): number => top + (side + room.left) * scale;
  pdf
    .lineWidth(0.6)
    .rect(x(-room.behind), y(-room.left), deep * scale, across * scale)
    .stroke('#888');
  pdf
    .lineWidth(3)
    .moveTo(x(0), y(-screen.width / 2))
    .lineTo(x(0), y(screen.width / 2))
    .stroke('#000');
  pdf.lineWidth(0.6).fontSize(7);
  for (const lamp of plan.lamps) {
    if (lamp.kind === 'sun' || lamp.kind === 'overcast') continue;
    pdf
      .circle(x(lamp.position.z), y(lamp.position.x), 3.5)
      .stroke('#000')
      .moveTo(x(lamp.position.z), y(lamp.position.x))
      .lineTo(x(lamp.aim.z), y(lamp.aim.x))
      .dash(2, { space: 2 })
      .stroke('#777')
      .undash();
    pdf.fillColor('#000').text(lamp.name, x(lamp.position.z) + 5, y(lamp.position.x) - 9, { lineBreak: false });
  }
  for (const person of plan.people) {
    const [a, b] = fingertips(person);
    pdf
      .moveTo(x(a.point.z), y(a.point.x))
      .lineTo(x(b.point.z), y(b.point.x))
      .stroke('#000')
      .circle(x(person.z), y(person.x), 5)
      .fill('#000');
  }
  pdf
    .rect(x(camera.position.z) - 4, y(camera.position.x) - 4, 10, 8)
    .stroke('#000')
    .fillColor('#000')
    .text('Camera', x(camera.position.z) - 6, y(camera.position.x) + 6, { lineBreak: false });
  pdf.x = PAGE.margin;
  pdf.y = top + across * scale + 14;
}

function writeSection(pdf: PDFKit.PDFDocument, { title, head, rows }: SheetSection): void {
  if (!rows.length) return;
  const inner = pdf.page.width - 2 * PAGE.margin;
  if (pdf.y > pdf.page.height - 120) pdf.addPage();
  pdf
    .moveDown(0.6)
    .font('Helvetica-Bold')
    .fontSize(10)
    .fillColor('#000')
    .text(title, PAGE.margin, undefined, { width: inner });
  const columns = Math.max(1, head?.length ?? 0, ...rows.map((row) => row.length));
  const widths =
    columns === 1
      ? [inner]
      : columns === 2
        ? [110, inner - 110]
        : Array.from({ length: columns }, (_, n) =>
            n === (title === 'Packing list' ? 0 : title === 'The day' ? 3 : -1)
              ? inner * 0.5
              : (inner * (title === 'Lamps' ? 1 : 0.5)) / (columns - (title === 'Lamps' ? 0 : 1)),
          );
  const line = (cells: string[], bold: boolean): void => {
    pdf.font(bold ? 'Helvetica-Oblique' : 'Helvetica').fontSize(columns > 5 ? 6.5 : 8.5);
    const spans = cells.length === 1 ? [inner] : widths;
    const tall = Math.max(...cells.map((cell, n) => pdf.heightOfString(printable(cell), { width: spans[n] - 4 })));
    if (pdf.y + tall > pdf.page.height - PAGE.margin) pdf.addPage();
    const y = pdf.y;
    let x = PAGE.margin;
    cells.forEach((cell, n) => {
      pdf.text(printable(cell), x, y, { width: spans[n] - 4 });
      x += spans[n];
    });
    pdf.y = y + tall + 2;
    pdf.x = PAGE.margin;
  };
  if (head) line(head, true);
  for (const row of rows) line(row, false);
}

/** The standard PDF fonts lack these signs. */
function printable(text: string): string {
  return text
    .replaceAll('−', '-')
    .replaceAll('′', "'")
    .replaceAll('″', '"')
    .replaceAll('∞', 'infinity')
    .replaceAll('≤', '<=')
    .replaceAll('≥', '>=');
}
