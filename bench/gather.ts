import sharp from 'sharp';
import { assignFrames, type Slot, type Sortable } from '../core/gather/assign.ts';
import { clocksOff } from '../core/gather/clocks.ts';
import { driftsOf, type DriftKind } from '../core/gather/drift.ts';
import { factsOf, type FrameFacts } from '../core/gather/facts.ts';
import { grouped } from '../core/gather/grouped.ts';
import { proposeSetups, type Signs } from '../core/gather/setups.ts';
import type { EncodedRaster } from '../core/image/raster.ts';
import { demoPlans, type Plan } from '../core/plan/index.ts';
import { seededRandom, type Random } from '../core/random.ts';
import { demoPeople, takeFrame } from '../core/studio/index.ts';
import { findFaces } from '../server/persons/findFaces.ts';
import { findPersons } from '../server/persons/findPersons.ts';
import { fromRaster } from '../server/pictures/encode.ts';
import { readSlate } from '../server/pictures/readSlate.ts';
import { withSlate } from '../server/testing/withSlate.ts';
import { writeSection } from './section.ts';
import '../server/kernels.ts';

/** Rendered events with known truth: three setups, two cameras, slates in any light, something that goes wrong in each setup. */

const GUESTS = 75;
/** Height of the frames, pixels. */
const HEIGHT = 600;
/** Softness of the frames of one guest, pixels; how strongly they are to be told apart is the least step. */
const SOFT = [0, 0.6, 1.2];

interface Taken extends Signs, Sortable {
  truth: { guest: string; setup: string; soft: number };
  facts: FrameFacts;
}
interface Event {
  frames: Taken[];
  roster: { name: string; number: string }[];
  slots: Slot[];
  /** First frame of each fault. */
  faults: { kind: DriftKind; setup: string; frameId: number }[];
  /** Seconds by which the second camera's clock is behind. */
  behind: number;
  slates: number;
  slatesRead: number;
}

/** Three arrangements; in each something changes after two thirds of its guests. */
function arrangements(): { name: string; plan: Plan; broken: Plan; kind: DriftKind }[] {
  const { tent, window } = demoPlans();
  const near: Plan = {
    ...tent,
    camera: { ...tent.camera, focal: tent.camera.focal * 0.7, iso: tent.camera.iso * 2 },
    lamps: tent.lamps.map((lamp) => ({ ...lamp, position: { ...lamp.position, x: lamp.position.x * 0.6 } })),
  };
  const screenLamp = tent.lamps.findIndex(({ role }) => role === 'screen');
  return [
    {
      name: 'tent',
      plan: tent,
      broken: { ...tent, lamps: tent.lamps.filter((_, n) => n !== screenLamp) },
      kind: 'lamp',
    },
    {
      name: 'window',
      plan: window,
      broken: { ...window, camera: { ...window.camera, pan: window.camera.pan + 4 } },
      kind: 'camera',
    },
    { name: 'near', plan: near, broken: near, kind: 'whiteBalance' },
  ];
}

