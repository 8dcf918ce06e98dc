import {
  clampCrop,
  cropHeight,
  MM_PER_INCH,
  packSheet,
  papers,
  pixelsOf,
  printedSize,
  proposeCrop,
  shapeKey,
  type Paper,
  type PaperSheet,
  type People,
  type Print,
  type PrintCrop,
  type WrittenFacts,
} from '../../../core/handOver/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import { cropped, withCard, type Size } from '../../../core/place/index.ts';
import { encodePicture } from '../../pictures/encode.ts';
import { pdfOf } from '../../pictures/pdf.ts';
import { inProfile, profileContent } from '../../pictures/profiles.ts';
import { resizedInLight, sharpened } from '../../pictures/resize.ts';
import type { Store } from '../../store/store.ts';

/** A finished picture, who is where on it, and the crops that a hand moved. */
export interface Finished {
  picture: EncodedRaster & { channels: 3 };
  people: People | null;
  crops: Readonly<Record<string, PrintCrop>>;
  /** Words and border of its style for a paper of a size in pixels, laid out so far from its edge; null without. */
  card: ((size: Size, margin: number) => Promise<EncodedRaster & { channels: 4 }>) | null;
}
/** An encoded file. */
export interface Encoded extends Size {
  content: Buffer;
}

/** One print: cropped, brought to its size unless that would enlarge it, sharpened for its paper, in its colours. */
export async function printFile(
  preset: Print,
  finished: Finished,
  facts: WrittenFacts,
  store: Store,
): Promise<Encoded> {
  const shape = printedSize(preset);
  const bled = await partOf(finished, shape, preset.resolution, preset.paper);
  const part = { ...bled, picture: await worded(bled, preset, finished.card) };
  const profile = await profileContent(preset.profile, store);
  const content = await encodePicture(
    profile ? await inProfile(part.picture, profile, preset.intent) : part.picture,
    preset.format,
    { quality: preset.quality, resolution: part.resolution, facts, profile },
  );
  return { content, width: part.picture.width, height: part.picture.height };
}

/** The part of a picture that a shape takes, at its resolution; a small part keeps its pixels, at a lower one. */
async function partOf(
  { picture, people, crops }: Finished,
  shape: Size,
  resolution: number,
  paper: Paper,
): Promise<{ picture: EncodedRaster & { channels: 3 }; resolution: number }> {
  const crop = clampCrop(crops[shapeKey(shape)] ?? proposeCrop(people, shape, picture), shape, picture);
  const across = Math.max(1, Math.round(crop.width * picture.width));
  const down = Math.max(1, Math.min(picture.height, Math.round(cropHeight(crop, shape, picture) * picture.height)));
  const part = cropped(picture, {
    left: Math.min(picture.width - across, Math.round(crop.x * picture.width)),
    top: Math.min(picture.height - down, Math.round(crop.y * picture.height)),
    width: across,
    height: down,
  });
  const asked = { width: pixelsOf(shape.width, resolution), height: pixelsOf(shape.height, resolution) };
  const enough = across >= asked.width;
  const has = enough ? resolution : across / (shape.width / MM_PER_INCH);
  const sized = await resizedInLight(
    part,
    enough ? asked : { width: across, height: Math.max(1, Math.round((across * shape.height) / shape.width)) },
  );
  const { radius, strength } = papers[paper];
  return { picture: await sharpened(sized, (radius / MM_PER_INCH) * has, strength), resolution: has };
}

/** A print with the words of its style: on the paper as it is trimmed, within the safe margin. */
async function worded(
  { picture, resolution }: { picture: EncodedRaster & { channels: 3 }; resolution: number },
  preset: Pick<Print, 'width' | 'height' | 'bleed' | 'safe' | 'plain'>,
  card: Finished['card'],
): Promise<EncodedRaster & { channels: 3 }> {
  if (!card || preset.plain) return picture;
  const { width, height } = picture;
  const bleed = Math.min(pixelsOf(preset.bleed, resolution), Math.floor((Math.min(width, height) - 1) / 2));
  const trimmed = { width: width - 2 * bleed, height: height - 2 * bleed };
  return withCard(picture, padded(await card(trimmed, pixelsOf(preset.safe, resolution)), bleed));
}

/** RGBA with so many clear pixels around it. */
function padded(picture: EncodedRaster & { channels: 4 }, around: number): EncodedRaster & { channels: 4 } {
  const { width, height } = picture;
  const wide = width + 2 * around;
  const data = new Uint8Array(wide * (height + 2 * around) * 4);
  for (let y = 0; y < height; y++)
    data.set(picture.data.subarray(y * width * 4, (y + 1) * width * 4), ((y + around) * wide + around) * 4);
  return { width: wide, height: height + 2 * around, channels: 4, data };
}

const POINTS_PER_MM = 72 / MM_PER_INCH;
/** Cut marks: how long at the most and how far from the picture, mm, and how thick, points. */
const mark = { length: 4, apart: 1, thick: 0.4 };

/** All prints of one picture on papers, as PDF, a page for each paper. */
export async function sheetFile(preset: PaperSheet, finished: Finished, title: string): Promise<Encoded> {
  const encoded = await Promise.all(
    preset.pictures.map(async (shape) => {
      const part = await partOf(finished, shape, preset.resolution, preset.paper);
      const picture = await worded(part, { ...shape, bleed: 0, safe: 0, plain: preset.plain }, finished.card);
      return encodePicture(picture, 'jpeg', { quality: 94 });
    }),
  );
  const size: [number, number] = [preset.width * POINTS_PER_MM, preset.height * POINTS_PER_MM];
  const content = await pdfOf({ size, margin: 0, autoFirstPage: false, info: { Title: title } }, (pdf) => {
    for (const laid of packSheet(preset)) {
      pdf.addPage({ size, margin: 0 });
      for (const { x, y, width, height, turned, of } of laid) {
        const [left, top, w, h] = [x, y, width, height].map((mm) => mm * POINTS_PER_MM);
        pdf.save();
        if (turned) pdf.rotate(90, { origin: [left, top] }).image(encoded[of], left, top - w, { width: h, height: w });
        else pdf.image(encoded[of], left, top, { width: w, height: h });
        pdf.restore();
        if (preset.marks) drawMarks(pdf, left, top, w, h, marksWithin(preset));
      }
    }
  });
  return { content, width: Math.round(preset.width), height: Math.round(preset.height) };
}

/** Length of marks that keep off the picture beside, mm; none where there is no room. */
function marksWithin({ gap, margin }: PaperSheet): number {
  return Math.max(0, Math.min(mark.length, gap - mark.apart - 0.5, margin - mark.apart));
}

function drawMarks(
  pdf: PDFKit.PDFDocument,
  left: number,
  top: number,
  width: number,
  height: number,
  long: number,
): void {
  if (!long) return;
  const [apart, length] = [mark.apart * POINTS_PER_MM, long * POINTS_PER_MM];
  pdf.lineWidth(mark.thick);
  for (const x of [left, left + width])
    for (const [from, to] of [
      [top - apart - length, top - apart],
      [top + height + apart, top + height + apart + length],
    ])
      pdf.moveTo(x, from).lineTo(x, to).stroke('#000');
  for (const y of [top, top + height])
    for (const [from, to] of [
      [left - apart - length, left - apart],
      [left + width + apart, left + width + apart + length],
    ])
      pdf.moveTo(from, y).lineTo(to, y).stroke('#000');
}
