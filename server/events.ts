import type { Response } from 'express';
import type { ServerEvent } from '../contract/index.ts';

/** Tells every open page what changed, by server-sent events. */
export class Events {
  private readonly listeners = new Set<Response>();
  private readonly heartbeat = setInterval(() => this.write(': still here\n\n'), 15000);

  subscribe(response: Response): void {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' });
    response.write('retry: 1000\n\n');
    this.listeners.add(response);
    response.on('close', () => this.listeners.delete(response));
  }

  send(event: ServerEvent): void {
    this.write(`data: ${JSON.stringify(event)}\n\n`);
  }

  close(): void {
    clearInterval(this.heartbeat);
    for (const response of this.listeners) response.end();
  }

  private write(text: string): void {
    for (const response of this.listeners) response.write(text);
  }
}
