import { schedule } from '#core/shop/schedule';
import { randomWeek } from './random-week';
const [seeds, efforts] = process.argv.slice(2).map((a) => a.split(',').map(Number)) as [number[], number[]];
for (const seed of seeds)
  for (const effort of efforts) {
    const p = randomWeek(seed, { jobs: 40, people: 8, tasks: 200, loose: Number(process.argv[4] ?? 3), bays: Number(process.argv[5] ?? 6) });
    const t = performance.now();
    const s = schedule(p, { effort });
    const late = p.jobs.map((j) => Math.max(0, Math.max(...s.tasks.filter((x) => x.job === j.id).map((x) => x.end)) - j.dueMin) * j.weight);
    console.log(seed, effort, s.cost.toFixed(1), s.bound.toFixed(1), ((s.cost / s.bound - 1) * 100).toFixed(2) + '%', ((performance.now() - t) / 1000).toFixed(1) + 's', 'late', late.filter((x) => x > 0).length, 'top', late.sort((a, b) => b - a).slice(0, 6).map(Math.round).join(' '));
  }