async function takeEvent(seed: number): Promise<Event> {
  const random = seededRandom(seed);
  const names = Object.keys(demoPeople) as (keyof typeof demoPeople)[];
  const sets = arrangements();
  const event: Event = { frames: [], roster: [], slots: [], faults: [], behind: 3600 + 137, slates: 0, slatesRead: 0 };
  let at = 36_000;
  let id = 0;
  for (let guest = 0; guest < GUESTS; guest++) {
    const part = Math.min(2, Math.floor((3 * guest) / GUESTS));
    const { name: setup, plan, broken, kind } = sets[part];
    const within = guest / GUESTS - part / 3;
    if (guest > 0 && part !== Math.floor((3 * (guest - 1)) / GUESTS)) at += 1800;
    const wrong = within > 2 / 9;
    const who = { name: `Guest ${guest + 1}`, number: `${guest + 101}` };
    event.roster.push(who);
    event.slots.push({ from: at, name: who.name });
    const second = guest % 5 === 4;
    const used = wrong ? broken : plan;
    const person = { ...demoPeople[names[guest % names.length]], pose: 'down' as const, moment: guest };
    // A colour temperature set by the camera itself shifts red against blue.
    const tint = wrong && kind === 'whiteBalance' ? [1.12, 1, 0.9] : [1, 1, 1];
    // Whoever is taken by the second camera is announced to both.
    for (const body of second ? ['A', 'B'] : ['A']) {
      const focal = used.camera.focal * (body === 'B' ? 1.25 : 1);
      const held: Plan = { ...used, camera: { ...used.camera, focal } };
      const size = { width: Math.round(HEIGHT / 1.5), height: HEIGHT };
      const base = takeFrame(held, { kind: 'people', subjects: [person], seed: seed * 1000 + guest, ...size }).frame;
      const slate = await withSlate(base, who.number, heldBy(random));
      const pictures: { content: Buffer; soft: number; slate: boolean }[] = [{ content: slate, soft: 0, slate: true }];
      for (const soft of body === 'A' && second ? [] : SOFT.toSorted(() => random() - 0.5)) {
        const picture = fromRaster(base);
        pictures.push({ content: await (soft ? picture.blur(soft) : picture).png().toBuffer(), soft, slate: false });
      }
      for (const { content, soft, slate } of pictures) {
        at += 10 + 20 * random();
        const frame = await written(content, tint, 1 + 0.01 * (random() - 0.5));
        const number = await readSlate(frame);
        if (slate) event.slates++;
        if (slate && number === who.number) event.slatesRead++;
        const persons = await findPersons(frame);
        const facts = factsOf(frame, { persons, faces: await findFaces(frame), slate: number });
        const { shutter, iso, aperture } = held.camera;
        const own = `${setup} ${body}`;
        event.frames.push({
          id: ++id,
          camera: body,
          upright: true,
          at: Math.round(at) - (body === 'B' ? event.behind : 0),
          exposure: Math.log2((shutter * iso) / 100 / aperture ** 2),
          focal: focal * 1000,
          screen: facts.screen,
          slate: facts.slate,
          person: facts.kind === 'people' || facts.kind === 'slate',
          looks: facts.person?.looks ?? null,
          truth: { guest: who.name, setup: own, soft: slate ? -1 : soft },
          facts,
        });
        if (wrong && !event.faults.some((fault) => fault.setup === own))
          event.faults.push({ kind, setup: own, frameId: id });
      }
    }
    at = event.slots[guest].from + 240 + 90 * random();
  }
  return event;
}

/** Tilted, small, dim or a little blurred. */
function heldBy(random: Random) {
  return {
    side: 0.16 + 0.2 * random(),
    turned: 50 * (random() - 0.5),
    blur: random() < 0.3 ? 0.8 * random() : 0,
    light: random() < 0.3 ? 0.25 + 0.4 * random() : 0.9,
  };
}

/** The file as a camera writes it, with a tint in linear light and a little another exposure. */
async function written(content: Buffer, [r, g, b]: number[], gain: number): Promise<EncodedRaster & { channels: 3 }> {
  const gamma = (v: number): number => (v * gain) ** (1 / 2.2);
  const { data, info } = await sharp(
    await sharp(content)
      .linear([gamma(r), gamma(g), gamma(b)], [0, 0, 0])
      .jpeg({ quality: 92 })
      .toBuffer(),
  )
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    channels: 3,
    data: new Uint8Array(data.buffer, data.byteOffset, data.length),
  };
}

/** Share of the frames whose proposed setup is the one that most frames of their own are in, one setup for one. */
function setupsRight(frames: readonly Taken[]): number {
  const truth = new Map(frames.map((frame) => [frame.id, frame.truth.setup]));
  const taken = new Set<string>();
  let right = 0;
  for (const group of proposeSetups(frames).toSorted((a, b) => b.frames.length - a.frames.length)) {
    const [[name, own]] = [...grouped(group.frames, (id) => truth.get(id) ?? '')].toSorted(
      ([, a], [, b]) => b.length - a.length,
    );
    if (taken.has(name)) continue;
    taken.add(name);
    right += own.length;
  }
  return right / frames.length;
}

