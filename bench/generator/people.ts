import type { Random } from '../../core/random.ts';
import { clothShader, skinShader, someCloth, type ClothKind } from './cloth.ts';
import { someColour, someHair, someSkin } from './colours.ts';
import { body, ellipse, polygon, within, type Lamp, type Limb } from './forms.ts';
import { paint, type Colour, type Painted, type Shader } from './picture.ts';
import { strands } from './strands.ts';

export type HairStyle = 'bald' | 'short' | 'long' | 'curly' | 'frizzy' | 'tied' | 'flying';
export const hairStyles: readonly HairStyle[] = ['bald', 'short', 'long', 'curly', 'frizzy', 'tied', 'flying'];
export type ArmPose = 'down' | 'hip' | 'raised' | 'wide' | 'folded' | 'overhead';
export const armPoses: readonly ArmPose[] = ['down', 'hip', 'raised', 'wide', 'folded', 'overhead'];

/** Who stands where, sizes in pixels; what is left out is drawn by chance. */
export interface PersonNeed {
  x: number;
  /** Middle of the head, and its height. */
  y: number;
  head: number;
  lamp: Lamp;
  /** Colours and kinds of cloth to choose from. */
  colour?: (random: Random) => Colour;
  kinds?: readonly ClothKind[];
  hair?: HairStyle;
  hairColour?: Colour;
  arms?: ArmPose;
  fromBehind?: boolean;
  seated?: boolean;
  wind?: number;
  extras?: number;
  /** Badges at most. */
  badges?: number;
  /** Colours near the screen's, for some of the small things. */
  near?: (random: Random) => Colour;
}

