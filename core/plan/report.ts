import { cameraView } from './cameraView.ts';
import { coverageOf } from './coverage.ts';
import { levelPerLux, whiteBalance, type Rgb } from './exposure.ts';
import { forecastOf, type Forecast } from './forecast.ts';
import { kitOf, type Kit } from './kit.ts';
import { evennessOf, exposureOf, lawnMap, shadowsOf } from './lawnMap.ts';
import { blockersOf, sourcesOf } from './light.ts';
import { bounceReport, personLight } from './onPerson.ts';
import type { Plan } from './plan.ts';
import { readingsOf, type PlanFacts } from './planReadings.ts';
import { cautionsOf, circuitLoads, windLoad } from './power.ts';
import type { PlanReading } from './readings.ts';
import { focusReport, motionReport } from './sharpness.ts';
import { wardrobeOf } from './wardrobe.ts';

/** Everything computed about a plan. */
export interface Report extends PlanFacts {
  readings: PlanReading[];
  losses: {
    lamp: string;
    modifier: number;
    gel: number;
    diffusion: number;
    dimmer: number;
    temperature: number;
    tint: number;
  }[];
  kit: Kit;
  forecast: Forecast;
  cautions: string[];
}

/**
 * Computes all readings of a plan.
 * @param columns places across the lawn map; 24 for reading, 10–14 when many plans are compared.
 * @param fineness samples across a lamp.
 */
export function reportOn(plan: Plan, columns = 24, fineness = 4): Report {
  const view = cameraView(plan);
  const sources = sourcesOf(plan, fineness);
  const blockers = blockersOf(plan);
  const gain = whiteBalance(plan, sources);
  const perLux = gain.map((g) => g * levelPerLux(plan.camera)) as Rgb;
  const map = lawnMap(plan, view, sources, blockers, perLux, columns);
  const evenness = evennessOf(map) ?? null;
  const facts: PlanFacts = {
    coverage: coverageOf(plan, view),
    map,
    evenness,
    exposure: exposureOf(map, plan.screen.colour) ?? null,
    shadows: shadowsOf(map, sources, blockers),
    person: personLight(plan, sources, evenness),
    bounce: bounceReport(plan, sources, gain),
    focus: focusReport(plan, view),
    motion: motionReport(plan, view, sources),
    circuits: circuitLoads(plan),
    wind: plan.room.outdoors ? windLoad(plan) : null,
    wardrobe: wardrobeOf(plan.event),
  };
  const readings = readingsOf(plan, facts, sources, perLux);
  const losses = sources
    .filter((source) => source.kind !== 'room')
    .map(({ lamp, light }) => ({ lamp: lamp.name, ...light.losses, temperature: light.temperature, tint: light.tint }));
  return {
    ...facts,
    readings,
    losses,
    kit: kitOf(plan),
    forecast: forecastOf(plan, readings),
    cautions: cautionsOf(plan),
  };
}
