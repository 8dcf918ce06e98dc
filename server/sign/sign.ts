import { createServer, type RequestListener, type Server } from 'node:http';
import { desc, eq } from 'drizzle-orm';
import { signOf, type Sign } from '../../contract/sign.ts';
import type { Database } from '../database/connect.ts';
import { frames, setups } from '../database/schema.ts';
import { readChecks } from '../stations/check/readChecks.ts';
import { readFrames } from '../stations/gather/readFrames.ts';

/**
 * The sign for the set on a port of its own, for tablets in the studio’s network. It can only be read, and says words
 * about the frame that came last: no picture, no name, nothing of other shoots. Off unless `SIGN` says where.
 */

/** Where the sign listens, by `SIGN`: “4311” on all addresses of the machine, or “192.168.0.5:4311”. @throws Error for what is neither. */
export function signAddress(text: string | undefined): { host: string; port: number } | undefined {
  if (!text) return undefined;
  const [, host = '0.0.0.0', port] = /^(?:(.+):)?(\d{1,5})$/.exec(text) ?? [];
  if (!port || Number(port) > 65_535)
    throw new Error(`SIGN is “${text}”, and has to be a port as 4311, or an address and a port as 192.168.0.5:4311.`);
  return { host, port: Number(port) };
}

export function startSign(database: Database, { host, port }: { host: string; port: number }): Promise<Server> {
  const server = createServer(answer(database));
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        new Error(
          `The sign for the set cannot listen on ${host}:${port} (${error.code}). Set SIGN to a free port of this machine.`,
        ),
      ),
    );
    server.listen(port, host, () => resolve(server));
  });
}

const answer =
  (database: Database): RequestListener =>
  (request, response) => {
    const only = request.method === 'GET' && request.url === '/';
    if (!only) return void response.writeHead(request.url === '/' ? 405 : 404).end();
    void signNow(database)
      .then(
        (sign) => ({ status: 200, page: pageOf(sign) }),
        () => ({ status: 503, page: pageOf({ mood: undefined, words: 'Not to be read just now', reasons: [] }) }),
      )
      .then(({ status, page }) =>
        response
          .writeHead(status, {
            'content-type': 'text/html; charset=utf-8',
            'cache-control': 'no-store',
            'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'",
          })
          .end(page),
      );
  };

/** The sign of the shoot whose frame came last. */
async function signNow(database: Database): Promise<Omit<Sign<unknown>, 'last'>> {
  const [latest] = await database
    .select({ shootId: setups.shootId })
    .from(frames)
    .innerJoin(setups, eq(setups.id, frames.setupId))
    .orderBy(desc(frames.id))
    .limit(1);
  if (!latest) return signOf([], []);
  return signOf(await readFrames(database, latest), await readChecks(database, latest));
}

const TONES = { good: ['#111', '#fff'], again: ['#861c66', '#fff'], none: ['#f4f4f2', '#111'] } as const;
/** Seconds until a tablet asks again. */
const AGAIN = 2;

function pageOf({ mood, words, reasons }: Omit<Sign<unknown>, 'last'>): string {
  const [paper, ink] = TONES[mood ?? 'none'];
  const list = reasons.map((reason) => `<p>${escaped(reason)}</p>`).join('');
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<meta http-equiv="refresh" content="${AGAIN}"><title>${escaped(words)}</title>
<style>body{margin:0;min-height:100vh;box-sizing:border-box;padding:5vw;display:grid;align-content:center;gap:2vw;background:${paper};color:${ink};font-family:sans-serif;line-height:1.1}
h1{margin:0;font-size:${mood === 'good' ? 18 : 9}vw}p{margin:0;font-size:4vw}</style>
<main role="status"><h1>${escaped(words)}</h1>${list}</main></html>`;
}

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
}
