import { ImpossibleInput } from '../errors';
import { loadAt, type Element, type Load } from './element';
import { merge, shareAmps, type Merged } from './merge';
import { entryOf, factor, planElimination, substitute, type Plan } from './ldl';

/** A network that has no steady answer, or none that was found; the message says which element stands in the way. */
export class NoOperatingPoint extends ImpossibleInput {}

export interface Solution {
  volts: ReadonlyMap<string, number>;
  amps: ReadonlyMap<string, number>;
  iterations: number;
  /** the largest sum of amperes at a node that should be zero */
  residualA: number;
}

/** Own resistance of a conducting diode, ohms: small beside any wire, so that the figure is its forward volts. */
const DIODE_OHMS = 1e-4;
const MAX_ROUNDS = 200;
/** Of slow rounds, where quick ones do not settle. */
const MAX_SINKING = 2000;
const KCL_A = 1e-10;
/** A round that left less than this of what was wrong is near enough to keep its factors for the next. */
const NEAR = 1e-2;
/** Large currents are rounded more coarsely, up to here: more would let a point that only leaks settle anywhere. */
const MOST_SCALE = 20;
/** A round with kept factors that leaves more than this of it is taken back. */
const STALE = 0.1;
/** Amperes wrong at the worst point that a small change leaves. */
const SMALL_A = 0.05;
const POWER = 1;
const DIODE = 2;
const CURVE = 3;
const NOTHING = { amps: 0, slope: 0 };

/**
 * A network of fixed shape. `set` changes figures of its elements and `solve` finds the operating point: Newton's method
 * on Kirchhoff's current law, node by node, started from the volts with all loads off, so that a constant-power load
 * settles on the higher of its two answers. Diodes that keep flipping are settled one at a time, the first first (Murty).
 */
export class Network {
  readonly nodes: readonly string[];
  readonly elements: Element[];
  private readonly index: ReadonlyMap<string, number>;
  private readonly merged: Merged;
  private readonly plan: Plan;
  /** each element's ends as rows in elimination order; ground is the row after the last */
  private readonly a: Int32Array;
  private readonly b: Int32Array;
  private readonly entry: Int32Array;
  private readonly offset: Float64Array;
  /** elements that merging left: those whose amperes are linear in volts, side by side with what the rounds read of them … */
  private readonly straight: Int32Array;
  private readonly rows: Int32Array;
  private readonly line: Float64Array;
  private readonly slot: Int32Array;
  /** … and those whose are not */
  private readonly bent: Int32Array;
  /** elements that somebody may have changed since they were read */
  private readonly handed = new Set<number>();
  private factored = false;
  /** the last answers that rounds were taken for, newest first, and when: a sweep's next one is foretold from them */
  private readonly trail: Trail;
  private readonly was: Float64Array;
  private ready = false;
  private finds = 0;
  private readonly hasDiodes: boolean;
  private readonly hasLoads: boolean;
  private readonly x: Float64Array;
  private readonly rhs: Float64Array;
  private readonly own: Float64Array;
  private readonly baseOff: Float64Array;
  private readonly baseDiagonal: Float64Array;
  private readonly baseOwn: Float64Array;
  private readonly leak: Float64Array;
  private readonly flow: Float64Array;
  private readonly slope: Float64Array;
  /** how an element's amperes follow its volts, and the figures of that */
  private readonly code: Uint8Array;
  private readonly fixed: Float64Array;
  private readonly knee: Float64Array;
  private readonly on: Uint8Array;
  private readonly positions: ReadonlyMap<string, number>;

