import { entry, gels, lampFactsByKind, materials, screenReflectance } from './library.ts';
import { placeFacts, lampFacts, cameraFacts } from './facts.ts';
import type { Lamp, Plan } from './plan.ts';
import { forecastMinutes, type MinutesOf } from './quick.ts';
import { add, subtract, unit, type Vec } from './vector.ts';

/** One change of a plan, told in words. */
export interface Change {
  /** What kind of thing it touches; the search may be told to leave some alone. */
  moves: 'lamp' | 'power' | 'aim' | 'person' | 'camera' | 'exposure' | 'screen' | 'gear';
  words: string;
  plan: Plan;
}

/** A change with what it saves, in minutes of hand repair. */
export interface Saving extends Change {
  minutes: number;
}

const metres = (m: number): string => `${Math.round(Math.abs(m) * 100)} cm`;

/** A copy of the plan with one lamp changed; undefined if nothing came of it or it would stand outside the room. */
export function withLamp(plan: Plan, id: string, change: (lamp: Lamp) => Partial<Lamp>): Plan {
  return { ...plan, lamps: plan.lamps.map((lamp) => (lamp.id === id ? { ...lamp, ...change(lamp) } : lamp)) };
}

/** Whether a place is inside the room, a lamp's breadth off the walls and under the ceiling. */
export function insideRoom({ room }: Plan, place: Vec, clear = 0.15): boolean {
  if (place.y < 0.2 || place.y > placeFacts.y.max) return false;
  if (room.outdoors) return true;
  return (
    place.x > -room.left + clear &&
    place.x < room.right - clear &&
    place.z > -room.behind + 0.02 &&
    place.z < room.front - clear &&
    place.y < room.height - clear
  );
}

/**
 * Whether a lamp would be seen by the camera: it stands between camera and screen inside the frame's edges, roughly
 * as a post.
 */
export function blocksView(plan: Plan, place: Vec): boolean {
  const { camera, screen } = plan;
  const depth = camera.position.z - place.z;
  if (depth <= 0 || place.z <= 0) return false;
  const halfWidth = (camera.sensorWidth / 2 / camera.focal) * depth + 0.1;
  const middle = camera.position.x + Math.tan((camera.pan * Math.PI) / 180) * depth;
  const lowest =
    camera.position.y + (Math.tan((camera.tilt * Math.PI) / 180) - camera.sensorHeight / 2 / camera.focal) * depth;
  const highest =
    camera.position.y + (Math.tan((camera.tilt * Math.PI) / 180) + camera.sensorHeight / 2 / camera.focal) * depth;
  return (
    Math.abs(place.x - middle) < halfWidth &&
    place.y > lowest &&
    place.y - 0.5 < highest &&
    Math.abs(place.x) < screen.width / 2 + 1
  );
}

/** Every single change worth trying on a plan; each result is a valid plan inside the room. */
export function singleChanges(plan: Plan): Change[] {
  return [...lampChanges(plan), ...personChanges(plan), ...cameraChanges(plan), ...screenChanges(plan)];
}

