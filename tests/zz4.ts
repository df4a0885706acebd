import { compileSchedule } from '#core/shop/schedule-problem';
import { Placer } from '#core/shop/place-jobs';
import { OrderSearch, usualOrders } from '#core/shop/schedule-order';
import { seeded } from '#core/random';
import { randomWeek } from './random-week';
// args: shops, seeds, share polish, heat anneal, heat polish, total puts
const [shops, seeds] = process.argv.slice(2, 4).map((a) => a.split(',').map(Number)) as [number[], number[]];
const [share, ha, hp, puts] = process.argv.slice(4).map(Number) as [number, number, number, number];
const out: string[] = [];
let sumlog = 0, n = 0;
for (const shop of shops) {
  const p = randomWeek(shop, { jobs: 40, people: 8, bays: 6, tasks: 200, loose: 3 });
  const c = compileSchedule(p);
  const row: number[] = [];
  for (const seed of seeds) {
    const placer = new Placer(c);
    const starts = usualOrders(c, placer.least);
    const s = new OrderSearch(c, placer, starts, seeded(seed));
    const stop = () => false;
    while (s.spent < puts * (1 - share)) s.anneal(400, s.best * ha, stop);
    s.polish(puts * share, s.best * hp, stop);
    row.push(s.best);
    sumlog += Math.log(s.best); n++;
  }
  out.push(row.map((x) => x.toFixed(0)).join('/'));
}
console.log(process.argv.slice(4).join(' '), 'mean log', (sumlog / n).toFixed(4), out.join('  '));