  /**
   * @param ground the node that volts are counted from
   * @throws ImpossibleInput for an element joined to itself, a figure that cannot be, or sources that short each other
   */
  constructor(elements: readonly Element[], ground: string) {
    this.elements = elements.map((e) => ({ ...e }));
    this.elements.forEach(check);
    this.positions = new Map(this.elements.map((e, i) => [e.id, i]));
    if (this.positions.size !== elements.length) {
      const twice = elements.find((e, i) => elements.findIndex((o) => o.id === e.id) !== i)!;
      throw new ImpossibleInput(`“${twice.id}” is there twice`, 'elements');
    }
    this.nodes = [...new Set([ground, ...elements.flatMap((e) => [e.from, e.to])])];
    this.index = new Map(this.nodes.map((n, i) => [n, i]));
    this.merged = merge(this.elements, this.nodes, this.index);
    const { group, ideal } = this.merged;
    const n = this.merged.groups - 1;
    const at = (node: string) => group[this.index.get(node)!]! - 1;
    const pairs = this.elements.flatMap((e, i) => (at(e.from) >= 0 && at(e.to) >= 0 && !ideal[i] ? [[at(e.from), at(e.to)] as const] : []));
    this.plan = planElimination(n, pairs);
    const row = (node: string) => (at(node) < 0 ? n : this.plan.place[at(node)]!);
    this.a = Int32Array.from(this.elements, (e) => row(e.from));
    this.b = Int32Array.from(this.elements, (e) => row(e.to));
    this.entry = Int32Array.from(this.elements, (e, i) =>
      ideal[i] || this.a[i] === n || this.b[i] === n || this.a[i] === this.b[i] ? -1 : entryOf(this.plan, at(e.from), at(e.to)),
    );
    const all = this.elements.map((_, i) => i).filter((i) => !ideal[i] && this.elements[i]!.kind !== 'switch');
    const curved = (i: number) => ['load', 'diode'].includes(this.elements[i]!.kind);
    this.straight = Int32Array.from(all.filter((i) => !curved(i)));
    this.bent = Int32Array.from(all.filter(curved));
    this.rows = Int32Array.from([...this.straight].flatMap((i) => [this.a[i]!, this.b[i]!]));
    this.line = new Float64Array(this.rows.length);
    this.slot = new Int32Array(elements.length);
    this.straight.forEach((i, k) => (this.slot[i] = 2 * k));
    this.x = new Float64Array(n + 1);
    this.hasDiodes = this.elements.some((e) => e.kind === 'diode');
    this.hasLoads = this.elements.some((e) => e.kind === 'load');
    this.trail = new Trail(n + 1);
    this.was = new Float64Array(n + 1);
    this.rhs = new Float64Array(n);
    this.own = new Float64Array(n + 1);
    this.baseOwn = new Float64Array(n + 1);
    this.baseDiagonal = new Float64Array(n + 1);
    this.baseOff = new Float64Array(this.plan.off.length);
    this.leak = new Float64Array(n + 1);
    this.flow = new Float64Array(elements.length);
    this.slope = new Float64Array(elements.length);
    this.code = new Uint8Array(elements.length);
    this.fixed = new Float64Array(elements.length);
    this.knee = new Float64Array(elements.length);
    this.on = new Uint8Array(elements.length);
    this.offset = new Float64Array(elements.length);
    this.refreshOffsets();
  }

  private refreshOffsets(): void {
    const { shift } = this.merged;
    this.elements.forEach((e, i) => (this.offset[i] = shift[this.index.get(e.from)!]! - shift[this.index.get(e.to)!]!));
  }

  /** The element of that id, to change its figures (not its kind, its ends, nor whether it has any resistance) before the next `solve`. */
  element(id: string): Element {
    const i = this.positions.get(id);
    if (i === undefined) throw new ImpossibleInput(`no element “${id}”`, 'elements');
    this.handed.add(i);
    return this.elements[i]!;
  }