function lampChanges(plan: Plan): Change[] {
  const out: Change[] = [];
  for (const lamp of plan.lamps) {
    if (!lampFactsByKind[lamp.kind].standing) continue;
    const put = (moves: Change['moves'], words: string, change: Partial<Lamp>): void => {
      const place = change.position ?? lamp.position;
      if (change.position && (!insideRoom(plan, place) || blocksView(plan, place))) return;
      out.push({ moves, words: `${lamp.name}: ${words}`, plan: withLamp(plan, lamp.id, () => change) });
    };
    const step = 0.5;
    const sideways = Math.sign(lamp.position.x || 1);
    put('lamp', `${metres(step)} outwards`, { position: add(lamp.position, { x: sideways * step, y: 0, z: 0 }) });
    put('lamp', `${metres(step)} inwards`, { position: add(lamp.position, { x: -sideways * step, y: 0, z: 0 }) });
    put('lamp', `${metres(step)} towards the camera`, { position: add(lamp.position, { x: 0, y: 0, z: step }) });
    put('lamp', `${metres(step)} towards the screen`, { position: add(lamp.position, { x: 0, y: 0, z: -step }) });
    put('lamp', `${metres(0.4)} higher`, { position: add(lamp.position, { x: 0, y: 0.4, z: 0 }) });
    put('lamp', `${metres(0.4)} lower`, { position: add(lamp.position, { x: 0, y: -0.4, z: 0 }) });
    const reach = unit(subtract(lamp.aim, lamp.position));
    put('aim', `turn it ${metres(0.4)} towards the left`, { aim: add(lamp.aim, { x: -0.4, y: 0, z: 0 }) });
    put('aim', `turn it ${metres(0.4)} towards the right`, { aim: add(lamp.aim, { x: 0.4, y: 0, z: 0 }) });
    put('aim', `aim ${metres(0.4)} lower`, { aim: add(lamp.aim, { x: 0, y: -0.4, z: 0 }) });
    put('aim', `aim ${metres(0.4)} higher`, { aim: add(lamp.aim, { x: 0, y: 0.4, z: 0 }) });
    if (lamp.power > lampFacts.power.min * 2)
      put('power', 'half a stop less', { power: Math.max(lampFacts.power.min, lamp.power * Math.SQRT1_2) });
    if (lamp.power < 1) put('power', 'half a stop more', { power: Math.min(1, lamp.power * Math.SQRT2) });
    if (lamp.diffusion === 'none' && lamp.role === 'screen')
      put('gear', 'full frost before it', { diffusion: 'full frost' });
    if (lamp.role === 'screen') {
      const side = reach.x > 0 ? 'cutRight' : 'cutLeft';
      if (lamp[side] > 30) put('gear', 'a flag on the side of the person', { [side]: 30 });
    }
    if (lamp.gel !== 'none') put('gear', 'without its gel', { gel: 'none' });
  }
  const screenLamps = plan.lamps.filter((lamp) => lamp.role === 'screen');
  if (screenLamps.length > 1) {
    const [first] = screenLamps;
    const same = {
      ...plan,
      lamps: plan.lamps.map((lamp) =>
        lamp.role === 'screen'
          ? {
              ...lamp,
              output: first.output,
              unit: first.unit,
              power: first.power,
              kind: first.kind,
              beam: first.beam,
              width: first.width,
              height: first.height,
              temperature: first.temperature,
              tint: first.tint,
              gel: first.gel,
            }
          : lamp,
      ),
    };
    if (
      screenLamps.some(
        (lamp) =>
          lamp.output !== first.output ||
          lamp.power !== first.power ||
          lamp.temperature !== first.temperature ||
          lamp.tint !== first.tint ||
          lamp.kind !== first.kind,
      )
    )
      out.push({ moves: 'gear', words: `All screen lamps like ${first.name}`, plan: same });
    for (const [words, factor] of [
      ['All screen lamps half a stop less', Math.SQRT1_2],
      ['All screen lamps half a stop more', Math.SQRT2],
    ] as const) {
      if (screenLamps.every((lamp) => lamp.power * factor <= 1.0001))
        out.push({
          moves: 'power',
          words,
          plan: {
            ...plan,
            lamps: plan.lamps.map((lamp) =>
              lamp.role === 'screen'
                ? { ...lamp, power: Math.max(lampFacts.power.min, Math.min(1, lamp.power * factor)) }
                : lamp,
            ),
          },
        });
    }
  }
  return out;
}

/** Moves people, and with them camera and the lamps that are for them, along the room. */
function shiftForward(plan: Plan, by: number): Plan {
  const move = (place: Vec): Vec => ({ ...place, z: place.z + by });
  return {
    ...plan,
    people: plan.people.map((person) => ({ ...person, z: person.z + by })),
    camera: { ...plan.camera, position: move(plan.camera.position) },
    lamps: plan.lamps.map((lamp) =>
      lamp.role === 'screen' || !lampFactsByKind[lamp.kind].standing
        ? lamp
        : { ...lamp, position: move(lamp.position), aim: move(lamp.aim) },
    ),
  };
}

