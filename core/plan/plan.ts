import type { Vec } from './vector.ts';

/** What a screen can be made of. Prices are in the photographer's own currency, masses in kg, times in minutes. */
export interface Material {
  name: string;
  note: string;
  gloss: number;
  wrinklePeriod: number;
  wrinkleDepth: number;
  /** Each square metre, bought; how many shoots it lasts. */
  price: number;
  uses: number;
  mass: number;
  setUp: number;
  /** Largest side it comes in without a seam, m. */
  widest: number;
  outdoors: boolean;
}

/**
 * A planned set. SI units (metres, seconds, lumens, kelvin), angles in degrees. The origin lies on the floor below the
 * middle of the screen; the camera stands at positive z and looks towards it. Ranges of every number are in `facts.ts`.
 */
export interface Plan {
  format: 'silent-lawn-plan';
  version: 1;
  name: string;
  room: Room;
  screen: Screen;
  lamps: Lamp[];
  people: Person[];
  camera: Camera;
  /** Materials of the photographer's own, beside those of the library. */
  materials: Material[];
  circuits: Circuit[];
  event: Event;
}

export interface Room {
  outdoors: boolean;
  /** From the middle of the screen to the left and right wall, from the screen back and forward. */
  left: number;
  right: number;
  behind: number;
  front: number;
  height: number;
  /** Reflectance of walls, floor and ceiling, 0–1. */
  walls: number;
  latitude: number;
  longitude: number;
  /** Hours that the clock is ahead of universal time on the day. */
  utcOffset: number;
  /** Compass bearing in which the camera looks. */
  facing: number;
  /** Expected mean wind, m/s; used outdoors. */
  wind: number;
}

export type ScreenColour = 'green' | 'blue' | 'white';

export interface Screen {
  colour: ScreenColour;
  /** Name of a material of the plan or of the library. */
  material: string;
  width: number;
  height: number;
  /** Height of the lower edge above the floor. */
  bottom: number;
  /** Share of light that is mirrored instead of scattered, 0–1. */
  gloss: number;
  /** Linear reflectance per channel. */
  red: number;
  green: number;
  blue: number;
  /** Distance from crease to crease, and their depth from crest to trough. */
  wrinklePeriod: number;
  wrinkleDepth: number;
  /** Length that runs forward on the floor; 0: none. */
  sweep: number;
  /** Distance of the stands' feet from the screen's plane, and all the weight that holds them. */
  base: number;
  ballast: number;
  supply: Supply;
}

export type LampKind = 'bare' | 'umbrella' | 'softbox' | 'panel' | 'tubes' | 'ring' | 'window' | 'sun' | 'overcast';
export type LampRole = 'screen' | 'key' | 'fill' | 'edge';
export type OutputUnit = 'lumen' | 'candela' | 'joule' | 'lux';
export type Supply = 'owned' | 'hired' | 'used up';

export interface Lamp {
  id: string;
  name: string;
  kind: LampKind;
  /** What it is for. Its light goes wherever it goes; only words and the search for better places use this. */
  role: LampRole;
  position: Vec;
  aim: Vec;
  /** Output of the source itself, before modifier, gel and diffusion; lux is for sun and sky. */
  output: number;
  unit: OutputUnit;
  /** Dimmer, 0–1. */
  power: number;
  /** Full angle between the directions of half intensity. */
  beam: number;
  /** Size of the luminous surface. */
  width: number;
  height: number;
  temperature: number;
  /** Green–magenta shift in hundredths of density of the green channel: above 0 magenta, below 0 green. */
  tint: number;
  gel: string;
  diffusion: string;
  /**
   * Flags: light farther than so many degrees from the aim, to that side as seen from the lamp, is cut off; 90: none.
   */
  cutLeft: number;
  cutRight: number;
  cutTop: number;
  cutBottom: number;
  /** Power drawn; circuit it hangs on, or '' for a battery. */
  watts: number;
  circuit: string;
  /** Time within which a flash gives off most of its light. */
  flashDuration: number;
  supply: Supply;
}

/** A place where people stand. */
export interface Person {
  id: string;
  name: string;
  x: number;
  z: number;
  height: number;
  /** From the middle of the body to the fingertips of an outstretched arm. */
  reach: number;
  /** How many stand here side by side, and how deep the group is. */
  count: number;
  depth: number;
}

export interface Camera {
  /** Size of the sensor as it is held, and its pixels. */
  sensorWidth: number;
  sensorHeight: number;
  pixelsAcross: number;
  pixelsDown: number;
  focal: number;
  position: Vec;
  /** Upwards above 0; to the right above 0. */
  tilt: number;
  pan: number;
  aperture: number;
  shutter: number;
  iso: number;
  /** What is written: 8-bit JPEG with halved chroma, 16 bit, or what the sensor reads. */
  file: 'jpeg' | '16-bit' | 'raw';
}

export interface Circuit {
  name: string;
  volts: number;
  amperes: number;
}

export interface Guest {
  name: string;
  /** Colours of clothes, dyed hair and props, six hex digits each. */
  colours: string[];
  /** How many guests this stands for. */
  people: number;
}

export interface Break {
  start: string;
  minutes: number;
}

/** The job: who comes, when, and what must be ready by when. Times of day as HH:MM, dates as YYYY-MM-DD. */
export interface Event {
  date: string;
  arrive: string;
  firstGuest: string;
  packedBy: string;
  deadlineDate: string;
  deadlineTime: string;
  guests: number;
  framesPerGuest: number;
  minutesPerGuest: number;
  helpers: number;
  breaks: Break[];
  roster: Guest[];
  /** Measured seconds of extraction for one frame on this machine. */
  cutSeconds: number;
  /** Shares of frames in which people move their hands, or jump. */
  gesturing: number;
  jumping: number;
}
