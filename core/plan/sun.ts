import { getPosition } from 'suncalc';
import type { Lamp, Plan } from './plan.ts';
import { subtract, unit, vec, type Vec } from './vector.ts';

/** The sun at one time of the day, seen from the set. */
export interface SunAt {
  /** Minutes after local midnight. */
  minute: number;
  /** Degrees clockwise from north; degrees above the horizon, refraction included. */
  azimuth: number;
  elevation: number;
  /** Unit vector towards the sun in the set's directions. */
  towards: Vec;
  /** Whether direct sun reaches the front of the screen, the person's face side, the person's back. */
  onScreen: boolean;
  onFace: boolean;
  onBack: boolean;
  /** Low and veiled, or not there: its light is soft. */
  soft: boolean;
}

export interface SunDay {
  through: SunAt[];
  /** Minutes after midnight at which to take a new test frame, with the reason. */
  testAgain: { minute: number; words: string }[];
}

const STEP = 10;
/** Below this elevation the sun's light is weak, warm and soft. */
const LOW = 6;
/** A test frame holds for so many degrees of the sun's way. */
const HOLDS = 12;

/**
 * The sun's way on the day of the plan; undefined if it can reach neither screen nor person (indoors without a window).
 */
export function sunThroughDay(plan: Plan): SunDay | undefined {
  const windows = plan.lamps.filter((lamp) => lamp.kind === 'window');
  if (!plan.room.outdoors && !windows.length) return undefined;
  const [year, month, day] = plan.event.date.split('-').map(Number);
  const through: SunAt[] = [];
  for (let minute = 0; minute < 24 * 60; minute += STEP) {
    // A date built from the plan, not the clock: the same plan gives the same sun.
    const { azimuth, altitude } = getPosition(
      new Date(Date.UTC(year, month - 1, day, 0, minute - plan.room.utcOffset * 60)),
      plan.room.latitude,
      plan.room.longitude,
    );
    through.push(sunAt(plan, windows, minute, azimuth, altitude));
  }
  return { through, testAgain: testTimes(plan, through) };
}

function sunAt(plan: Plan, windows: readonly Lamp[], minute: number, azimuth: number, elevation: number): SunAt {
  const towards = sunDirection(plan.room.facing, azimuth, elevation);
  const person = plan.people[0];
  const screenMiddle = vec(0, plan.screen.bottom + plan.screen.height / 2, 0);
  const reaches = (place: Vec): boolean =>
    elevation > 0 && (plan.room.outdoors || windows.some((window) => throughWindow(window, place, towards)));
  const onPerson = person ? reaches(vec(person.x, person.height * 0.9, person.z)) : false;
  return {
    minute,
    azimuth,
    elevation,
    towards,
    onScreen: towards.z > 0.02 && reaches(screenMiddle),
    onFace: towards.z > 0 && onPerson,
    onBack: towards.z <= 0 && onPerson,
    soft: elevation < LOW,
  };
}

/** Direction towards the sun in the set: the camera looks to `facing`, along −z; right of it is +x. Degrees. */
export function sunDirection(facing: number, azimuth: number, elevation: number): Vec {
  const turn = ((azimuth - facing) * Math.PI) / 180;
  const up = (elevation * Math.PI) / 180;
  return vec(Math.sin(turn) * Math.cos(up), Math.sin(up), -Math.cos(turn) * Math.cos(up));
}

/** Whether a ray from a place towards the sun leaves through the window's opening. */
function throughWindow(window: Lamp, place: Vec, towards: Vec): boolean {
  const axis = unit(subtract(window.aim, window.position));
  const facing = -(towards.x * axis.x + towards.y * axis.y + towards.z * axis.z);
  if (facing <= 0.05) return false;
  const d = subtract(place, window.position);
  const t = (d.x * axis.x + d.y * axis.y + d.z * axis.z) / facing;
  if (t <= 0) return false;
  const hit = vec(d.x + t * towards.x, d.y + t * towards.y, d.z + t * towards.z);
  const sideways = Math.hypot(hit.x, hit.z);
  return sideways <= window.width / 2 && Math.abs(hit.y) <= window.height / 2;
}

function testTimes(plan: Plan, through: readonly SunAt[]): SunDay['testAgain'] {
  const from = minutesOf(plan.event.firstGuest);
  const to = minutesOf(plan.event.packedBy);
  const out: SunDay['testAgain'] = [];
  let last: SunAt | undefined;
  for (const sun of through) {
    if (sun.minute < from || sun.minute > to || (sun.elevation < -2 && !(last && last.elevation >= -2))) continue;
    const words = !last
      ? 'before the first guest'
      : sun.onScreen !== last.onScreen
        ? sun.onScreen
          ? 'the sun reaches the screen'
          : 'the sun leaves the screen'
        : sun.onFace !== last.onFace || sun.onBack !== last.onBack
          ? sun.onFace
            ? 'the sun reaches the face'
            : sun.onBack
              ? 'the sun comes from behind'
              : 'the sun leaves the person'
          : sun.soft !== last.soft
            ? sun.soft
              ? 'the sun is low and soft'
              : 'the sun is high and hard'
            : apart(sun, last) > HOLDS
              ? `the sun has moved ${HOLDS}° or more`
              : '';
    if (words) {
      out.push({ minute: sun.minute, words });
      last = sun;
    }
  }
  return out;
}

function apart(a: SunAt, b: SunAt): number {
  const cosine = a.towards.x * b.towards.x + a.towards.y * b.towards.y + a.towards.z * b.towards.z;
  return (Math.acos(Math.max(-1, Math.min(1, cosine))) * 180) / Math.PI;
}

/** Minutes after midnight of HH:MM. */
export function minutesOf(time: string): number {
  const [hours, minutes] = time.split(':').map(Number);
  return hours * 60 + minutes;
}

/** HH:MM of minutes after midnight; a day later says so. */
export function clock(minute: number): string {
  const whole = Math.round(minute);
  const day = Math.floor(whole / 1440);
  const rest = whole - day * 1440;
  const words = `${String(Math.floor(rest / 60)).padStart(2, '0')}:${String(rest % 60).padStart(2, '0')}`;
  return day > 0 ? `${words} +${day}` : day < 0 ? `${words} ${day}` : words;
}