function personChanges(plan: Plan): Change[] {
  const out: Change[] = [];
  const fits = (changed: Plan): boolean =>
    changed.people.every((person) => person.z > 0.4 && insideRoom(changed, { x: person.x, y: 1, z: person.z }, 0.3)) &&
    insideRoom(changed, changed.camera.position, 0.3) &&
    changed.camera.position.z > Math.max(...changed.people.map((p) => p.z), 0) + 0.6 &&
    changed.lamps.every((lamp) => !lampFactsByKind[lamp.kind].standing || insideRoom(changed, lamp.position));
  if (!plan.people.length) return out;
  for (const by of [0.5, -0.5]) {
    const whole = shiftForward(plan, by);
    if (fits(whole))
      out.push({
        moves: 'person',
        words: `People, camera and their lamps ${metres(by)} ${by > 0 ? 'away from' : 'nearer to'} the screen`,
        plan: whole,
      });
    const alone = { ...plan, people: plan.people.map((person) => ({ ...person, z: person.z + by })) };
    if (fits(alone))
      out.push({
        moves: 'person',
        words: `People ${metres(by)} ${by > 0 ? 'away from' : 'nearer to'} the screen`,
        plan: alone,
      });
  }
  return out;
}

function cameraChanges(plan: Plan): Change[] {
  const { camera } = plan;
  const out: Change[] = [];
  const put = (moves: Change['moves'], words: string, change: Partial<Plan['camera']>): void => {
    out.push({ moves, words, plan: { ...plan, camera: { ...camera, ...change } } });
  };
  const clampIso = (iso: number): number =>
    Math.max(cameraFacts.iso.min, Math.min(cameraFacts.iso.max, Math.round(iso)));
  for (const by of [0.5, -0.5]) {
    const position = { ...camera.position, z: camera.position.z + by };
    if (insideRoom(plan, position, 0.3) && position.z > Math.max(...plan.people.map((p) => p.z), 0) + 0.8)
      put('camera', `Camera ${metres(by)} ${by > 0 ? 'back' : 'forward'}, the frame as large as before`, {
        position,
        focal: clampFocal(camera.focal * (1 + by / Math.max(0.5, camera.position.z - (plan.people[0]?.z ?? 0)))),
      });
  }
  put('camera', 'A lens a fifth longer', { focal: clampFocal(camera.focal * 1.2) });
  put('exposure', 'Half a stop more exposure (gain)', { iso: clampIso(camera.iso * Math.SQRT2) });
  put('exposure', 'Half a stop less exposure (gain)', { iso: clampIso(camera.iso * Math.SQRT1_2) });
  if (camera.aperture / Math.SQRT2 >= 1.2)
    put('exposure', 'Open the aperture a stop and lower the gain to match', {
      aperture: camera.aperture / Math.SQRT2,
      iso: clampIso(camera.iso / 2),
    });
  if (camera.aperture * Math.SQRT2 <= 22)
    put('exposure', 'Close the aperture a stop and raise the gain to match', {
      aperture: camera.aperture * Math.SQRT2,
      iso: clampIso(camera.iso * 2),
    });
  if (camera.shutter / 2 >= cameraFacts.shutter.min)
    put('exposure', 'Halve the exposure time and double the gain', {
      shutter: camera.shutter / 2,
      iso: clampIso(camera.iso * 2),
    });
  if (camera.shutter <= 1 / 30)
    put('exposure', 'Double the exposure time and halve the gain', {
      shutter: camera.shutter * 2,
      iso: clampIso(camera.iso / 2),
    });
  if (camera.file === 'jpeg') put('exposure', 'Write 16 bit instead of JPEG', { file: '16-bit' });
  return out;
}

const clampFocal = (focal: number): number => Math.max(cameraFacts.focal.min, Math.min(cameraFacts.focal.max, focal));

