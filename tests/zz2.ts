import { schedule } from '#core/shop/schedule';
import { compileSchedule } from '#core/shop/schedule-problem';
import { Placer } from '#core/shop/place-jobs';
import { randomWeek } from './random-week';
const seed = Number(process.argv[2]);
const p = randomWeek(seed, { jobs: 40, people: 8, bays: 6, tasks: 200, loose: 3 });
const s = schedule(p, { effort: 1 });
const c = compileSchedule(p);
const pl = new Placer(c);
console.log(p.bays.map((b) => b.id + ':' + b.kinds.join('+')).join(' | '));
console.log(p.people.map((b) => b.id + ':' + b.skills.join('+') + ' ' + Math.round(b.shifts.slice(0,12).reduce((x, y) => x + y[1] - y[0], 0) / 60) + 'h').join(' | '));
const end = (j: string) => Math.max(...s.tasks.filter((x) => x.job === j).map((x) => x.end));
const kinds = new Map<string, string[]>();
p.jobs.forEach((j, n) => {
  const cj = c.jobs[n]!;
  const e = end(j.id);
  const line = `${j.id} rel ${(j.releaseMin / 1440).toFixed(2)} due ${(j.dueMin / 1440).toFixed(2)} w${j.weight} hold ${(cj.hold / 60).toFixed(1)}h work ${(j.tasks.reduce((x, t) => x + t.minutes * t.hands, 0) / 60).toFixed(1)}h end ${(e / 1440).toFixed(2)} late ${Math.max(0, (e - j.dueMin) * j.weight).toFixed(0)} least ${pl.least[n]!.toFixed(2)}`;
  if (!kinds.has(j.kind)) kinds.set(j.kind, []);
  kinds.get(j.kind)!.push(line);
});
for (const [k, l] of kinds) { console.log(k, 'bays', p.bays.filter((b) => b.kinds.includes(k)).length); for (const x of l) console.log('  ' + x); }
console.log(s.cost, s.bound, pl.least.reduce((a, b) => a + b, 0));
const load: Record<string, number> = {};
for (const j of p.jobs) for (const t of j.tasks) load[t.skills.join('+') + t.hands] = (load[t.skills.join('+') + t.hands] ?? 0) + t.minutes / 60;
console.log(load);
// bay use by day
{
  const day = (t: number) => Math.floor(t / 1440);
  const work = (a: number, b: number) => { let m = 0; for (let t = a; t < b; t += 5) { const x = t % 1440; if (x >= 450 && x < 1050) m += 5; } return m; };
  const held: number[] = [], need: number[] = [], who: number[] = [];
  p.jobs.forEach((j, n) => {
    const cj = c.jobs[n]!;
    if (cj.bayFrom < 0) return;
    const ts = j.tasks.map((t) => s.tasks.find((x) => x.job === j.id && x.task === t.id)!);
    const a = ts[cj.bayFrom]!.start, b = ts[cj.bayTo]!.end + j.tasks[cj.bayTo]!.waitAfterMin;
    for (let d = 0; d < 8; d++) { held[d] = (held[d] ?? 0) + work(Math.max(a, d * 1440), Math.min(b, (d + 1) * 1440)) / 60; }
    for (const t of ts) for (let d = 0; d < 8; d++) who[d] = (who[d] ?? 0) + t.people.length * work(Math.max(t.start, d * 1440), Math.min(t.end, (d + 1) * 1440)) / 60;
    need.push(work(a, b) / 60 - cj.hold / 60);
  });
  console.log('held per day (of 60 bay hours)', held.map((x) => x.toFixed(0)).join(' '));
  console.log('people hours per day, spans', who.map((x) => x.toFixed(0)).join(' '), 'there', Array.from({ length: 8 }, (_, d) => (p.people.reduce((sum, q) => sum + q.shifts.reduce((y, [f, t]) => y + (day(f) === d ? t - f : 0), 0), 0) / 60).toFixed(0)).join(' '));
  console.log('held more than the least, by job', need.map((x) => x.toFixed(1)).join(' '));
}
