import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import { answerFailure, handler, Refusal } from './routes/answers.ts';
import { backgroundRoutes } from './routes/backgrounds.ts';
import { checkRoutes } from './routes/checks.ts';
import type { Context } from './routes/context.ts';
import { frameRoutes } from './routes/frames.ts';
import { planRoutes } from './routes/plans.ts';
import { rehearsalRoutes } from './routes/rehearsals.ts';
import { shootRoutes } from './routes/shoots.ts';
import { workRoutes } from './routes/work.ts';

/** The HTTP interface and the built web application. */
export function createApp(context: Context, webFolder: string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(onlyFromHere);
  app.get('/api/health', handler(async (_request, response) => void response.json({ instance: context.instance, demo: context.demo })));
  app.get('/api/events', (_request, response) => context.events.subscribe(response));
  // Uploads are raw files; only JSON bodies are parsed.
  app.use('/api', express.json({ limit: '1mb', type: 'application/json' }), shootRoutes(context), frameRoutes(context), backgroundRoutes(context), workRoutes(context), planRoutes(context), checkRoutes(context), rehearsalRoutes(context));
  app.use('/api', () => {
    throw new Refusal(404, { reason: 'this address does not exist', remedy: 'Reload the page.' });
  });
  app.use('/assets', express.static(join(webFolder, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(webFolder, { index: false }));
  app.get('/{*path}', (_request, response) => {
    const page = join(webFolder, 'index.html');
    if (existsSync(page)) response.set('cache-control', 'no-cache').sendFile(page);
    else response.status(503).send('The web application has not been built. Start with npm start.');
  });
  app.use(answerFailure);
  return app;
}

/**
 * Refuses what another web site, or another machine by a forged name, sends to this server: the Host must be loopback,
 * and a request that changes something must come from our own pages or from no page at all.
 */
function onlyFromHere(request: express.Request, _response: express.Response, next: express.NextFunction): void {
  const host = request.headers.host ?? '';
  const name = host.replace(/:\d+$/, '');
  const { origin } = request.headers;
  const foreignHost = name !== '127.0.0.1' && name !== 'localhost' && name !== '[::1]';
  const foreignOrigin = origin !== undefined && origin !== `http://${host}`;
  if (foreignHost || foreignOrigin) throw new Refusal(403, { reason: 'this request comes from another site', remedy: 'Open Silent Lawn by the address it prints when it starts.' });
  next();
}
