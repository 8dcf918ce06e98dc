import { readingFacts, type ReadingFacts, type ReadingId } from '../plan/readings.ts';
import { beyondBound, beyondLeast, howFar } from './beyondBound.ts';
import type { Add, Cause, Observed } from './cause.ts';
import { causeFacts, type CauseId } from './causeFacts.ts';
import { alsoShownBy, causeOf, sideEffects } from './causeTables.ts';
import type { CheckReading } from './checkReading.ts';
import { lightCauses, shadowCauses } from './lightCauses.ts';

/** Level of a well lit screen, % of clipping. */
const MIDDLE_LEVEL = 42;
/** Names what explains the readings that are out of bounds, likeliest first. */
export function rankCauses(observed: Observed): Cause[] {
  const of = (id: ReadingId): CheckReading | undefined => observed.readings.find((reading) => reading.id === id);
  const found: Cause[] = [];
  const add: Add = (id, weight, remedy, evidence) => {
    if (!(weight > 1)) return;
    const { title, reading } = causeFacts[id];
    found.push({
      id,
      title,
      weight,
      minutes: of(reading)?.minutes ?? 0,
      remedy,
      evidence: evidence ?? of(reading)?.evidence ?? [],
    });
  };
  const over = (id: ReadingId): number => beyondBound(id, of(id)?.value);
  const figure = (id: ReadingId): number => of(id)?.value ?? 0;
  lightCauses(observed, over, (id) => of(id)?.evidence ?? [], add);
  shadowCauses(observed, over('bounce'), of('shadow')?.evidence ?? of('bounce')?.evidence ?? [], figure('bounce'), add);

  add(
    'wrinkles',
    over('wrinkle'),
    `Creases stand out by ${figure('wrinkle').toFixed(1)} % of the level, 2 are accepted. Steam the cloth, weight its hem and clamp its sides; or open the aperture by ${Math.max(0.5, Math.log2(Math.max(1, figure('wrinkle') / 2))).toFixed(1)} stops, so that they go soft.`,
  );
  const level = figure('level');
  add(
    'overlit',
    Math.max(level > MIDDLE_LEVEL ? over('level') : 0, over('clipped')),
    `The screen stands at ${level.toFixed(0)} % of clipping. Take ${Math.max(0.3, Math.log2(level / MIDDLE_LEVEL)).toFixed(1)} stops off the screen lamps, or move them back by a factor of ${Math.sqrt(Math.max(1.1, level / MIDDLE_LEVEL)).toFixed(1)}.`,
  );
  add(
    'gain',
    over('noise'),
    `Noise is ${figure('noise').toFixed(1)} %. For half of it take gain down by two stops and give the light back by exposure time, aperture or power.`,
  );
  add(
    'whiteBalance',
    over('whiteBalance'),
    `The card is ${figure('whiteBalance').toFixed(0)} % off neutral. ${of('whiteBalance')?.reason ?? ''} Set it from the card and lock it.`,
  );
  add(
    'clothing',
    over('nearColour'),
    `${figure('nearColour').toFixed(1)} % of the person are near the screen’s colour. Cover these patches or use ${observed.colour === 'green' ? 'a blue' : 'a green'} screen; else settle them at Extract.`,
  );
  add(
    'smallScreen',
    over('coverage'),
    `It fills ${figure('coverage').toFixed(0)} % of the frame. Move the camera or the person nearer to the screen, or take a lens longer by ${Math.ceil(100 * (Math.sqrt(100 / Math.max(10, figure('coverage'))) - 1) * 2)} %, or a larger screen; what is left becomes the mask.`,
  );
  // What a movement smears is soft across every outline a little.
  add(
    'defocus',
    over('edge') * (over('smear') > 1 ? 0.5 : 1),
    `The sharpest outlines are ${figure('edge').toFixed(1)} px soft. Focus on the eyes again; if it stays, close the aperture by a stop.`,
  );
  add(
    'motion',
    over('smear'),
    `Outlines are smeared by about ${figure('smear').toFixed(0)} px. A third of the exposure time, or flash.`,
  );
  furtherCauses(observed, over, add);
  const explained = explainAway(found);
  // Nothing beyond its bound is left without a cause, however well another explains it.
  for (const reading of observed.readings) {
    if (reading.verdict !== 'beyond' || explained.some(({ id }) => isShownBy(id, reading.id))) continue;
    const [likeliest] = found.filter(({ id }) => isShownBy(id, reading.id)).sort((a, b) => b.weight - a.weight);
    const { title, remedy }: ReadingFacts = readingFacts[reading.id];
    const id = causeOf[reading.id];
    if (likeliest) explained.push({ ...likeliest, weight: 1 });
    else if (id)
      explained.push({
        id,
        title: causeFacts[id].title,
        weight: 1,
        minutes: reading.minutes,
        remedy: `${title}: ${howFar(reading)}. ${remedy}`,
        evidence: reading.evidence,
      });
  }
  return explained.sort((a, b) => b.weight - a.weight);
}

function isShownBy(cause: CauseId, reading: ReadingId): boolean {
  return causeFacts[cause].reading === reading || (alsoShownBy[cause]?.includes(reading) ?? false);
}

