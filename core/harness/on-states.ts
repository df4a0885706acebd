import type { Harness } from '#model/harness';
import { powered } from './scan';
import { Simulator, type SwitchState } from './simulate';

/** How things of a harness are switched on. */
export interface OnStates {
  /**
   * The state, key on and engine as asked, in which all of these loads have their volts, or as many as can at once; null
   * when none of them ever has. The first counts most.
   */
  of(loads: readonly string[]): SwitchState | null;
  /** Loads that a position of one switch gives their volts, with the key on and every other switch at rest. */
  adds(control: string, position: string): string[];
}

/** No circuit asks for more switches at once than this. */
const MOST_TURNED = 8;

const known = new WeakMap<Harness, Map<boolean, OnStates>>();

/** The switch that lights most is turned first, then the next, and so on; what only lights with two is tried in pairs. */
export function onStates(h: Harness, running: boolean): OnStates {
  const made = known.get(h)?.get(running);
  if (made) return made;
  const sim = new Simulator(h);
  const base: Record<string, string> = { 'unit#key': 'run' };
  if (running && h.controls.some((c) => c.id === 'unit#engine')) base['unit#engine'] = 'working';
  const lit = (controls: Record<string, string>): ReadonlySet<string> => {
    sim.reset();
    try {
      return new Set(powered(h, sim.show({ controls, beat: true })).map((p) => p.id));
    } catch {
      return new Set();
    }
  };
  const turns = h.controls
    .filter((c) => c.id !== 'unit#key' && c.id !== 'unit#engine')
    .flatMap((c) => c.positions.slice(1).map((p) => ({ control: c.id, position: p.id })));
  const alone = new Map<string, { controls: Record<string, string>; on: ReadonlySet<string> }>();
  const trial = (controls: Record<string, string>) => {
    const key = JSON.stringify(controls);
    const t = alone.get(key) ?? { controls, on: lit(controls) };
    alone.set(key, t);
    return t;
  };
  const count = (on: ReadonlySet<string>, loads: readonly string[]) =>
    (on.has(loads[0]!) ? 1000 : 0) + loads.reduce((n, l) => n + (on.has(l) ? 1 : 0), 0);
  const answers = new Map<string, SwitchState | null>();
  const find = (loads: readonly string[]): SwitchState | null => {
    let best = trial(base);
    for (let depth = 0; depth < MOST_TURNED; depth++) {
      const before = best;
      for (const t of turns) {
        if (before.controls[t.control]) continue;
        if (count(best.on, loads) === 1000 + loads.length) break;
        const next = trial({ ...before.controls, [t.control]: t.position });
        if (count(next.on, loads) > count(best.on, loads)) best = next;
      }
      if (best === before) break;
    }
    // what was turned on the way and is not needed goes back
    for (const id of Object.keys(best.controls)) {
      if (id in base) continue;
      const { [id]: _, ...others } = best.controls;
      const without = trial(others);
      if (count(without.on, loads) >= count(best.on, loads)) best = without;
    }
    if (count(best.on, loads)) return { controls: best.controls, beat: true };
    // some need two at once: a switch for its supply and one of its own
    for (const [i, a] of turns.entries())
      for (const b of turns.slice(i + 1)) {
        if (a.control === b.control) continue;
        const next = trial({ ...base, [a.control]: a.position, [b.control]: b.position });
        if (count(next.on, loads)) return { controls: next.controls, beat: true };
      }
    return null;
  };
  const states: OnStates = {
    of(loads) {
      if (!loads.length) return null;
      const key = loads.join();
      if (!answers.has(key)) answers.set(key, find(loads));
      return answers.get(key)!;
    },
    adds(control, position) {
      const before = trial(base).on;
      return [...trial({ ...base, [control]: position }).on].filter((l) => !before.has(l));
    },
  };
  known.set(h, (known.get(h) ?? new Map<boolean, OnStates>()).set(running, states));
  return states;
}
