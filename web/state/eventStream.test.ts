import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { followStream, type StreamSignal } from './eventStream.ts';

/** Windows of one browser: they share locks and channels, and each may open a line. */
class FakeSource {
  static open: FakeSource[] = [];
  onopen?: () => void;
  onerror?: () => void;
  onmessage?: (message: { data: string }) => void;
  constructor() {
    FakeSource.open.push(this);
  }
  close(): void {
    FakeSource.open = FakeSource.open.filter((other) => other !== this);
  }
}

/** As the browser's: one holder at a time, the next in the order in which they asked. */
function fakeLocks(): object {
  let tail: Promise<unknown> = Promise.resolve();
  return {
    request: (_name: string, { signal }: { signal: AbortSignal }, hold: () => Promise<void>) => {
      const turn = tail.then(() => (signal.aborted ? undefined : hold()));
      tail = turn;
      return turn;
    },
  };
}

const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 30));
const types = (heard: StreamSignal[]): string[] =>
  heard.map((signal) => (signal.kind === 'event' ? signal.event.type : `line ${signal.open ? 'open' : 'broken'}`));

beforeEach(() => {
  FakeSource.open = [];
  vi.stubGlobal('EventSource', FakeSource);
  vi.stubGlobal('navigator', { locks: fakeLocks() });
});
afterEach(() => vi.unstubAllGlobals());

test('many windows share one line, each hears everything, and another takes over when the first closes', async () => {
  const heard: StreamSignal[][] = [[], [], []];
  const stops = heard.map((list) => followStream((signal) => list.push(signal)));
  await settled();
  expect(FakeSource.open).toHaveLength(1);
  FakeSource.open[0].onopen?.();
  FakeSource.open[0].onmessage?.({ data: '{"type":"shoots"}' });
  await settled();
  for (const list of heard) expect(types(list)).toEqual(['line open', 'shoots']);

  stops[0]();
  await settled();
  expect(FakeSource.open).toHaveLength(1);
  FakeSource.open[0].onopen?.();
  FakeSource.open[0].onmessage?.({ data: '{"type":"backgrounds"}' });
  await settled();
  expect(types(heard[0])).toEqual(['line open', 'shoots']);
  for (const list of heard.slice(1)) expect(types(list).slice(-2)).toEqual(['line open', 'backgrounds']);
  for (const stop of stops.slice(1)) stop();
  await settled();
  expect(FakeSource.open).toHaveLength(0);
});

test('a window that comes later is told how the line is', async () => {
  const first: StreamSignal[] = [];
  const stopFirst = followStream((signal) => first.push(signal));
  await settled();
  FakeSource.open[0].onopen?.();
  FakeSource.open[0].onerror?.();
  const later: StreamSignal[] = [];
  const stopLater = followStream((signal) => later.push(signal));
  await settled();
  expect(types(later)).toEqual(['line broken']);
  stopFirst();
  stopLater();
});

test('a swarm of events is read in pieces, in order', async () => {
  vi.stubGlobal('navigator', {});
  const heard: StreamSignal[] = [];
  const stop = followStream((signal) => {
    heard.push(signal);
    // What a page does with an event takes a while.
    const end = performance.now() + 6;
    while (performance.now() < end);
  });
  for (let n = 0; n < 12; n++)
    FakeSource.open[0].onmessage?.({ data: `{"type":"hello","revision":${n + 1},"databaseUp":true}` });
  const atOnce = heard.length;
  expect(atOnce).toBeGreaterThan(0);
  expect(atOnce).toBeLessThan(6);
  await vi.waitFor(() => expect(heard).toHaveLength(12), { timeout: 40_000 });
  expect(
    heard.map((signal) => (signal.kind === 'event' && signal.event.type === 'hello' ? signal.event.revision : 0)),
  ).toEqual(Array.from({ length: 12 }, (_, n) => n + 1));
  stop();
});