/** Levels and balances: each with what to move and by how much. */
function furtherCauses({ readings, spread }: Observed, over: (id: ReadingId) => number, addAny: Add): void {
  const isBeyond = (id: ReadingId): boolean =>
    readings.some((reading) => reading.id === id && reading.verdict === 'beyond');
  const add: Add = (id, weight, remedy) =>
    isBeyond(causeFacts[id].reading) && addAny(id, Math.max(weight, 1.01), remedy);
  const value = (id: ReadingId): number => readings.find((reading) => reading.id === id)?.value ?? 0;
  const level = value('level');
  if (level < MIDDLE_LEVEL) {
    const stops = Math.log2(MIDDLE_LEVEL / Math.max(0.1, level));
    add(
      'dark',
      beyondLeast('level', level),
      `The screen stands at ${level.toFixed(0)} % of clipping, where noise makes tight keys. Give its lamps ${stops.toFixed(1)} stops more, bring them nearer by a factor of ${Math.sqrt(2 ** stops).toFixed(1)}, or, if the person is dark as well, expose ${stops.toFixed(1)} stops more.`,
    );
  }
  if (spread) {
    const { hot, dark } = spread;
    const down = Math.abs(hot.y - dark.y) > Math.abs(hot.x - dark.x);
    const darker = down ? (dark.y > hot.y ? 'bottom' : 'top') : dark.x > hot.x ? 'right' : 'left';
    add(
      'fallOff',
      over('spread'),
      `From the hottest to the darkest place the light falls by ${value('spread').toFixed(1)} stops, towards the ${darker}. ${down ? `Lower both screen lamps to half the screen’s height, or tip them towards the ${darker}` : `Turn the lamps towards the ${darker}`}; ${Math.max(0.3, value('spread') - 1).toFixed(1)} stops more there are enough.`,
    );
  }
  add(
    'pale',
    over('purity'),
    `Only ${value('purity').toFixed(0)} % of the screen’s level is its own colour. Keep ${(50 - value('purity')).toFixed(0)} % more of the white light off it (flag the key and the window), darken it by half a stop if it is light, or take a duller, more saturated screen.`,
  );
  add(
    'shine',
    over('gloss'),
    `A lamp is mirrored there and adds ${value('gloss').toFixed(1)} stops of its own light. Move the lamp on that side 20° farther out, or tip the screen by 10°, until the pale place leaves the frame; a matt screen has none.`,
  );
  const key = value('cardScreen');
  add(
    'keyLevel',
    key > 0 ? key / 0.6 : beyondLeast('cardScreen', key),
    `By the card the key is ${Math.abs(key).toFixed(1)} stops ${key < 0 ? 'weaker' : 'stronger'} than the screen. ${key < 0 ? 'Give the key' : 'Take from the key'} ${Math.abs(key).toFixed(1)} stops, or move it ${key < 0 ? 'nearer' : 'back'} by a factor of ${Math.sqrt(2 ** Math.abs(key)).toFixed(1)}.`,
  );
  const exposure = value('exposure');
  add(
    'exposure',
    Math.abs(exposure) / 0.35,
    `The card is ${Math.abs(exposure).toFixed(1)} stops too ${exposure < 0 ? 'dark: open the aperture or raise the key' : 'light: close the aperture or lower the key'} by as much.`,
  );
  const person = value('personLevel');
  add(
    'personExposure',
    person > 0 ? person / 1.3 : person / -1.75,
    `Skin and light cloth stand about ${Math.abs(person).toFixed(1)} stops too ${person < 0 ? 'low: open the aperture or raise the key' : 'high: close the aperture or lower the key'} by some ${Math.max(1, Math.abs(person) - 0.5).toFixed(0)} stops, and photograph a grey card to be exact.`,
  );
  const ratio = value('keyFill');
  add(
    'lightRatio',
    ratio > 4 ? ratio / 4 : beyondLeast('keyFill', ratio),
    ratio > 4
      ? `The key is ${ratio.toFixed(1)} stops above the fill: shadows on the face close. Bring the fill nearer, or a white board, for ${(ratio - 3).toFixed(1)} stops more.`
      : `Key and fill differ by only ${ratio.toFixed(1)} stops: the face is flat. Take one stop from the fill.`,
  );
  add(
    'chartOff',
    over('chart'),
    `Colours are off by ${value('chart').toFixed(1)} on average after white balance. Look for a second light of another colour, set the camera to its neutral picture style, and photograph the chart again.`,
  );
}

/** Weights as they were found decide what explains; so no two explain each other away. */
function explainAway(found: Cause[]): Cause[] {
  return found
    .map((cause) => ({
      ...cause,
      weight: found.reduce(
        (weight, other) => weight * (other.weight > 1.15 ? (sideEffects[other.id]?.[cause.id] ?? 1) : 1),
        Math.min(cause.weight, MOST_WEIGHT),
      ),
    }))
    .filter(({ weight }) => weight > 1);
}
/** Beyond so many times its bound nothing gets worse. */
const MOST_WEIGHT = 4;
