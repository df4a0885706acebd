import { z } from 'zod';
import { nonNegative } from '#model/common';
import { checkBands, promise } from '../shop/promise';
import { schedule } from '../shop/schedule';
import { WAITING } from '../shop/schedule-problem';
import { sum } from '../sum';
import { calculation, field } from './calculation';

const Id = z.string().trim().min(1, 'must not be empty').max(80);
const ids = z.array(Id).max(60);
const clock = z.number().min(-1e7).max(1e7);
const Shift = z.tuple([clock, clock]);
const Person = z.strictObject({ id: Id, skills: ids, shifts: z.array(Shift).max(1000) });
const Bay = z.strictObject({ id: Id, kinds: ids });
const minutes = nonNegative.max(100_000);
const MOST = { people: 60, bays: 60, jobs: 200, tasks: 100 };

const task = <T extends z.ZodType>(time: T) =>
  z.strictObject({
    id: Id,
    minutes: time,
    skills: ids.default([]),
    hands: z.literal([1, 2]).default(1),
    waitAfterMin: minutes.default(0),
    needsBay: z.boolean().default(true),
  });
const job = <T extends z.ZodType>(time: T) =>
  z.strictObject({
    id: Id,
    kind: Id,
    releaseMin: clock.default(0),
    dueMin: clock,
    weight: nonNegative.max(1e6).default(1),
    tasks: z.array(task(time)).max(MOST.tasks),
  });
const Band = z.strictObject({ p10: minutes, p50: minutes, p90: minutes });

const shop = {
  now: field(clock.default(0), 'Now', 'min'),
  people: field(z.array(Person).max(MOST.people), 'People: skills, and shifts from and to'),
  bays: field(z.array(Bay).max(MOST.bays), 'Bays: the kinds of unit each takes'),
};

const example = {
  now: 0,
  people: [
    {
      id: 'tor',
      skills: ['electrical'],
      shifts: [
        [0, 240],
        [285, 525],
        [1440, 1680],
        [1725, 1965],
      ],
    },
    {
      id: 'maud',
      skills: ['electrical', 'boats'],
      shifts: [
        [0, 240],
        [285, 525],
        [1440, 1680],
        [1725, 1965],
      ],
    },
  ],
  bays: [
    { id: 'lift', kinds: ['side-by-side', 'motorcycle'] },
    { id: 'trailer', kinds: ['boat', 'side-by-side'] },
  ],
};
const exampleTasks = <T>(of: (likely: number) => T) => [
  {
    id: 'drover',
    kind: 'side-by-side',
    releaseMin: 0,
    dueMin: 525,
    weight: 2,
    tasks: [
      { id: 'fit', minutes: of(150), hands: 2 },
      { id: 'wire', minutes: of(180), skills: ['electrical'] },
    ],
  },
  {
    id: 'sandbar',
    kind: 'boat',
    releaseMin: 60,
    dueMin: 1965,
    weight: 1,
    tasks: [
      { id: 'lamps', minutes: of(240), skills: ['boats'], waitAfterMin: 120 },
      { id: 'prove', minutes: of(40), needsBay: false },
    ],
  },
];

export const shopCalcs = [
  calculation({
    name: 'shop.schedule',
    title: 'Schedule of a shop',
    description:
      'Who does which job’s work when, second hands included, and which bay its unit holds: least weighted lateness, then least waiting, proved or with its bound. Times are minutes on one clock.',
    input: { ...shop, jobs: field(z.array(job(minutes)).max(MOST.jobs), 'Jobs: kind, released, due, weight, tasks in their order') },
    result: {
      tasks: z.array(
        z.object({
          job: z.string(),
          task: z.string(),
          people: z.array(z.string()),
          bay: z.string().nullable(),
          start: z.number(),
          end: z.number(),
        }),
      ),
      cost: z.number(),
      bound: z.number(),
      optimal: z.boolean(),
    },
    example: { ...example, jobs: exampleTasks((x) => x) },
    run: (q, stop) => {
      const found = schedule(q, { stop });
      const done = new Map<string, number>();
      for (const j of q.jobs) done.set(j.id, Math.max(q.now, j.releaseMin));
      for (const t of found.tasks) {
        const wait = q.jobs.find((j) => j.id === t.job)!.tasks.find((x) => x.id === t.task)!.waitAfterMin;
        done.set(t.job, Math.max(done.get(t.job)!, t.end + wait));
      }
      const late = q.jobs.filter((j) => done.get(j.id)! > j.dueMin);
      return {
        ...found,
        sum: sum(
          { label: 'Jobs, of which late', value: `${q.jobs.length}, ${late.length}` },
          ...late.slice(0, 12).map((j) => ({
            label: `${j.id}, ${+(done.get(j.id)! - j.dueMin).toFixed(1)} min late at ${j.weight} a minute`,
            value: j.weight * (done.get(j.id)! - j.dueMin),
          })),
          { label: 'Waiting, all ends together', value: WAITING * [...done.values()].reduce((a, b) => a + b, 0) },
          { label: 'No schedule costs less than', value: found.bound, kind: 'limit' },
          { label: found.optimal ? 'Cost, proved least' : 'Cost, best found', value: found.cost, kind: 'result' },
        ),
      };
    },
  }),
  calculation({
    name: 'shop.promise',
    title: 'Chances of promises',
    description:
      'Each job’s chance to be done in time, and the ends that hold 50 and 95 times in 100, when every task’s minutes are only likely: the shop is scheduled at the middle of each band and that plan is kept to.',
    input: {
      ...shop,
      jobs: field(z.array(job(Band)).max(MOST.jobs), 'Jobs, each task’s minutes as p10, p50, p90'),
      draws: field(z.number().int().min(1).max(20_000).default(2000), 'Draws'),
      seed: field(
        z
          .number()
          .int()
          .min(0)
          .max(2 ** 32 - 1)
          .default(1),
        'Seed',
      ),
      confidence: field(z.number().gt(0).lt(1).default(0.8), 'Chance at which a promise holds'),
    },
    result: {
      jobs: z.array(
        z.object({
          id: z.string(),
          onTime: z.number(),
          p50End: z.number().nullable(),
          p95End: z.number().nullable(),
          holdsBy: z.number().nullable(),
        }),
      ),
    },
    example: { ...example, jobs: exampleTasks((x) => ({ p10: 0.8 * x, p50: x, p90: 1.4 * x })), draws: 2000, seed: 1, confidence: 0.8 },
    run: (q, stop) => {
      checkBands(q);
      const { jobs, plan } = promise(q, { draws: q.draws, seed: q.seed, confidence: q.confidence, stop });
      return {
        jobs,
        sum: sum(
          ...jobs.slice(0, 20).map((j) => ({ label: j.id, value: `${(100 * j.onTime).toFixed(1)} in 100 in time` })),
          { label: 'Draws', value: q.draws, kind: 'note' as const },
          { label: 'Cost at the middle of every band', value: plan.cost, kind: 'note' as const },
          {
            label: 'Promises that hold',
            value: `${jobs.filter((j) => j.onTime >= q.confidence).length} of ${jobs.length}`,
            kind: 'result' as const,
          },
        ),
      };
    },
  }),
] as const;
