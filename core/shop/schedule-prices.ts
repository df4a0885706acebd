import { latestEnds, type Cut } from './schedule-cut';
import { poolsOf, within, type Pool } from './schedule-pools';
import { endCost, type Compiled, type Crew } from './schedule-problem';
import { crewSlots, NO_WAYS, slotAt, slotsOf, soonest, waysOf, type CrewSlots, type SlotTime, type Ways } from './slots';

/** Tasks that the same people can do, with the same number of hands: an hour of such work costs the same whoever does it. */
interface Kind {
  /** when each crew works that could do it, once where several work at the same times */
  crews: CrewSlots;
  /** pools that it takes one of each from; one may stand in it twice */
  pools: readonly number[];
  /** price of the slots of each crew, summed */
  cum: Float64Array;
  /** by crew, where its slots begin in that list, where those begin that have no price, and where all end */
  parts: readonly { from: number; priced: number; end: number }[];
}
interface SlotTask {
  length: number;
  wait: number;
  kind: number;
  /** the first slot at which it may be ready, alone in the shop */
  head: number;
  /** how it may be done so that the job ends in time, the first `used` of them */
  ways: Ways;
  used: number;
  /** those that begin while time has a price */
  priced: number;
  /** what the job’s end costs with each way, of its last task */
  ended: Float64Array;
}
interface SlotJob {
  ready: number;
  due: number;
  weight: number;
  tasks: SlotTask[];
  bayFrom: number;
  bayTo: number;
  /** which of the bays’ kinds */
  bay: number;
  /** no better schedule has it end after this slot’s beginning */
  latest: number;
}

/** A price for each stretch of time of each pool, not below zero, for a minute. */
export type Prices = Float64Array[];

/**
 * What a schedule costs at least. That a person does one thing at a time and a bay holds one unit is relaxed to: of every set of
 * people or bays that some work must choose from, no more is used in an hour than there is. Each such hour has a price, each job
 * chooses for itself the cheapest way through (exactly, by dynamic programming backwards in time), and what the prices earn for the
 * time there is, is taken off. Every set of prices gives a bound; better ones follow what is asked for too much
 * (Held and Karp 1971; Fisher 1981, from memory).
 */
export class PricedShop {
  readonly stretches: number;
  readonly pools: readonly Pool[];
  private readonly peoplePools: number;
  private readonly time: SlotTime;
  readonly count: number;
  /** the first slot that has no price, nor has any after it */
  private readonly until: number;
  private readonly stretchOf: Int32Array;
  readonly step: number;
  private readonly kinds: Kind[] = [];
  private readonly bayKinds: { pools: number[]; cum: Float64Array }[] = [];
  private readonly poolCum: Float64Array[];
  private readonly jobs: SlotJob[];
  /** per job and task: cost from there on, by the slot from which it is ready; in a bay, without the rent from there until time costs nothing */
  private readonly togo: Float64Array[][];
  private readonly chosen: Int32Array[][];
  /** when each job begins and ends at the prices last asked with, in minutes */
  readonly begins: Float64Array;
  readonly ends: Float64Array;

