import type { Harness } from '#model/harness';
import { NoOperatingPoint } from '../network/solve';
import { NO_FAULTS, shapeOf, Simulator, type Faults, type Shown, type SwitchState } from '../harness/simulate';
import type { Probes, Sight } from './sight';

/** Share of its nominal volts at which a load is said to work, as in a scan of the wiring. */
const WORKS_SHARE = 0.5;

const keys = new WeakMap<SwitchState, string>();
function stateKey(s: SwitchState): string {
  let key = keys.get(s);
  if (key === undefined) {
    key = JSON.stringify([Object.entries(s.controls).sort(), s.beat]);
    keys.set(s, key);
  }
  return key;
}

/** What any sight shows with any fault put in: the live model asked again and again, its answers kept. */
export class Predictor {
  private readonly sims = new Map<string, Simulator>();
  private readonly shown = new WeakMap<Faults, Map<string, Shown | null>>();
  private readonly ohms = new WeakMap<Faults, Map<string, number | null>>();
  private readonly loads: ReadonlyMap<string, { from: string; to: string; volts: number }>;

  constructor(readonly harness: Harness) {
    this.loads = new Map(harness.elements.flatMap((e) => (e.kind === 'load' ? [[e.id, e] as const] : [])));
  }

  private sim(faults: Faults, meter: { plus: string; minus: string } | null): Simulator {
    const key = `${shapeOf(faults)} ${meter ? `${meter.plus} ${meter.minus}` : ''}`;
    let sim = this.sims.get(key);
    if (!sim) {
      sim = new Simulator(this.harness, faults, meter && { mode: 'ohms', ...meter });
      this.sims.set(key, sim);
    }
    sim.plant(faults);
    return sim;
  }
  private show(faults: Faults, state: SwitchState): Shown | null {
    return kept(this.shown, faults, stateKey(state), () => this.sim(faults, null).show(state));
  }

  /** Volts, ohms (Infinity: open), amperes, or 1 and 0 for as it should be and not; null where the model finds no answer. */
  value(sight: Sight, faults: Faults = NO_FAULTS): number | null {
    const { look, state } = sight;
    if (look.kind === 'ohms') return this.readOhms(look, state, faults);
    const s = this.show(faults, state);
    if (!s) return null;
    const at = (n: string) => s.volts.get(n) ?? 0;
    if (look.kind === 'volts') return at(look.plus) - at(look.minus);
    if (look.kind === 'amps') {
      const of = this.harness.elements.filter((e) => e.kind === (look.of === 'battery' ? 'battery' : 'charger'));
      return Math.max(0, ...of.map((e) => -(s.amps.get(e.id) ?? 0)));
    }
    const h = this.show(NO_FAULTS, state);
    const across = (x: Shown, id: string) => {
      const e = this.loads.get(id)!;
      return ((x.volts.get(e.from) ?? 0) - (x.volts.get(e.to) ?? 0)) / e.volts;
    };
    // a motor that turns the other way does not do what it should
    const works = (id: string) => across(s, id) * (h ? Math.sign(across(h, id)) || 1 : 1) > WORKS_SHARE;
    return look.lit.every(works) && !look.dark.some((id) => Math.abs(across(s, id)) > WORKS_SHARE) ? 1 : 0;
  }

  private readOhms(look: Probes, state: SwitchState, faults: Faults): number | null {
    const key = `${look.plus} ${look.minus} ${stateKey(state)}`;
    return kept(this.ohms, faults, key, () => this.sim(faults, look).show(state).meter);
  }
}

/** Worked out once; null where the model settles nowhere. */
function kept<T>(store: WeakMap<Faults, Map<string, T | null>>, faults: Faults, key: string, work: () => T | null): T | null {
  let of = store.get(faults);
  if (!of) store.set(faults, (of = new Map()));
  let value = of.get(key);
  if (value === undefined) {
    try {
      value = work();
    } catch (e) {
      if (!(e instanceof NoOperatingPoint)) throw e;
      value = null;
    }
    of.set(key, value);
  }
  return value;
}

const known = new WeakMap<Harness, Predictor>();
/** The live model of a harness, one for as long as the harness is kept. */
export function liveModel(h: Harness): Predictor {
  const p = known.get(h) ?? new Predictor(h);
  known.set(h, p);
  return p;
}
