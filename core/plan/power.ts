import { lampFactsByKind } from './library.ts';
import type { Plan } from './plan.ts';

export interface CircuitLoad {
  name: string;
  watts: number;
  /** Volts times amperes. */
  rating: number;
  /** watts / rating. */
  load: number;
  lamps: string[];
}

/**
 * Loads of the named circuits, and of circuits that lamps name but the plan does not know (rating 0, load Infinity).
 */
export function circuitLoads(plan: Plan): CircuitLoad[] {
  const names = [
    ...new Set([
      ...plan.circuits.map((circuit) => circuit.name),
      ...plan.lamps.map((lamp) => lamp.circuit).filter(Boolean),
    ]),
  ];
  return names.map((name) => {
    const lamps = plan.lamps.filter((lamp) => lamp.circuit === name);
    const circuit = plan.circuits.find((c) => c.name === name);
    const watts = lamps.reduce((sum, lamp) => sum + lamp.watts, 0);
    const rating = circuit ? circuit.volts * circuit.amperes : 0;
    return {
      name,
      watts,
      rating,
      load: rating ? watts / rating : watts ? Infinity : 0,
      lamps: lamps.map((lamp) => lamp.name),
    };
  });
}

export interface WindLoad {
  /** Force on the screen at the expected wind with its gusts, N. */
  force: number;
  /** Ballast that would hold it with a safety factor of 1.5, kg. */
  ballastNeeded: number;
  /** Mean wind at which it must be down, m/s: the lower of what the ballast allows and the house limit. */
  takeDown: number;
}

const AIR_DENSITY = 1.225;
/** Drag coefficient of a flat plate near the ground (about 1.2 in free air, more with a closed lower edge). */
const DRAG = 1.3;
/** Gusts over mean wind near the ground. */
const GUST = 1.5;
const SAFETY = 1.5;
const GRAVITY = 9.81;
/** Nobody stands beside a screen above this mean wind, whatever the ballast, m/s. */
export const HOUSE_WIND_LIMIT = 8;

/** Pressure of wind on a surface, Pa: ½·ρ·v². */
export function windPressure(speed: number): number {
  return 0.5 * AIR_DENSITY * speed * speed;
}

export function windLoad(plan: Plan): WindLoad {
  const { screen, room } = plan;
  const area = screen.width * screen.height;
  const arm = screen.bottom + screen.height / 2;
  const force = DRAG * area * windPressure(room.wind * GUST);
  const ballastNeeded = (SAFETY * force * arm) / (GRAVITY * screen.base);
  const holds =
    Math.sqrt((screen.ballast * GRAVITY * screen.base) / (SAFETY * arm * DRAG * area * 0.5 * AIR_DENSITY)) / GUST;
  return { force, ballastNeeded, takeDown: Math.min(HOUSE_WIND_LIMIT, holds) };
}

/** Cautions that apply to this plan; local rules and licensed trades come first. */
export function cautionsOf(plan: Plan): string[] {
  const standing = plan.lamps.filter((lamp) => lampFactsByKind[lamp.kind].standing);
  const out: string[] = [];
  if (standing.length) out.push('Sandbag on the high leg of every loaded stand; tape cables down or lead them round.');
  if (plan.lamps.some((lamp) => lampFactsByKind[lamp.kind].hot && lamp.watts >= 400 && lamp.unit !== 'joule'))
    out.push('Hot lamps: gloves, time to cool, nothing that burns within a metre.');
  if (plan.circuits.length)
    out.push(
      'Lamps and circuits within their rating, at most four fifths of it for a long time; anything fixed is for an electrician.',
    );
  if (plan.lamps.some((lamp) => lamp.unit === 'joule'))
    out.push('Flashing light: ask whether anyone is sensitive to it, and say so on a sign.');
  if (
    plan.screen.bottom + plan.screen.height > 2.4 ||
    plan.lamps.some((lamp) => standing.includes(lamp) && lamp.position.y > 2.4)
  )
    out.push('Ladders only with a second person who holds them.');
  if (plan.screen.material === 'Painted wall') out.push('Painting needs the owner’s consent, in writing.');
  if (plan.room.outdoors)
    out.push(
      'A tensioned screen is a sail: ballast or anchors on every foot, somebody beside it, down before the wind limit, never near power lines.',
    );
  out.push('A parent or guardian with children; consent of everybody who is photographed.');
  out.push('Local rules and licensed trades come first.');
  return out;
}
