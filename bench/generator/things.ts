import type { Random } from '../../core/random.ts';
import { clothShader, someCloth } from './cloth.ts';
import { hsv, someColour } from './colours.ts';
import { body, ellipse, polygon, type Lamp } from './forms.ts';
import { cloudy, ripple } from './noise.ts';
import { paint, type Colour, type Form, type Painted } from './picture.ts';
import { strands, stroke } from './strands.ts';

/** Where a thing is held or stands, and its size; pixels. */
export interface ThingNeed {
  x: number;
  y: number;
  size: number;
  lamp: Lamp;
}

type Painter = (picture: Painted, random: Random, need: ThingNeed) => void;

function line(points: readonly (readonly [number, number])[]): Float32Array {
  return Float32Array.from(points.flat());
}

/** A stem with leaves of any green, some yellow or red. */
const plant: Painter = (picture, random, { x, y, size, lamp }) => {
  const hue = 60 + 90 * random();
  const stems = 2 + Math.floor(6 * random());
  const slim = 0.12 + 0.3 * random();
  for (let s = 0; s < stems; s++) {
    let px = x;
    let py = y;
    let direction = -Math.PI / 2 + 1.4 * (random() - 0.5);
    const leaves = 4 + Math.floor(8 * random());
    const step = size / leaves;
    for (let n = 0; n < leaves; n++) {
      const nx = px + step * Math.cos(direction);
      const ny = py + step * Math.sin(direction);
      const green = hsv(hue + 25 * (random() - 0.5), 0.35 + 0.5 * random(), 0.15 + 0.55 * random());
      stroke(
        picture,
        line([
          [px, py],
          [nx, ny],
        ]),
        2,
        Math.max(1, size * 0.014),
        1,
        green[0] * 0.6,
        green[1] * 0.5,
        green[2] * 0.5,
      );
      const turn = direction + (n % 2 ? 1 : -1) * (0.5 + 0.6 * random());
      const length = size * (0.12 + 0.2 * random());
      leaf(picture, random, { x: nx, y: ny, size: length, lamp }, turn, length * slim, green);
      direction += 0.5 * (random() - 0.5);
      px = nx;
      py = ny;
    }
  }
};

function leaf(
  picture: Painted,
  random: Random,
  { x, y, size, lamp }: ThingNeed,
  turn: number,
  half: number,
  colour: Colour,
): void {
  const c = Math.cos(turn);
  const s = Math.sin(turn);
  const bright = 0.6 + 0.6 * random();
  const shine = random() < 0.4 ? 0.2 * random() : 0;
  const veins = 0.2 + 0.2 * random();
  const form: Form = {
    left: x - size - half,
    top: y - size - half,
    right: x + size + half,
    bottom: y + size + half,
    at(px, py, hit) {
      const along = ((px - x) * c + (py - y) * s) / size;
      const across = (py - y) * c - (px - x) * s;
      const width = along <= 0 || along >= 1 ? 0 : half * Math.sin(Math.PI * Math.pow(along, 0.8));
      hit.distance = along < 0 ? -along * size + 0.5 : along > 1 ? (along - 1) * size + 0.5 : Math.abs(across) - width;
      hit.light = lamp.ambient + (1 - lamp.ambient) * (0.7 + 0.5 * (across > 0 ? 1 : -1) * (lamp.x * -s + lamp.y * c));
    },
  };
  paint(picture, form, (px, py, light, out) => {
    const across = (py - y) * c - (px - x) * s;
    const along = (px - x) * c + (py - y) * s;
    const vein =
      Math.abs(across) < half * 0.08
        ? 1.35
        : 1 + veins * 0.5 * Math.sin((along - Math.abs(across) * 0.9) / Math.max(1.2, size * 0.03));
    for (let k = 0; k < 3; k++)
      out[k] = Math.min(1, colour[k] * bright * light * vein + shine * Math.max(0, light - 0.6));
  });
}

const bouquet: Painter = (picture, random, need) => {
  plant(picture, random, need);
  for (let n = 0; n < 8; n++) {
    const cx = need.x + (random() - 0.5) * need.size * 0.9;
    const cy = need.y - random() * need.size * 0.8;
    const colour = someColour(random);
    for (let p = 0; p < 7; p++)
      leaf(
        picture,
        random,
        { x: cx, y: cy, size: need.size * 0.12, lamp: need.lamp },
        (6.28 * p) / 7,
        need.size * 0.035,
        colour,
      );
    paint(picture, ellipse(cx, cy, need.size * 0.03, need.size * 0.03, need.lamp), (_x, _y, light, out) =>
      out.set([0.6 * light, 0.45 * light, 0.05]),
    );
  }
};