  /** Writes elements' figures where the rounds read them, and sums up what is linear, which no round changes. */
  private read(which: Iterable<number>): void {
    const { code, fixed, slope, knee, a, b, entry, baseOff, baseDiagonal, baseOwn } = this;
    const { slot, line, offset } = this;
    for (const i of which) {
      const e = this.elements[i]!;
      const at = slot[i]!;
      switch (e.kind) {
        case 'R':
        case 'V': {
          if (this.merged.ideal[i]) break;
          const g = 1 / e.ohms;
          fixed[i] = e.kind === 'V' ? -g * e.volts : 0;
          const more = g - slope[i]!;
          slope[i] = g;
          line[at] = g;
          line[at + 1] = g * offset[i]! + fixed[i]!;
          if (more === 0 || a[i] === b[i]) break;
          this.factored = false;
          baseDiagonal[a[i]!]! += more;
          baseDiagonal[b[i]!]! += more;
          baseOwn[a[i]!]! += more;
          baseOwn[b[i]!]! += more;
          if (entry[i]! >= 0) baseOff[entry[i]!]! -= more;
          break;
        }
        case 'I':
          fixed[i] = e.amps;
          line[at + 1] = e.amps;
          break;
        case 'load':
          code[i] = e.law === 'constant-power' ? POWER : CURVE;
          fixed[i] = e.watts;
          knee[i] = e.minVolts > 0 ? e.minVolts : e.volts * 1e-3;
          break;
        case 'diode':
          code[i] = DIODE;
          fixed[i] = e.volts;
          break;
        case 'switch':
          break;
      }
    }
  }
  /** Reads all afresh. */
  private readAll(): void {
    this.baseOff.fill(0);
    this.baseDiagonal.fill(0);
    this.baseOwn.fill(0);
    this.slope.fill(0);
    this.factored = false;
    this.read(this.elements.keys());
  }

  /** Amperes and slopes of all elements at the volts at hand; sums amperes leaving every node into `leak` and returns the largest. */
  private kirchhoff(loads: boolean): number {
    const { a, b, flow, slope, leak, x, offset, code, fixed, knee, on, rows, line, bent } = this;
    leak.fill(0);
    for (let k = 0; k < rows.length; k += 2) {
      const from = rows[k]!;
      const to = rows[k + 1]!;
      const f = line[k]! * (x[from]! - x[to]!) + line[k + 1]!;
      leak[from]! += f;
      leak[to]! -= f;
    }
    for (let k = 0; k < bent.length; k++) {
      const i = bent[k]!;
      const from = a[i]!;
      const to = b[i]!;
      const v = x[from]! - x[to]! + offset[i]!;
      let f: number;
      switch (code[i]) {
        case POWER: {
          const w = fixed[i]!;
          const least = knee[i]!;
          if (!loads) f = slope[i] = 0;
          else if (v >= least) {
            const g = 1 / v;
            f = w * g;
            slope[i] = -f * g;
          } else if (v < 0 && (this.elements[i] as Load).oneWay) f = slope[i] = 0;
          else if (v <= -least) {
            f = w / v;
            slope[i] = -f / v;
          } else {
            slope[i] = w / (least * least);
            f = slope[i]! * v;
          }
          break;
        }
        case DIODE:
          slope[i] = on[i] ? 1 / DIODE_OHMS : 0;
          f = on[i] ? (v - fixed[i]!) / DIODE_OHMS : 0;
          break;
        default: {
          const at = loads ? loadAt(this.elements[i] as Load, v) : NOTHING;
          f = at.amps;
          slope[i] = at.slope;
        }
      }
      flow[i] = f;
      leak[from]! += f;
      leak[to]! -= f;
    }
    let worst = 0;
    for (let k = 0; k < leak.length - 1; k++) {
      const r = leak[k]! < 0 ? -leak[k]! : leak[k]!;
      if (r > worst) worst = r;
    }
    return worst;
  }

  private lineAmps(i: number): number {
    if (this.merged.ideal[i]) return this.flow[i]!;
    const at = this.slot[i]!;
    return this.line[at]! * (this.x[this.a[i]!]! - this.x[this.b[i]!]!) + this.line[at + 1]!;
  }
  /** Amperes of the linear elements, which the rounds do not keep. */
  private fillFlow(): void {
    for (const i of this.straight) this.flow[i] = this.lineAmps(i);
  }

