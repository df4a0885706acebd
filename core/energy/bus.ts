/** Loads of one bus, added up by how their amperes follow the volts there. */
export interface Loads {
  /** constant power, watts; a resistor under `leastV` */
  power: number;
  /** constant current, amperes */
  amps: number;
  /** resistors, siemens */
  siemens: number;
  /** filaments: amperes at 1 V; amperes grow with volts to the power 0.6, as power ∝ V^1.6 (IES Lighting Handbook, from memory) */
  filament: number;
  /** constant current of what runs in bursts, a winch's motor or the starter, amperes */
  burst: number;
  /** volts under which a constant-power load acts as a resistor */
  leastV: number;
  /** what was worked out last: amperes of all at some volts, and what a filament's law gives about others */
  at?: { volts: number; amps: number };
  near?: { volts: number; power: number };
}
export const noLoads = (leastV = 8): Loads => ({ power: 0, amps: 0, siemens: 0, filament: 0, burst: 0, leastV });
export const addLoads = (a: Loads, b: Loads): Loads => ({
  power: a.power + b.power,
  amps: a.amps + b.amps,
  siemens: a.siemens + b.siemens,
  filament: a.filament + b.filament,
  burst: a.burst + b.burst,
  leastV: a.leastV,
});
export const FILAMENT_EXPONENT = 0.6;

export const powerAmps = (l: Loads, v: number): number => (v >= l.leastV ? l.power / v : (l.power * v) / (l.leastV * l.leastV));
/** Constant current, but for the last volts, where nothing is left to drive it. */
const steady = (l: Loads, amps: number, v: number): number => (v >= l.leastV ? amps : (amps * v) / l.leastV);
export const steadyAmps = (l: Loads, v: number): number => steady(l, l.amps, v);
export const burstAmps = (l: Loads, v: number): number => steady(l, l.burst, v);
export const filamentAmps = (l: Loads, v: number): number => (l.filament === 0 || v <= 0 ? 0 : l.filament * filamentPower(l, v));

/** So near to volts whose power is known, by share, the series below has less than 1e-12 of error. */
const NEAR_SHARE = 0.02;
/** v^0.6, by the binomial series about the volts that were asked for last: a battery's change little from step to step. */
function filamentPower(l: Loads, v: number): number {
  const near = l.near;
  if (near) {
    const d = v / near.volts - 1;
    if (d < NEAR_SHARE && d > -NEAR_SHARE) return near.power * (1 + d * (0.6 + d * (-0.12 + d * (0.056 + d * (-0.0336 + d * 0.022848)))));
  }
  const power = v ** FILAMENT_EXPONENT;
  l.near = { volts: v, power };
  return power;
}
/** Amperes of all loads at `v` volts. */
export const loadAmps = (l: Loads, v: number): number =>
  powerAmps(l, v) + steady(l, l.amps + l.burst, v) + l.siemens * v + filamentAmps(l, v);

/** A battery as its bus sees it at one moment: rest volts, and resistances when it gives and when it takes. */
export interface Post {
  restV: number;
  giveOhms: number;
  takeOhms: number;
  /** it has nothing left to give */
  flat: boolean;
}
/** Amperes into a battery at `v` volts; negative when it gives. */
export const postAmps = (p: Post, v: number): number =>
  v >= p.restV ? (v - p.restV) / p.takeOhms : p.flat ? 0 : (v - p.restV) / p.giveOhms;

const TOLERANCE = 1e-10;

function balance(fedA: number, loads: Loads, posts: readonly Post[], v: number): number {
  let f = fedA - loadAmps(loads, v);
  for (const p of posts) f -= postAmps(p, v);
  return f;
}

