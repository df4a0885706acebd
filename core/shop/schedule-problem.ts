import { ImpossibleInput } from '../errors';
import { bothWork, shiftsOf, type Shifts } from './shifts';

/** Who works, and when: minutes on one clock. */
export interface SchedulePerson {
  id: string;
  skills: readonly string[];
  shifts: readonly (readonly [number, number])[];
}
export interface ScheduleBay {
  id: string;
  /** kinds of unit that it takes */
  kinds: readonly string[];
}
export interface ScheduleTask {
  id: string;
  minutes: number;
  /** all of them are asked of the one who does it; a second pair of hands may be anybody’s */
  skills: readonly string[];
  hands: 1 | 2;
  /** clock time before the job’s next task, or before it is done: adhesive cures, a battery charges */
  waitAfterMin: number;
  needsBay: boolean;
}
export interface ScheduleJob {
  id: string;
  kind: string;
  releaseMin: number;
  dueMin: number;
  /** cost of a minute late */
  weight: number;
  tasks: readonly ScheduleTask[];
}
export interface ScheduleProblem {
  now: number;
  people: readonly SchedulePerson[];
  bays: readonly ScheduleBay[];
  jobs: readonly ScheduleJob[];
}

/** What a minute of waiting costs beside one of lateness. */
export const WAITING = 0.001;

/** Who may do a task: one person, or two with the times when both work. */
export interface Crew {
  /** indices of people, the one with the skills first */
  who: readonly number[];
  /** those of it who have the skills */
  able: readonly number[];
  shifts: Shifts;
}
export interface CompiledTask {
  minutes: number;
  wait: number;
  crews: readonly Crew[];
}
export interface CompiledJob {
  ready: number;
  due: number;
  weight: number;
  tasks: readonly CompiledTask[];
  /** first and last task that ask for a bay; −1 where none does */
  bayFrom: number;
  bayTo: number;
  /** minutes that it stands in its bay at least */
  hold: number;
  /** bays that take it, the choosiest first: what takes everything is kept free for who needs it */
  bays: readonly number[];
}
export interface Compiled {
  problem: ScheduleProblem;
  now: number;
  people: readonly Shifts[];
  jobs: readonly CompiledJob[];
  bayCount: number;
}

const once = (ids: readonly { id: string }[], what: string, path: string) => {
  const seen = new Set<string>();
  ids.forEach(({ id }, i) => {
    if (seen.has(id)) throw new ImpossibleInput(`two ${what} are called “${id}”`, `${path}.${i}.id`);
    seen.add(id);
  });
};

/**
 * Reads a shop into indices: who may do what and when, which bay takes what.
 * @throws ImpossibleInput for a shift that ends before it begins, a skill that nobody has, a bay that does not exist, two of one name
 */
export function compileSchedule(problem: ScheduleProblem): Compiled {
  const { people, bays, jobs, now } = problem;
  once(people, 'people', 'people');
  once(bays, 'bays', 'bays');
  once(jobs, 'jobs', 'jobs');
  people.forEach((p, i) =>
    p.shifts.forEach(([from, to], k) => {
      if (!(to > from)) throw new ImpossibleInput(`a shift of ${p.id} ends before it begins: ${from} to ${to}`, `people.${i}.shifts.${k}`);
    }),
  );
  const shifts = people.map((p) => shiftsOf(p.shifts, now));
  const pairs = new Map<number, Shifts>();
  const pair = (a: number, b: number) => {
    const key = Math.min(a, b) * people.length + Math.max(a, b);
    let s = pairs.get(key);
    if (!s) pairs.set(key, (s = bothWork(shifts[a]!, shifts[b]!)));
    return s;
  };
  const crewsOf = new Map<string, readonly Crew[]>();
  const crews = (t: ScheduleTask, path: string): readonly Crew[] => {
    const key = `${t.hands} ${[...t.skills].sort().join('\n')}`;
    const known = crewsOf.get(key);
    if (known) return known;
    const able = people.flatMap((p, i) => (t.skills.every((s) => p.skills.includes(s)) ? [i] : []));
    if (!able.length)
      throw new ImpossibleInput(
        t.skills.length ? `nobody has ${t.skills.length > 1 ? 'all of ' : ''}${t.skills.join(', ')}` : 'nobody works here',
        `${path}.skills`,
      );
    const found: Crew[] = [];
    for (const a of able)
      if (t.hands === 1) {
        if (shifts[a]!.from.length) found.push({ who: [a], able: [a], shifts: shifts[a]! });
      } else
        for (let b = 0; b < people.length; b++) {
          // two who both have the skills are one crew, not two
          if (b === a || (b < a && able.includes(b))) continue;
          const both = pair(a, b);
          if (both.from.length) found.push({ who: [a, b], able: able.includes(b) ? [a, b] : [a], shifts: both });
        }
    if (!found.length)
      throw new ImpossibleInput(
        t.hands === 2 ? 'no two who could do it ever work at the same time' : `who could do it has no shift after minute ${now}`,
        `${path}.${t.hands === 2 ? 'hands' : 'skills'}`,
      );
    const ask = (crew: Crew) => crew.who.reduce((s, i) => s + wanted[i]!, 0);
    found.sort((a, b) => ask(a) - ask(b));
    crewsOf.set(key, found);
    return found;
  };
  // minutes that hang on each person: who is needed least elsewhere is asked first
  const wanted = new Float64Array(people.length);
  const ableFor = new Map<string, number[]>();
  for (const j of jobs)
    for (const t of j.tasks) {
      const key = t.skills.join('\n');
      let able = ableFor.get(key);
      if (!able) ableFor.set(key, (able = people.flatMap((p, i) => (t.skills.every((s) => p.skills.includes(s)) ? [i] : []))));
      for (const i of able) wanted[i]! += t.minutes / able.length ** 2;
    }
  const compiled = jobs.map((j, n): CompiledJob => {
    once(j.tasks, `tasks of ${j.id}`, `jobs.${n}.tasks`);
    const bayFrom = j.tasks.findIndex((t) => t.needsBay);
    const taking = bays
      .map((b, i) => ({ i, kinds: b.kinds.length, takes: b.kinds.includes(j.kind) }))
      .filter((b) => b.takes)
      .sort((a, b) => a.kinds - b.kinds || a.i - b.i)
      .map((b) => b.i);
    if (bayFrom >= 0 && !taking.length) throw new ImpossibleInput(`no bay takes a ${j.kind}`, `jobs.${n}.kind`);
    const bayTo = j.tasks.findLastIndex((t) => t.needsBay);
    return {
      ready: Math.max(now, j.releaseMin),
      due: j.dueMin,
      weight: j.weight,
      tasks: j.tasks.map((t, k) => ({ minutes: t.minutes, wait: t.waitAfterMin, crews: crews(t, `jobs.${n}.tasks.${k}`) })),
      bayFrom,
      bayTo,
      hold: bayFrom < 0 ? 0 : j.tasks.slice(bayFrom, bayTo + 1).reduce((s, t) => s + t.minutes + t.waitAfterMin, 0),
      bays: bayFrom >= 0 ? taking : [],
    };
  });
  return { problem, now, people: shifts, jobs: compiled, bayCount: bays.length };
}

/** What it costs that a job ends then. */
export const endCost = (j: { due: number; weight: number }, end: number): number => j.weight * Math.max(0, end - j.due) + WAITING * end;
