import type { Random } from '../../core/random.ts';
import { clothShader, skinShader, someCloth } from './cloth.ts';
import { someColour } from './colours.ts';
import { body, ellipse, polygon, within, type Lamp } from './forms.ts';
import type { HairStyle, PersonNeed } from './personNeed.ts';
import { paint, type Colour, type Painted, type Shader } from './picture.ts';
import { strands } from './strands.ts';

/** Hair that falls over the shoulders, behind the body or before it. */
export function longHair(
  picture: Painted,
  random: Random,
  { x, y, head, wind = 0, lamp }: PersonNeed,
  colour: Colour,
  style: HairStyle,
  seed: number,
  back: boolean,
): void {
  const curly = style === 'curly';
  const length = (style === 'flying' ? 1.6 : 1.2 + 1.3 * random()) * head;
  const dark: Shader = (px, py, light, out) => {
    const bright = (0.4 + 0.4 * light) * (1 + 0.3 * Math.sin(px / 3.1 + py / 41));
    for (let c = 0; c < 3; c++) out[c] = colour[c] * bright;
  };
  if (back) {
    const w = (0.4 + 0.08 * random()) * head;
    paint(
      picture,
      body(
        [
          { ax: x, ay: y - 0.1 * head, bx: x, by: y + 0.3 * head, ra: w, rb: w },
          { ax: x, ay: y, bx: x + wind * 0.4 * head, by: y + length * 0.62, ra: w, rb: w * 0.8 },
        ],
        lamp,
        0.2 * head,
      ),
      dark,
    );
  }
  strands(picture, random, {
    colour,
    root: (r) => {
      const a = Math.PI * (1 + r()) + 0.25 * (r() - 0.5);
      return {
        x: x + Math.cos(a) * 0.37 * head,
        y: y + Math.sin(a) * 0.48 * head + 0.05 * head,
        direction: Math.cos(a) > 0 ? 0.9 + 0.6 * r() : 2.3 - 0.6 * r(),
      };
    },
    count: Math.round(1500 + 10 * head),
    length,
    thick: Math.max(0.6, head / 260) * (0.6 + 0.8 * random()),
    wave: (curly ? 0.12 + 0.12 * random() : 0.5 + random()) * head,
    curl: curly ? 0.8 : 0.15 + 0.2 * random(),
    fall: 0.9,
    stray: style === 'flying' ? 0.9 : 0.25 + 0.4 * random(),
    wind: style === 'flying' ? 2 * (random() - 0.5) + wind : 0.3 * wind,
    seed,
  });
}