/** Newton's steps from `v`, kept between `low` and `top`; NaN when they leave it or the bus does not hold there. */
function newton(fedA: number, loads: Loads, posts: readonly Post[], v: number, low: number, top: number): number {
  const { power, siemens, filament, leastV } = loads;
  const steadyA = loads.amps + loads.burst;
  for (let i = 0; i < 30; i++) {
    let f = fedA - siemens * v;
    let slope = -siemens;
    if (v > leastV) {
      const a = power / v;
      f -= a + steadyA;
      slope += a / v;
    } else {
      const per = power / (leastV * leastV) + steadyA / leastV;
      f -= per * v;
      slope -= per;
    }
    if (filament > 0) {
      const a = filament * filamentPower(loads, v);
      f -= a;
      slope -= (FILAMENT_EXPONENT * a) / v;
    }
    for (let k = 0; k < posts.length; k++) {
      const p = posts[k]!;
      if (v < p.restV && p.flat) continue;
      const g = 1 / (v >= p.restV ? p.takeOhms : p.giveOhms);
      f -= (v - p.restV) * g;
      slope -= g;
    }
    if (f < TOLERANCE && f > -TOLERANCE) return v;
    if (slope >= 0) return NaN;
    const next = v - f / slope;
    if (next === v) return v;
    if (!(next > low) || next > top) return NaN;
    v = next;
  }
  return NaN;
}

/**
 * The root of the balance between 0 and `top` volts, where it is negative; the highest, as a bus that works stands there.
 * @param near where the bus stood a moment ago, tried first
 */
function settle(fedA: number, loads: Loads, posts: readonly Post[], top: number, near: number): number {
  if (near > loads.leastV && near < top) {
    const here = newton(fedA, loads, posts, near, loads.leastV, top);
    if (here === here) return here;
  }
  const high = newton(fedA, loads, posts, top, loads.leastV, top);
  if (high === high) return high;
  // the bus has come down to where loads act as resistors, or a kink threw the steps off
  let from = 0;
  let to = top;
  if (loads.leastV < top) {
    if (balance(fedA, loads, posts, loads.leastV) <= 0) {
      const low = newton(fedA, loads, posts, loads.leastV, 0, loads.leastV);
      if (low === low) return low;
      to = loads.leastV;
    } else from = loads.leastV;
  }
  for (let i = 0; i < 100 && to - from > 1e-13 * top; i++) {
    const mid = (from + to) / 2;
    if (balance(fedA, loads, posts, mid) > 0) from = mid;
    else to = mid;
  }
  return (from + to) / 2;
}

/** How a bus stands: its volts and what the source gives. */
export interface Standing {
  volts: number;
  sourceA: number;
}

/**
 * Volts of a bus and amperes of its source: the source holds the regulator's volts as long as its amperes reach, and gives
 * all it has below that.
 * @param sourceA what the source can give; 0 for none
 * @param fedA amperes that come in from elsewhere, such as through an isolator
 * @param near volts where it stood a moment ago, if known
 */
export function solveBus(sourceA: number, regulatedV: number, loads: Loads, posts: readonly Post[], fedA = 0, near = 0): Standing {
  if (sourceA > 0) {
    // a regulator's volts stay the same from step to step, and so does what is drawn at them
    if (loads.at?.volts !== regulatedV) loads.at = { volts: regulatedV, amps: loadAmps(loads, regulatedV) };
    let wanted = loads.at!.amps - fedA;
    for (const p of posts) wanted += postAmps(p, regulatedV);
    if (wanted >= 0 && wanted <= sourceA) return { volts: regulatedV, sourceA: wanted };
    if (wanted > sourceA) return { volts: settle(fedA + sourceA, loads, posts, regulatedV, near), sourceA };
  }
  let top = 0;
  for (const p of posts) if (!p.flat && p.restV > top) top = p.restV;
  // what comes in may lift the bus above rest
  if (fedA > 0) {
    top = top || loads.leastV;
    while (balance(fedA, loads, posts, top) > 0 && top < 1e4) top *= 1.5;
  }
  if (top === 0) return { volts: 0, sourceA: 0 };
  return { volts: settle(fedA, loads, posts, top, near), sourceA: 0 };
}
