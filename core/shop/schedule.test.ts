import { describe, expect, it } from 'vitest';
import { randomWeek } from '../../tests/random-week';
import { checkWeek, leastOf } from '../../tests/week-check';
import { begunBy, bothWork, doneAt, firstWork, shiftsOf } from './shifts';
import { schedule } from './schedule';
import type { ScheduleProblem } from './schedule-problem';

const DAY: [number, number][] = [
  [0, 240],
  [300, 540],
];
const task = (id: string, minutes: number, more: object = {}) => ({
  id,
  minutes,
  skills: [],
  hands: 1 as const,
  waitAfterMin: 0,
  needsBay: true,
  ...more,
});
const job = (id: string, dueMin: number, tasks: ReturnType<typeof task>[], more: object = {}) => ({
  id,
  kind: 'boat',
  releaseMin: 0,
  dueMin,
  weight: 1,
  tasks,
  ...more,
});
const shop = (jobs: ReturnType<typeof job>[], more: Partial<ScheduleProblem> = {}): ScheduleProblem => ({
  now: 0,
  people: [{ id: 'tor', skills: [], shifts: DAY }],
  bays: [{ id: 'slip', kinds: ['boat'] }],
  jobs,
  ...more,
});

describe('shifts', () => {
  it('work pauses where a shift ends and goes on in the next', () => {
    const s = shiftsOf(DAY, 0);
    expect(doneAt(s, 200, 60)).toBe(320);
    expect(doneAt(s, 200, 40)).toBe(240);
    expect(doneAt(s, 200, 400)).toBe(Infinity);
    expect([firstWork(s, 240), firstWork(s, 10), firstWork(s, 540)]).toEqual([300, 10, Infinity]);
    expect([begunBy(s, 320, 60), begunBy(s, 300, 40), begunBy(s, 30, 40)]).toEqual([200, 200, -Infinity]);
  });
  it('stretches that overlap or touch are one, and what is past is none', () => {
    const s = shiftsOf(
      [
        [100, 200],
        [0, 120],
        [200, 210],
        [-50, 5],
      ] as [number, number][],
      10,
    );
    expect([...s.from, ...s.to]).toEqual([10, 210]);
    expect([
      ...bothWork(
        s,
        shiftsOf(
          [
            [0, 20],
            [205, 400],
          ] as [number, number][],
          0,
        ),
      ).from,
    ]).toEqual([10, 205]);
  });
});