  /** One step of Newton's from the flows and slopes at hand, left in `rhs`; `again` keeps the factors of the step before. */
  private step(again: boolean): void {
    const { plan, a, b, slope, entry, own, rhs, leak, bent } = this;
    if (!again) {
      const { off, diagonal } = plan;
      off.set(this.baseOff);
      for (let k = 0; k < plan.n; k++) diagonal[k] = this.baseDiagonal[k]!;
      own.set(this.baseOwn);
      for (let k = 0; k < bent.length; k++) {
        const i = bent[k]!;
        const g = slope[i]!;
        if (g === 0 || a[i] === b[i]) continue;
        const size = g < 0 ? -g : g;
        if (a[i]! < plan.n) {
          diagonal[a[i]!]! += g;
          own[a[i]!]! += size;
        }
        if (b[i]! < plan.n) {
          diagonal[b[i]!]! += g;
          own[b[i]!]! += size;
        }
        if (entry[i]! >= 0) off[entry[i]!]! -= g;
      }
      factor(plan, own);
      this.factored = true;
    }
    for (let k = 0; k < plan.n; k++) rhs[k] = -leak[k]!;
    substitute(plan, rhs);
  }

  private move(by: number): void {
    const { x, rhs } = this;
    for (let k = 0; k < rhs.length; k++) x[k]! += by * rhs[k]!;
  }

  /** Diodes whose state does not agree with the volts at hand. */
  private wrongDiodes(): number[] {
    const out: number[] = [];
    for (const i of this.bent) {
      if (this.code[i] !== DIODE) continue;
      const v = this.x[this.a[i]!]! - this.x[this.b[i]!]! + this.offset[i]!;
      if (v > this.fixed[i]! + 1e-12 !== !!this.on[i]) out.push(i);
    }
    return out;
  }

  /** Newton's method with the diodes as they stand. Returns rounds taken, or null when it does not settle. */
  private settle(loads: boolean, known?: number): number | null {
    let worst = known ?? this.kirchhoff(loads);
    // where little has changed, the factors at hand still point the right way
    const warm = known !== undefined;
    let again = warm && this.factored && worst < SMALL_A;
    for (let round = 1; round <= MAX_ROUNDS; round++) {
      this.step(again);
      this.move(1);
      // without loads and diodes it is a straight line, and one step is all of it
      if (!loads && !this.hasDiodes && round === 1) return round;
      let next = this.kirchhoff(loads);
      if (again && next > worst * STALE && next > KCL_A) {
        // the factors were too old after all
        this.move(-1);
        worst = this.kirchhoff(loads);
        again = false;
        continue;
      }
      // back off while a step makes the worst node worse, as it can where a load leaves its law
      for (let half = 1; half < 6 && loads && next > worst && next > KCL_A; half++) {
        this.move(-(0.5 ** half));
        next = this.kirchhoff(loads);
      }
      if (next <= KCL_A) {
        if (round > 2) this.factored = false;
        return round;
      }
      if (round > 2 && next >= worst * 0.5) {
        let scale = 1;
        this.fillFlow();
        for (let i = 0; i < this.flow.length; i++) if (Math.abs(this.flow[i]!) > scale) scale = Math.abs(this.flow[i]!);
        if (next <= KCL_A * Math.min(scale, MOST_SCALE)) return round;
      }
      again = warm && next < worst * NEAR;
      worst = next;
    }
    return null;
  }

  /**
   * Where Newton’s steps go to and fro over the volts at which a load leaves its law: from the volts without loads on, each load is
   * a resistor that takes its amperes at the volts at hand. The lower they sink the more each takes, so they sink further, always the
   * same way, down to the highest volts that are steady. Slow and sure; near the end Newton’s are quick again. Returns rounds taken,
   * or null when it does not settle.
   */
  private sink(): number | null {
    this.factored = false;
    if (this.settle(false) === null) return null;
    let took = 0;
    for (let near = 1e-2; took < MAX_SINKING && near > KCL_A; near *= 0.03) {
      while (this.kirchhoff(true) > near && took++ < MAX_SINKING) {
        this.factored = false;
        for (const i of this.bent) {
          if (this.code[i] === DIODE) continue;
          const v = this.x[this.a[i]!]! - this.x[this.b[i]!]! + this.offset[i]!;
          this.slope[i] = v === 0 ? 0 : Math.max(0, this.flow[i]! / v);
        }
        this.step(false);
        this.move(1);
      }
      const kept = this.x.slice();
      const more = this.settle(true);
      if (more !== null) return took + more;
      this.x.set(kept);
    }
    return null;
  }