  /**
   * @param upper cost of a schedule that is known: ends that could not better it are left out
   * @param least what each job costs alone in the shop
   */
  constructor(
    private readonly c: Compiled,
    { step, stretch, rough = false, until = Infinity }: Cut,
    upper: number,
    least: Float64Array,
  ) {
    this.step = step;
    const whole = (minutes: number) => (rough ? Math.round(minutes / step) : Math.floor(minutes / step + 1e-9));
    const latest = latestEnds(c, upper, least);
    const slots = slotsOf(c, step, Math.max(0, ...latest));
    this.time = slots;
    this.count = slots.count;
    const { count } = this;
    this.stretchOf = Int32Array.from(slots.at, (t) => Math.floor((t * step - c.now) / stretch));
    this.until = until < Infinity ? slotAt(slots, Math.max(0, Math.ceil(until / step))) : count;
    this.stretches = this.until ? this.stretchOf[this.until - 1]! + 1 : 0;
    // people that each task must choose from
    const ableOf = (t: Compiled['jobs'][number]['tasks'][number]) => [...new Set(t.crews.flatMap((x) => x.able))].sort((a, b) => a - b);
    const wanted = new Map<string, { able: number[]; hands: number; crews: readonly Crew[] }>();
    const keyOf = (t: Compiled['jobs'][number]['tasks'][number]) => `${t.crews[0]!.who.length} ${ableOf(t).join(' ')}`;
    for (const j of c.jobs)
      for (const t of j.tasks)
        if (!wanted.has(keyOf(t))) wanted.set(keyOf(t), { able: ableOf(t), hands: t.crews[0]!.who.length, crews: t.crews });
    const peopleSets = poolsOf(
      [...wanted.values()].map((w) => w.able),
      c.people.length,
    );
    const baySets = poolsOf(
      c.jobs.map((j) => j.bays).filter((b) => b.length),
      c.bayCount,
    );
    this.peoplePools = peopleSets.length;
    this.pools = [
      ...peopleSets.map((members): Pool => {
        const there = new Float64Array(count);
        for (const m of members) for (const s of slots.people[m]!) there[s]!++;
        return { members, there };
      }),
      ...baySets.map((members): Pool => ({ members, there: new Float64Array(count).fill(members.length) })),
    ];
    this.poolCum = this.pools.map(() => new Float64Array(count + 1));
    const kindOf = new Map<string, number>();
    for (const [key, { able, hands, crews }] of wanted) {
      const pools = peopleSets.flatMap((set, p) => (within(able, set) ? [p] : []));
      if (hands === 2) peopleSets.forEach((set, p) => set.length === c.people.length && pools.push(p));
      kindOf.set(key, this.kinds.length);
      const found = crewSlots(
        slots,
        crews.map((x) => x.who),
      );
      let from = 0;
      const parts = found.crews.map(({ end }) => {
        const part = { from, priced: from, end };
        while (part.priced < end && found.list[part.priced]! < this.until) part.priced++;
        from = end + 1;
        return part;
      });
      this.kinds.push({ crews: found, pools, cum: new Float64Array(found.list.length), parts });
    }
    const bayOf = new Map<string, number>();
    const bayKind = (bays: readonly number[]) => {
      const key = [...bays].sort((a, b) => a - b).join(' ');
      let k = bayOf.get(key);
      if (k === undefined) {
        bayOf.set(key, (k = this.bayKinds.length));
        this.bayKinds.push({
          pools: baySets.flatMap((set, p) => (within(bays, set) ? [p + this.peoplePools] : [])),
          cum: new Float64Array(count + 1),
        });
      }
      return k;
    };
    this.jobs = c.jobs.map((j, n) => ({
      ready: this.slotFrom(j.ready),
      due: j.due,
      weight: j.weight,
      tasks: j.tasks.map((t) => ({
        length: whole(t.minutes),
        wait: whole(t.wait),
        kind: kindOf.get(keyOf(t))!,
        head: 0,
        ways: NO_WAYS,
        used: 0,
        priced: 0,
        ended: new Float64Array(),
      })),
      bayFrom: j.bayFrom,
      bayTo: j.bayTo,
      bay: j.bayFrom >= 0 ? bayKind(j.bays) : -1,
      // rounded times may come to more than those of the schedule that is known
      latest: this.latestSlot(latest[n]! + (rough ? j.tasks.length * step : 0)),
    }));
    for (const j of this.jobs) this.narrow(j);
    this.togo = this.jobs.map((j) => j.tasks.map(() => new Float64Array(count + 1).fill(Infinity)));
    this.chosen = this.jobs.map((j) => j.tasks.map(() => new Int32Array(count + 1)));
    this.begins = new Float64Array(c.jobs.length);
    this.ends = new Float64Array(c.jobs.length);
    this.jobs.forEach((_, n) => this.afterPrices(n));
  }

  /** When the tasks of a job may begin: as soon as those before them let them, and so that it ends before `latest`. */
  private narrow(j: SlotJob): void {
    const { time } = this;
    let ready = j.ready;
    for (const t of j.tasks) {
      t.head = ready;
      ready = soonest(time, this.kinds[t.kind]!.crews, t.length, t.wait, ready);
    }
    let before = j.latest;
    for (const t of [...j.tasks].reverse()) {
      t.ways = waysOf(time, this.kinds[t.kind]!.crews, t.length, t.wait, t.head, before);
      t.used = t.ways.from.length;
      t.priced = pricedWays(t.ways, this.until);
      // what leads to it is over by then
      before = t.ways.from.length ? t.ways.start.at(-1)! : -1;
    }
    const last = j.tasks.at(-1);
    if (last) last.ended = Float64Array.from(last.ways.over, (r) => endCost(j, r * this.step));
  }

  private slotFrom(minute: number): number {
    return slotAt(this.time, Math.max(0, Math.floor(minute / this.step + 1e-9)));
  }

  /** What one round of prices looks at: ways to do tasks, and slots of pools. */
  get work(): number {
    return this.jobs.reduce((sum, j) => sum + j.tasks.reduce((x, t) => x + Math.min(t.used, t.priced), 0), this.until * this.pools.length);
  }

  /** Prices of nothing. */
  nothing(): Prices {
    return this.pools.map(() => new Float64Array(this.stretches));
  }

