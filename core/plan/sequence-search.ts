import TinyQueue from 'tinyqueue';
import { Chains, type Choice } from './sequence-bound';
import type { Compiled } from './sequence-compile';
import { bitsOf, Met } from './sequence-met';
import { askedNext, copy, finished, mayToggle, powerReached, settle, togglePanel, togglePower, type State } from './sequence-state';

/** Every way on that may be worth going: into a zone where something settles, or with a turn that is a matter of choice. */
function* next(c: Compiled, s: State): Generator<State> {
  const a = askedNext(c, s);
  for (let z = 0; z < c.zones.length; z++) {
    if (z !== s.zone) {
      const to = copy(s);
      settle(c, to, z);
      if (to.steps.length) yield to;
    }
    for (let i = 0; i < c.panels.length; i++) {
      const bit = 1 << i;
      if (c.panels[i]!.zone !== z || !(a.open & bit) || !(a.shut & bit) || !mayToggle(c, s, i)) continue;
      const to = copy(s);
      togglePanel(c, to, i);
      settle(c, to, z);
      yield to;
    }
    if (z === c.power.zone && powerReached(c, s) && a.offTasks && a.onTasks) {
      const to = copy(s);
      togglePower(c, to);
      settle(c, to, z);
      yield to;
    }
  }
}

/** Least `minutes + least` first; among equals what is further on. */
function further(a: State, b: State): number {
  const d = a.minutes + a.least - (b.minutes + b.least);
  return Math.abs(d) > 1e-9 ? d : a.least - b.least;
}

/** A* from one state on, over what is a matter of choice (see `settle`), in as many helpings as wanted. */
export class Search {
  private readonly heap: TinyQueue<State>;
  private readonly met: Met;
  private readonly alike: Int32Array | null;
  private readonly from: State;
  private readonly chains: Chains;
  /** states whose least minutes were reckoned: what a search costs */
  reckoned = 0;

  /** `choices`: of tasks that want a panel on; `c` holds them as an order between tasks already, and they sharpen the bound. */
  constructor(
    private readonly c: Compiled,
    start: State,
    choices: readonly Choice[] = [],
  ) {
    const loose = choices.filter((x) => x.way === 'between');
    if (loose.length) {
      const flags = new Uint8Array(c.tasks.length);
      for (const x of loose) for (const i of [x.task, ...c.usersOf[x.panel]!]) flags[i] = 1;
      this.alike = bitsOf(flags);
    } else this.alike = null;
    this.met = new Met(c, this.alike);
    this.chains = new Chains(c, start, choices);
    this.from = copy(start);
    this.from.from = null;
    if (start.zone >= 0) settle(c, this.from, start.zone);
    this.from.least = finished(this.from) ? 0 : this.leastOf(this.from);
    this.heap = new TinyQueue(this.from.least < Infinity ? [this.from] : [], further);
  }

  private leastOf(s: State): number {
    this.reckoned++;
    return this.chains.least(s);
  }

  /** Minutes that no way to the end goes below; infinite where there is none. */
  get least(): number {
    const s = this.heap.peek();
    return s ? s.minutes + s.least : Infinity;
  }

  /** Reckons about `most` states at most, while none elsewhere promises less than `limit` minutes; the end where it is reached. */
  run(most: number, limit: number, stop: () => boolean = () => false): State | null {
    const until = this.reckoned + most;
    while (this.reckoned < until && this.least <= limit + 1e-9 && !stop()) {
      const s = this.heap.pop();
      if (!s || finished(s)) return s ?? null;
      if (s.beaten) continue;
      for (const to of next(this.c, s)) {
        if (finished(to)) to.least = 0;
        else {
          if (this.met.beaten(to) || (to.least = this.leastOf(to)) === Infinity) continue;
          this.met.keep(to);
        }
        this.heap.push(to);
      }
    }
    return null;
  }

  /** A good way to the end in less than `limit` minutes, level by level with the best few kept, only one once time is out; null where it ends nowhere. */
  beam(width: number, limit: number, stop: () => boolean = () => false): State | null {
    if (finished(this.from)) return this.from;
    let best: State | null = null;
    let level = [this.from];
    // without what was met on earlier levels, so that nobody turns a panel back and forth for ever
    const met = new Met(this.c, this.alike);
    while (level.length) {
      const found: State[] = [];
      for (const s of level) {
        // nothing leads to the end in time
        if (stop() && (best || level.length > 1)) return best;
        for (const to of next(this.c, s)) {
          const most = best?.minutes ?? limit;
          if (finished(to)) {
            if (to.minutes < most - 1e-9) best = to;
            continue;
          }
          if (met.beaten(to)) continue;
          to.least = this.leastOf(to);
          if (to.minutes + to.least >= most - 1e-9) continue;
          met.keep(to);
          found.push(to);
        }
      }
      level = found
        .filter((x) => !x.beaten)
        .sort(further)
        .slice(0, stop() ? 1 : width);
    }
    return best;
  }
}
