import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Health } from '../contract/index.ts';
import type { Log } from './log.ts';
import { answerFailure, Refusal } from './http/answers.ts';
import type { Context } from './http/context.ts';
import { backupRoutes } from './backup/routes.ts';
import { jobRoutes } from './jobs/routes.ts';
import { checkRoutes } from './stations/check/routes.ts';
import { extractRoutes } from './stations/extract/routes.ts';
import { framePictureRoutes } from './stations/gather/pictures.ts';
import { gatherRoutes } from './stations/gather/routes.ts';
import { handOverRoutes } from './stations/handOver/routes.ts';
import { logRoutes } from './stations/log/routes.ts';
import { placeRoutes } from './stations/place/routes.ts';
import { planRoutes } from './stations/plan/routes.ts';
import { rehearsalRoutes } from './stations/rehearsal/routes.ts';
import { shootRoutes } from './stations/shoots/routes.ts';
import { UPLOADS_PATH, uploadsHandler } from './uploads/uploads.ts';
import { sampleProgress } from './stations/shoots/sample.ts';

/** How long a request waits for a database that is being started again, ms. */
const WAIT_FOR_DATABASE = 8000;
/** How long the database may take to answer before it counts as away, ms. */
const DATABASE_ANSWERS = 1500;

/** The HTTP interface and the built web application. */
export function createApp(context: Context, webFolder: string): Express {
  const { databaseWatch, log } = context;
  const app = express();
  app.disable('x-powered-by');
  app.use(named(log), headers, onlyFromHere);
  app.get('/api/health', (_request, response) => {
    const sample = sampleProgress(context.database).catch(() => undefined);
    const late = sleep(DATABASE_ANSWERS, undefined, { ref: false });
    void Promise.race([sample, late]).then((known) =>
      response.status(known ? 200 : 503).json({
        instance: context.instance,
        sample: known ?? { done: 0, total: 0 },
        database: known ? 'up' : 'starting',
      } satisfies Health),
    );
  });
  app.get('/api/events', (_request, response) =>
    context.events.subscribe(response, { type: 'hello', revision: context.news.latest, databaseUp: databaseWatch.up }),
  );
  app.all([UPLOADS_PATH, `${UPLOADS_PATH}/:id`], uploadsHandler(context.store));
  // Uploads are raw files; only JSON bodies are parsed.
  app.use(
    '/api',
    handlerOf(() => databaseWatch.whenUp(WAIT_FOR_DATABASE)),
    express.json({ limit: '1mb', type: 'application/json' }),
    ...[
      shootRoutes,
      planRoutes,
      checkRoutes,
      rehearsalRoutes,
      gatherRoutes,
      framePictureRoutes,
      extractRoutes,
      placeRoutes,
      handOverRoutes,
      logRoutes,
      jobRoutes,
      backupRoutes,
    ].map((routes) => routes(context)),
  );
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
  app.use(answerFailure(log));
  return app;
}

/** Waits for something before the request goes on. */
function handlerOf(wait: () => Promise<void>): express.RequestHandler {
  return (_request, _response, next) => void wait().then(() => next(), next);
}

/** Names each request, and writes down what became of it. */
function named(log: Log): express.RequestHandler {
  return (request, response, next) => {
    const id = randomUUID().slice(0, 8);
    response.locals.id = id;
    response.set('x-request-id', id);
    const begun = performance.now();
    response.on('finish', () =>
      log.debug({
        id,
        method: request.method,
        url: request.originalUrl,
        status: response.statusCode,
        ms: Math.round(performance.now() - begun),
      }),
    );
    next();
  };
}

/** The page runs only what comes from here; the styles are made by the interface library while it runs. */
const headers = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'none'"],
      scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
      workerSrc: ["'self'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'blob:', 'data:'],
      fontSrc: ["'self'"],
      connectSrc: ["'self'"],
      formAction: ["'self'"],
      baseUri: ["'none'"],
      frameAncestors: ["'none'"],
    },
  },
  crossOriginResourcePolicy: { policy: 'same-origin' },
  referrerPolicy: { policy: 'no-referrer' },
  // There is no encryption on loopback.
  strictTransportSecurity: false,
});

/**
 * Refuses what another web site, or another machine by a forged name, sends to this server: the Host must be one and
 * loopback, and a request must come from our own pages or from no page at all. A link from elsewhere may open a page of
 * ours, nothing more.
 */
function onlyFromHere(request: express.Request, _response: express.Response, next: express.NextFunction): void {
  const hosts = request.rawHeaders.filter((name, n) => n % 2 === 0 && name.toLowerCase() === 'host').length;
  const host = (request.headers.host ?? '').toLowerCase();
  const name = host.replace(/:\d+$/, '');
  const { origin } = request.headers;
  const site = request.headers['sec-fetch-site'];
  const opensPage =
    request.method === 'GET' &&
    request.headers['sec-fetch-mode'] === 'navigate' &&
    request.headers['sec-fetch-dest'] === 'document' &&
    !request.path.startsWith('/api');
  const foreignHost = hosts !== 1 || (name !== '127.0.0.1' && name !== 'localhost' && name !== '[::1]');
  const foreignOrigin = origin !== undefined && origin.toLowerCase() !== `http://${host}`;
  const foreignSite = (site === 'cross-site' || site === 'same-site') && !opensPage;
  if (foreignHost || foreignOrigin || foreignSite)
    throw new Refusal(403, {
      reason: 'this request comes from another site',
      remedy: 'Open Silent Lawn by the address it prints when it starts.',
    });
  next();
}
