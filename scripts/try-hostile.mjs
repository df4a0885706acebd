// Sends at least 20,000 hostile requests to a shop of its own and prints what came of it. Ends with 1 where something fell.
import { build } from './build.mjs';
import { Hand } from './lib/client.mjs';
import { ensureDebian, ensureModules } from './lib/ensure.mjs';
import { hostile } from './lib/hostile.mjs';
import { startShop } from './lib/shop.mjs';

ensureDebian(['mariadbd']);
ensureModules();
await build();
const count = Number(process.argv[2] ?? 20_000);
const seed = Number(process.argv[3] ?? Date.now() % 1e9);
const shop = await startShop();
try {
  const hand = await new Hand(shop.base).signIn('ines');
  const order = (await hand.order('Drover 4')).id;
  console.log(`${count} hostile requests, seed ${seed}`);
  const r = await hostile(hand, { count, seed, order, log: console.log });
  console.log(`sent ${r.sent}; by status ${JSON.stringify(r.byStatus)}`);
  console.log(
    `slowest ${Math.round(r.slowestMs)} ms (${r.slow.length} over a second); health at most ${Math.round(r.healthMs)} ms, 99 of 100 within ${Math.round(r.healthP99Ms)} ms, asked ${r.healthAsked} times`,
  );
  r.faults.slice(0, 20).forEach((f) => console.log('FAULT', f));
  r.slow.slice(0, 20).forEach((f) => console.log('SLOW', f));
  console.log(`${r.faults.length} faults`);
  process.exitCode = r.faults.length || r.slow.length ? 1 : 0;
} finally {
  await shop.stop();
}
