import { createServer } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { makeApp } from './app';
import { loadDemo, loadRules } from './demo';
import { forgetAnswers } from './store/answers';
import { checkRecord } from './store/check-record';
import { migrate, openDb, row } from './store/db';
import { indexAgain } from './store/orders';
import { addPerson } from './store/people';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const url = process.env.KADRO_DATABASE_URL;
const port = Number(process.env.KADRO_PORT ?? 4820);
const host = process.env.KADRO_HOST ?? '127.0.0.1';
const log = pino({ level: process.env.KADRO_LOG ?? 'warn', redact: ['req.headers.cookie', 'req.headers.authorization', '*.password'] });

if (!url) {
  console.error('KADRO_DATABASE_URL is not set: start with "npm start".');
  process.exit(1);
}
const db = openDb(url);

/** Waits for the database: it may still be starting. */
async function ready(): Promise<void> {
  for (let i = 0; ; i++)
    try {
      await row(db, 'SELECT 1');
      return;
    } catch (e) {
      if (i > 60) throw e;
      await new Promise((r) => setTimeout(r, 500));
    }
}

await ready();
await migrate(db, join(root, 'server/store/migrations'));
await indexAgain(db);

if (process.argv[2] === 'check-record') {
  const r = await checkRecord(db);
  r.problems.forEach((p) => console.log(p));
  console.log(
    `${r.orders} orders, ${r.events} events: ${r.problems.length ? `${r.problems.length} problems` : 'every state is what its events make, every hash agrees'}`,
  );
  await db.end();
  process.exit(r.problems.length ? 1 : 0);
}

const empty = !(await row(db, 'SELECT id FROM people LIMIT 1'));
await loadRules(db, root);
if (empty && process.env.KADRO_EMPTY) {
  await addPerson(db, { id: 'owner', name: 'Owner', role: 'owner', password: process.env.KADRO_OWNER_PASSWORD! });
} else if (empty) await loadDemo(db, root, new Date());

const { app, stream } = makeApp(db, log, join(root, 'dist/web'));
const server = createServer(app);
server.listen(port, host, () => console.log(`kadro ready http://${host}:${(server.address() as { port: number }).port}`));
const cleaning = setInterval(() => void forgetAnswers(db).catch(() => undefined), 3600_000);

function stop(): void {
  clearInterval(cleaning);
  stream.close();
  server.close(() => void db.end().finally(() => process.exit(0)));
  server.closeAllConnections();
  setTimeout(() => process.exit(0), 3000).unref();
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