/** Woven strings with open squares. */
const net: Painter = (picture, random, { x, y, size }) => {
  const step = size * (0.05 + 0.08 * random());
  const thick = Math.max(0.8, size * (0.003 + 0.008 * random()));
  const [r, g, b] = someColour(random);
  const seed = Math.floor(1e6 * random());
  const at = (u: number, v: number): [number, number] => [
    x - size / 2 + u + 0.3 * step * ripple((u / size) * 4, (v / size) * 4, seed),
    y - size / 2 + v + 0.15 * size * ripple((u / size) * 1.3, v / size, seed + 1),
  ];
  for (let u = 0; u <= size; u += step) {
    for (const swap of [false, true]) {
      const points: [number, number][] = [];
      for (let v = 0; v <= size; v += step / 4) points.push(swap ? at(v, u) : at(u, v));
      stroke(picture, line(points), points.length, thick, 1, r, g, b);
    }
  }
};

/** A straight lattice or frame of bars. */
const lattice: Painter = (picture, random, { x, y, size, lamp }) => {
  const shader = clothShader(someCloth(random, someColour(random), someColour(random), size, ['smooth', 'shiny']));
  const bars = 3 + Math.floor(3 * random());
  const r = size * (0.008 + 0.014 * random());
  for (let n = 0; n < bars; n++) {
    const o = -size / 2 + (size * n) / (bars - 1);
    paint(picture, body([{ ax: x + o, ay: y - size / 2, bx: x + o, by: y + size / 2, ra: r, rb: r }], lamp), shader);
    paint(picture, body([{ ax: x - size / 2, ay: y + o, bx: x + size / 2, by: y + o, ra: r, rb: r }], lamp), shader);
  }
};

/** Thin lines that run together, as those of a parachute. */
const lines: Painter = (picture, random, { x, y, size }) => {
  const [r, g, b] = someColour(random);
  const thick = Math.max(0.5, size * (0.001 + 0.004 * random()));
  const count = 6 + Math.floor(14 * random());
  for (let n = 0; n < count; n++) {
    const to = [x + (n / (count - 1) - 0.5) * 1.8 * size, y - size * (1 + 0.2 * Math.sin((3.1 * n) / count))];
    const points: [number, number][] = Array.from({ length: 9 }, (_, k) => [
      x + (k / 8) * (to[0] - x),
      y + (k / 8) * (to[1] - y) + 0.03 * size * Math.sin((3.14 * k) / 8),
    ]);
    stroke(picture, line(points), 9, thick, 1, r, g, b);
  }
};

/** A curved quill with soft barbs. */
const feather: Painter = (picture, random, { x, y, size }) => {
  const colour = someColour(random);
  const count = 1 + Math.floor(3 * random());
  for (let f = 0; f < count; f++) {
    const lean = -1.57 + 1.6 * (random() - 0.5);
    const bend = 0.8 * (random() - 0.5);
    const at = (t: number): [number, number, number] => [
      x + size * t * Math.cos(lean + bend * t),
      y + size * t * Math.sin(lean + bend * t),
      lean + 2 * bend * t,
    ];
    const seed = Math.floor(1e6 * random());
    strands(picture, random, {
      colour,
      root: (r) => {
        const [px, py, direction] = at(0.15 + 0.85 * r());
        return { x: px, y: py, direction: direction + (r() < 0.5 ? -1 : 1) * (0.5 + 0.5 * r()) };
      },
      count: Math.round(500 + size),
      length: size * 0.2,
      thick: Math.max(0.5, size / 500),
      wave: size * 0.2,
      curl: 0.3,
      fall: 0.1,
      stray: 0.3,
      wind: 0,
      seed,
    });
    stroke(
      picture,
      line(Array.from({ length: 12 }, (_, k): [number, number] => [at(k / 11)[0], at(k / 11)[1]])),
      12,
      Math.max(1, size / 90),
      0.3,
      colour[0] * 0.7,
      colour[1] * 0.7,
      colour[2] * 0.7,
    );
  }
};

