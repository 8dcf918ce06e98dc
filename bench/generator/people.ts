import type { Random } from '../../core/random.ts';
import { clothShader, skinShader, someCloth } from './cloth.ts';
import { someColour, someHair, someSkin } from './colours.ts';
import { body, ellipse, polygon, within, type Lamp, type Limb } from './forms.ts';
import { face, longHair } from './head.ts';
import { armPoses, hairStyles, type ArmPose, type PersonNeed } from './personNeed.ts';
import { paint, type Colour, type Form, type Painted, type Shader } from './picture.ts';
import { badges, neckline, type Trunk } from './worn.ts';

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
  if (style === 'long' || style === 'curly' || style === 'flying')
    longHair(picture, random, need, hair, style, seed, true);

  below(picture, random, { x, wide, hip, leg, head, lamp, seated, skin }, { low, skinned });
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
  for (const side of [-1, 1])
    hands.push(
      arm(
        picture,
        random,
        side,
        { x, wide, shoulder, head, lamp, trunk, extras },
        { pose: need.arms ?? pick(armPoses), bare: bareArms },
        { top, skinned },
      ),
    );
  face(picture, random, need, skin, hair, style, seed);
  return { hands };
}

interface Below extends Pick<Trunk, 'x' | 'wide' | 'hip' | 'head' | 'lamp'> {
  leg: number;
  seated: boolean;
  skin: Colour;
}

/** Skirt or legs, and shoes. */
function below(
  picture: Painted,
  random: Random,
  { x, wide, hip, leg, head, lamp, seated, skin }: Below,
  { low, skinned }: Record<'low' | 'skinned', Shader>,
): void {
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
}

interface Arm extends Pick<Trunk, 'x' | 'wide' | 'shoulder' | 'head' | 'lamp'> {
  /** The trunk's form, on which the arm's shadow falls. */
  trunk: Form;
  /** How likely it wears something. */
  extras: number;
}

/** An arm in a pose, with sleeve, hand and fingers. @returns the middle of its palm. */
function arm(
  picture: Painted,
  random: Random,
  side: number,
  { x, wide, shoulder, head, lamp, trunk, extras }: Arm,
  { pose, bare }: { pose: ArmPose; bare: boolean },
  { top, skinned }: Record<'top' | 'skinned', Shader>,
): [number, number] {
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
  const sleeve = bare ? skinned : top;
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
  if (bare && random() < 0.7)
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
  return [palm.x, palm.y];
}

/** A limb from one place to another, with its radius at either. */
function limb(ax: number, ay: number, bx: number, by: number, ra: number, rb: number): Limb {
  return { ax, ay, bx, by, ra, rb };
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