/** A person of simple solid forms: enough to be known as one, and to have all that a cut stumbles over. */
export function person(picture: Painted, random: Random, need: PersonNeed): { hands: [number, number][] } {
  const { x, y, head, lamp, fromBehind = false, seated = false, extras = 0.5, badges: most = 5 } = need;
  const near = need.near ?? someColour;
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const colour = need.colour ?? someColour;
  const skin = someSkin(random);
  const hair = need.hairColour ?? someHair(random);
  const style = need.hair ?? pick(hairStyles);
  const seed = Math.floor(random() * 1e6);
  const skinned = skinShader(skin, seed, head);
  const top = clothShader(
    someCloth(random, colour(random), random() < 0.2 ? near(random) : someColour(random), head, need.kinds),
  );
  const low = clothShader(
    someCloth(random, random() < 0.3 ? colour(random) : someColour(random), someColour(random), head, need.kinds),
  );
  const wide = (0.8 + 0.35 * random()) * head;
  const neck = y + 0.62 * head;
  const shoulder = y + (0.92 + 0.08 * random()) * head;
  const hip = shoulder + (1.9 + 0.3 * random()) * head;
  const leg = seated ? 1.4 * head : 2.1 * head;
  const lean = 0.12 * head * (random() - 0.5);
  const limb = (ax: number, ay: number, bx: number, by: number, ra: number, rb: number): Limb => ({
    ax,
    ay,
    bx,
    by,
    ra,
    rb,
  });
  if (style === 'long' || style === 'curly' || style === 'flying')
    longHair(picture, random, need, hair, style, seed, true);

  // Legs or skirt, then the trunk.
  const skirt = random() < 0.25;
  if (skirt) {
    const flare = (0.75 + 0.6 * random()) * head;
    paint(
      picture,
      polygon(
        [
          [x - 0.5 * wide, hip - 0.3 * head],
          [x + 0.5 * wide, hip - 0.3 * head],
          [x + flare, hip + leg * 0.75],
          [x - flare, hip + leg * 0.7],
        ],
        0.9,
      ),
      shaded(low, x, flare, lamp),
    );
  }
  for (const side of [-1, 1]) {
    const knee = { x: x + side * (seated ? 0.85 : 0.36 + 0.15 * random()) * head, y: hip + (seated ? 0.25 : 1) * leg };
    const foot = { x: knee.x + side * 0.1 * head * random(), y: knee.y + leg };
    const bare = skirt || random() < 0.12;
    paint(
      picture,
      body(
        [
          limb(x + side * 0.3 * wide, hip, knee.x, knee.y, 0.38 * head, 0.27 * head),
          limb(knee.x, knee.y, foot.x, foot.y, 0.26 * head, 0.16 * head),
        ],
        lamp,
      ),
      bare ? skinned : low,
    );
    paint(
      picture,
      ellipse(foot.x + side * 0.15 * head, foot.y + 0.15 * head, 0.32 * head, 0.15 * head, lamp),
      clothShader(someCloth(random, someColour(random), skin, head, ['smooth', 'shiny'])),
    );
    if (skirt && side === 1)
      paint(
        picture,
        polygon(
          [
            [x - 0.55 * wide, hip - 0.3 * head],
            [x + 0.55 * wide, hip - 0.3 * head],
            [x + 0.9 * head, hip + leg * 0.55],
            [x - 0.9 * head, hip + leg * 0.5],
          ],
          0.85,
        ),
        shaded(low, x, head, lamp),
      );
  }
  const throat = 0.4 + 0.6 * random();
  paint(
    picture,
    body([limb(x, neck - 0.25 * head, x + lean * 0.3, shoulder + 0.1 * head, 0.24 * head, 0.3 * head)], lamp),
    (px, py, light, out) => skinned(px, py, light * (py < neck + 0.12 * head ? throat : 1), out),
  );
  const trunk = body(
    [
      limb(x - 0.72 * wide, shoulder + 0.22 * head, x - 0.42 * wide + lean, hip - 0.1 * head, 0.3 * head, 0.34 * head),
      limb(x + 0.72 * wide, shoulder + 0.22 * head, x + 0.42 * wide + lean, hip - 0.1 * head, 0.3 * head, 0.34 * head),
      limb(x - 0.45 * wide, shoulder + 0.1 * head, x + 0.45 * wide, shoulder + 0.1 * head, 0.2 * head, 0.2 * head),
      limb(x, shoulder + 0.5 * head, x + lean, hip, 0.62 * wide, 0.55 * wide),
    ],
    lamp,
    0.3 * head,
  );
  paint(picture, trunk, top);
  if (!fromBehind && random() < extras)
    neckline(picture, random, { x, neck, shoulder, hip, head, wide, lamp }, skinned, colour);
  if (random() < 0.5 * extras) badges(picture, random, { x, shoulder, head, wide, lamp }, most, near);

  // Arms, hands with fingers.
  const bareArms = random() < 0.35;
  const hands: [number, number][] = [];
  for (const side of [-1, 1]) {
    const pose = need.arms ?? pick(armPoses);
    const from = { x: x + side * 0.86 * wide, y: shoulder + 0.2 * head };
    const upper = (1.25 + 0.15 * random()) * head;
    const fore = (1.1 + 0.1 * random()) * head;
    // Angles from straight down, outwards positive.
    const [first, second] = {
      down: [0.1, 0.05],
      hip: [0.75, -0.95],
      raised: [1.1, 2.5],
      wide: [1.45, 1.5],
      folded: [0.25, -1.55],
      overhead: [2.3, 3.9],
    }[pose].map((v) => v + 0.35 * (random() - 0.5));
    const elbow = { x: from.x + side * Math.sin(first) * upper, y: from.y + Math.cos(first) * upper };
    const hand = { x: elbow.x + side * Math.sin(second) * fore, y: elbow.y + Math.cos(second) * fore };
    const sleeve = bareArms ? skinned : top;
    // What the arm keeps the light from.
    if (random() < 0.6)
      paint(
        picture,
        within(
          body(
            [
              limb(
                from.x + 0.05 * head,
                from.y + 0.12 * head,
                elbow.x + 0.05 * head,
                elbow.y + 0.12 * head,
                0.26 * head,
                0.2 * head,
              ),
              limb(elbow.x + 0.05 * head, elbow.y + 0.12 * head, hand.x, hand.y + 0.12 * head, 0.2 * head, 0.12 * head),
            ],
            lamp,
          ),
          trunk,
        ),
        (_x, _y, _l, out) => out.fill(0),
        0.25 + 0.35 * random(),
      );
    paint(
      picture,
      body(
        [
          limb(from.x, from.y, elbow.x, elbow.y, 0.27 * head, 0.2 * head),
          limb(elbow.x, elbow.y, hand.x, hand.y, 0.2 * head, 0.12 * head),
        ],
        lamp,
      ),
      sleeve,
    );
    if (bareArms && random() < 0.7)
      paint(
        picture,
        body(
          [
            limb(
              from.x,
              from.y,
              from.x + 0.5 * (elbow.x - from.x),
              from.y + 0.5 * (elbow.y - from.y),
              0.3 * head,
              0.27 * head,
            ),
          ],
          lamp,
        ),
        top,
      );
    const along = Math.atan2(hand.y - elbow.y, hand.x - elbow.x);
    const palm = { x: hand.x + Math.cos(along) * 0.16 * head, y: hand.y + Math.sin(along) * 0.16 * head };
    const spread = 0.1 + 0.28 * random();
    const fingers = [-1.5, -0.5, 0.5, 1.5].map((k) =>
      limb(
        palm.x,
        palm.y,
        palm.x + Math.cos(along + k * spread) * 0.38 * head,
        palm.y + Math.sin(along + k * spread) * 0.38 * head,
        0.07 * head,
        0.04 * head,
      ),
    );
    const thumb = along + side * (0.9 + 0.4 * random());
    paint(
      picture,
      body(
        [
          limb(hand.x, hand.y, palm.x, palm.y, 0.12 * head, 0.15 * head),
          limb(
            palm.x,
            palm.y,
            palm.x + Math.cos(thumb) * 0.28 * head,
            palm.y + Math.sin(thumb) * 0.28 * head,
            0.06 * head,
            0.045 * head,
          ),
          ...fingers,
        ],
        lamp,
        3,
      ),
      skinned,
    );
    if (random() < 0.3 * extras)
      paint(
        picture,
        body(
          [
            limb(
              hand.x - Math.sin(along) * 0.1 * head,
              hand.y + Math.cos(along) * 0.1 * head,
              hand.x + Math.sin(along) * 0.1 * head,
              hand.y - Math.cos(along) * 0.1 * head,
              0.05 * head,
              0.05 * head,
            ),
          ],
          lamp,
        ),
        clothShader(someCloth(random, someColour(random), [0.8, 0.8, 0.8], head, ['shiny'])),
      );
    hands.push([palm.x, palm.y]);
  }
  face(picture, random, need, skin, hair, style, seed);
  return { hands };
}

