import { commonStep, slotCount, type Cut } from './schedule-cut';
import { PricedShop, type Prices } from './schedule-prices';
import type { Compiled } from './schedule-problem';

/** Slots of coarse time. */
const COARSE_SLOTS = 700;
/** Minutes with one price, at least. */
const STRETCH = 5;

/** A schedule that is known: what it costs, and when all its work is done. From then on time needs no price, as nobody is short of it. */
export interface Known {
  cost: number;
  end: number;
}

/** How long to follow prices: rounds and looks at most. */
export interface Patience {
  rounds: number;
  looks: number;
  stop: () => boolean;
}

/** What a schedule costs at least, found by prices of time that follow what is asked for too much: on coarse time, and on the shop’s own. */
export class BoundSearch {
  private prices: { of: Prices; stretch: number } | null = null;
  private readonly own: number;
  /** on the shop’s own time, without what could not better a cost that was known then */
  private fine: { shop: PricedShop; cut: Cut } | null = null;

  /** @param order told the orders in which jobs begin and end at the prices of now and then */
  constructor(
    private readonly c: Compiled,
    private readonly least: Float64Array,
    private readonly order: (jobs: readonly number[]) => void,
  ) {
    this.own = commonStep(c);
  }

  /** Follows prices on coarse time: no bound yet, but where those of the shop’s own time begin. */
  coarse(known: Known, patience: Patience): void {
    const { c, own, least } = this;
    const step = own * Math.ceil(slotCount(c, own, known.cost, least) / COARSE_SLOTS);
    if (step === own) return;
    const cut = { step, stretch: step, rough: true, until: known.end };
    this.follow(new PricedShop(c, cut, known.cost, least), cut, known.cost, patience);
  }

  /** @returns the best bound found */
  raise(known: Known, patience: Patience): number {
    const { shop, cut } = this.ownTime(known);
    return this.follow(shop, cut, known.cost, patience);
  }

  /** The shop at the best prices found. */
  settled(known: Known): PricedShop {
    const { shop, cut } = this.ownTime(known);
    shop.bound(this.begin(shop, cut));
    shop.settle();
    return shop;
  }

  private ownTime(known: Known): { shop: PricedShop; cut: Cut } {
    const cut = { step: this.own, stretch: Math.max(this.own, STRETCH), until: known.end };
    return (this.fine ??= { cut, shop: new PricedShop(this.c, cut, known.cost, this.least) });
  }

  /** The best prices so far, in the stretches of a shop. */
  private begin(shop: PricedShop, cut: Cut): Prices {
    const prices = shop.nothing();
    const { prices: known } = this;
    if (known)
      prices.forEach((p, i) => {
        for (let k = 0; k < p.length; k++) p[k] = known.of[i]![Math.floor((k * cut.stretch) / known.stretch)] ?? 0;
      });
    return prices;
  }

  /**
   * A subgradient method with a deflected direction, whose step aims a little above the best bound
   * (Polyak 1969; Camerini, Fratta and Maffioli 1975, from memory).
   * @returns the best bound found; of rough times it is none
   */
  private follow(shop: PricedShop, cut: Cut, upper: number, { rounds, looks, stop }: Patience): number {
    const { c } = this;
    const prices = this.begin(shop, cut);
    const way = shop.nothing();
    let best = -Infinity;
    let f = this.prices ? 0.3 : 1;
    let stale = 0;
    let aim = 0;
    let spent = 0;
    for (let x = 0; x < rounds && (x < 3 || spent < looks) && !stop(); x++) {
      spent += shop.work;
      const bound = shop.bound(prices);
      if (bound === Infinity) return upper;
      if (bound > best) {
        best = bound;
        this.prices = { of: prices.map((p) => p.slice()), stretch: cut.stretch };
        stale = 0;
        f *= 1.1;
        if (!cut.rough) shop.leaveOut(upper - bound);
      } else if (++stale >= 8) {
        f *= 0.7;
        stale = 0;
        // gone too far to come back in steps as short as they are now
        if (bound < best - (upper - best)) {
          this.prices!.of.forEach((p, i) => prices[i]!.set(p));
          for (const w of way) w.fill(0);
          continue;
        }
      }
      if (x === 0) aim = bound + Math.max(0.3 * Math.abs(bound), 1);
      if (best > aim - 0.1 * Math.abs(aim)) aim += 0.2 * Math.abs(aim);
      const excess = shop.excess();
      if (x % 8 === 0)
        for (const key of [shop.begins, shop.ends])
          this.order(c.jobs.map((_, n) => n).sort((a, b) => key[a]! - key[b]! || c.jobs[a]!.due - c.jobs[b]!.due));
      let norm = 0;
      for (let p = 0; p < way.length; p++)
        for (let k = 0; k < shop.stretches; k++) {
          const d = (way[p]![k] = excess[p]![k]! + 0.95 * way[p]![k]!);
          if (prices[p]![k]! > 0 || d > 0) norm += d * d;
        }
      if (!norm) break;
      const length = (f * Math.max(1e-6, Math.min(upper, aim) - bound)) / norm;
      for (let p = 0; p < way.length; p++)
        for (let k = 0; k < shop.stretches; k++) prices[p]![k] = Math.max(0, prices[p]![k]! + length * way[p]![k]!);
    }
    return best;
  }
}
