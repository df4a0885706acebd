import { addLoads, burstAmps, filamentAmps, loadAmps, postAmps, powerAmps, solveBus, steadyAmps, type Loads, type Post } from './bus';
import { chargeAt, givingOhms, restVolts, shareAt, takingOhms, type CellAt } from './cell';

/** How batteries are joined: an isolator lets charge through to the second one way; a relay joins the two by volts; in parallel all are on one bus. */
export type Join = 'isolator' | 'relay' | 'parallel';
/** Volts of 12 V at which a voltage-sensing relay opens. Common practice, no source. */
export const RELAY_OPENS_V = 12.8;

/** A stretch of time in which nothing that drives the unit changes. The first bus has the source and the start battery. */
export interface Segment {
  phase: number;
  hours: number;
  sourceA: number;
  regulatedV: number;
  /** one a bus */
  loads: Loads[];
  /** one a bus */
  cells: CellAt[];
  /** the starter turns: the volts that it finds are kept */
  crank?: boolean;
}

/** A moment of the simulated time. */
export interface Moment {
  hour: number;
  phase: number;
  /** charge in ampere-hours, one a battery */
  charge: number[];
  volts: number[];
}

/** What flowed in a segment, ampere-hours and watt-hours: all of it integrated by the same rule, so that the books close. */
export interface Flow {
  phase: number;
  sourceAh: number;
  /** by bus, by law: power, steady, resistor, filament, burst */
  loadAh: number[][];
  loadWh: number[][];
  intoAh: number[];
  outOfAh: number[];
  /** given up to Peukert, to charging, and to standing */
  peukertAh: number[];
  chargingAh: number[];
  selfAh: number[];
  /** change of the stored charge, one a battery */
  deltaAh: number[];
}

export interface Run {
  charge: number[];
  leastVolts: number[];
  leastCharge: number[];
  /** hours at which a battery gave up its last; null for never */
  flatAt: (number | null)[];
  /** volts that the starter found, each time it turned */
  starts: { hour: number; phase: number; volts: number }[];
  moments: Moment[];
  flows: Flow[];
  steps: number;
}

export interface Options {
  /** error allowed per step, as a share of capacity */
  tolerance?: number;
  /** keep moments and flows; without, only ends and extremes are kept */
  detail?: boolean;
  /** plain steps of so many hours instead of step control, for comparison */
  fixedHours?: number;
  /** room to compute in, kept from run to run; left out, the run makes its own */
  room?: Room;
  /** told at the end of each segment, with charge and volts that change afterwards */
  onSegment?: (index: number, charge: Float64Array, volts: Float64Array) => void;
}

const LAWS = [powerAmps, steadyAmps, (l: Loads, v: number) => l.siemens * v, filamentAmps, burstAmps];
const LEAST_STEP_H = 1e-7;
/** parts of a segment at the least, where moments are kept */
const PARTS = 6;

/** Self-discharge is steady, and fades with the last thousandth. */
const selfAmps = (c: CellAt, q: number): number => (q <= 0 ? 0 : c.selfA * Math.min(1, (q * 1000) / c.capacityAh));

/** Enters into the books what flows at a moment, by its weight. */
function book(f: Flow, s: Segment, e: Eval, at: Float64Array, weight: number): void {
  f.sourceAh += weight * e.sourceA;
  for (let b = 0; b < s.loads.length; b++)
    for (let k = 0; k < LAWS.length; k++) {
      const a = LAWS[k]!(s.loads[b]!, e.volts[b]!);
      f.loadAh[b]![k]! += weight * a;
      f.loadWh[b]![k]! += weight * a * e.volts[b]!;
    }
  for (let i = 0; i < s.cells.length; i++) {
    const c = s.cells[i]!;
    const a = e.amps[i]!;
    const self = selfAmps(c, at[i]!);
    f.selfAh[i]! += weight * self;
    if (a >= 0) {
      f.intoAh[i]! += weight * a;
      f.chargingAh[i]! += weight * a * (1 - c.efficiency);
    } else {
      f.outOfAh[i]! -= weight * a;
      f.peukertAh[i]! -= weight * (e.rate[i]! - a + self);
    }
  }
}

/** One evaluation: how everything stands at a charge, and how fast the charge changes. */
interface Eval {
  rate: Float64Array;
  amps: Float64Array;
  volts: Float64Array;
  sourceA: number;
}

/** Room for the figures of a run, to be used again by the next of as many batteries. */
export interface Room {
  q: Float64Array;
  at2: Float64Array;
  at3: Float64Array;
  next: Float64Array;
  evals: readonly Eval[];
  posts: Post[];
  first: Post[];
  second: Post[];
}
export function roomFor(n: number): Room {
  const list = () => new Float64Array(n);
  const posts: Post[] = Array.from({ length: n }, () => ({ restV: 0, giveOhms: 1, takeOhms: 1, flat: false }));
  return {
    q: list(),
    at2: list(),
    at3: list(),
    next: list(),
    evals: Array.from({ length: 4 }, () => ({ rate: list(), amps: list(), volts: list(), sourceA: 0 })),
    posts,
    first: posts.slice(0, 1),
    second: posts.slice(1),
  };
}

