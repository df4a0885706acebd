import type { Placer } from './place-jobs';
import { type JobPlace } from './place-jobs';
import type { Compiled } from './schedule-problem';

/** Numbers from 0 to 1. */
export type Random = () => number;

/**
 * The jobs in an order, each put in beside those before it, and that order changed a job at a time while it gets cheaper:
 * annealing (Kirkpatrick and others 1983), with only what stands behind the change put in anew.
 */
export class OrderSearch {
  readonly order: number[];
  cost: number;
  best: number;
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

  /** Puts the shop back as it stands with the present order. */
  private back() {
    if (this.order.length) this.placer.inOrder(this.order);
  }

  private keep() {
    if (this.cost < this.best) {
      this.best = this.cost;
      this.bestPlaces = this.placer.kept();
    }
  }

  /** Takes a schedule found elsewhere as the best. */
  take(places: readonly JobPlace[], cost: number): void {
    this.best = cost;
    this.bestPlaces = places;
  }

  /** Where each job is in the best schedule found; empty if none holds all jobs. */
  places(): readonly JobPlace[] {
    return this.bestPlaces;
  }

  /** So many changes, the first accepted though they cost up to about `heat` more, the last only if they cost no more. */
  anneal(changes: number, heat: number, stop: () => boolean): void {
    const { order, random, placer } = this;
    const n = order.length;
    if (n < 2 || !(this.cost < Infinity)) return;
    for (let x = 0; x < changes && !stop(); x++) {
      const t = heat * (1 - x / changes) ** 2;
      const limit = this.cost - t * Math.log(random() + 1e-12) + 1e-9;
      // more often a job that is late, and then to an earlier place
      let a = Math.floor(random() * n);
      let b: number;
      const kind = random();
      if (kind < 0.35) {
        for (let tries = 0; tries < 3; tries++) {
          const other = Math.floor(random() * n);
          if (this.over(order[other]!) > this.over(order[a]!)) a = other;
        }
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
      let sum = 0;
      for (let i = 0; i < from; i++) sum += placer.at[order[i]!]!.cost;
      let rest = 0;
      const saved = tail.map((job) => {
        rest += placer.least[job]!;
        return placer.take(job)!;
      });
      let put = 0;
      for (; put < moved.length; put++) {
        const job = moved[put]!;
        rest -= placer.least[job]!;
        sum += placer.put(job);
        if (sum + rest > limit) {
          put++;
          break;
        }
      }
      this.spent += put;
      if (sum + rest <= limit) {
        for (let i = 0; i < moved.length; i++) order[from + i] = moved[i]!;
        this.cost = sum;
        this.keep();
      } else {
        for (let i = 0; i < put; i++) placer.take(moved[i]!);
        tail.forEach((job, i) => placer.putBack(job, saved[i]!));
      }
    }
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