  /** What all jobs cost at least at these prices; Infinity says that nothing betters what is known. */
  bound(prices: Prices): number {
    const { count, stretchOf, step, until } = this;
    let earned = 0;
    this.pools.forEach((pool, p) => {
      const cum = this.poolCum[p]!;
      const price = prices[p]!;
      for (let s = 0; s < until; s++) {
        const x = price[stretchOf[s]!]! * step;
        cum[s + 1] = cum[s]! + x;
        earned += x * pool.there[s]!;
      }
      cum.fill(cum[until]!, until + 1, count + 1);
    });
    const price = new Float64Array(until);
    for (const { crews, pools, cum, parts } of this.kinds) {
      price.fill(0);
      for (const p of pools) {
        const of = this.poolCum[p]!;
        for (let s = 0; s < until; s++) price[s]! += of[s + 1]! - of[s]!;
      }
      // each crew’s slots are summed from its first one on
      for (const { from, priced, end } of parts) {
        for (let i = from; i < priced; i++) cum[i + 1] = cum[i]! + price[crews.list[i]!]!;
        cum.fill(cum[priced]!, priced + 1, end + 1);
      }
    }
    for (const kind of this.bayKinds) {
      const by = kind.pools.map((p) => this.poolCum[p]!);
      for (let s = 0; s < until; s++) {
        let x = 0;
        for (const c of by) x += c[s]! - c[until]!;
        kind.cum[s] = x;
      }
    }
    let sum = 0;
    for (let n = 0; n < this.jobs.length; n++) sum += this.job(n);
    return sum - earned;
  }

  private latestSlot(minute: number): number {
    return Math.min(this.count, this.slotFrom(minute + this.step) + 1);
  }

  private job(n: number): number {
    const { tasks, ready } = this.jobs[n]!;
    if (!tasks.length) return endCost(this.jobs[n]!, this.c.jobs[n]!.ready);
    for (let k = tasks.length - 1; k >= 0; k--) {
      const { used, priced, ways } = tasks[k]!;
      if (used > priced) this.back(n, k, priced, 0, this.until);
      else this.back(n, k, used, 0, used ? ways.start[used - 1]! + 1 : 0);
    }
    return this.togo[n]![0]![ready]!;
  }

  /** What a job costs from each of its tasks on once time has no price: known for all prices. */
  private afterPrices(n: number): void {
    const { tasks } = this.jobs[n]!;
    for (let k = tasks.length - 1; k >= 0; k--) {
      const { used, priced, ways, head } = tasks[k]!;
      if (used > priced) this.back(n, k, used, priced, ways.start[used - 1]! + 1, Math.max(head, this.until));
    }
  }

  /**
   * What a job costs from a task on, by the slot at which that is ready: from the slot `s` on it is known, and from there backwards
   * what is best is known as it is passed. Ways from `top` down to `low` begin between.
   */
  private back(n: number, k: number, top: number, low: number, s: number, down = this.jobs[n]!.tasks[k]!.head): void {
    const j = this.jobs[n]!;
    const { length, kind, ways, ended } = j.tasks[k]!;
    const { start, from, next: after } = ways;
    const { cum } = this.kinds[kind]!;
    const h = this.togo[n]![k]!;
    const ch = this.chosen[n]![k]!;
    const next = k < j.tasks.length - 1 ? this.togo[n]![k + 1]! : null;
    const cumBay = j.bay >= 0 ? this.bayKinds[j.bay]!.cum : null;
    const leaves = k === j.bayTo ? cumBay : null;
    const enters = k === j.bayFrom ? cumBay : null;
    let best = h[s]!;
    let bestAt = ch[s]!;
    for (let i = top - 1; i >= low; i--) {
      const here = start[i]!;
      let v = next ? next[after[i]!]! : ended[i]!;
      if (leaves) v += leaves[after[i]!]!;
      if (enters) v -= enters[here]!;
      if (length) v += cum[from[i]! + length]! - cum[from[i]!]!;
      // slots between this start and the one after it wait for that one
      while (s > here + 1) {
        s--;
        h[s] = best;
        ch[s] = bestAt;
      }
      if (v < best) {
        best = v;
        bestAt = i;
      }
      s = here;
      h[s] = best;
      ch[s] = bestAt;
    }
    while (s > down) {
      s--;
      h[s] = best;
      ch[s] = bestAt;
    }
  }