function subjectsRight(frames: readonly Taken[], event: Event, slots: readonly Slot[]): number {
  const who = new Map(
    assignFrames(frames, event.roster, slots).assigned.map(({ frameId, subject }) => [frameId, subject]),
  );
  return frames.filter(({ id, truth }) => who.get(id) === truth.guest).length / frames.length;
}

/** Pairs of one guest's frames whose order by detail is the order in which they were softened. */
function sharpnessRight(frames: readonly Taken[]): number {
  let right = 0;
  let pairs = 0;
  for (const own of grouped(
    frames.filter(({ truth }) => truth.soft >= 0),
    ({ truth }) => truth.guest,
  ).values())
    for (const a of own)
      for (const b of own) {
        if (a.truth.soft >= b.truth.soft) continue;
        pairs++;
        if ((a.facts.sharp ?? 0) > (b.facts.sharp ?? 0)) right++;
      }
  return right / pairs;
}

/** Faults that were found within two frames and called by their name; and alarms where there was none. */
function driftsRight(event: Event): { found: number; within: number; named: number; all: number; alarms: number } {
  const sum = { found: 0, within: 0, named: 0, all: event.faults.length, alarms: 0 };
  for (const [setup, own] of grouped(event.frames, ({ truth }) => truth.setup)) {
    const fault = event.faults.find((one) => one.setup === setup);
    const begins = own.findIndex(({ id }) => id === fault?.frameId);
    for (const drift of driftsOf(own)) {
      const at = own.findIndex(({ id }) => id === drift.frameId);
      if (!fault || Math.abs(at - begins) > 6) {
        sum.alarms++;
        continue;
      }
      sum.found++;
      if (Math.abs(at - begins) <= 2) sum.within++;
      if (drift.kind === fault.kind || (fault.kind === 'camera' && drift.kind === 'moved')) sum.named++;
    }
  }
  return sum;
}

/** @param seeds how many events. */
export async function gather(_folder?: string, seeds = 1): Promise<void> {
  const rows: string[] = [];
  const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;
  for (let seed = 1; seed <= seeds; seed++) {
    const event = await takeEvent(seed);
    const { frames, slots } = event;
    const off = clocksOff(frames).find(({ camera }) => camera === 'B');
    const right = frames.map((frame) =>
      frame.camera === 'B' ? { ...frame, at: (frame.at ?? 0) + event.behind } : frame,
    );
    const plain = right.filter(({ truth }) => truth.soft >= 0);
    const drifts = driftsRight(event);
    rows.push(
      `| ${seed} | ${frames.length} | ${percent(setupsRight(right))} | ${drifts.within} of ${drifts.all}, ${drifts.named} named, ${drifts.alarms} false | ${event.slatesRead} of ${event.slates} | ${percent(subjectsRight(right, event, []))} | ${percent(subjectsRight(plain, event, []))} | ${percent(subjectsRight(plain, event, slots))} | ${percent(sharpnessRight(frames))} | ${off ? off.seconds - event.behind : 'not told'} |`,
    );
    console.log(rows.at(-1));
  }
  await writeSection(
    'accuracy.md',
    'Gathering',
    `Rendered events of ${GUESTS} guests, a slate and three frames of each (${HEIGHT} pixels high), in three setups, every fifth guest by a
second camera with another lens and a clock that is behind; slates tilted up to 25°, a sixth to a third of the frame wide, some dim or blurred;
in each setup a lamp goes out, the camera is knocked or the white balance moves after two thirds. Without slates: the slate frames are left
out, by the order of the list and by the planned slots. Sharpness: pairs of one guest's frames softened by 0, 0.6 and 1.2 pixels.
\`npm run bench -- gather . 1\`.

| event | frames | setups right | changes within two frames | slates read | subjects, slates | by order | by slots | sharpness order | clock off by, s |
| --: | --: | --: | --: | --: | --: | --: | --: | --: | --: |
${rows.join('\n')}`,
  );
}