/** Cloth that lets the screen through: thin single, denser in its folds and hems. */
const sheer: Painter = (picture, random, { x, y, size, lamp }) => {
  const neutral = random() < 0.5;
  const colour = neutral
    ? hsv(40, 0.08 * random(), 0.4 + 0.58 * random())
    : hsv(360 * random(), 0.3 + 0.6 * random(), 0.35 + 0.6 * random());
  const seed = Math.floor(1e6 * random());
  const thin = 0.12 + 0.4 * random();
  const corners: [number, number][] = Array.from({ length: 7 }, (_, k) => {
    const a = (6.28 * k) / 7;
    const r = size * (0.45 + 0.5 * random());
    return [x + r * Math.cos(a), y + 1.1 * r * Math.sin(a)];
  });
  const lean = 6.28 * random();
  const fold = size * (0.05 + 0.15 * random());
  const lace = random() < 0.3 ? Math.max(3, size * 0.03) : 0;
  const form = polygon(corners);
  const opacity = (px: number, py: number): number => {
    const u = (px * Math.cos(lean) + py * Math.sin(lean)) / fold;
    const v = (py * Math.cos(lean) - px * Math.sin(lean)) / (6 * fold);
    const dense = thin + 0.55 * Math.max(0, cloudy(u, v, seed, 2)) ** 1.5;
    const holes = lace
      ? 0.55 + 0.45 * Math.sign(Math.sin((6.28 * px) / lace) * Math.sin((6.28 * py) / lace) + 0.25)
      : 1;
    return Math.min(1, dense * holes);
  };
  paint(
    picture,
    form,
    (px, py, _l, out) => {
      const bright = lamp.ambient + (1 - lamp.ambient) * (0.8 + 0.3 * ripple(px / fold / 2, py / fold / 2, seed + 2));
      for (let k = 0; k < 3; k++) out[k] = Math.min(1, colour[k] * bright);
    },
    opacity,
  );
  const edge = random() < 0.6 ? Math.max(1.2, size * 0.008) : 0;
  if (edge)
    stroke(
      picture,
      line([...corners, corners[0]]),
      corners.length + 1,
      edge,
      1,
      colour[0] * 0.8,
      colour[1] * 0.8,
      colour[2] * 0.8,
      0.85,
    );
};

/** A rounded shiny thing that mirrors lamps. */
const ball: Painter = (picture, random, { x, y, size, lamp }) => {
  const count = 1 + Math.floor(4 * random());
  for (let n = 0; n < count; n++) {
    const cx = x + (random() - 0.5) * size;
    const cy = y - random() * 0.7 * size;
    const r = size * (0.15 + 0.2 * random());
    const colour = someColour(random);
    const hot = [cx + lamp.x * r * 0.5, cy + lamp.y * r * 0.5];
    paint(picture, ellipse(cx, cy, r, r * (1 + 0.25 * random()), lamp), (px, py, light, out) => {
      const d = Math.hypot(px - hot[0], py - hot[1]) / r;
      const shine = d < 0.16 ? 0.9 : 0.25 * Math.max(0, 0.5 - d);
      for (let k = 0; k < 3; k++) out[k] = Math.min(1, colour[k] * light + shine);
    });
    stroke(
      picture,
      line([
        [cx, cy + r],
        [x, y],
      ]),
      2,
      Math.max(0.7, size / 250),
      1,
      0.4,
      0.4,
      0.4,
    );
  }
};

/** A board with marks, a bag, a case: flat, with pattern. */
const board: Painter = (picture, random, { x, y, size, lamp }) => {
  const w = size * (0.3 + 0.3 * random());
  const h = size * (0.2 + 0.3 * random());
  const t = 0.5 * (random() - 0.5);
  const c = Math.cos(t);
  const s = Math.sin(t);
  const corners = [
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
  ].map(([a, b]): [number, number] => [x + a * c - b * s, y + a * s + b * c]);
  paint(
    picture,
    polygon(corners, lamp.ambient + (1 - lamp.ambient) * 0.9),
    clothShader(someCloth(random, someColour(random), someColour(random), size)),
  );
};

/** Something with a coat: a round body whose outline is fur. */
const furry: Painter = (picture, random, { x, y, size, lamp }) => {
  const colour = someColour(random);
  const shader = clothShader(someCloth(random, colour, colour, size * 0.5, ['furry']));
  const r = size * 0.42;
  paint(picture, ellipse(x, y, r, r * 1.1, lamp), shader);
  paint(picture, ellipse(x + r * 0.2, y - r * 1.2, r * 0.65, r * 0.6, lamp), shader);
  for (const side of [-1, 1])
    paint(picture, ellipse(x + r * (0.2 + side * 0.55), y - r * 1.7, r * 0.2, r * 0.3, lamp), shader);
  strands(picture, random, {
    colour,
    root: (q) => {
      const a = 6.28 * q();
      const up = q() < 0.4;
      return {
        x: x + (up ? r * 0.2 : 0) + Math.cos(a) * r * (up ? 0.62 : 0.95),
        y: y - (up ? r * 1.2 : 0) + Math.sin(a) * r * (up ? 0.57 : 1.05),
        direction: a + 0.6,
      };
    },
    count: Math.round(2500 + 5 * size),
    length: size * (0.06 + 0.1 * random()),
    thick: Math.max(0.6, size / 400),
    wave: size * 0.2,
    curl: 0.3,
    fall: 0.3,
    stray: 0.7,
    wind: 0,
    seed: Math.floor(1e6 * random()),
  });
  for (const side of [-1, 1])
    paint(picture, ellipse(x + r * (0.2 + side * 0.25), y - r * 1.25, r * 0.08, r * 0.08, lamp), (_x, _y, _l, out) =>
      out.fill(0.02),
    );
  paint(picture, ellipse(x + r * 0.2, y - r * 1.02, r * 0.12, r * 0.08, lamp), (_x, _y, _l, out) => out.fill(0.03));
};

