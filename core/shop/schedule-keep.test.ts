import { describe, expect, it } from 'vitest';
import { randomWeek } from '../../tests/random-week';
import { checkWeek, movedJobs } from '../../tests/week-check';
import { schedule, type Schedule } from './schedule';
import type { ScheduleProblem } from './schedule-problem';

const MOVING = 60;
const EFFORT = 0.06;
const near = (p: ScheduleProblem, s: Schedule, moving = MOVING) => schedule(p, { effort: EFFORT, near: s.tasks, moving });

const change = (p: ScheduleProblem, at: number, to: (j: ScheduleProblem['jobs'][number]) => ScheduleProblem['jobs'][number]) => ({
  ...p,
  jobs: p.jobs.map((j, n) => (n === at ? to(j) : j)),
});

describe('a schedule near an earlier one', () => {
  it.each([1, 2, 3])('is the same again where nothing has changed, seed %i', (seed) => {
    const p = randomWeek(seed, { jobs: 14, people: 4, bays: 3, tasks: 56 });
    const first = schedule(p, { effort: EFFORT });
    // however long it is looked for another one, unless that is worth it
    const again = near(p, first, 1e6);
    expect(again.tasks).toEqual(first.tasks);
    expect(again.cost).toBeCloseTo(first.cost, 6);
  });

  const SEEDS = [1, 2, 3, 4];
  const SMALL: [string, (p: ScheduleProblem) => ScheduleProblem][] = [
    [
      'half an hour more of one job',
      (p) => change(p, 5, (j) => ({ ...j, tasks: j.tasks.map((t, k) => (k ? t : { ...t, minutes: t.minutes + 30 })) })),
    ],
    ['one job more', (p) => ({ ...p, jobs: [...p.jobs, { ...p.jobs[7]!, id: 'new', releaseMin: 600, dueMin: 3000 }] })],
    ['one job is off', (p) => ({ ...p, jobs: p.jobs.filter((_, n) => n !== 3) })],
    ['the first quarter of an hour is over', (p) => ({ ...p, now: 495 })],
  ];
  it.each(SMALL)('moves little for little: %s', (_name, changed) => {
    let [near_, fresh_, movedNear, movedFresh] = [0, 0, 0, 0];
    for (const seed of SEEDS) {
      const p = randomWeek(seed, { jobs: 20, people: 6, bays: 5, tasks: 80, loose: 2 });
      const first = schedule(p, { effort: EFFORT });
      const q = changed(p);
      const s = near(q, first);
      const { problems, cost } = checkWeek(q, s.tasks);
      expect(problems).toEqual([]);
      expect(s.cost).toBeCloseTo(cost, 6);
      expect(s.bound).toBeLessThanOrEqual(s.cost + 1e-6);
      const fresh = schedule(q, { effort: EFFORT });
      near_ += s.cost;
      fresh_ += fresh.cost;
      movedNear += movedJobs(first.tasks, s.tasks).length;
      movedFresh += movedJobs(first.tasks, fresh.tasks).length;
    }
    expect(movedNear).toBeLessThan(0.5 * movedFresh);
    // and is hardly worse for it than one that was made from nothing
    expect(near_).toBeLessThan(1.05 * fresh_ + MOVING * SEEDS.length);
  });

  it('goes on with a job whose first task is done by who does the rest, and with one that has a task more', () => {
    const p = randomWeek(2, { jobs: 12, people: 5, bays: 6, tasks: 48, loose: 3 });
    const first = schedule(p, { effort: EFFORT });
    const at = p.jobs.findIndex((j) => j.tasks.length > 2 && j.releaseMin === 0);
    const { id, tasks } = p.jobs[at]!;
    const done = change(p, at, (j) => ({ ...j, tasks: j.tasks.slice(1).map((t, k) => ({ ...t, id: `t${k}` })) }));
    const rest = (s: Schedule) => s.tasks.filter((t) => t.job === id).map((t) => t.people.join());
    expect(rest(near(done, first, 1e6))).toEqual(rest(first).slice(1));
    const more = change(p, at, (j) => ({ ...j, tasks: [{ ...tasks[0]!, id: 'before' }, ...j.tasks] }));
    expect(rest(near(more, first, 1e6))).toEqual([rest(first)[0], ...rest(first)]);
  });

  it('gives the work of who has left to others, and asks nothing of bays and jobs that are gone', () => {
    const p = randomWeek(3, { jobs: 14, people: 6, bays: 5, tasks: 56, loose: 3 });
    const first = schedule(p, { effort: EFFORT });
    const gone = p.people.find((x) =>
      p.jobs.every((j) => j.tasks.every((t) => p.people.some((y) => y !== x && t.skills.every((s) => y.skills.includes(s))))),
    )!;
    const q = { ...p, people: p.people.filter((x) => x !== gone), jobs: p.jobs.slice(1) };
    const s = near(q, first);
    expect(checkWeek(q, s.tasks).problems).toEqual([]);
    const his = new Set(first.tasks.filter((t) => t.people.includes(gone.id)).map((t) => t.job));
    const others = movedJobs(first.tasks, s.tasks).filter((job) => !his.has(job));
    expect(others.length).toBeLessThanOrEqual(3);
    const stranger = { job: 'nobody’s', people: ['nobody'], bay: 'no bay', start: 0, end: 10 };
    const all = first.tasks.map((t) => ({ ...t, bay: 'no bay' }));
    expect(checkWeek(p, schedule(p, { effort: EFFORT, near: [stranger, ...all], moving: MOVING }).tasks).problems).toEqual([]);
  });
});
