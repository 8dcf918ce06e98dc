/** The package has no types of its own. */
declare module 'pino-roll' {
  import type { DestinationStream } from 'pino';

  export default function build(options: {
    file: string;
    extension?: string;
    size?: string;
    limit?: { count: number };
  }): Promise<DestinationStream & { on(event: 'error', listener: (error: Error) => void): void }>;
}