describe('a schedule', () => {
  it('of one job is that job, pauses and waits counted', () => {
    const s = schedule(shop([job('a', 400, [task('fit', 200, { waitAfterMin: 90 }), task('wire', 60)])]));
    expect(s.tasks.map((t) => [t.start, t.end])).toEqual([
      [0, 200],
      [300, 360],
    ]);
    expect(s).toMatchObject({ cost: 0.36, bound: 0.36, optimal: true });
  });
  it('does first what costs more by the minute', () => {
    const jobs = [job('a', 0, [task('x', 100)]), job('b', 0, [task('x', 50)], { weight: 3 })];
    const s = schedule(shop(jobs));
    expect(s.tasks.find((t) => t.job === 'b')!.start).toBe(0);
    // b ends at 50, 50 late at 3 a minute; a at 150, and both wait 0.2 together
    expect(s.cost).toBeCloseTo(300.2, 9);
    expect(s.optimal).toBe(true);
  });
  it('keeps a bay through waits, and leaves it for work that needs none', () => {
    const people = [
      { id: 'tor', skills: [], shifts: DAY },
      { id: 'maud', skills: [], shifts: DAY },
    ];
    const s = schedule(
      shop(
        [
          job('a', 100, [task('glue', 60, { waitAfterMin: 60 }), task('papers', 200, { needsBay: false })]),
          job('b', 2000, [task('x', 30)]),
        ],
        { people },
      ),
    );
    const b = s.tasks.find((t) => t.job === 'b')!;
    expect(b.start).toBe(120);
    expect(s.tasks.find((t) => t.task === 'papers')!.bay).toBeNull();
    expect(s.optimal).toBe(true);
  });
  it('two do it only while both are there', () => {
    const people = [
      {
        id: 'tor',
        skills: ['lift'],
        shifts: [
          [0, 100],
          [200, 300],
        ] as [number, number][],
      },
      { id: 'maud', skills: [], shifts: [[50, 250]] as [number, number][] },
    ];
    const s = schedule(shop([job('a', 0, [task('hood', 80, { hands: 2, skills: ['lift'] })])], { people }));
    expect(s.tasks).toEqual([{ job: 'a', task: 'hood', people: ['tor', 'maud'], bay: 'slip', start: 50, end: 230 }]);
  });
  it.each(Array.from({ length: 30 }, (_, i) => i + 1))('of a small shop costs what trying everything finds, seed %i', (seed) => {
    const p = randomWeek(seed, { jobs: 3, people: 2, bays: seed % 3 ? 2 : 1, tasks: 6, step: 15, days: 10, loose: 0.3 });
    const s = schedule(p);
    const { problems, cost } = checkWeek(p, s.tasks);
    expect(problems).toEqual([]);
    expect(cost).toBeCloseTo(s.cost, 6);
    const least = leastOf(p, 14_400);
    expect(s.cost).toBeCloseTo(least, 6);
    expect(s.optimal).toBe(true);
    expect(s.bound).toBeLessThanOrEqual(least + 1e-6);
  });
  it.each([1, 2, 3, 4])('of forty jobs breaks no rule, is near its bound, and is the same again, seed %i', (seed) => {
    const p = randomWeek(seed, { jobs: 40, people: 8, bays: 9, tasks: 160, loose: 3 });
    const s = schedule(p, { effort: 0.4 });
    const { problems, cost } = checkWeek(p, s.tasks);
    expect(problems).toEqual([]);
    expect(cost).toBeCloseTo(s.cost, 6);
    expect(s.bound).toBeLessThanOrEqual(s.cost);
    expect(s.cost / s.bound).toBeLessThan(1.1);
    if (seed === 1) expect(schedule(p, { effort: 0.4 })).toEqual(s);
  });
  it('with times that are no whole minutes keeps its bound under what it costs', () => {
    const p = randomWeek(5, { jobs: 3, people: 2, bays: 1, tasks: 6, step: 15, days: 10, loose: 0 });
    const shifted = { ...p, jobs: p.jobs.map((j) => ({ ...j, tasks: j.tasks.map((t) => ({ ...t, minutes: t.minutes + 0.37 })) })) };
    const s = schedule(shifted);
    expect(checkWeek(shifted, s.tasks).problems).toEqual([]);
    expect(s.bound).toBeLessThanOrEqual(s.cost + 1e-9);
    expect(s.cost).toBeGreaterThan(schedule(p).cost);
  });
  it('asked to stop at once, answers what a shop would do by its promises', () => {
    const p = randomWeek(2, { jobs: 40, people: 8, bays: 6, tasks: 200 });
    const s = schedule(p, { stop: () => true });
    expect(checkWeek(p, s.tasks).problems).toEqual([]);
    expect(s.optimal).toBe(false);
  });
  it('of nothing is nothing', () => {
    expect(schedule(shop([]))).toEqual({ tasks: [], cost: 0, bound: 0, optimal: true });
  });
  it.each([
    [
      'a shift that ends before it begins',
      { people: [{ id: 'tor', skills: [], shifts: [[60, 10] as [number, number]] }] },
      /ends before it begins/,
    ],
    ['nobody with the skill', { jobs: [job('a', 0, [task('x', 5, { skills: ['weld'] })])] }, /nobody has weld/],
    ['nobody to lend a hand', { jobs: [job('a', 0, [task('x', 5, { hands: 2 })])] }, /no two/],
    ['a bay too small', { jobs: [job('a', 0, [task('x', 5)], { kind: 'cart' })] }, /no bay takes a cart/],
    ['more than the shifts hold', { jobs: [job('a', 0, [task('x', 500)])] }, /do not hold the work of a/],
    ['more jobs than the shifts hold', { jobs: ['a', 'b', 'c'].map((id) => job(id, 0, [task('x', 200)])) }, /shifts end before/],
    ['two of one name', { jobs: [job('a', 0, [task('x', 5)]), job('a', 0, [task('x', 5)])] }, /called “a”/],
  ])('says what cannot be: %s', (_, more, says) => {
    expect(() => schedule(shop([job('a', 0, [task('x', 5)])], more as Partial<ScheduleProblem>))).toThrow(says);
  });
});

// Which jobs are still in time on the first evening is settled among the few that are due then. Changing the order of all jobs at once
// came to 48 346 in these three together, and to 47 238 with ten times the effort (measured here, no source).
it('shops whose first evenings are too full are scheduled from those due soonest on', () => {
  const costs = [111, 62, 9].map((seed) => {
    const p = randomWeek(seed, { jobs: 40, people: 8, bays: 6, tasks: 200, loose: 3 });
    const s = schedule(p, { effort: 0.5 });
    expect(checkWeek(p, s.tasks)).toEqual({ problems: [], cost: expect.closeTo(s.cost, 4) as number });
    return s.cost;
  });
  expect(costs.reduce((a, b) => a + b, 0)).toBeLessThan(46_500);
});

// Of people who can all do everything and never pause, the least sum of ends is that of the shortest first, whoever is free taking
// the next (Conway, Maxwell and Miller, Theory of Scheduling, 1967, from memory). A job in several tasks is no sooner done than in one.
describe('people who are all alike', () => {
  it.each([11, 4, 7])('are scheduled near the shortest first, and the bound is as near beneath it, seed %i', (seed) => {
    const p = randomWeek(seed, { jobs: 40, people: 8, bays: 6, tasks: 200, loose: 3 });
    const jobs = p.jobs.map((j) => ({
      ...j,
      releaseMin: 0,
      dueMin: 100_000,
      tasks: j.tasks.map((t) => ({ ...t, skills: [], hands: 1 as const, waitAfterMin: 0, needsBay: false })),
    }));
    const s = schedule({ ...p, people: p.people.map((x) => ({ ...x, shifts: [[0, 8000]] as [number, number][] })), jobs });
    const free = p.people.map(() => 0);
    const least = jobs
      .map((j) => j.tasks.reduce((sum, t) => sum + t.minutes, 0))
      .sort((a, b) => a - b)
      .reduce((sum, minutes) => {
        const first = free.indexOf(Math.min(...free));
        free[first]! += minutes;
        return sum + 0.001 * free[first]!;
      }, 0);
    expect(s.bound).toBeLessThanOrEqual(least + 1e-6);
    expect(s.bound).toBeGreaterThan(0.98 * least);
    expect(s.cost).toBeGreaterThanOrEqual(least - 1e-6);
    expect(s.cost).toBeLessThan(1.05 * least);
  });
});