  /**
   * Leaves out late ways to do tasks that no schedule cheaper than a known one takes: at the prices last asked with, the job would
   * cost by more than `slack` above its least, which is all that lies between bound and known.
   */
  leaveOut(slack: number): void {
    this.jobs.forEach((j, n) =>
      j.tasks.forEach((t, k) => {
        // what comes before a task costs nothing at least
        const most = this.togo[n]![0]![j.ready]! + slack * (1 + 1e-9) + 1e-6;
        const { start } = t.ways;
        const was = t.used;
        while (t.used && this.toGoFrom(n, k, start[t.used - 1]!) > most) t.used--;
        if (t.used < was) this.togo[n]![k]!.fill(Infinity, t.used ? start[t.used - 1]! + 1 : t.head);
      }),
    );
  }

  /** How much more is asked for than there is, in minutes by pool and stretch, at the prices last asked with; also sets `begins` and `ends`. */
  excess(): Float64Array[] {
    const { step, stretchOf, time, until } = this;
    const out = this.pools.map((pool) => {
      const x = new Float64Array(this.stretches);
      for (let s = 0; s < until; s++) x[stretchOf[s]!]! -= pool.there[s]! * step;
      return x;
    });
    this.jobs.forEach((j, n) => {
      let s = j.ready;
      let bayAt = -1;
      for (let k = 0; k < j.tasks.length; k++) {
        if (!(this.togo[n]![k]![s]! < Infinity)) break;
        const i = this.chosen[n]![k]![s]!;
        const { length, kind, ways } = j.tasks[k]!;
        const { crews, pools } = this.kinds[kind]!;
        const here = ways.start[i]!;
        if (k === 0) this.begins[n] = time.at[here]! * step;
        for (let x = ways.from[i]!; x < ways.from[i]! + length && crews.list[x]! < until; x++)
          for (const p of pools) out[p]![stretchOf[crews.list[x]!]!]! += step;
        if (k === j.bayFrom) bayAt = here;
        s = ways.next[i]!;
        if (k === j.bayTo && bayAt >= 0)
          for (const p of this.bayKinds[j.bay]!.pools) for (let x = bayAt; x < s && x < until; x++) out[p]![stretchOf[x]!]! += step;
        this.ends[n] = ways.over[i]! * step;
      }
    });
    return out;
  }

  /** What a job costs from a task on, ready at a minute, at the prices last asked with. */
  toGo(n: number, k: number, minute: number): number {
    return this.toGoFrom(n, k, this.slotFrom(minute));
  }
  private toGoFrom(n: number, k: number, s: number): number {
    const j = this.jobs[n]!;
    const v = this.togo[n]![k]![s]!;
    // within a bay, the rent from here on
    return k > j.bayFrom && k <= j.bayTo && j.bayFrom >= 0 ? v - this.bayKinds[j.bay]!.cum[s]! : v;
  }
  /** What the bay of a job costs between two minutes. */
  rent(n: number, from: number, to: number): number {
    const bay = this.jobs[n]!.bay;
    if (bay < 0) return 0;
    const { cum } = this.bayKinds[bay]!;
    return cum[this.slotFrom(to)]! - cum[this.slotFrom(from)]!;
  }
  private personLeft: Float64Array[] = [];
  private bayLeft: Float64Array[] = [];
  /** Makes what is asked of a time known, for the prices last asked with. */
  settle() {
    const { count } = this;
    const left = (of: (slot: number) => number) => {
      const x = new Float64Array(count + 1);
      for (let s = count - 1; s >= 0; s--) x[s] = x[s + 1]! + of(s);
      return x;
    };
    const price = (pools: readonly number[], s: number) =>
      pools.reduce((sum, p) => sum + this.poolCum[p]![s + 1]! - this.poolCum[p]![s]!, 0);
    const of = (member: number, from: number, to: number) =>
      this.pools.flatMap((pool, p) => (p >= from && p < to && pool.members.includes(member) ? [p] : []));
    this.personLeft = this.time.people.map((list, i) => {
      const pools = of(i, 0, this.peoplePools);
      const works = new Uint8Array(count);
      for (const s of list) works[s] = 1;
      return left((s) => (works[s] ? price(pools, s) : 0));
    });
    this.bayLeft = Array.from({ length: this.c.bayCount }, (_, b) => {
      const pools = of(b, this.peoplePools, this.pools.length);
      return left((s) => price(pools, s));
    });
  }
  /** What a person’s time from a minute on earns. */
  personFrom(i: number, minute: number): number {
    return this.personLeft[i]![this.slotFrom(minute)]!;
  }
  /** What a bay earns from a minute on. */
  bayFrom(b: number, minute: number): number {
    return this.bayLeft[b]![this.slotFrom(minute)]!;
  }
}

/** Of ways to do a task those that begin before a slot: the first so many. */
function pricedWays({ start }: Ways, until: number): number {
  let count = start.length;
  while (count && start[count - 1]! >= until) count--;
  return count;
}
