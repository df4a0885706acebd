import { ImpossibleInput } from '../errors';
import { loadAt, type Element } from './element';
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
const KCL_A = 1e-10;

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
  private readonly a: Int32Array;
  private readonly b: Int32Array;
  private readonly entry: Int32Array;
  private readonly offset: Float64Array;
  private readonly x: Float64Array;
  private readonly rhs: Float64Array;
  private readonly own: Float64Array;
  private readonly leak: Float64Array;
  private readonly flow: Float64Array;
  private readonly slope: Float64Array;
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
    const { group } = this.merged;
    this.a = Int32Array.from(this.elements, (e) => group[this.index.get(e.from)!]! - 1);
    this.b = Int32Array.from(this.elements, (e) => group[this.index.get(e.to)!]! - 1);
    const joined = this.elements.flatMap((_, i) =>
      this.a[i]! >= 0 && this.b[i]! >= 0 && !this.merged.ideal[i] ? [[this.a[i]!, this.b[i]!] as const] : [],
    );
    const n = this.merged.groups - 1;
    this.plan = planElimination(n, joined);
    this.entry = Int32Array.from(this.elements, (_, i) =>
      this.merged.ideal[i] || this.a[i]! < 0 || this.b[i]! < 0 || this.a[i] === this.b[i] ? -1 : entryOf(this.plan, this.a[i]!, this.b[i]!),
    );
    this.x = new Float64Array(n);
    this.rhs = new Float64Array(n);
    this.own = new Float64Array(n);
    this.leak = new Float64Array(n);
    this.flow = new Float64Array(elements.length);
    this.slope = new Float64Array(elements.length);
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
    return this.elements[i]!;
  }

  /** Amperes and slope of element i at its present volts. */
  private bear(i: number, loads: boolean): void {
    const e = this.elements[i]!;
    const a = this.a[i]!;
    const b = this.b[i]!;
    const v = (a < 0 ? 0 : this.x[a]!) - (b < 0 ? 0 : this.x[b]!) + this.offset[i]!;
    switch (e.kind) {
      case 'R':
        this.slope[i] = 1 / e.ohms;
        this.flow[i] = v / e.ohms;
        return;
      case 'V':
        this.slope[i] = 1 / e.ohms;
        this.flow[i] = (v - e.volts) / e.ohms;
        return;
      case 'I':
        this.slope[i] = 0;
        this.flow[i] = e.amps;
        return;
      case 'load': {
        const { amps, slope } = loads ? loadAt(e, v) : { amps: 0, slope: 0 };
        this.flow[i] = amps;
        this.slope[i] = slope;
        return;
      }
      case 'diode':
        this.slope[i] = this.on[i] ? 1 / DIODE_OHMS : 0;
        this.flow[i] = this.on[i] ? (v - e.volts) / DIODE_OHMS : 0;
        return;
      case 'switch':
        // one that is closed has merged its ends
        this.slope[i] = 0;
        this.flow[i] = 0;
    }
  }

  /** Sums amperes leaving every node into `leak`; returns the largest. */
  private kirchhoff(loads: boolean): number {
    const { a, b, flow, leak } = this;
    const { ideal } = this.merged;
    leak.fill(0);
    for (let i = 0; i < flow.length; i++) {
      if (ideal[i]) continue;
      this.bear(i, loads);
      const f = flow[i]!;
      if (a[i]! >= 0) leak[a[i]!]! += f;
      if (b[i]! >= 0) leak[b[i]!]! -= f;
    }
    let worst = 0;
    for (let k = 0; k < leak.length; k++) {
      const r = Math.abs(leak[k]!);
      if (r > worst) worst = r;
    }
    return worst;
  }

  /** One step of Newton's from the flows and slopes at hand; the step is left in `rhs`, in node order. Returns islands that float. */
  private step(): number {
    const { plan, a, b, slope, entry, own } = this;
    const { ideal } = this.merged;
    const { place, off, diagonal } = plan;
    off.fill(0);
    diagonal.fill(0);
    own.fill(0);
    for (let i = 0; i < slope.length; i++) {
      const g = slope[i]!;
      if (g === 0 || ideal[i] || a[i] === b[i]) continue;
      if (a[i]! >= 0) {
        diagonal[place[a[i]!]!]! += g;
        own[place[a[i]!]!]! += Math.abs(g);
      }
      if (b[i]! >= 0) {
        diagonal[place[b[i]!]!]! += g;
        own[place[b[i]!]!]! += Math.abs(g);
      }
      if (entry[i]! >= 0) off[entry[i]!]! -= g;
    }
    const floating = factor(plan, own);
    for (let k = 0; k < plan.n; k++) this.rhs[k] = -this.leak[plan.order[k]!]!;
    substitute(plan, this.rhs);
    return floating;
  }

  private move(by: number): void {
    const { order } = this.plan;
    for (let k = 0; k < order.length; k++) this.x[order[k]!]! += by * this.rhs[k]!;
  }

  /** Diodes whose state does not agree with the volts at hand. */
  private wrongDiodes(): number[] {
    const out: number[] = [];
    this.elements.forEach((e, i) => {
      if (e.kind !== 'diode') return;
      const v = (this.a[i]! < 0 ? 0 : this.x[this.a[i]!]!) - (this.b[i]! < 0 ? 0 : this.x[this.b[i]!]!) + this.offset[i]!;
      if (v > e.volts + 1e-12 !== !!this.on[i]) out.push(i);
    });
    return out;
  }

  /** Newton's method with the diodes as they stand. Returns rounds taken, or null when it does not settle. */
  private settle(loads: boolean): number | null {
    let worst = this.kirchhoff(loads);
    for (let round = 1; round <= MAX_ROUNDS; round++) {
      this.step();
      this.move(1);
      let next = this.kirchhoff(loads);
      // back off while a step makes the worst node worse, as it can where a load leaves its law
      for (let half = 1; half < 6 && loads && next > worst && next > KCL_A; half++) {
        this.move(-(0.5 ** half));
        next = this.kirchhoff(loads);
      }
      let scale = 1;
      for (let i = 0; i < this.flow.length; i++) if (Math.abs(this.flow[i]!) > scale) scale = Math.abs(this.flow[i]!);
      if (next <= KCL_A) return round;
      if (round > 2 && next >= worst * 0.5 && next <= KCL_A * 10 * scale) return round;
      worst = next;
    }
    return null;
  }

  /**
   * @throws NoOperatingPoint when current is driven into an island without a way back, or nothing settles
   */
  solve(): Solution {
    const { elements } = this;
    this.x.fill(0);
    this.on.fill(0);
    if (this.merged.hasIdealSource) this.remerge();
    const diodes = elements.some((e) => e.kind === 'diode');
    const loaded = elements.some((e) => e.kind === 'load');
    let rounds = 0;
    const run = (loads: boolean): void => {
      for (let pass = 0; ; pass++) {
        const took = this.settle(loads);
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
    run(true);
    return this.answer(rounds);
  }

  private remerge(): void {
    const again = merge(this.elements, this.nodes, this.index);
    this.merged.shift.set(again.shift);
    this.refreshOffsets();
  }

  private complain(): never {
    const worst = this.leak.reduce((w, r, i) => (Math.abs(r) > Math.abs(this.leak[w]!) ? i : w), 0);
    const node = this.nodes.find((n) => this.merged.group[this.index.get(n)!] === worst + 1);
    throw new NoOperatingPoint(
      `no steady state at “${node}”: ${Math.abs(this.leak[worst]!).toPrecision(3)} A are driven there with no way back, or its loads ask for more than the source can give`,
    );
  }

  private answer(iterations: number): Solution {
    const { merged, nodes, index, elements } = this;
    const volts = new Map<string, number>();
    nodes.forEach((n, i) => volts.set(n, (merged.group[i] ? this.x[merged.group[i]! - 1]! : 0) + merged.shift[i]!));
    const residual = this.kirchhoff(true);
    if (merged.anyIdeal) shareAmps(elements, index, merged, this.flow);
    const amps = new Map<string, number>();
    elements.forEach((e, i) => amps.set(e.id, this.flow[i]!));
    return { volts, amps, iterations, residualA: residual };
  }

  /** Volts of the last solution, in the order of `nodes`: for sweeps that read a few figures. */
  voltsAt(node: string): number {
    const i = this.index.get(node)!;
    const g = this.merged.group[i]!;
    return (g ? this.x[g - 1]! : 0) + this.merged.shift[i]!;
  }
  /** Amperes of the last solution through one element that has some resistance. */
  ampsOf(id: string): number {
    return this.flow[this.positions.get(id)!]!;
  }
  /** Solves without building the maps of `solve`, starting from the last answer. */
  resolve(): number {
    const took = this.settle(true);
    if (took !== null && !this.wrongDiodes().length) return took;
    return this.solve().iterations;
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
