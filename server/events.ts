import type { Response } from 'express';
import type { ServerEvent } from '../contract/index.ts';

/**
 * A page that has so many bytes unread reads nothing any more; it is let go, and reads everything anew when it comes
 * back.
 */
export const MOST_UNREAD = 4_000_000;

/** Tells every open page what changed, by server-sent events. */
export class Events {
  private readonly listeners = new Set<Response>();
  private readonly heartbeat = setInterval(() => this.write(': still here\n\n'), 15000);

  /** @param hello is told first. */
  subscribe(response: Response, hello?: ServerEvent): void {
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    if (hello) response.write(frameOf(hello));
    this.listeners.add(response);
    response.on('close', () => this.listeners.delete(response));
  }

  send(event: ServerEvent): void {
    this.write(frameOf(event));
  }

  close(): void {
    clearInterval(this.heartbeat);
    for (const response of this.listeners) response.end();
  }

  private write(text: string): void {
    for (const response of this.listeners) {
      if (response.writableLength > MOST_UNREAD) {
        this.listeners.delete(response);
        response.destroy();
      } else response.write(text);
    }
  }
}

function frameOf(event: ServerEvent): string {
  return `data: ${JSON.stringify(event)}\n\n`;
}