/** A flat form given roundness across, as a skirt or a flag has. */
function shaded(shader: Shader, x: number, reach: number, lamp: Lamp): Shader {
  return (px, py, light, out) => {
    const n = Math.max(-1, Math.min(1, (px - x) / reach));
    shader(
      px,
      py,
      light * (lamp.ambient + (1 - lamp.ambient) * (0.75 * Math.sqrt(1 - n * n) + 0.5 * n * lamp.x + 0.1)),
      out,
    );
  };
}

interface Trunk {
  x: number;
  neck: number;
  shoulder: number;
  hip: number;
  head: number;
  wide: number;
  lamp: Lamp;
}

/** Open collar, lapels of a jacket over a shirt, tie, scarf. */
function neckline(
  picture: Painted,
  random: Random,
  { x, neck, shoulder, hip, head, wide, lamp }: Trunk,
  skinned: Shader,
  colour: (random: Random) => Colour,
): void {
  const deep = (0.4 + 0.7 * random()) * head;
  const kind = random();
  const opening = polygon(
    [
      [x - 0.4 * wide, neck + 0.1 * head],
      [x + 0.4 * wide, neck + 0.1 * head],
      [x, shoulder + deep],
    ],
    0.95,
  );
  if (kind < 0.35) paint(picture, opening, skinned);
  else if (kind < 0.75) {
    const shirt = clothShader(
      someCloth(random, random() < 0.6 ? [0.8, 0.8, 0.78] : colour(random), someColour(random), head),
    );
    paint(
      picture,
      polygon(
        [
          [x - 0.42 * wide, neck + 0.15 * head],
          [x + 0.42 * wide, neck + 0.15 * head],
          [x + 0.12 * head, hip - 0.5 * head],
          [x - 0.12 * head, hip - 0.5 * head],
        ],
        0.95,
      ),
      shirt,
    );
    paint(
      picture,
      polygon(
        [
          [x - 0.25 * wide, neck + 0.12 * head],
          [x + 0.25 * wide, neck + 0.12 * head],
          [x, shoulder + 0.3 * head],
        ],
        0.8,
      ),
      skinned,
    );
    if (random() < 0.6)
      paint(
        picture,
        polygon(
          [
            [x - 0.08 * head, shoulder + 0.15 * head],
            [x + 0.08 * head, shoulder + 0.15 * head],
            [x + 0.14 * head, hip - 0.9 * head],
            [x, hip - 0.7 * head],
            [x - 0.14 * head, hip - 0.9 * head],
          ],
          0.9,
        ),
        clothShader(someCloth(random, colour(random), someColour(random), head)),
      );
  } else {
    const limb = (ax: number, ay: number, bx: number, by: number, r: number): Limb => ({
      ax,
      ay,
      bx,
      by,
      ra: r,
      rb: r,
    });
    paint(
      picture,
      body(
        [
          limb(x - 0.4 * wide, neck + 0.22 * head, x + 0.4 * wide, neck + 0.25 * head, 0.2 * head),
          limb(x + 0.2 * wide, neck + 0.3 * head, x + 0.3 * wide, shoulder + 1.3 * head, 0.17 * head),
        ],
        lamp,
        0.1 * head,
      ),
      clothShader(someCloth(random, colour(random), someColour(random), head)),
    );
  }
}

function badges(
  picture: Painted,
  random: Random,
  { x, shoulder, head, wide, lamp }: Pick<Trunk, 'x' | 'shoulder' | 'head' | 'wide' | 'lamp'>,
  most: number,
  near: (random: Random) => Colour,
): void {
  const count = 1 + Math.floor(most * random());
  for (let n = 0; n < count; n++) {
    const bx = x + (random() - 0.5) * 1.1 * wide;
    const by = shoulder + (0.4 + random() * 0.9) * head;
    const r = (0.05 + 0.16 * random()) * head;
    const shader = clothShader(
      someCloth(random, random() < 0.35 ? near(random) : someColour(random), someColour(random), head * 0.6),
    );
    if (random() < 0.5) paint(picture, ellipse(bx, by, r, r, lamp), shader);
    else
      paint(
        picture,
        polygon([
          [bx - r, by - 0.6 * r],
          [bx + r, by - 0.7 * r],
          [bx + r, by + 0.6 * r],
          [bx - r, by + 0.7 * r],
        ]),
        shader,
      );
  }
}

function longHair(
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

function face(
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
