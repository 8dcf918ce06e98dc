import type { Random } from '../../core/random.ts';
import { clothShader, someCloth } from './cloth.ts';
import { someColour } from './colours.ts';
import { body, ellipse, polygon, type Lamp, type Limb } from './forms.ts';
import { paint, type Colour, type Painted, type Shader } from './picture.ts';

/** Where the trunk is and how large. */
export interface Trunk {
  x: number;
  neck: number;
  shoulder: number;
  hip: number;
  head: number;
  wide: number;
  lamp: Lamp;
}

/** Open collar, lapels of a jacket over a shirt, tie, scarf. */
export function neckline(
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

/** Small things of cloth on the chest. */
export function badges(
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
