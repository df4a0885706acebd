import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { benchRoutes } from './http/benches';
import { bundleRoutes } from './http/bundles';
import { calcRoutes } from './http/calc';
import { passkeyRoutes } from './http/passkeys';
import { openApi } from './http/openapi';
import { orderRoutes } from './http/orders';
import { Problem, problems } from './http/problem';
import { lampRoutes } from './http/lamps';
import { messageRoutes } from './http/messages';
import { meterRoutes } from './http/meter';
import { photoRoutes } from './http/photos';
import { planRoutes } from './http/plan';
import { wiringRoutes } from './http/wiring';
import { addRoutes, type Route, type Services } from './http/route';
import { guessLimit, sameOrigin, sessionRoutes, signInLimits, whoIsIt } from './http/session';
import { ownFoundRoutes } from './http/own-found';
import { proposalRoutes } from './http/proposals';
import { sheetRoutes } from './http/sheets';
import { shopRoutes } from './http/shop';
import { moneyRoutes } from './http/money';
import { groupRoutes } from './http/groups';
import { monthRoutes } from './http/month';
import { ownersPageRoutes } from './http/owners-page';
import { supplyRoutes } from './http/supply';
import { systemRoutes } from './http/system';
import { weekRoutes } from './http/week';
import { Errands, type Outside } from './outside/errands';
import { Stream } from './http/stream';
import { named, type Watch } from './http/watch';
import type { Directory, Shop } from './store/db';
import { MOST_BYTES } from './store/photos';
import type { Workers } from './work/workers';

export const ROUTES: Route[] = [
  ...sessionRoutes,
  ...benchRoutes,
  ...passkeyRoutes,
  ...orderRoutes,
  ...wiringRoutes,
  ...lampRoutes,
  ...planRoutes,
  ...meterRoutes,
  ...photoRoutes,
  ...bundleRoutes,
  ...sheetRoutes,
  ...proposalRoutes,
  ...ownFoundRoutes,
  ...shopRoutes,
  ...systemRoutes,
  ...weekRoutes,
  ...supplyRoutes,
  ...messageRoutes,
  ...monthRoutes,
  ...groupRoutes,
  ...moneyRoutes,
  ...ownersPageRoutes,
  ...calcRoutes,
];

/** One shop as it is served: what its requests may reach, its open screens, its limits. */
export interface ServedShop {
  services: Services;
  stream: Stream;
}

/** Nobody outside is reached. */
const NOBODY: Outside = { supplier: null, messenger: null };

export function serveShop(
  shop: Shop,
  workers: Workers,
  log: Logger,
  watch: Watch,
  groupOf: Services['groupOf'],
  { standIns = false, demo = false, outside = NOBODY }: { standIns?: boolean; demo?: boolean; outside?: Outside } = {},
): ServedShop {
  const stream = new Stream(shop, log);
  const changed = () => void stream.look();
  const errands = new Errands(shop, outside, log, changed);
  return {
    services: { shop, groupOf, workers, log, changed, signedOut: stream.end, errands, standIns, demo, watch },
    stream,
  };
}

/** What is sent in one request, by what it is. */
const JSON_LIMIT = '256kb';
const CALC_LIMIT = '1mb';
const SHEET_LIMIT = '512kb';
/** sheets with their pictures */
const BUNDLE_LIMIT = '64mb';

/**
 * The whole HTTP face. Nothing that must last is kept in the process.
 * @param which finds the shop that an address names, null for the one at the address itself; null: there is none
 * @param directory where it is counted who tries too often
 * @param behindProxy a proxy in front says who asks, and whether over TLS
 */
export function makeApp(
  which: (shop: string | null) => Promise<ServedShop | null>,
  directory: Directory,
  watch: Watch,
  log: Logger,
  webDir: string,
  { behindProxy = false }: { behindProxy?: boolean } = {},
): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('etag', false);
  if (behindProxy) app.set('trust proxy', 1);
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
      strictTransportSecurity: behindProxy ? { maxAge: 31_536_000 } : false,
    }),
  );
  app.use(named);
  // the one place where it is decided which shop a request works on
  app.use((req, res, next) => {
    const named = /^\/at\/([a-z][a-z0-9]{1,19})(?=[/?]|$)/.exec(req.url);
    res.locals.shopNamed = named?.[1] ?? null;
    if (named) req.url = req.url.slice(named[0].length).replace(/^(?!\/)/, '/');
    next();
  });
  app.use('/api', watch.each);
  app.use('/api', async (_req, res, next) => {
    const served = await which(res.locals.shopNamed as string | null);
    if (!served) throw new Problem(404, 'Not here', 'There is no shop at this address.');
    res.locals.services = served.services;
    res.locals.served = served;
    // an answer is for who asked, and the device's clock is set by it
    res.set('Cache-Control', 'no-store').set('Server-Time', new Date().toISOString());
    next();
  });
  app.use(
    '/api',
    sameOrigin,
    express.json({ limit: CALC_LIMIT, type: (req) => isJson(req) && (req.url ?? '').startsWith('/calc/') }),
    express.json({ limit: JSON_LIMIT, type: (req) => isJson(req) && !(req.url ?? '').startsWith('/calc/') }),
    express.text({ limit: SHEET_LIMIT, type: 'text/plain' }),
    express.raw({ limit: MOST_BYTES, type: ['image/*', 'application/octet-stream'] }),
    express.raw({ limit: BUNDLE_LIMIT, type: 'application/zip' }),
    whoIsIt,
  );
  const signIns = signInLimits(directory);
  const limited: express.RequestHandler = (req, res, next) => {
    const [first, second] = signIns;
    void first!(req, res, (e?: unknown) => (e ? next(e) : second!(req, res, next)));
  };
  app.use('/api/owner', guessLimit(directory));
  app.post('/api/session', limited);
  app.post('/api/session/code', limited);
  app.post('/api/bench/person', limited);
  app.post('/api/session/passkey', limited);
  app.post('/api/session/passkeys/ask', limited);
  app.put('/api/session/bench-code', limited);
  app.post('/api/session/second', limited);
  app.post('/api/session/second/end', limited);
  app.get('/api/stream', (req, res, next) => (res.locals.served as ServedShop).stream.handler(req, res, next));
  let described: string | null = null;
  app.get('/api/openapi.json', (_req, res) => void res.type('application/json').send((described ??= JSON.stringify(openApi(ROUTES)))));
  addRoutes(app, ROUTES);
  app.use('/api', (req) => {
    throw new Problem(404, 'Not here', `There is nothing at ${req.method} ${req.originalUrl.split('?')[0]!.slice(0, 200)}.`);
  });
  if (existsSync(webDir)) {
    app.use('/assets', express.static(join(webDir, 'assets'), { immutable: true, maxAge: '365d' }));
    app.use(express.static(webDir, { index: false }));
    app.get(/.*/, (_req, res) => res.set('Cache-Control', 'no-cache').sendFile(join(webDir, 'index.html')));
  }
  app.use(problems(log));
  return app;
}

const isJson = (req: { headers: Record<string, unknown> }): boolean =>
  /^application\/(\w+\+)?json\b/i.test(String(req.headers['content-type'] ?? ''));
