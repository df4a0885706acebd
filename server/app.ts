import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { calcRoutes } from './http/calc';
import { openApi } from './http/openapi';
import { orderRoutes } from './http/orders';
import { Problem, problems } from './http/problem';
import { lampRoutes } from './http/lamps';
import { meterRoutes } from './http/meter';
import { photoRoutes } from './http/photos';
import { planRoutes } from './http/plan';
import { wiringRoutes } from './http/wiring';
import { addRoutes, type Route } from './http/route';
import { limitSignIn, sameOrigin, sessionRoutes, whoIsIt } from './http/session';
import { sheetRoutes } from './http/sheets';
import { shopRoutes } from './http/shop';
import { Stream } from './http/stream';
import type { Db } from './store/db';
import { MOST_BYTES } from './store/photos';

export const ROUTES: Route[] = [
  ...sessionRoutes,
  ...orderRoutes,
  ...wiringRoutes,
  ...lampRoutes,
  ...planRoutes,
  ...meterRoutes,
  ...photoRoutes,
  ...sheetRoutes,
  ...shopRoutes,
  ...calcRoutes,
];

/** The whole HTTP face over a database. Nothing that must last is kept in the process. */
export function makeApp(db: Db, log: Logger, webDir: string): { app: Express; stream: Stream } {
  const app = express();
  const stream = new Stream(db, log);
  app.disable('x-powered-by');
  app.set('etag', false);
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          baseUri: ["'self'"],
          formAction: ["'self'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  const api = express.Router();
  app.use(
    '/api',
    sameOrigin,
    express.json({ limit: '2mb' }),
    express.text({ limit: '2mb', type: 'text/plain' }),
    express.raw({ limit: MOST_BYTES, type: ['image/*', 'application/octet-stream'] }),
    whoIsIt(db),
    api,
  );
  app.post('/api/session', limitSignIn(db));
  app.get('/api/stream', stream.handler);
  app.get('/api/openapi.json', (_req, res) => void res.json(openApi(ROUTES)));
  addRoutes(app, ROUTES, { db, log, changed: () => void stream.look() });
  app.use('/api', (req) => {
    throw new Problem(404, 'Not here', `There is nothing at ${req.method} ${req.originalUrl.split('?')[0]}.`);
  });
  if (existsSync(webDir)) {
    app.use('/assets', express.static(join(webDir, 'assets'), { immutable: true, maxAge: '365d' }));
    app.use(express.static(webDir, { index: false }));
    app.get(/.*/, (_req, res) => res.set('Cache-Control', 'no-cache').sendFile(join(webDir, 'index.html')));
  }
  app.use(problems(log));
  return { app, stream };
}
