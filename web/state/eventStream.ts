import { eventSchema, type ServerEvent } from '../../contract/index.ts';

/** What the server tells, and whether the line to it stands. */
export type StreamSignal = { kind: 'line'; open: boolean } | { kind: 'event'; event: ServerEvent };

/**
 * Follows what the server tells. A browser has few connections to one server, and each window that held one for itself would
 * soon leave none for pictures: one window listens and passes on to the others; when it closes, another takes over.
 * @returns how to stop.
 */
export function followStream(hear: (signal: StreamSignal) => void): () => void {
  const stop = new AbortController();
  if (!('locks' in (globalThis.navigator ?? {}))) return listen(hear);
  const others = new BroadcastChannel('silent-lawn events');
  let line: StreamSignal | undefined;
  others.onmessage = ({ data }: MessageEvent<StreamSignal | 'how is the line?'>) => {
    if (data !== 'how is the line?') hear(data);
    else if (line) others.postMessage(line);
  };
  others.postMessage('how is the line?');
  const lead = (): Promise<void> =>
    new Promise((resolve) => {
      const end = listen((signal) => {
        if (signal.kind === 'line') line = signal;
        hear(signal);
        others.postMessage(signal);
      });
      stop.signal.addEventListener('abort', () => (end(), resolve()));
    });
  void navigator.locks.request('silent-lawn events', { signal: stop.signal }, lead).catch(() => undefined);
  return () => {
    stop.abort();
    others.close();
  };
}

function listen(hear: (signal: StreamSignal) => void): () => void {
  const source = new EventSource('/api/events');
  source.onopen = () => hear({ kind: 'line', open: true });
  source.onerror = () => hear({ kind: 'line', open: false });
  source.onmessage = (message) => {
    const event = eventSchema.safeParse(JSON.parse(message.data));
    if (event.success) hear({ kind: 'event', event: event.data });
  };
  return () => source.close();
}