  /**
   * @throws NoOperatingPoint when current is driven into an island without a way back, or nothing settles
   */
  solve(): Solution {
    return this.answer(this.find());
  }

  /**
   * Finds the operating point as `solve` does, but leaves it to be read with `voltsAt`, `ampsOf` and `answer`. Returns rounds taken.
   * @throws NoOperatingPoint as `solve` does
   */
  find(): number {
    const { elements } = this;
    this.x.fill(0);
    this.on.fill(0);
    this.trail.clear();
    // changed figures are enough, but sums that were changed many times have gathered rounding
    if (!this.ready || this.merged.hasIdealSource || ++this.finds % 50 === 0) {
      if (this.merged.hasIdealSource) this.remerge();
      this.readAll();
    } else this.read(this.handed);
    this.factored = false;
    const diodes = this.hasDiodes;
    const loaded = this.hasLoads;
    let rounds = 0;
    const run = (loads: boolean): void => {
      for (let pass = 0; ; pass++) {
        const took = this.settle(loads) ?? (loads ? this.sink() : null);
        if (took === null) this.complain();
        rounds += took!;
        if (!diodes) return;
        const wrong = this.wrongDiodes();
        if (!wrong.length) return;
        if (pass > 400) throw new NoOperatingPoint(`“${elements[wrong[0]!]!.id}” neither conducts nor blocks: no steady state was found`);
        for (const i of pass < 20 ? wrong : wrong.slice(0, 1)) this.on[i] = this.on[i] ? 0 : 1;
      }
    };
    if (loaded) run(false);
    this.factored = false;
    run(true);
    this.ready = true;
    return rounds;
  }

  private remerge(): void {
    const again = merge(this.elements, this.nodes, this.index);
    this.merged.shift.set(again.shift);
    this.refreshOffsets();
  }

  private complain(): never {
    const rows = this.leak.subarray(0, this.plan.n);
    const worst = rows.reduce((w, r, i) => (Math.abs(r) > Math.abs(rows[w]!) ? i : w), 0);
    const node = this.nodes.find((n) => this.merged.group[this.index.get(n)!] === this.plan.order[worst]! + 1);
    throw new NoOperatingPoint(
      `no steady state at “${node}”: ${Math.abs(this.leak[worst]!).toPrecision(3)} A are driven there with no way back, or its loads ask for more than the source can give`,
    );
  }

  /** The operating point at hand as maps. */
  answer(iterations = 0): Solution {
    const { merged, nodes, index, elements } = this;
    const volts = new Map<string, number>();
    nodes.forEach((n, i) => volts.set(n, (merged.group[i] ? this.x[this.plan.place[merged.group[i]! - 1]!]! : 0) + merged.shift[i]!));
    const residual = this.kirchhoff(true);
    this.fillFlow();
    if (merged.anyIdeal) shareAmps(elements, index, merged, this.flow);
    const amps = new Map<string, number>();
    elements.forEach((e, i) => amps.set(e.id, this.flow[i]!));
    return { volts, amps, iterations, residualA: residual };
  }

