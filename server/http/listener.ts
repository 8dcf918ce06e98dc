import { createServer, type RequestListener, type Server } from 'node:http';

/**
 * Milliseconds that a connection without requests stays open: longer than clients keep one for themselves. If the server
 * closes first, just as a request comes, that request is lost on the way.
 */
const KEPT_OPEN = 75_000;

export function listener(app: RequestListener): Server {
  return createServer({ keepAliveTimeout: KEPT_OPEN }, app);
}