function screenChanges(plan: Plan): Change[] {
  const { screen, room } = plan;
  const out: Change[] = [];
  const put = (words: string, change: Partial<Plan['screen']>): void =>
    void out.push({ moves: 'screen', words, plan: { ...plan, screen: { ...screen, ...change } } });
  const other = screen.colour === 'blue' ? 'green' : 'blue';
  put(`A ${other} screen instead of a ${screen.colour} one`, { colour: other, ...screenReflectance[other] });
  if (screen.wrinkleDepth > 0.001)
    put('Steam and clamp the screen: creases half as deep', { wrinkleDepth: screen.wrinkleDepth / 2 });
  const roomWide = room.outdoors || screen.width / 2 + 0.3 < Math.min(room.left, room.right);
  if (roomWide) put(`A screen ${metres(0.6)} wider`, { width: screen.width + 0.6 });
  if (screen.bottom + screen.height + 0.3 < room.height || room.outdoors)
    put(`A screen ${metres(0.3)} taller`, { height: screen.height + 0.3 });
  if (screen.sweep < 0.1 && screen.bottom > 0)
    put('Let it run onto the floor and 1.5 m forward', {
      bottom: 0,
      height: screen.height + screen.bottom,
      sweep: 1.5,
    });
  for (const material of [...materials, ...plan.materials]) {
    if (
      material.name === screen.material ||
      material.widest < Math.min(screen.width, screen.height) ||
      (room.outdoors && !material.outdoors)
    )
      continue;
    put(`${material.name} instead of ${screen.material.toLowerCase()}`, {
      material: material.name,
      gloss: material.gloss,
      wrinklePeriod: material.wrinklePeriod,
      wrinkleDepth: material.wrinkleDepth,
    });
  }
  return out;
}

/** The single changes that save most, best first; only those that save at least `least` minutes. */
export function savingsOf(plan: Plan, least = 0.5, minutesOf: MinutesOf = forecastMinutes): Saving[] {
  const now = minutesOf(plan);
  return singleChanges(plan)
    .map((change) => ({ ...change, minutes: now - minutesOf(change.plan) }))
    .filter(({ minutes }) => minutes >= least)
    .sort((a, b) => b.minutes - a.minutes);
}

/** Ways of working between which practitioners differ, each as the same plan changed that way. */
export function schoolsOf(
  plan: Plan,
  minutesOf: MinutesOf = forecastMinutes,
): { question: string; answers: { words: string; plan: Plan; minutes: number }[] }[] {
  const mapLamps = (change: (lamp: Lamp) => Lamp | null): Plan => ({
    ...plan,
    lamps: plan.lamps.map(change).filter((lamp): lamp is Lamp => lamp !== null),
  });
  const screenLight = (gel: string): Plan =>
    mapLamps((lamp) => (lamp.role === 'screen' ? { ...lamp, gel: entry(gels, gel, 'gel').name } : lamp));
  const forward =
    Math.max(0.9, Math.max(0, ...plan.lamps.filter((l) => l.role === 'screen').map((l) => l.position.z)) + 0.3) -
    (plan.people[0]?.z ?? 0);
  let far = plan;
  for (let n = 0; n < 12; n++) {
    const next = personChanges(far).find(
      (change) => change.words.startsWith('People, camera') && change.words.includes('away'),
    );
    if (!next) break;
    far = next.plan;
  }
  const aperture = (n: number): Plan => ({
    ...plan,
    camera: {
      ...plan.camera,
      aperture: n,
      iso: Math.max(25, Math.round(plan.camera.iso * (n / plan.camera.aperture) ** 2)),
    },
  });
  const answer = (words: string, changed: Plan): { words: string; plan: Plan; minutes: number } => ({
    words,
    plan: changed,
    minutes: minutesOf(changed),
  });
  return [
    {
      question: 'Light on the screen',
      answers: [
        answer('white', screenLight('none')),
        answer('green, through gels', screenLight('screen green')),
        answer('green, on a white screen', {
          ...screenLight('screen green'),
          screen: { ...plan.screen, colour: 'white', ...screenReflectance.white },
        }),
      ],
    },
    {
      question: 'Distance of the person',
      answers: [
        answer('as far away as the room allows', far),
        answer('just before the screen lamps', shiftForward(plan, forward)),
      ],
    },
    {
      question: 'Lamps on the person',
      answers: [
        answer('full set', plan),
        answer(
          'single key',
          mapLamps((lamp) => (lamp.role === 'fill' || lamp.role === 'edge' ? null : lamp)),
        ),
        answer(
          'edge light with weak magenta',
          mapLamps((lamp) => (lamp.role === 'edge' ? { ...lamp, gel: 'weak magenta' } : lamp)),
        ),
      ],
    },
    { question: 'Aperture', answers: [answer('wide, f/2.8', aperture(2.8)), answer('moderate, f/8', aperture(8))] },
  ];
}