/** Head, face, hair and what is worn on them. */
export function face(
  picture: Painted,
  random: Random,
  need: PersonNeed,
  skin: Colour,
  hair: Colour,
  style: HairStyle,
  seed: number,
): void {
  const { x, y, head, lamp, fromBehind = false, extras = 0.5 } = need;
  const skinned = skinShader(skin, seed, head);
  const rx = 0.37 * head;
  const ry = 0.5 * head;
  const skull = ellipse(x, y, rx, ry, lamp);
  const dark: Shader = (px, py, light, out) => {
    const bright = (0.5 + 0.6 * light) * (1 + 0.25 * Math.sin(px / 2.7 + py / 17));
    for (let c = 0; c < 3; c++) out[c] = hair[c] * bright;
  };
  for (const side of [-1, 1])
    paint(picture, ellipse(x + side * rx, y + 0.05 * head, 0.07 * head, 0.13 * head, lamp), skinned);
  paint(picture, skull, skinned);
  if (!fromBehind) {
    const turn = 0.06 * head * (random() - 0.5);
    for (const side of [-1, 1]) {
      const ex = x + turn + side * 0.16 * head;
      paint(picture, ellipse(ex, y - 0.02 * head, 0.075 * head, 0.036 * head, lamp), (px, _py, _l, out) =>
        out.fill(px % 7 < 6 ? 0.75 : 0.68),
      );
      paint(picture, ellipse(ex, y - 0.02 * head, 0.034 * head, 0.034 * head, lamp), (_x, _y, _l, out) =>
        out.set([0.06 * hair[0] + 0.03, 0.05, 0.04]),
      );
      paint(picture, ellipse(ex, y - 0.11 * head, 0.1 * head, 0.018 * head, lamp, side * 0.12), dark);
    }
    paint(picture, ellipse(x + turn * 1.4, y + 0.13 * head, 0.05 * head, 0.045 * head, lamp), (px, py, light, out) => {
      skinned(px, py, light * 0.8, out);
    });
    paint(picture, ellipse(x + turn, y + 0.27 * head, 0.13 * head, 0.045 * head, lamp), (_x, _y, light, out) =>
      out.set([skin[0] * 0.8 * light, skin[1] * 0.45 * light, skin[2] * 0.45 * light]),
    );
    if (random() < 0.5)
      paint(picture, ellipse(x + turn, y + 0.265 * head, 0.1 * head, 0.022 * head, lamp), (px, _y, _l, out) =>
        out.fill(px % 5 < 4 ? 0.8 : 0.62),
      );
    if (random() < 0.18)
      paint(picture, within(ellipse(x, y + 0.3 * head, 0.33 * head, 0.28 * head, lamp), skull), dark, (px, py) =>
        Math.sin(px * 1.3) + Math.sin(py * 1.1 + px) > -0.8 && (py > y + 0.33 * head || Math.abs(px - x) > 0.16 * head)
          ? 0.95
          : 0.5,
      );
    if (random() < 0.5 * extras) glasses(picture, x + turn, y, head, lamp, random);
    if (random() < 0.4 * extras)
      for (const side of [-1, 1])
        paint(
          picture,
          ellipse(x + side * 0.38 * head, y + 0.24 * head, 0.035 * head, 0.05 * head, lamp),
          (_x, _y, light, out) => out.fill(Math.min(1, 0.2 + light * light)),
        );
  }
  const root = (r: Random, low: number): { x: number; y: number; direction: number } => {
    const a = Math.PI * (1 - low) + Math.PI * (1 + 2 * low) * r();
    return {
      x: x + Math.cos(a) * rx * (0.75 + 0.27 * r()),
      y: y + Math.sin(a) * ry * (0.75 + 0.27 * r()),
      direction: a,
    };
  };
  if (style === 'bald') {
    if (random() < 0.3) hat(picture, random, x, y, head, lamp);
    return;
  }
  if (fromBehind) paint(picture, ellipse(x, y, rx * 1.05, ry * 1.02, lamp), dark);
  else
    paint(
      picture,
      within(
        ellipse(x, y - 0.1 * head, rx * 1.12, ry * 0.92, lamp),
        polygon([
          [x - head, y - head],
          [x + head, y - head],
          [x + head, y - 0.12 * head],
          [x + 0.2 * head, y - 0.24 * head],
          [x - 0.15 * head, y - 0.27 * head],
          [x - head, y - 0.1 * head],
        ]),
      ),
      dark,
    );
  const common = {
    colour: hair,
    thick: Math.max(0.55, head / 280) * (0.6 + 0.8 * random()),
    seed: seed + 3,
    wind: need.wind ?? 0,
  };
  if (style === 'frizzy')
    strands(picture, random, {
      ...common,
      root: (r) => root(r, 0.12),
      count: Math.round(3000 + 12 * head),
      length: (0.35 + 0.5 * random()) * head,
      wave: 0.1 * head,
      curl: 0.9,
      fall: 0.1,
      stray: 0.9,
    });
  else if (style === 'curly')
    strands(picture, random, {
      ...common,
      root: (r) => root(r, 0.05),
      count: Math.round(1500 + 6 * head),
      length: 0.45 * head,
      wave: 0.16 * head,
      curl: 0.8,
      fall: 0.5,
      stray: 0.5,
    });
  else if (style === 'short')
    strands(picture, random, {
      ...common,
      root: (r) => root(r, 0.02),
      count: Math.round(1200 + 5 * head),
      length: (0.06 + 0.22 * random()) * head,
      wave: 0.5 * head,
      curl: 0.2,
      fall: 0.2,
      stray: 0.6,
    });
  else if (style === 'tied') {
    strands(picture, random, {
      ...common,
      root: (r) => root(r, 0),
      count: Math.round(900 + 3 * head),
      length: 0.1 * head,
      wave: 0.5 * head,
      curl: 0.15,
      fall: 0.4,
      stray: 0.7,
    });
    const side = random() < 0.5 ? -1 : 1;
    strands(picture, random, {
      ...common,
      root: (r) => ({
        x: x + side * 0.36 * head + 0.08 * head * (r() - 0.5),
        y: y - 0.2 * head + 0.08 * head * r(),
        direction: side > 0 ? 0.2 : 2.9,
      }),
      count: 900,
      length: 1.3 * head,
      wave: 0.6 * head,
      curl: 0.25,
      fall: 0.8,
      stray: 0.4,
    });
  } else longHair(picture, random, need, hair, style, seed + 9, false);
  if (random() < 0.12) hat(picture, random, x, y, head, lamp);
}

function glasses(picture: Painted, x: number, y: number, head: number, lamp: Lamp, random: Random): void {
  const tinted = random() < 0.4;
  const frame = random() < 0.6 ? 0.02 : 0.4;
  for (const side of [-1, 1]) {
    const ring = ellipse(x + side * 0.17 * head, y - 0.01 * head, 0.135 * head, 0.11 * head, lamp);
    paint(
      picture,
      ring,
      (px, py, _l, out) => out.fill(tinted ? 0.02 + (py < y - 0.03 * head && px % 23 < 9 ? 0.3 : 0) : 0.9),
      tinted ? 0.92 : 0.12,
    );
    paint(
      picture,
      {
        ...ring,
        at: (px, py, h) => {
          ring.at(px, py, h);
          h.distance = Math.abs(h.distance) - Math.max(0.8, 0.012 * head);
        },
      },
      (_x, _y, _l, out) => out.fill(frame),
    );
  }
  paint(
    picture,
    body(
      [
        {
          ax: x - 0.05 * head,
          ay: y - 0.02 * head,
          bx: x + 0.05 * head,
          by: y - 0.02 * head,
          ra: 0.012 * head,
          rb: 0.012 * head,
        },
      ],
      lamp,
    ),
    (_x, _y, _l, out) => out.fill(frame),
  );
}

function hat(picture: Painted, random: Random, x: number, y: number, head: number, lamp: Lamp): void {
  const shader = clothShader(someCloth(random, someColour(random), someColour(random), head));
  paint(
    picture,
    within(
      ellipse(x, y - 0.25 * head, 0.42 * head, (0.4 + 0.2 * random()) * head, lamp),
      polygon([
        [x - head, y - 2 * head],
        [x + head, y - 2 * head],
        [x + head, y - 0.22 * head],
        [x - head, y - 0.22 * head],
      ]),
    ),
    shader,
  );
  if (random() < 0.7)
    paint(picture, ellipse(x, y - 0.23 * head, (0.45 + 0.4 * random()) * head, 0.07 * head, lamp), shader);
}
