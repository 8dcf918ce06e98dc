import type {
  Camera,
  Circuit,
  Event,
  Guest,
  Lamp,
  LampKind,
  LampRole,
  OutputUnit,
  Person,
  Room,
  Screen,
  ScreenColour,
  Supply,
} from './plan.ts';

/** What schema, form and documentation say about one number of a plan. */
export interface Fact {
  label: string;
  /** '' for a plain number. */
  unit: 'm' | '°' | 'K' | 's' | 'W' | 'V' | 'A' | 'm/s' | 'kg' | 'h' | 'min' | 'px' | '';
  /** Accepted range, both ends included. */
  min: number;
  max: number;
  /** Step of one press of an arrow key. */
  step: number;
}

type NumbersOf<T> = { [K in keyof T as T[K] extends number ? K : never]: Fact };

const length = (label: string, min: number, max: number, step = 0.05): Fact => ({ label, unit: 'm', min, max, step });
const plain = (label: string, min: number, max: number, step: number): Fact => ({ label, unit: '', min, max, step });
const angle = (label: string, min: number, max: number, step = 1): Fact => ({ label, unit: '°', min, max, step });

export const roomFacts: NumbersOf<Room> = {
  left: length('Screen middle to left wall', 0.5, 50),
  right: length('Screen middle to right wall', 0.5, 50),
  behind: length('Free behind the screen', 0, 50),
  front: length('Screen to front wall', 1, 100),
  height: length('Height', 2, 50),
  walls: plain('Reflectance of walls and floor', 0, 0.95, 0.05),
  latitude: angle('Latitude', -90, 90, 0.1),
  longitude: angle('Longitude', -180, 180, 0.1),
  utcOffset: { label: 'Clock ahead of universal time', unit: 'h', min: -12, max: 14, step: 0.5 },
  facing: angle('Camera looks to bearing', 0, 360, 5),
  wind: { label: 'Expected wind', unit: 'm/s', min: 0, max: 40, step: 0.5 },
};

export const screenFacts: NumbersOf<Screen> = {
  width: length('Width', 0.5, 20),
  height: length('Height', 0.5, 12),
  bottom: length('Lower edge above floor', 0, 3),
  gloss: plain('Gloss, share mirrored', 0, 1, 0.01),
  red: plain('Reflectance red', 0.005, 0.95, 0.01),
  green: plain('Reflectance green', 0.005, 0.95, 0.01),
  blue: plain('Reflectance blue', 0.005, 0.95, 0.01),
  wrinklePeriod: length('Crease to crease', 0.02, 2, 0.01),
  wrinkleDepth: length('Crease depth', 0, 0.05, 0.001),
  sweep: length('Sweep onto the floor', 0, 8),
  base: length('Feet to screen plane', 0.1, 5),
  ballast: { label: 'Ballast in all', unit: 'kg', min: 0, max: 2000, step: 5 },
};

export const placeFacts = {
  x: length('From the middle, to the right', -60, 60),
  y: length('Height above floor', 0, 60),
  z: length('From the screen', -60, 120),
} as const;

export const lampFacts: NumbersOf<Lamp> = {
  output: plain('Output', 0, 1e7, 100),
  power: plain('Dimmer', 0.01, 1, 0.05),
  beam: angle('Beam, half intensity', 5, 170, 5),
  width: length('Source width', 0.01, 10),
  height: length('Source height', 0.01, 10),
  temperature: { label: 'Colour temperature', unit: 'K', min: 1700, max: 20000, step: 100 },
  tint: plain('Magenta + / green −', -60, 60, 1),
  cutLeft: angle('Flag left', 1, 90, 5),
  cutRight: angle('Flag right', 1, 90, 5),
  cutTop: angle('Flag above', 1, 90, 5),
  cutBottom: angle('Flag below', 1, 90, 5),
  watts: { label: 'Draws', unit: 'W', min: 0, max: 20000, step: 10 },
  flashDuration: { label: 'Flash duration', unit: 's', min: 0.00002, max: 0.1, step: 0.0005 },
};

export const personFacts: NumbersOf<Person> = {
  x: placeFacts.x,
  z: length('From the screen', 0.1, 120),
  height: length('Height', 0.5, 2.4, 0.01),
  reach: length('Reach of an arm', 0.2, 1.4),
  count: plain('People side by side', 1, 12, 1),
  depth: length('Depth of the group', 0, 5),
};

export const cameraFacts: NumbersOf<Camera> = {
  sensorWidth: length('Sensor width', 0.003, 0.1, 0.0001),
  sensorHeight: length('Sensor height', 0.003, 0.1, 0.0001),
  pixelsAcross: { label: 'Pixels across', unit: 'px', min: 200, max: 20000, step: 10 },
  pixelsDown: { label: 'Pixels down', unit: 'px', min: 200, max: 20000, step: 10 },
  focal: length('Focal length', 0.004, 0.8, 0.005),
  tilt: angle('Tilt up', -60, 60),
  pan: angle('Turn right', -60, 60),
  aperture: plain('Aperture, f-number', 0.9, 64, 0.1),
  shutter: { label: 'Shutter', unit: 's', min: 0.0001, max: 30, step: 0.001 },
  iso: plain('Gain, ISO', 25, 204800, 100),
};

export const circuitFacts: NumbersOf<Circuit> = {
  volts: { label: 'Voltage', unit: 'V', min: 5, max: 480, step: 10 },
  amperes: { label: 'Fuse', unit: 'A', min: 0.5, max: 125, step: 1 },
};

export const eventFacts: NumbersOf<Event> = {
  guests: plain('Guests', 0, 20000, 10),
  framesPerGuest: plain('Frames for each', 1, 100, 1),
  minutesPerGuest: { label: 'Time for each', unit: 'min', min: 0.2, max: 240, step: 0.5 },
  helpers: plain('Photographer and helpers', 1, 20, 1),
  cutSeconds: { label: 'Extraction of a frame', unit: 's', min: 0.1, max: 600, step: 0.5 },
  gesturing: plain('Share moving their hands', 0, 1, 0.05),
  jumping: plain('Share jumping', 0, 1, 0.05),
};

export const guestFacts: NumbersOf<Guest> = { people: plain('People', 1, 20000, 1) };

/** Words for the choices of a plan, in the order they are offered. */
export const screenColours: Record<ScreenColour, string> = { green: 'green', blue: 'blue', white: 'white, lit green' };
export const lampKinds: Record<LampKind, string> = {
  bare: 'bare lamp',
  umbrella: 'umbrella',
  softbox: 'softbox',
  panel: 'panel',
  tubes: 'tube bank',
  ring: 'ring on the lens',
  window: 'window',
  sun: 'direct sun',
  overcast: 'overcast sky',
};
export const lampRoles: Record<LampRole, string> = { screen: 'screen', key: 'key', fill: 'fill', edge: 'edge' };
export const outputUnits: Record<OutputUnit, string> = { lumen: 'lm', candela: 'cd', joule: 'J per flash', lux: 'lx' };
export const supplies: Record<Supply, string> = { owned: 'owned', hired: 'hired', 'used up': 'used up' };
