import { gaussian, seededRandom } from '../../random.ts';
import type { Slot, Sortable } from '../assign.ts';
import type { Signs } from '../setups.ts';

/** Figures of a made-up event with known truth: who is on which frame, in which setup, and what happened when. */

export interface MadeFrame extends Sortable, Signs {
  /** Who it shows; the slate of somebody counts as theirs. */
  truth: string;
  setup: number;
}
export interface MadeShoot {
  frames: MadeFrame[];
  roster: { name: string; number: string }[];
  slots: Slot[];
}
export interface MadeWith {
  seed: number;
  guests: number;
  slates: boolean;
  /** Share of the guests who do not come. */
  missing?: number;
  /** How much clothes differ between guests; noise of what is measured is 0.06. */
  looks?: number;
  /** What the pattern of light differs by from frame to frame, steps. */
  grain?: number;
}

const setups = [
  { focal: 85, exposure: 2, chroma: [0.18, 0.16] as [number, number], tilt: 0.2 },
  { focal: 85, exposure: 2, chroma: [0.18, 0.16] as [number, number], tilt: -0.5 },
  { focal: 50, exposure: 3.4, chroma: [0.19, 0.17] as [number, number], tilt: 0.1 },
];

/** Three setups one after the other, two to four frames of each guest, about five minutes apart. */
export function shootOf({ seed, guests, slates, missing = 0, looks = 0.6, grain = 0.02 }: MadeWith): MadeShoot {
  const random = seededRandom(seed);
  const roster = Array.from({ length: guests }, (_, n) => ({ name: `Guest ${n + 1}`, number: `${n + 101}` }));
  const frames: MadeFrame[] = [];
  const slots: Slot[] = [];
  let id = 0;
  let at = 36_000;
  roster.forEach(({ name, number }, n) => {
    const setup = Math.min(2, Math.floor((3 * n) / guests));
    if (n > 0 && setup !== Math.floor((3 * (n - 1)) / guests)) at += 1500;
    slots.push({ from: at, name });
    at += 40 * random();
    const wears = Array.from({ length: 9 }, () => looks * gaussian(random));
    const count = random() < missing ? 0 : 2 + Math.floor(3 * random());
    const began = at;
    const { focal, exposure, chroma, tilt } = setups[setup];
    for (let k = slates ? -1 : 0; k < count && count > 0; k++) {
      at += 8 + 25 * random();
      frames.push({
        id: ++id,
        camera: 'A',
        upright: true,
        at: Math.round(at),
        slate: k < 0 ? number : null,
        person: true,
        looks: wears.map((v) => v + 0.06 * gaussian(random)),
        exposure,
        focal,
        screen: {
          colour: 'green',
          chroma: [chroma[0] + 0.001 * gaussian(random), chroma[1] + 0.001 * gaussian(random)],
          level: exposure - 5 + 0.03 * gaussian(random),
          grid: Array.from({ length: 24 }, (_, g) => tilt * ((g % 6) - 2.5) * 0.4 + grain * gaussian(random)),
          missing: { left: 0.04, right: 0, top: 0, bottom: 0 },
        },
        truth: name,
        setup,
      });
    }
    at = began + 240 + 60 * random();
  });
  return { frames, roster, slots };
}
