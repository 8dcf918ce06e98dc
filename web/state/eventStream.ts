import { eventSchema, type ServerEvent } from '../../contract/index.ts';

/** What the server tells, and whether the line to it stands. */
export type StreamSignal = { kind: 'line'; open: boolean } | { kind: 'event'; event: ServerEvent };

/**
 * Follows what the server tells. A browser has few connections to one server, and each window that held one for itself
 * would soon leave none for pictures: one window listens and passes on to the others; when it closes, another takes
 * over.
 * @returns how to stop.
 */
export function followStream(hear: (signal: StreamSignal) => void): () => void {
  const read = inPieces((text) => {
    const event = eventSchema.safeParse(JSON.parse(text));
    if (event.success) hear({ kind: 'event', event: event.data });
  });
  const take = (told: Told): void => (typeof told === 'string' ? read(told) : hear({ kind: 'line', ...told }));
  if (!globalThis.navigator?.locks) return listen(take);
  const stop = new AbortController();
  const others = new BroadcastChannel('silent-lawn events');
  let line: Told | undefined;
  others.onmessage = ({ data }: MessageEvent<Told | { ask: true }>) => {
    if (typeof data === 'string' || 'open' in data) take(data);
    else if (line) others.postMessage(line);
  };
  others.postMessage({ ask: true });
  const lead = (): Promise<void> =>
    new Promise((resolve) => {
      const end = listen((told) => {
        if (typeof told !== 'string') line = told;
        // Passed on unread and at once: a window in the background is given little time of its own.
        others.postMessage(told);
        take(told);
      });
      stop.signal.addEventListener('abort', () => (end(), resolve()));
    });
  void navigator.locks.request('silent-lawn events', { signal: stop.signal }, lead).catch(() => undefined);
  return () => {
    stop.abort();
    others.close();
  };
}

/** An event as it came, or how the line is. */
type Told = string | { open: boolean };

function listen(take: (told: Told) => void): () => void {
  const source = new EventSource('/api/events');
  source.onopen = () => take({ open: true });
  source.onerror = () => take({ open: false });
  source.onmessage = (message: MessageEvent<string>) => take(message.data);
  return () => source.close();
}

/** Milliseconds of reading after which the page may draw and take keys before the rest is read. */
const PIECE = 15;

/** Many events arrive as one piece of work; read at a stretch they would keep the page from the hand. */
function inPieces(read: (text: string) => void): (text: string) => void {
  const waiting: string[] = [];
  let spent = 0;
  let resting = false;
  const work = (text: string): void => {
    const begun = performance.now();
    read(text);
    spent += performance.now() - begun;
    if (resting) return;
    resting = true;
    setTimeout(goOn, 0);
  };
  const goOn = (): void => {
    spent = 0;
    resting = false;
    for (let next = waiting.shift(); next !== undefined; next = spent < PIECE ? waiting.shift() : undefined) work(next);
  };
  return (text) => {
    if (waiting.length || spent >= PIECE) waiting.push(text);
    else work(text);
  };
}