/**
 * Runs segments one after another from the given charges. The bus is solved at every evaluation, so what the source gives, what
 * the loads take and what the batteries take balance at each; charge is integrated by an embedded pair of orders 3 and 2
 * (Bogacki and Shampine 1989) with step control.
 * @param charge ampere-hours at the start, one a battery; not changed
 * @param join how the second battery is joined; null for one battery
 */
export function run(segments: readonly Segment[], charge: readonly number[], join: Join | null, options: Options = {}): Run {
  const n = charge.length;
  const tolerance = options.tolerance ?? 2e-5;
  const { detail = false, fixedHours } = options;
  const { q, at2, at3, next, evals: first4, posts, first, second } = options.room ?? roomFor(n);
  const evals = [...first4];
  q.set(charge);
  const flat = new Array<boolean>(n).fill(false);
  let merged: Loads | null = null;
  let lastV = 0;
  const out: Run = {
    charge: [],
    leastVolts: new Array<number>(n).fill(Infinity),
    leastCharge: [...charge],
    flatAt: new Array<number | null>(n).fill(null),
    starts: [],
    moments: [],
    flows: [],
    steps: 0,
  };

  const evaluate = (s: Segment, at: Float64Array, e: Eval): void => {
    for (let i = 0; i < n; i++) {
      const c = s.cells[i]!;
      const share = shareAt(c, at[i]!);
      const p = posts[i]!;
      const charge = chargeAt(c, at[i]!);
      p.restV = restVolts(c, charge);
      p.giveOhms = givingOhms(c, share);
      p.takeOhms = takingOhms(c, charge, p.giveOhms);
      p.flat = flat[i]! || !c.gives;
    }
    let v0: number;
    let v1 = 0;
    if (n === 1 || join === 'parallel') {
      const b = solveBus(s.sourceA, s.regulatedV, s.loads[0]!, posts, 0, lastV);
      v0 = v1 = b.volts;
      lastV = v0;
      e.sourceA = b.sourceA;
    } else {
      const alone = solveBus(s.sourceA, s.regulatedV, s.loads[0]!, first);
      const house = solveBus(0, 0, s.loads[1]!, second);
      v0 = alone.volts;
      v1 = house.volts;
      e.sourceA = alone.sourceA;
      if (s.sourceA > 0 && (join === 'relay' || v0 > v1)) {
        merged ??= addLoads(s.loads[0]!, s.loads[1]!);
        const both = solveBus(s.sourceA, s.regulatedV, merged, posts);
        const scale = s.regulatedV > 20 ? s.regulatedV / 14 : 1;
        if (join === 'isolator' || both.volts >= RELAY_OPENS_V * scale) {
          v0 = v1 = both.volts;
          e.sourceA = both.sourceA;
        } else if (v0 > RELAY_OPENS_V * scale) {
          // it would close and open without end: taken at its average, the first bus held where it opens
          const held = RELAY_OPENS_V * scale;
          const spare = s.sourceA - loadAmps(s.loads[0]!, held) - postAmps(posts[0]!, held);
          if (spare > 0) {
            v0 = held;
            e.sourceA = s.sourceA;
            v1 = solveBus(0, 0, s.loads[1]!, second, spare).volts;
          }
        }
      }
    }
    e.volts[0] = v0;
    for (let i = 1; i < n; i++) e.volts[i] = v1;
    for (let i = 0; i < n; i++) {
      const c = s.cells[i]!;
      const a = postAmps(posts[i]!, e.volts[i]!);
      e.amps[i] = a;
      const stored = a >= 0 ? a * c.efficiency : c.peukertLess1 > 0 && -a > c.ratedA ? a * (-a / c.ratedA) ** c.peukertLess1 : a;
      e.rate[i] = stored - selfAmps(c, at[i]!);
    }
  };

  let hour = 0;
  let before = 0;
  const note = (s: Segment, e: Eval) => {
    for (let i = 0; i < n; i++) {
      if (q[i]! < out.leastCharge[i]!) out.leastCharge[i] = q[i]!;
      if (e.volts[i]! < out.leastVolts[i]! && !flat[i]) out.leastVolts[i] = e.volts[i]!;
    }
    if (detail) out.moments.push({ hour, phase: s.phase, charge: [...q], volts: [...e.volts] });
  };

  /** Batteries that have nothing left give nothing more; when one stops, another may have to give in its place. */
  const stopEmpty = (s: Segment) => {
    for (let i = 0; i < n;) {
      if (!flat[i] && q[i]! <= s.cells[i]!.floorAh * (1 + 1e-12) && evals[0]!.amps[i]! < 0) {
        flat[i] = true;
        out.flatAt[i] ??= hour;
        evaluate(s, q, evals[0]!);
        i = 0;
      } else i++;
    }
  };

  for (let index = 0; index < segments.length; index++) {
    const s = segments[index]!;
    if (segments[index - 1] !== s) merged = null;
    const flow: Flow | null = detail
      ? {
          phase: s.phase,
          sourceAh: 0,
          loadAh: s.loads.map(() => LAWS.map(() => 0)),
          loadWh: s.loads.map(() => LAWS.map(() => 0)),
          intoAh: new Array<number>(n).fill(0),
          outOfAh: new Array<number>(n).fill(0),
          peukertAh: new Array<number>(n).fill(0),
          chargingAh: new Array<number>(n).fill(0),
          selfAh: new Array<number>(n).fill(0),
          deltaAh: new Array<number>(n).fill(0),
        }
      : null;
    // a segment that goes on with the one before stands as that one ended
    const goesOn = index > 0 && segments[index - 1] === s;
    if (!goesOn) {
      for (let i = 0; i < n; i++) flat[i] = false;
      evaluate(s, q, evals[0]!);
    }
    stopEmpty(s);
    if (s.crank) out.starts.push({ hour, phase: s.phase, volts: flat[0] ? 0 : evals[0]!.volts[0]! });
    note(s, evals[0]!);

    let left = s.hours;
    const longest = fixedHours ?? (detail ? s.hours / PARTS : s.hours);
    let h = goesOn ? Math.max(before, longest * 0.2) : longest;
    while (left > s.hours * 1e-12) {
      h = Math.min(h, left, longest);
      out.steps++;
      const [k1, k2, k3, k4] = evals as [Eval, Eval, Eval, Eval];
      let err = 0;
      if (fixedHours !== undefined) for (let i = 0; i < n; i++) next[i] = q[i]! + h * k1.rate[i]!;
      else {
        for (let i = 0; i < n; i++) at2[i] = q[i]! + (h / 2) * k1.rate[i]!;
        evaluate(s, at2, k2);
        for (let i = 0; i < n; i++) at3[i] = q[i]! + ((3 * h) / 4) * k2.rate[i]!;
        evaluate(s, at3, k3);
        for (let i = 0; i < n; i++) next[i] = q[i]! + h * ((2 / 9) * k1.rate[i]! + (1 / 3) * k2.rate[i]! + (4 / 9) * k3.rate[i]!);
        evaluate(s, next, k4);
        for (let i = 0; i < n; i++) {
          const step = h * (-(5 / 72) * k1.rate[i]! + (1 / 12) * k2.rate[i]! + (1 / 9) * k3.rate[i]! - (1 / 8) * k4.rate[i]!);
          // that difference is nought by chance where a step is as long as the time in which charge settles; this one is not
          const bend = (h / 18) * (0.5 * k1.rate[i]! - 1.5 * k2.rate[i]! + k3.rate[i]!);
          err = Math.max(err, Math.abs(step) / s.cells[i]!.capacityAh, Math.abs(bend) / s.cells[i]!.capacityAh);
        }
        if (err > tolerance && h > LEAST_STEP_H) {
          h *= Math.max(0.2, 0.9 * Math.cbrt(tolerance / err));
          continue;
        }
      }
      // a battery that would give more than it has: the step ends where it has given its last
      let share = 1;
      let emptied = -1;
      for (let i = 0; i < n; i++) {
        const floor = s.cells[i]!.floorAh;
        if (flat[i] || next[i]! >= floor || q[i]! < floor) continue;
        const part = (q[i]! - floor) / (q[i]! - next[i]!);
        if (emptied < 0 || part < share) {
          share = part;
          emptied = i;
        }
      }
      if (emptied >= 0 && share * h <= LEAST_STEP_H) {
        flat[emptied] = true;
        out.flatAt[emptied] ??= hour;
        evaluate(s, q, k1);
        continue;
      }
      if (1 - share > 1e-9) {
        h *= share;
        continue;
      }
      if (flow && fixedHours !== undefined) book(flow, s, k1, q, h);
      else if (flow) {
        book(flow, s, k1, q, (h * 2) / 9);
        book(flow, s, k2, at2, h / 3);
        book(flow, s, k3, at3, (h * 4) / 9);
      }
      for (let i = 0; i < n; i++) {
        if (flow) flow.deltaAh[i]! += next[i]! - q[i]!;
        q[i] = next[i]!;
      }
      hour += h;
      left -= h;
      if (emptied >= 0) {
        flat[emptied] = true;
        out.flatAt[emptied] ??= hour;
      }
      if (emptied >= 0 || fixedHours !== undefined) evaluate(s, q, evals[0]!);
      else {
        // the last evaluation of this step is the first of the next
        evals[0] = k4;
        evals[3] = k1;
      }
      // a battery that was carried so far may have to give now, with nothing left
      stopEmpty(s);
      note(s, evals[0]!);
      before = h;
      h = fixedHours ?? h * Math.min(5, 0.9 * Math.cbrt(tolerance / Math.max(err, 1e-12)));
    }
    options.onSegment?.(index, q, evals[0]!.volts);
    if (flow) out.flows.push(flow);
  }
  out.charge = [...q];
  return out;
}
