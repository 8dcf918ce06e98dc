import { entry, lampModels, cameraModels, materials, screenReflectance, type LampModel } from './library.ts';
import type { Lamp, LampRole, Person, Plan, Screen } from './plan.ts';
import type { Vec } from './vector.ts';

/** Lamps and screens take these when nothing else is said. */
const plainLamp = {
  power: 1,
  gel: 'none',
  diffusion: 'none',
  cutLeft: 90,
  cutRight: 90,
  cutTop: 90,
  cutBottom: 90,
  circuit: 'Circuit 1',
  supply: 'owned',
} as const;

export function lampFrom(
  model: LampModel,
  id: string,
  role: LampRole,
  position: Vec,
  aim: Vec,
  change: Partial<Lamp> = {},
): Lamp {
  const { name, ...rest } = model;
  return { id, ...plainLamp, ...rest, name, role, position, aim, ...change };
}

export function screenFrom(
  colour: Screen['colour'],
  materialName: string,
  width: number,
  height: number,
  bottom: number,
): Screen {
  const { gloss, wrinklePeriod, wrinkleDepth, name } = entry(materials, materialName, 'material');
  return {
    colour,
    material: name,
    width,
    height,
    bottom,
    gloss,
    ...screenReflectance[colour],
    wrinklePeriod,
    wrinkleDepth,
    sweep: 0,
    base: 0.6,
    ballast: 20,
    supply: 'owned',
  };
}

export function personAt(id: string, name: string, x: number, z: number, height = 1.72): Person {
  return { id, name, x, z, height, reach: height * 0.5, count: 1, depth: 0 };
}

/**
 * The rules of thumb as a layout: two equal screen lamps, each half a screen width in front of it and outside its
 * edges, at half its height and turned across; the person 2 m forward; key and fill on the two sides; an edge light.
 */
export function startingPlan(name: string, date: string): Plan {
  const width = 2.7;
  const screen = screenFrom('green', 'Cloth on a stand', width, 2.7, 0.1);
  const softbox = entry(lampModels, 'Softbox 60×90, LED', 'lamp');
  const strip = entry(lampModels, 'Strip softbox 30×120, LED', 'lamp');
  const middle = screen.bottom + screen.height / 2;
  const person = personAt('p1', 'Guest', 0, 2.2);
  const face = { x: 0, y: 1.6, z: person.z };
  const { name: _, ...body } = entry(cameraModels, 'Full format 24 MP, 85 mm', 'camera');
  return {
    format: 'silent-lawn-plan',
    version: 1,
    name,
    room: {
      outdoors: false,
      left: 2.5,
      right: 2.5,
      behind: 0.3,
      front: 6,
      height: 3,
      walls: 0.3,
      latitude: 52,
      longitude: 1,
      utcOffset: 1,
      facing: 0,
      wind: 4,
    },
    screen,
    lamps: [
      lampFrom(
        softbox,
        'screen-left',
        'screen',
        { x: -width * 0.72, y: middle, z: width / 2 },
        { x: -width * 0.22, y: middle, z: 0 },
        { name: 'Screen lamp left', cutRight: 35, power: 0.7 },
      ),
      lampFrom(
        softbox,
        'screen-right',
        'screen',
        { x: width * 0.72, y: middle, z: width / 2 },
        { x: width * 0.22, y: middle, z: 0 },
        { name: 'Screen lamp right', cutLeft: 35, power: 0.7 },
      ),
      lampFrom(softbox, 'key', 'key', { x: -1.3, y: 2.1, z: 3.9 }, face, { name: 'Key' }),
      lampFrom(softbox, 'fill', 'fill', { x: 1.6, y: 1.7, z: 4.2 }, face, { name: 'Fill', power: 0.2 }),
      lampFrom(
        strip,
        'edge',
        'edge',
        { x: 1.5, y: 2.3, z: 1.3 },
        { x: 0, y: 1.55, z: person.z },
        { name: 'Edge light', power: 0.25 },
      ),
    ],
    people: [person],
    camera: {
      ...body,
      focal: 0.1,
      position: { x: 0, y: 1.33, z: 5.4 },
      tilt: 0,
      pan: 0,
      aperture: 4,
      shutter: 1 / 160,
      iso: 1250,
      file: 'jpeg',
    },
    materials: [],
    circuits: [{ name: 'Circuit 1', volts: 230, amperes: 16 }],
    event: {
      date,
      arrive: '08:30',
      firstGuest: '10:30',
      packedBy: '18:00',
      deadlineDate: date,
      deadlineTime: '23:30',
      guests: 80,
      framesPerGuest: 3,
      minutesPerGuest: 4,
      helpers: 2,
      breaks: [{ start: '13:00', minutes: 30 }],
      roster: [{ name: 'Guests in mixed clothes', colours: ['3d4a63', 'c8542f', 'd8d4cc'], people: 80 }],
      cutSeconds: 6,
      gesturing: 0.3,
      jumping: 0.05,
    },
  };
}
