import type { Placer } from './place-jobs';
import { type JobPlace } from './place-jobs';
import type { Compiled } from './schedule-problem';

/** Numbers from 0 to 1. */
export type Random = () => number;

/**
 * The jobs in an order, each put in beside those before it, and that order changed a job at a time while it gets cheaper:
 * annealing (Kirkpatrick and others 1983), with only what stands behind the change put in anew. At last the best is polished.
 */
export class OrderSearch {
  readonly order: number[];
  cost: number;
  best: number;
  /** the order that the best comes of, until it is polished */
  bestOrder: readonly number[] = [];
  private bestPlaces: readonly JobPlace[];
  /** jobs put in so far: what the search has spent */
  spent = 0;

  constructor(
    private readonly c: Compiled,
    private readonly placer: Placer,
    starts: readonly (readonly number[])[],
    private readonly random: Random,
  ) {
    this.order = [];
    this.cost = this.best = Infinity;
    this.bestPlaces = [];
    for (const order of starts) this.begin(order);
  }

  /** Tries an order as a whole, and goes on from it if it is the best so far. */
  begin(order: readonly number[]): void {
    this.spent += order.length;
    const cost = this.placer.inOrder(order, this.best);
    if (cost < this.best || !this.order.length) {
      this.order.splice(0, this.order.length, ...order);
      this.cost = cost;
      this.keep();
    } else this.back();
  }

  /** Puts the shop back as it stands with the present order, also from what was polished. */
  private back() {
    if (this.order.length) this.cost = this.placer.inOrder(this.order);
  }

  private keep() {
    if (this.cost < this.best) {
      this.best = this.cost;
      this.bestOrder = this.order.slice();
      this.bestPlaces = this.placer.kept();
    }
  }

  /** Takes a schedule found elsewhere as the best, if it is. */
  take(cost: number, places: () => readonly JobPlace[]): void {
    if (cost < this.best) {
      this.best = cost;
      this.bestPlaces = places();
    }
    this.back();
  }

  /** Where each job is in the best schedule found; empty if none holds all jobs. */
  places(): readonly JobPlace[] {
    return this.bestPlaces;
  }

  /** So many changes of the order, the first accepted though they cost up to about `heat` more, the last only if they cost no more. */
  anneal(changes: number, heat: number, stop: () => boolean): void {
    const { order, random } = this;
    const n = order.length;
    if (n < 2 || !(this.cost < Infinity)) return;
    for (let x = 0; x < changes && !stop(); x++) {
      const limit = this.limit(heat * (1 - x / changes) ** 2);
      // more often a job that is late, and then to an earlier place
      let a = Math.floor(random() * n);
      let b: number;
      const kind = random();
      if (kind < 0.35) {
        a = this.latestOfSome(a, (i) => order[i]!);
        b = Math.floor(random() * (a + 1));
      } else if (kind < 0.8) b = Math.min(n - 1, Math.max(0, a + Math.round((random() + random() + random() - 1.5) * 8)));
      else b = Math.floor(random() * n);
      if (a === b) continue;
      const swap = random() < 0.4;
      const from = Math.min(a, b);
      const tail = order.slice(from);
      const moved = tail.slice();
      if (swap) {
        moved[a - from] = tail[b - from]!;
        moved[b - from] = tail[a - from]!;
      } else {
        const [job] = moved.splice(a - from, 1);
        moved.splice(b - from, 0, job!);
      }
      if (!this.instead(tail, moved, limit)) continue;
      order.splice(from, moved.length, ...moved);
      this.keep();
    }
  }

  /**
   * From the best schedule on, a few jobs at a time that stand in each other’s way are taken out and put in anew, while all others stay
   * where they are (ruin and recreate: Schrimpf and others 2000, from memory). No order of jobs is kept: it is the last that is done.
   * @param puts jobs put in at most; @param heat as for `anneal`
   */
  polish(puts: number, heat: number, stop: () => boolean): void {
    const { random, placer, c } = this;
    const n = c.jobs.length;
    if (n < 2 || !this.bestPlaces.length) return;
    placer.restore(this.bestPlaces);
    this.cost = this.best;
    const begun = this.spent;
    while (this.spent - begun < puts && !stop()) {
      const limit = this.limit(heat * (1 - (this.spent - begun) / puts) ** 2);
      let first = Math.floor(random() * n);
      if (random() < 0.7) first = this.latestOfSome(first, (job) => job);
      const { done } = placer.at[first]!;
      const { ready, bays } = c.jobs[first]!;
      // rather those that are there while it is or waits, and of these who stand in a bay that it could have
      const far = placer.at.map((p, job) => {
        if (job === first) return -1;
        const apart = (p!.start[0] ?? p!.done) >= done || p!.done <= ready;
        return (apart ? 1 : 0) + random() * (bays.includes(p!.bay) ? 0.5 : 1);
      });
      const out = [...far.keys()].sort((a, b) => far[a]! - far[b]!).slice(0, 1 + Math.ceil(random() * 3));
      const key = new Map(out.map((job) => [job, random() < 0.5 ? random() : placer.at[job]!.done]));
      const moved = out.slice(1).sort((a, b) => key.get(a)! - key.get(b)!);
      moved.splice(random() < 0.7 ? 0 : Math.floor(random() * out.length), 0, first);
      if (this.instead(out, moved, limit)) this.keep();
    }
  }

  /** What may be accepted at a heat: now and then more than is there. */
  private limit(heat: number): number {
    return this.cost - heat * Math.log(this.random() + 1e-12) + 1e-9;
  }

  /** Of a few places chosen at random, the one whose job is the most delayed. */
  private latestOfSome(first: number, job: (at: number) => number): number {
    let found = first;
    for (let tries = 0; tries < 3; tries++) {
      const other = Math.floor(this.random() * this.c.jobs.length);
      if (this.over(job(other)) > this.over(job(found))) found = other;
    }
    return found;
  }

  /** Takes jobs out and puts them in again in another order; back to where they were if all then costs more than that. */
  private instead(out: readonly number[], moved: readonly number[], limit: number): boolean {
    const { placer } = this;
    let sum = this.cost;
    let rest = 0;
    const saved = out.map((job) => {
      rest += placer.least[job]!;
      const p = placer.take(job)!;
      sum -= p.cost;
      return p;
    });
    let put = 0;
    while (put < moved.length && sum + rest <= limit) {
      const job = moved[put++]!;
      rest -= placer.least[job]!;
      sum += placer.put(job);
    }
    this.spent += put;
    if (sum + rest <= limit) {
      this.cost = sum;
      return true;
    }
    for (let i = 0; i < put; i++) placer.take(moved[i]!);
    out.forEach((job, i) => placer.putBack(job, saved[i]!));
    return false;
  }

  private over(job: number): number {
    return this.placer.at[job]!.cost - this.placer.least[job]!;
  }
}

/** Orders that shops go by: soonest promise, most costly delay by time, first come. */
export function usualOrders(c: Compiled, least: Float64Array): number[][] {
  const all = c.jobs.map((_, n) => n);
  const minutes = c.jobs.map((j) => j.tasks.reduce((s, t) => s + t.minutes + t.wait, 0));
  const by = (key: (n: number) => number) => all.slice().sort((a, b) => key(a) - key(b) || a - b);
  return [
    by((n) => c.jobs[n]!.due),
    by((n) => c.jobs[n]!.due - minutes[n]!),
    by((n) => c.jobs[n]!.due - 300 * c.jobs[n]!.weight),
    by((n) => c.jobs[n]!.ready),
    by((n) => -c.jobs[n]!.weight / (minutes[n]! + 1)),
    by((n) => -least[n]!),
  ];
}