/**
 * A polished helmet or ball that mirrors its surroundings, the screen among them: painted as dark, with bright places.
 */
const polished: Painter = (picture, random, { x, y, size, lamp }) => {
  const seed = Math.floor(1e6 * random());
  const dark = random() < 0.6;
  const r = size * 0.4;
  paint(picture, ellipse(x, y, r, r * 0.95, lamp), (px, py, light, out) => {
    const m = cloudy(((px - x) / r) * 1.5, ((py - y) / r) * 1.5, seed, 2);
    const v = dark
      ? 0.015 + (m > 0.35 ? 0.8 : 0.05 * Math.max(0, m))
      : Math.min(1, 0.55 * light + (m > 0.3 ? 0.4 : 0.2 * m));
    out.fill(Math.max(0.01, v));
  });
};

/** Bursts of fine hairs around a small dark heart, as seeds, thistles and grasses have. */
const tuft: Painter = (picture, random, { x, y, size, lamp }) => {
  const count = 1 + Math.floor(12 * random() * random());
  const colour = someColour(random);
  for (let n = 0; n < count; n++) {
    const cx = x + (count > 1 ? size * (random() - 0.5) : 0);
    const cy = y + (count > 1 ? size * (random() - 0.8) : -0.4 * size);
    const r = (size * (0.2 + 0.25 * random())) / Math.sqrt(count);
    const from = 6.28 * random();
    const open = random() < 0.5 ? 6.28 : 1.5;
    stroke(
      picture,
      line([
        [cx, cy],
        [cx - Math.cos(from + open / 2) * r * 1.6, cy - Math.sin(from + open / 2) * r * 1.6 + (open > 3 ? 2 * r : 0)],
      ]),
      2,
      Math.max(0.8, size / 160),
      1,
      0.12,
      0.09,
      0.05,
    );
    strands(picture, random, {
      colour,
      root: (q) => ({ x: cx, y: cy, direction: from + open * q() }),
      count: Math.round(60 + 500 * random()),
      length: r,
      thick: Math.max(0.4, size / 700),
      wave: r,
      curl: 0.1,
      fall: 0,
      stray: 0.25,
      wind: 0,
      seed: n,
    });
    paint(picture, ellipse(cx, cy, r * 0.08 + 1, r * 0.06 + 1, lamp), (_x, _y, light, out) =>
      out.set([0.2 * light, 0.13 * light, 0.06 * light]),
    );
  }
};

/** Plain forms with holes: rings, frames, cut-out letters; sharp, of one colour or a gradient. */
const shapes: Painter = (picture, random, { x, y, size, lamp }) => {
  const count = 1 + Math.floor(4 * random());
  for (let n = 0; n < count; n++) {
    const cx = x + size * (random() - 0.5);
    const cy = y - size * 0.6 * random();
    const r = size * (0.12 + 0.3 * random());
    const colour = someColour(random);
    const slope = random() < 0.5 ? 0 : random();
    const corners = 3 + Math.floor(5 * random());
    const turn = 6.28 * random();
    const outer: Form =
      corners > 6
        ? ellipse(cx, cy, r, r * (0.6 + 0.8 * random()), lamp)
        : polygon(
            Array.from({ length: corners }, (_, k): [number, number] => [
              cx + r * Math.cos(turn + (6.28 * k) / corners),
              cy + r * Math.sin(turn + (6.28 * k) / corners),
            ]),
          );
    const hole = random() < 0.5 ? 0.35 + 0.5 * random() : 0;
    paint(
      picture,
      {
        ...outer,
        at: (px, py, hit) => {
          outer.at(px, py, hit);
          if (hole) hit.distance = Math.max(hit.distance, hole * r * 0.8 - Math.hypot(px - cx, py - cy));
        },
      },
      (px, py, _l, out) => {
        const bright = 1 - slope * 0.7 * (0.5 + (0.5 * ((px - cx) * lamp.x + (py - cy) * lamp.y)) / r);
        for (let k = 0; k < 3; k++) out[k] = Math.min(1, Math.max(0, colour[k] * bright));
      },
    );
  }
};

export const things = {
  shapes,
  tuft,
  plant,
  bouquet,
  net,
  lattice,
  lines,
  feather,
  sheer,
  ball,
  board,
  furry,
  polished,
} as const;
export type ThingKind = keyof typeof things;
