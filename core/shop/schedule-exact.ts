import type { JobPlace } from './place-jobs';
import type { PricedShop } from './schedule-prices';
import { endCost, type Compiled } from './schedule-problem';
import { doneAt, firstWork } from './shifts';

/**
 * Looks through all schedules in which nothing could begin sooner without something else beginning later (the best is among them:
 * an earlier end never costs more), each by the times at which its tasks begin, and leaves out those whose jobs, at the prices of
 * the bound, cost no less from there than what is known.
 * @param known cost of the schedule to better
 * @param budget nodes to look at
 * @returns the best found, null if none betters what is known; `done` says that there is none better left
 */
export function searchAll(
  c: Compiled,
  priced: PricedShop,
  known: number,
  budget: number,
  stop: () => boolean,
): { places: JobPlace[] | null; cost: number; done: boolean } {
  const n = c.jobs.length;
  const next = new Int16Array(n);
  const ready = Float64Array.from(c.jobs, (j) => j.ready);
  const bay = new Int16Array(n).fill(-1);
  const free = new Float64Array(c.people.length).fill(c.now);
  const bayFree = new Float64Array(c.bayCount).fill(c.now);
  const crew = c.jobs.map((j) => new Int16Array(j.tasks.length));
  const start = c.jobs.map((j) => new Float64Array(j.tasks.length));
  const end = c.jobs.map((j) => new Float64Array(j.tasks.length));
  /** people who can do the same at the same times are one to choose from */
  const alike = c.people.map((p, i) =>
    c.problem.people.findIndex(
      (q, k) =>
        sameSet(q.skills, c.problem.people[i]!.skills) &&
        String(c.people[k]!.from) === String(p.from) &&
        String(c.people[k]!.to) === String(p.to),
    ),
  );
  const bayAlike = c.problem.bays.map((b) => c.problem.bays.findIndex((o) => sameSet(o.kinds, b.kinds)));
  let best = known;
  let places: JobPlace[] | null = null;
  let nodes = 0;
  let spent = false;
  let cost = 0;
  let left = n;
  const least = (at: number): number => {
    let sum = cost;
    for (let j = 0; j < n; j++) if (next[j]! < c.jobs[j]!.tasks.length) sum += priced.toGo(j, next[j]!, Math.max(ready[j]!, at));
    for (let p = 0; p < free.length; p++) sum -= priced.personFrom(p, Math.max(free[p]!, at));
    for (let b = 0; b < bayFree.length; b++) sum -= priced.bayFrom(b, bayFree[b]! === Infinity ? at : Math.max(bayFree[b]!, at));
    // who holds a bay pays for it from now on; what it costs to go on counts from when its next task may begin
    for (let j = 0; j < n; j++)
      if (bay[j]! >= 0 && bayFree[bay[j]!]! === Infinity && next[j]! <= c.jobs[j]!.bayTo)
        sum += priced.rent(j, at, Math.max(ready[j]!, at));
    return sum;
  };
  interface Choice {
    job: number;
    crew: number;
    bay: number;
    start: number;
    end: number;
  }
  const go = (at: number): void => {
    if (++nodes > budget || (nodes % 64 === 0 && stop())) spent = true;
    if (spent) return;
    if (!left) {
      if (cost < best - 1e-9) {
        best = cost;
        places = c.jobs.map((j, k) => ({
          cost: endCost(j, ready[k]!),
          crew: crew[k]!.slice(),
          start: start[k]!.slice(),
          end: end[k]!.slice(),
          bay: bay[k]!,
          done: ready[k]!,
        }));
      }
      return;
    }
    if (least(at) >= best - 1e-9) return;
    const choices: Choice[] = [];
    let soonest = Infinity;
    for (let job = 0; job < n; job++) {
      const j = c.jobs[job]!;
      const k = next[job]!;
      if (k >= j.tasks.length) continue;
      const task = j.tasks[k]!;
      const enters = k === j.bayFrom;
      const bays: number[] = [];
      if (enters) {
        for (const b of j.bays)
          if (bayFree[b]! < Infinity && !bays.some((o) => bayAlike[o] === bayAlike[b] && bayFree[o] === bayFree[b])) bays.push(b);
      } else bays.push(-1);
      const seen = new Set<string>();
      for (let x = 0; x < task.crews.length; x++) {
        const { who, shifts } = task.crews[x]!;
        const key = who.map((w) => `${alike[w]}@${free[w]!}`).join(' ');
        if (seen.has(key)) continue;
        seen.add(key);
        for (const b of bays) {
          let t = ready[job]!;
          for (const w of who) t = Math.max(t, free[w]!);
          if (b >= 0) t = Math.max(t, bayFree[b]!);
          const s = firstWork(shifts, t);
          const e = s === Infinity ? Infinity : doneAt(shifts, s, task.minutes);
          // what could have begun before is looked at where it did
          if (e === Infinity || s < at) continue;
          choices.push({ job, crew: x, bay: b, start: s, end: e });
          // one that takes no bay could be done before anything that begins after its end, to nobody’s loss
          if (!enters && e < soonest && e > s) soonest = e;
        }
      }
    }
    choices.sort((a, b) => a.start - b.start || a.end - b.end);
    for (const x of choices) {
      if (x.start >= soonest) break;
      const j = c.jobs[x.job]!;
      const k = next[x.job]!;
      const task = j.tasks[k]!;
      const { who } = task.crews[x.crew]!;
      const had = who.map((w) => free[w]!);
      const hadReady = ready[x.job]!;
      const hadBay = bay[x.job]!;
      crew[x.job]![k] = x.crew;
      start[x.job]![k] = x.start;
      end[x.job]![k] = x.end;
      for (const w of who) free[w] = x.end;
      ready[x.job] = x.end + task.wait;
      next[x.job] = k + 1;
      if (x.bay >= 0) bay[x.job] = x.bay;
      const held = bay[x.job]!;
      const hadFree = held >= 0 ? bayFree[held]! : 0;
      if (k >= j.bayFrom && k < j.bayTo && held >= 0) bayFree[held] = Infinity;
      if (k === j.bayTo) bayFree[held] = ready[x.job]!;
      const ended = k + 1 === j.tasks.length;
      const add = ended ? endCost(j, ready[x.job]!) : 0;
      if (ended) {
        left--;
        cost += add;
      }
      go(x.start);
      if (ended) {
        left++;
        cost -= add;
      }
      if (held >= 0 && k >= j.bayFrom && k <= j.bayTo) bayFree[held] = x.bay >= 0 ? hadFree : Infinity;
      bay[x.job] = hadBay;
      next[x.job] = k;
      ready[x.job] = hadReady;
      who.forEach((w, i) => (free[w] = had[i]!));
      if (spent) return;
    }
  };
  cost = c.jobs.reduce((s, j) => s + (j.tasks.length ? 0 : endCost(j, j.ready)), 0);
  left = c.jobs.filter((j) => j.tasks.length).length;
  go(c.now);
  return { places, cost: best, done: !spent };
}

const sameSet = (a: readonly string[], b: readonly string[]) => a.length === b.length && a.every((x) => b.includes(x));
