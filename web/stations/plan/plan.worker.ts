import { expose, transfer } from 'comlink';
import { byOwnLog, type Factors } from '../../../core/log/index.ts';
import {
  improve,
  quickReport,
  reportOn,
  savingsOf,
  scheduleOf,
  schoolsOf,
  sunThroughDay,
  type Freedom,
  type Improvement,
  type MinutesOf,
  type Plan,
  type Report,
  type Saving,
  type Schedule,
  type SunDay,
} from '../../../core/plan/index.ts';
import { takeFrame, type Shot } from '../../../core/studio/index.ts';

/** What is computed about a plan beside the page: all numbers, or a picture. Each kind runs in a worker of its own. */
export interface Numbers {
  report: Report;
  schedule: Schedule;
  sun: SunDay | undefined;
  milliseconds: number;
}

/** What plans are compared by: the forecast by one’s own log. */
const minutesBy =
  (factors: Factors): MinutesOf =>
  (plan) =>
    byOwnLog(quickReport(plan).forecast, factors).minutes;

const worker = {
  numbers(plan: Plan): Numbers {
    const start = performance.now();
    const report = reportOn(plan, 18, 3);
    return {
      report,
      schedule: scheduleOf(plan, report.kit, report.forecast),
      sun: sunThroughDay(plan),
      milliseconds: performance.now() - start,
    };
  },
  savings(plan: Plan, factors: Factors): Saving[] {
    return savingsOf(plan, undefined, minutesBy(factors));
  },
  schools(plan: Plan, factors: Factors): ReturnType<typeof schoolsOf> {
    return schoolsOf(plan, minutesBy(factors));
  },
  async improve(
    plan: Plan,
    freedom: Freedom,
    factors: Factors,
    onRound: (share: number, minutes: number) => void,
  ): Promise<Improvement> {
    const told = (share: number, minutes: number): boolean => {
      onRound(share, minutes);
      return true;
    };
    return improve(plan, freedom, 1, told, minutesBy(factors));
  },
  picture(plan: Plan, shot: Shot): ImageData {
    const { frame } = takeFrame(plan, shot);
    const pixels = new Uint8ClampedArray(frame.width * frame.height * 4);
    for (let p = 0; p < frame.width * frame.height; p++) {
      for (let c = 0; c < 3; c++) pixels[p * 4 + c] = frame.data[p * 3 + c] >> 8;
      pixels[p * 4 + 3] = 255;
    }
    return transfer(new ImageData(pixels, frame.width, frame.height), [pixels.buffer]);
  },
};
export type PlanWorker = typeof worker;
expose(worker);
