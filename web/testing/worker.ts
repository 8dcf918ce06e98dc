import { expose } from 'comlink';
import { vi } from 'vitest';
import type { CarryWorker } from '../stations/extract/carry.worker.ts';
import type { PlanWorker } from '../stations/plan/plan.worker.ts';
import type { PictureWorker } from '../worker/picture.worker.ts';

/** Stands in for the worker that computes plans or pictures: what is given answers, over the same messages, in this thread. */
export function standInWorker(answers: Partial<PlanWorker> | Partial<PictureWorker> | Partial<CarryWorker>): void {
  vi.stubGlobal(
    'Worker',
    class {
      constructor() {
        const { port1, port2 } = new MessageChannel();
        expose(answers, port1);
        port2.start();
        return Object.assign(port2, { terminate: () => port2.close() });
      }
    },
  );
}
