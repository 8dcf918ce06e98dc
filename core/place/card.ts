/** A card: words and a border over a finished picture, laid out once and used for all. */
export interface Card {
  lines: CardLine[];
  /** Distance of words and border from the edge: what a printer may cut off, thousandths of the shorter side. */
  margin: number;
  /** Width of a line along that distance, thousandths of the shorter side; 0 for none. */
  border: number;
  /** Of the border, sRGB as #rrggbb. */
  tone: string;
}

export interface CardLine {
  id: string;
  /** With fields in braces, as {name}. */
  text: string;
  at: CardPlace;
  /** Height of its capitals with room, thousandths of the shorter side. */
  size: number;
  font: CardFont;
  tone: string;
  /** A soft dark or light edge, so that it can be read on anything. */
  edge: boolean;
}

export const cardPlaces = {
  topLeft: 'Top left',
  top: 'Top',
  topRight: 'Top right',
  bottomLeft: 'Bottom left',
  bottom: 'Bottom',
  bottomRight: 'Bottom right',
} as const;
export type CardPlace = keyof typeof cardPlaces;
export const cardFonts = { plain: 'Plain', bold: 'Bold', figures: 'Figures' } as const;
export type CardFont = keyof typeof cardFonts;
export const cardRanges = {
  margin: { label: 'Margin', min: 0, max: 150, default: 40, step: 5, unit: '‰' },
  border: { label: 'Border', min: 0, max: 40, default: 0, step: 1, unit: '‰' },
  size: { label: 'Size', min: 10, max: 200, default: 40, step: 2, unit: '‰' },
};
export const MOST_LINES = 12;
export const LONGEST_LINE = 200;

/** What stands in the fields of a card. */
export const cardFields = {
  name: 'who is on it',
  frame: 'name of the frame',
  number: 'running number',
  shoot: 'name of the shoot',
  date: 'day of the shoot',
  place: 'where it was',
  background: 'name of the background',
} as const;
export type CardField = keyof typeof cardFields;
export type CardFields = Record<CardField, string>;

/** A text with its fields filled; a field nobody knows stays as it is written. */
export function filled(text: string, fields: CardFields): string {
  return text.replace(/\{(\w+)\}/g, (whole, name: string) => (name in fields ? fields[name as CardField] : whole));
}
export function unknownFields(text: string): string[] {
  return [...text.matchAll(/\{(\w+)\}/g)].map(([, name]) => name).filter((name) => !(name in cardFields));
}

/** A text as a font draws it: its advance, and its outline as an SVG path, for an em of one; up is negative. */
export interface Drawn {
  width: number;
  path: string;
}
export type Draw = (text: string, font: CardFont) => Drawn;

/** A line's place on a picture, pixels: from where, and how much the em is. */
export interface LaidLine {
  x: number;
  baseline: number;
  em: number;
  drawn: Drawn;
  line: CardLine;
}

/** Between border and words, thousandths of the shorter side. */
const ROOM = 18;
/** Of an em: from the baseline to the top of capitals, and from line to line. */
const CAPITAL = 0.7;
const LEADING = 1.3;

/**
 * Where the lines of a card stand. Those at one place stand under each other; one that is wider than the room is made
 * smaller until it fits, so that none runs out; and all of a place where there are too many for the height.
 */
export function laidOut(card: Card, fields: CardFields, width: number, height: number, draw: Draw): LaidLine[] {
  const unit = Math.min(width, height) / 1000;
  const inset = (card.margin + (card.border > 0 ? card.border + ROOM : 0)) * unit;
  const room = Math.max(1, width - 2 * inset);
  const out: LaidLine[] = [];
  for (const at of Object.keys(cardPlaces) as CardPlace[]) {
    const lines = card.lines
      .filter((line) => line.at === at)
      .map((line) => {
        const drawn = draw(filled(line.text, fields), line.font);
        return { line, drawn, em: Math.min((line.size * unit) / CAPITAL, room / Math.max(1e-6, drawn.width)) };
      })
      .filter(({ drawn }) => drawn.width > 0);
    const tall = lines.reduce((sum, { em }) => sum + em * LEADING, 0);
    const shrink = Math.min(1, (height - 2 * inset) / Math.max(1, tall));
    const top = at.startsWith('top');
    let y = top ? inset : height - inset - tall * shrink;
    for (const { line, drawn, em: wanted } of lines) {
      const em = wanted * shrink;
      y += em * LEADING;
      const long = drawn.width * em;
      const x = at.endsWith('Left') ? inset : at.endsWith('Right') ? width - inset - long : (width - long) / 2;
      // Capitals stand in the middle of their line.
      out.push({ line, drawn, em, x, baseline: y - (em * (LEADING - CAPITAL)) / 2 });
    }
  }
  return out;
}

/** A card as SVG, without any text in it: what fonts a machine has makes no difference. */
export function cardSvg(card: Card, fields: CardFields, width: number, height: number, draw: Draw): string {
  const unit = Math.min(width, height) / 1000;
  const parts: string[] = [];
  if (card.border > 0) {
    const thick = card.border * unit;
    const at = card.margin * unit + thick / 2;
    parts.push(
      `<rect x="${at}" y="${at}" width="${Math.max(0, width - 2 * at)}" height="${Math.max(0, height - 2 * at)}" fill="none" stroke="${card.tone}" stroke-width="${thick}"/>`,
    );
  }
  for (const { line, drawn, em, x, baseline } of laidOut(card, fields, width, height, draw)) {
    const edge = line.edge
      ? ` stroke="${isLight(line.tone) ? '#000000' : '#ffffff'}" stroke-opacity="0.55" stroke-width="0.09" stroke-linejoin="round" paint-order="stroke"`
      : '';
    parts.push(
      `<path transform="translate(${x} ${baseline}) scale(${em})" d="${drawn.path}" fill="${line.tone}"${edge}/>`,
    );
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${parts.join('')}</svg>`;
}

function isLight(tone: string): boolean {
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(tone.slice(at, at + 2), 16));
  return 0.3 * r + 0.6 * g + 0.1 * b > 127;
}
