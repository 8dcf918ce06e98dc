import { both } from '../image/masks.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { mark, type Collected } from './collected.ts';
import { nearPatches, type NearPatch } from './clothing.ts';
import { edgeBlurOf, type EdgeBlur } from './edges.ts';
import { insideOf, outlineOf } from './outline.ts';
import { castShadow, personIn, type CastShadow } from './people.ts';
import { personLevelOf } from './personLevel.ts';
import type { Screen, Seen } from './readScreen.ts';
import type { Reduced } from './reduced.ts';
import { spillOn, type Spill } from './spill.ts';

/** What was found about somebody in the frame. */
export interface PersonRead {
  edge?: EdgeBlur;
  spill?: Spill;
  shadow?: CastShadow;
  patches: NearPatch[];
}

/** Readings that need somebody in the frame. @param empty the screen without anybody, from the same place. */
export function readPerson(
  frame: EncodedRaster,
  { picture, factor, survey, model }: Seen,
  empty: (Reduced & Screen) | undefined,
  readings: Collected,
  withCard: boolean,
): PersonRead {
  const { channel } = survey;
  const { clear, screen } = model;
  const { width, height } = clear;
  const same = empty && empty.picture.width === width && empty.picture.height === height ? empty : undefined;
  const inside = same?.inside ?? insideOf(outlineOf(clear).polygon, width, height);
  const person = personIn(clear, inside);
  if (!person) return { patches: [] };
  const shadow = same && castShadow(picture, same.picture, both(clear, same.seen), person, channel);
  if (shadow) {
    readings.add(
      'shadow',
      shadow.depth,
      shadow.depth > 0.05
        ? 'The screen beside the person is darker here than on the empty frame.'
        : 'The screen is as light beside the person as on the empty frame.',
      shadow.depth > 0.05 ? [mark(shadow.x, shadow.y, `${shadow.depth.toFixed(2)} stops darker`)] : [],
    );
  }
  const spill = spillOn(picture, person, clear, channel, factor);
  if (spill)
    readings.add(
      'bounce',
      spill.stops,
      `Along the outline, against the same cloth and skin farther in; as a colour difference ${spill.difference.toFixed(3)} in OKLab chroma.`,
      [mark(spill.worst.x, spill.worst.y, 'screen light on the edge')],
    );
  const patches = nearPatches(picture, screen, person, clear, inside, channel, same?.picture);
  readings.add(
    'nearColour',
    100 * patches.reduce((sum, patch) => sum + patch.share * patch.risk, 0),
    patches.length
      ? `${patches.length === 1 ? 'One patch' : `${patches.length} patches`}, the nearest ${Math.min(...patches.map(({ apart }) => apart)).toFixed(3)} from the screen’s colour.`
      : 'Nothing worn is near the screen’s colour.',
    patches.map(({ x, y, width: w, height: h, risk }) => ({
      x,
      y,
      width: w,
      height: h,
      words: `near the screen’s colour, risk ${Math.round(risk * 100)} %`,
    })),
  );
  if (!withCard) {
    const level = personLevelOf(picture, person, channel);
    if (level)
      readings.add(
        'personLevel',
        level.stops,
        `${level.skin === undefined ? 'No skin was found; ' : `Skin stands at ${(100 * level.skin).toFixed(0)} %, `}the lightest on the person at ${(100 * level.lightest).toFixed(0)} % of clipping. An estimate: a grey card tells exactly.`,
        [],
      );
  }
  const edge = edgeBlurOf(frame, person, clear, factor);
  if (edge) {
    readings.add(
      'edge',
      edge.blur,
      `The sharpest quarter of ${edge.places} plain places along the outline, from one fifth to four fifths of the way.`,
      [],
    );
    if (edge.smear !== undefined)
      readings.add(
        'smear',
        edge.smear,
        `How much softer outlines are across ${directionWords(edge.direction ?? 0)} than along it.`,
        [],
      );
  }
  return { edge, spill, shadow, patches };
}

function directionWords(degrees: number): string {
  const turn = ((degrees % 180) + 180) % 180;
  return turn < 25 || turn > 155
    ? 'a sideways movement'
    : turn > 65 && turn < 115
      ? 'an upward movement'
      : 'a slanting movement';
}
