import { expose, transfer } from 'comlink';
import {
  improve,
  reportOn,
  savingsOf,
  scheduleOf,
  schoolsOf,
  sunThroughDay,
  type Freedom,
  type Improvement,
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
  savings(plan: Plan): Saving[] {
    return savingsOf(plan);
  },
  schools(plan: Plan): ReturnType<typeof schoolsOf> {
    return schoolsOf(plan);
  },
  async improve(plan: Plan, freedom: Freedom, onRound: (share: number, minutes: number) => void): Promise<Improvement> {
    return improve(plan, freedom, 1, (share, minutes) => {
      onRound(share, minutes);
      return true;
    });
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