  /** Volts of the last solution, in the order of `nodes`: for sweeps that read a few figures. */
  voltsAt(node: string): number {
    const i = this.index.get(node)!;
    const g = this.merged.group[i]!;
    return (g ? this.x[this.plan.place[g - 1]!]! : 0) + this.merged.shift[i]!;
  }
  /** Reads a point's volts again and again, as `voltsAt` does. */
  voltsReader(node: string): () => number {
    const i = this.index.get(node)!;
    const g = this.merged.group[i]!;
    const row = g ? this.plan.place[g - 1]! : this.plan.n;
    const { x } = this;
    const { shift } = this.merged;
    return () => x[row]! + shift[i]!;
  }
  /** Reads an element's amperes again and again, as `ampsOf` does. */
  ampsReader(id: string): () => number {
    const i = this.positions.get(id)!;
    const { kind } = this.elements[i]!;
    return kind === 'load' || kind === 'diode' ? () => this.flow[i]! : () => this.lineAmps(i);
  }
  /** Amperes of the last solution through one element that has some resistance. */
  ampsOf(id: string): number {
    const i = this.positions.get(id)!;
    return this.elements[i]!.kind === 'load' || this.elements[i]!.kind === 'diode' ? this.flow[i]! : this.lineAmps(i);
  }
  /**
   * Solves without building the maps of `solve`, for sweeps and small changes: it starts where the last answers were heading,
   * and keeps their factors while they serve. Returns the rounds taken.
   * @throws NoOperatingPoint as `solve` does
   */
  resolve(): number {
    if (!this.ready || this.merged.hasIdealSource) return this.solve().iterations;
    this.read(this.handed);
    const { x, trail, was } = this;
    was.set(x);
    // what is foretold is proved like any other answer: where it does not balance, rounds are taken
    trail.foretell(x);
    let worst = this.kirchhoff(true);
    if (worst > SMALL_A) {
      x.set(was);
      trail.clear();
      worst = this.kirchhoff(true);
    }
    const took = worst <= KCL_A ? 0 : this.settle(true, worst);
    if (took === null || (this.hasDiodes && this.wrongDiodes().length)) return this.solve().iterations;
    if (took > 0) trail.keep(x);
    return took;
  }
}

/** Answers of a sweep, a step of it apart from one another or several: what comes next is foretold along a cubic through the last four. */
class Trail {
  private readonly kept: Float64Array[];
  private readonly at = [0, 0, 0, 0];
  private count = 0;
  private now = 0;
  constructor(size: number) {
    this.kept = this.at.map(() => new Float64Array(size));
  }
  clear(): void {
    this.count = 0;
  }
  keep(x: Float64Array): void {
    const last = this.kept.pop()!;
    last.set(x);
    this.kept.unshift(last);
    this.at.pop();
    this.at.unshift(this.now);
    if (this.count < this.at.length) this.count++;
  }
  /** Puts what comes a step later into `x`; leaves it where too few are kept. */
  foretell(x: Float64Array): void {
    const { at, kept, count } = this;
    this.now++;
    if (count < 2) return;
    // Lagrange's weights of the answers kept
    const w = [0, 0, 0, 0];
    for (let i = 0; i < count; i++) {
      let l = 1;
      for (let j = 0; j < count; j++) if (j !== i) l *= (this.now - at[j]!) / (at[i]! - at[j]!);
      w[i] = l;
    }
    const [a, b, c, d] = kept as [Float64Array, Float64Array, Float64Array, Float64Array];
    const [wa, wb, wc, wd] = w as [number, number, number, number];
    for (let k = 0; k < x.length; k++) x[k] = wa * a[k]! + wb * b[k]! + wc * c[k]! + wd * d[k]!;
  }
}

function check(e: Element): void {
  const at = (what: string) => new ImpossibleInput(`“${e.id}”: ${what}`, 'elements');
  if (e.from === e.to) throw at('both ends are joined to the same point');
  for (const [k, v] of Object.entries(e)) if (typeof v === 'number' && !Number.isFinite(v)) throw at(`${k} is not a number`);
  if ((e.kind === 'R' || e.kind === 'V') && e.ohms < 0) throw at('ohms cannot be below zero');
  if (e.kind === 'load' && (e.watts < 0 || e.volts <= 0 || e.minVolts < 0)) throw at('a load’s watts and volts cannot be below zero');
  if (e.kind === 'diode' && e.volts < 0) throw at('a diode’s forward volts cannot be below zero');
}
