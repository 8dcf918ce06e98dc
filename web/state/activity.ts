import dayjs from 'dayjs';
import type { WorkPlace } from '../../core/log/index.ts';
import { api } from './api.ts';

/** Time of real work at the stations: what passes while somebody moves, types or looks, told to the log now and then. */

const places: Record<string, WorkPlace> = {
  plan: 'plan',
  check: 'check',
  gather: 'gather',
  extract: 'extract',
  place: 'place',
  'hand-over': 'handOver',
  log: 'log',
};

/** Whoever has not stirred for so long is away; ms. */
const IDLE = 60_000;
const TICK = 5_000;
/** It is told once so many seconds have come together. */
const TELL = 60;

interface At {
  shootId: number;
  place: WorkPlace;
}

/** Where in the application an address is. */
export function placeAt(path: string): At | undefined {
  const [, shootId, station] = /^\/shoots\/(\d+)\/([a-z-]+)/.exec(path) ?? [];
  const place = places[station];
  return place && { shootId: Number(shootId), place };
}

/** Adds up seconds by where they were spent; `tell` is called with whole ones. */
export function workClock(tell: (at: At, seconds: number) => void) {
  let at: At | undefined;
  let spent = 0;
  let stirred = -Infinity;
  let last: number | undefined;
  const flush = (): void => {
    const seconds = Math.round(spent);
    if (at && seconds > 0) tell(at, seconds);
    spent = 0;
  };
  return {
    stir: (now: number): void => void (stirred = now),
    /** @param shown whether the page is in sight. */
    tick: (now: number, where: At | undefined, shown: boolean): void => {
      // A machine that slept has not worked.
      const passed = last === undefined ? 0 : Math.min(now - last, 2 * TICK);
      last = now;
      if (at?.shootId !== where?.shootId || at?.place !== where?.place) {
        flush();
        at = where;
        return;
      }
      if (!at || !shown || now - stirred > IDLE) return;
      spent += passed / 1000;
      if (spent >= TELL) flush();
    },
    flush,
  };
}

/** Counts as long as the page is open. @returns its end. */
export function countWork(): () => void {
  const clock = workClock(({ shootId, place }, seconds) => {
    // Seconds that do not arrive are lost: nobody is to be troubled for them.
    void api.worked(shootId, { place, day: dayjs().format('YYYY-MM-DD'), seconds }).catch(() => undefined);
  });
  const stir = (): void => clock.stir(performance.now());
  const tick = (): void =>
    clock.tick(performance.now(), placeAt(window.location.pathname), document.visibilityState === 'visible');
  const hide = (): void => {
    tick();
    if (document.visibilityState === 'hidden') clock.flush();
  };
  const signs = ['pointermove', 'pointerdown', 'keydown', 'wheel'] as const;
  for (const sign of signs) window.addEventListener(sign, stir, { passive: true });
  document.addEventListener('visibilitychange', hide);
  const timer = setInterval(tick, TICK);
  return () => {
    clearInterval(timer);
    for (const sign of signs) window.removeEventListener(sign, stir);
    document.removeEventListener('visibilitychange', hide);
  };
}
