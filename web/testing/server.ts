import { vi } from 'vitest';

/** One request as the server heard it. */
export interface Asked {
  method: string;
  path: string;
  body: unknown;
}

/** A stand-in for the server that answers every request from `answer` and remembers what it was asked. */
export function standInServer(answer: (asked: Asked) => unknown): Asked[] {
  const heard: Asked[] = [];
  vi.stubGlobal('fetch', (path: string, { method = 'GET', body }: RequestInit = {}) => {
    const asked = { method, path, body: typeof body === 'string' ? (JSON.parse(body) as unknown) : undefined };
    heard.push(asked);
    return Promise.resolve(new Response(JSON.stringify(answer(asked)), { status: 200 }));
  });
  return heard;
}

/** A server that tells nothing by itself. */
export function silentEvents(): void {
  vi.stubGlobal(
    'EventSource',
    class {
      close(): void {
        // Nothing was opened.
      }
    },
  );
}
