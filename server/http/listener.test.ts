import type { AddressInfo } from 'node:net';
import { expect, test } from 'vitest';
import { listener } from './listener.ts';

test('a client is told that a connection stays open longer than it would keep one itself', async () => {
  const server = listener((_request, response) => void response.end('here'));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  try {
    const answer = await fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
    expect(await answer.text()).toBe('here');
    const [, seconds] = /timeout=(\d+)/.exec(answer.headers.get('keep-alive') ?? '') ?? [];
    expect(Number(seconds)).toBeGreaterThan(60);
  } finally {
    server.close();
    server.closeAllConnections();
  }
});
