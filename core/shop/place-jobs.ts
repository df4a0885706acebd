import { endCost, type Compiled, type CompiledJob } from './schedule-problem';
import { begunBy, doneAt, doneFrom, shiftAt, type Shifts } from './shifts';
import { Taken } from './taken';

/** Where the tasks of a job are. */
export interface JobPlace {
  cost: number;
  /** crew of each task, its start and end */
  crew: Int16Array;
  start: Float64Array;
  end: Float64Array;
  /** the bay held, −1 for none */
  bay: number;
  /** when the job is done, its last wait too */
  done: number;
}

/**
 * A shop in which jobs are put and from which they are taken. A job is put where it is done soonest beside those that are there,
 * into gaps too: an earlier end of a task never makes the job’s next one later. Then its unit comes into the bay as late as that allows.
 */
export class Placer {
  private readonly people: Taken[];
  private readonly bays: Taken[];
  /** per job where it is, null while it is nowhere */
  readonly at: (JobPlace | null)[];
  /** least that each job can cost, alone in the shop */
  readonly least: Float64Array;

  constructor(protected readonly c: Compiled) {
    const tasks = c.jobs.reduce((s, j) => s + j.tasks.length, 1);
    this.people = c.people.map((shifts) => new Taken(tasks, shifts));
    this.bays = Array.from({ length: c.bayCount }, () => new Taken(c.jobs.length + 1));
    this.at = c.jobs.map(() => null);
    this.least = Float64Array.from(c.jobs, (_, n) => {
      const cost = this.put(n);
      this.take(n);
      return cost;
    });
  }

  clear() {
    for (const p of this.people) p.clear();
    for (const b of this.bays) b.clear();
    this.at.fill(null);
  }

  private foundStart = 0;
  private foundEnd = Infinity;
  /**
   * The soonest that one or two are done with so many minutes of work, from `ready` on and before `limit`: `foundStart` and `foundEnd`,
   * Infinity where there is none. Shifts and what is taken are gone through once, from the first that may matter on.
   */
  private soonest(shifts: Shifts, first: Taken, second: Taken | null, ready: number, minutes: number, limit: number): void {
    const { from, to } = shifts;
    const last = to.length;
    this.foundEnd = Infinity;
    let k = shiftAt(shifts, ready);
    if (k === last) return;
    let s = Math.max(ready, from[k]!);
    let i = first.after(s);
    let j = second ? second.after(s) : 0;
    while (s + minutes < limit) {
      const e = doneFrom(shifts, k, s, minutes);
      if (e >= limit) return;
      while (i < first.count && first.to[i]! <= s) i++;
      let past = i < first.count && first.from[i]! < e ? first.to[i]! : -1;
      if (past < 0 && second) {
        while (j < second.count && second.to[j]! <= s) j++;
        if (j < second.count && second.from[j]! < e) past = second.to[j]!;
      }
      if (past < 0) {
        this.foundStart = s;
        this.foundEnd = e;
        return;
      }
      while (to[k]! <= past) if (++k === last) return;
      s = Math.max(past, from[k]!);
    }
  }

  /** Tasks from one to another, each as early as it can be from t on; when the last one and its wait are over. */
  private early(j: CompiledJob, p: JobPlace, from: number, to: number, t: number): number {
    let ready = t;
    for (let k = from; k <= to; k++) {
      const task = j.tasks[k]!;
      const { crews, minutes } = task;
      let bestEnd = Infinity;
      let bestStart = 0;
      let best = 0;
      // nobody is done sooner than who begins at once and has no pause
      for (let c = 0; c < crews.length && bestEnd > ready + minutes; c++) {
        const { who, shifts } = crews[c]!;
        this.soonest(shifts, this.people[who[0]!]!, who.length > 1 ? this.people[who[1]!]! : null, ready, minutes, bestEnd);
        if (this.foundEnd < bestEnd) {
          bestEnd = this.foundEnd;
          bestStart = this.foundStart;
          best = c;
        }
      }
      if (bestEnd === Infinity) return Infinity;
      p.crew[k] = best;
      p.start[k] = bestStart;
      p.end[k] = bestEnd;
      ready = bestEnd + task.wait;
    }
    return ready;
  }

  /** Tasks before the last in the bay, each as late as its next one lets it be: a unit does not hold a bay to wait in. */
  private late(j: CompiledJob, p: JobPlace) {
    for (let k = j.bayTo - 1; k >= j.bayFrom; k--) {
      const { crews, minutes, wait } = j.tasks[k]!;
      const limit = p.start[k + 1]! - wait;
      if (p.end[k]! >= limit || !minutes) continue;
      // nobody begins later than who has no pause
      for (let c = 0; c < crews.length && p.start[k]! < limit - minutes; c++) {
        const { who, shifts } = crews[c]!;
        const first = this.people[who[0]!]!;
        const second = who.length > 1 ? this.people[who[1]!]! : null;
        let by = limit;
        for (;;) {
          const s = begunBy(shifts, by, minutes);
          if (s <= p.start[k]!) break;
          const e = doneAt(shifts, s, minutes);
          let past = first.inTheWayFrom(s, e);
          if (past === Infinity && second) past = second.inTheWayFrom(s, e);
          if (past === Infinity) {
            p.crew[k] = c;
            p.start[k] = s;
            p.end[k] = e;
            break;
          }
          by = past;
        }
      }
    }
  }

