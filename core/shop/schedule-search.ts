import { seeded } from '../random';
import { Placer, type JobPlace } from './place-jobs';
import { BoundSearch, type Known } from './schedule-bound';
import { searchAll } from './schedule-exact';
import { grownOrder, growthSteps } from './schedule-grow';
import type { Homes } from './schedule-keep';
import { OrderSearch, usualOrders, type Random } from './schedule-order';
import { endCost, WAITING, type Compiled } from './schedule-problem';

/** How long and for what is looked, see `ScheduleOptions`. */
export interface HowToSearch {
  stop: () => boolean;
  effort: number;
  enough: number;
  quick: boolean;
}

/** Tasks put in, and slots of tasks looked at, that one search spends: together about a second and a half. */
const PUTS = 120_000;
const LOOKS = 40_000_000;
/** Which part of what is put in is kept for the last touch. */
const POLISH = 0.4;
/** How much dearer than the best a change may be at first. */
const HEAT = 0.004;
/** Which part finds an order before there is a bound: of few jobs by changing it, of many by letting it grow where lateness is most of the cost. */
const FIRST = { few: 0.3, many: 0.02, grown: 0.4 };
/** Times that each job is put in while the shop grows, at least: with fewer it is not worth it. */
const GROWTH = 20;
/** Rounds of prices at most, and their share of the looks: on coarse time, then twice on the shop’s own. */
const COARSE = { rounds: 60, share: 0.2 };
const FINE = [
  { rounds: 80, share: 0.3 },
  { rounds: 160, share: 0.5 },
];
/** Rounds of prices before a shop of few tasks is looked through for the first time. */
const SOON = { rounds: 30, share: 1 };
/** Schedules of a shop with so few tasks are looked through whole, so many steps of them at most. */
const FEW = 40;
const NODES = 200_000;
/** Costs so near each other, as a share, are the same. */
export const SURE = 1e-6;

const tasksOf = (c: Compiled): number => c.jobs.reduce((sum, j) => sum + j.tasks.length, 0);

/** The search for a schedule and for its bound, by turns: each gains by the other. */
export class ScheduleSearch {
  /** proved: no schedule costs less */
  bound: number;
  /** nothing costs less than the bound, and something costs as much: what is kept near an earlier plan may cost more */
  private proved = false;
  private readonly orders: OrderSearch;
  private readonly prices: BoundSearch;
  private readonly random: Random = seeded(1);
  /** jobs put in at most */
  private readonly puts: number;

  /**
   * @param placer the empty shop
   * @param homes an earlier plan: what is searched for then costs least together with what is moved for it
   */
  constructor(
    private readonly c: Compiled,
    placer: Placer,
    private readonly homes: Homes | null,
    private readonly how: HowToSearch,
  ) {
    this.puts = (PUTS * how.effort * c.jobs.length) / Math.max(1, tasksOf(c));
    this.bound = placer.least.reduce((a, b) => a + b, 0);
    this.orders = new OrderSearch(c, placer, usualOrders(c, placer.least), this.random);
    if (homes) this.orders.take(homes.asBefore(placer), () => placer.kept());
    this.prices = new BoundSearch(c, placer.least, (order) => this.orders.begin(order));
  }

  /** Where the jobs are in the best schedule found; empty if none holds all of them. */
  get places(): readonly JobPlace[] {
    return this.orders.places();
  }
  /** What it costs. */
  get cost(): number {
    return this.orders.best < Infinity ? this.places.reduce((sum, p, n) => sum + endCost(this.c.jobs[n]!, p.done), 0) : Infinity;
  }

  run(): void {
    const { jobs } = this.c;
    if (jobs.length < 2) return;
    if (tasksOf(this.c) <= FEW) this.amongFew();
    else this.amongMany();
  }

  private amongFew(): void {
    const { puts, how, c } = this;
    this.anneal(30 * c.jobs.length * Math.min(1, how.effort));
    this.raise(SOON);
    this.lookThrough((NODES / 20) * how.effort);
    this.coarse();
    for (const part of FINE) {
      this.raise(part);
      this.anneal(puts * (1 - POLISH));
    }
    this.lookThrough(NODES * how.effort);
  }

  private amongMany(): void {
    const { puts, how } = this;
    const grown = this.growing() && this.grow();
    if (!grown) this.anneal(puts * FIRST.few);
    if (!how.quick) this.coarse();
    // a bound before the rest of the search, for who stops early, and beneath the best of it
    for (const part of FINE) {
      if (!how.quick) this.raise(part);
      // changed among all of them at once, one that has grown hardly gets better any more
      if (!grown) this.anneal(puts * (1 - POLISH));
      this.polish((puts * POLISH) / FINE.length);
    }
  }

  private going(): boolean {
    const { cost, bound, how } = this;
    return cost - bound > Math.max(how.enough, SURE * Math.max(1, Math.abs(bound))) && cost < Infinity && !how.stop();
  }

  private known(): Known {
    return { cost: this.cost, end: Math.max(...this.places.map((p) => p.done)) };
  }

  /** Changes the order of all jobs until so many were put in since the beginning. */
  private anneal(until: number): void {
    const { orders, c, how } = this;
    while (this.going() && orders.spent < until) orders.anneal(Math.min(400, 20 * c.jobs.length), orders.best * HEAT, how.stop);
  }

  private polish(puts: number): void {
    if (this.going()) this.orders.polish(puts, this.orders.best * HEAT, this.how.stop);
  }

  /** Whether there is what it takes to let an order grow. */
  private growing(): boolean {
    return growthSteps(this.c) > 1 && this.puts * FIRST.grown > GROWTH * this.c.jobs.length;
  }

  /** Lets an order grow where lateness is most of the cost. @returns whether it did */
  private grow(): boolean {
    const { c, orders, puts, random, how } = this;
    this.anneal(puts * FIRST.many);
    if (!this.going() || this.cost <= 2 * WAITING * this.places.reduce((sum, p) => sum + p.done, 0)) return false;
    const placerOf = (part: Compiled, jobs: readonly number[]) => this.homes?.placer(part, jobs) ?? new Placer(part);
    const { order, spent } = grownOrder(c, puts * FIRST.grown, random, how.stop, placerOf);
    orders.spent += spent;
    orders.begin(order);
    return true;
  }

  private coarse(): void {
    if (this.going() && !this.proved) this.prices.coarse(this.known(), this.patience(COARSE));
  }

  private raise(part: { rounds: number; share: number }): void {
    if (this.going() && !this.proved) this.bound = Math.max(this.bound, this.prices.raise(this.known(), this.patience(part)));
  }

  private patience({ rounds, share }: { rounds: number; share: number }) {
    return { rounds, looks: LOOKS * share * this.how.effort, stop: this.how.stop };
  }

  /** Looks through every schedule that could cost less, so many steps of them at most: found none, the best is proved. */
  private lookThrough(nodes: number): void {
    if (!this.going() || this.proved) return;
    const { c, prices, orders, homes, how, cost } = this;
    const found = searchAll(c, prices.settled(this.known()), cost, nodes, how.stop);
    if (found.places) orders.take(found.cost + (homes?.moved(found.places) ?? 0), () => found.places!);
    this.proved = found.done;
    if (found.done) this.bound = Math.min(cost, found.cost);
  }
}
