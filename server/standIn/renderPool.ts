import { Piscina } from 'piscina';
import type { Rendered, RenderTask } from './renderTask.ts';

/** Worker threads that render. */
export function renderPool(threads: number, idleTimeout = 0): Piscina<RenderTask, Rendered> {
  return new Piscina<RenderTask, Rendered>({
    filename: new URL('./renderTask.ts', import.meta.url).href,
    minThreads: 0,
    maxThreads: threads,
    idleTimeout,
    execArgv: ['--import', import.meta.resolve('tsx')],
  });
}