  /** Puts a job in; its cost, Infinity (and the job nowhere) if the shifts do not hold it. */
  put(n: number): number {
    const p = this.soonestPlace(this.c.jobs[n]!);
    if (!p) return Infinity;
    this.putBack(n, p);
    return p.cost;
  }

  /** Where a job is done soonest beside what is there; null if the shifts do not hold it. */
  protected soonestPlace(j: CompiledJob): JobPlace | null {
    const count = j.tasks.length;
    const p: JobPlace = {
      cost: Infinity,
      crew: new Int16Array(count),
      start: new Float64Array(count),
      end: new Float64Array(count),
      bay: -1,
      done: Infinity,
    };
    let t = j.ready;
    if (j.bayFrom < 0) t = this.early(j, p, 0, count - 1, t);
    else {
      t = this.early(j, p, 0, j.bayFrom - 1, t);
      for (let from = t; from < Infinity;) {
        // no sooner than some bay is free for as long as the work takes without a pause
        let free = Infinity;
        for (const b of j.bays) free = Math.min(free, this.bays[b]!.gap(from, j.hold));
        from = free;
        t = this.early(j, p, j.bayFrom, j.bayTo, from);
        if (t === Infinity) return null;
        this.late(j, p);
        const s = p.start[j.bayFrom]!;
        let next = Infinity;
        for (const b of j.bays) {
          const past = this.bays[b]!.inTheWay(s, t);
          if (past < 0) {
            p.bay = b;
            break;
          }
          if (past < next) next = past;
        }
        if (p.bay >= 0) break;
        from = next;
      }
      t = this.early(j, p, j.bayTo + 1, count - 1, t);
    }
    if (t === Infinity) return null;
    p.done = t;
    p.cost = endCost(j, t);
    return p;
  }

  /** Takes a job out; where it was. */
  take(n: number): JobPlace | null {
    const p = this.at[n]!;
    if (!p) return null;
    const j = this.c.jobs[n]!;
    for (let k = 0; k < p.crew.length; k++)
      for (const w of j.tasks[k]!.crews[p.crew[k]!]!.who) this.people[w]!.remove(p.start[k]!, p.end[k]!);
    if (p.bay >= 0) this.bays[p.bay]!.remove(p.start[j.bayFrom]!, p.end[j.bayTo]! + j.tasks[j.bayTo]!.wait);
    this.at[n] = null;
    return p;
  }

  /** Whether nothing is in the way of a job at a place. */
  fits(n: number, p: JobPlace): boolean {
    const j = this.c.jobs[n]!;
    for (let k = 0; k < p.crew.length; k++)
      for (const w of j.tasks[k]!.crews[p.crew[k]!]!.who) if (this.people[w]!.inTheWay(p.start[k]!, p.end[k]!) >= 0) return false;
    return p.bay < 0 || this.bays[p.bay]!.inTheWay(p.start[j.bayFrom]!, p.end[j.bayTo]! + j.tasks[j.bayTo]!.wait) < 0;
  }

  /** Puts a job where it was. */
  putBack(n: number, p: JobPlace) {
    const j = this.c.jobs[n]!;
    for (let k = 0; k < p.crew.length; k++) for (const w of j.tasks[k]!.crews[p.crew[k]!]!.who) this.people[w]!.add(p.start[k]!, p.end[k]!);
    if (p.bay >= 0) this.bays[p.bay]!.add(p.start[j.bayFrom]!, p.end[j.bayTo]! + j.tasks[j.bayTo]!.wait);
    this.at[n] = p;
  }

  /** Empties the shop and puts the jobs in, in this order; the cost, `over` or more is answered with Infinity as soon as it is sure. */
  inOrder(order: ArrayLike<number>, over = Infinity): number {
    this.clear();
    let rest = 0;
    for (let i = 0; i < order.length; i++) rest += this.least[order[i]!]!;
    let sum = 0;
    for (let i = 0; i < order.length; i++) {
      const n = order[i]!;
      rest -= this.least[n]!;
      sum += this.put(n);
      if (sum + rest >= over) return Infinity;
    }
    return sum;
  }

  /** The whole shop as it stands, kept. */
  kept(): JobPlace[] {
    return this.at.map((p) => p!);
  }
  restore(kept: readonly JobPlace[]) {
    this.clear();
    kept.forEach((p, n) => this.putBack(n, p));
  }
}
