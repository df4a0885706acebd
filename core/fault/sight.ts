import type { Harness, HarnessElement } from '#model/harness';
import type { Kit } from '#model/kit';
import { handShare } from '../plan/hand-load';
import type { PlannedReading, PlannedStep } from '../plan/planned';
import { onStates } from '../harness/on-states';
import { AT_REST, type SwitchState } from '../harness/simulate';

/** Where the two probes of a meter touch. */
export type Probes = { kind: 'volts'; plus: string; minus: string } | { kind: 'ohms'; plus: string; minus: string };
/** What is looked at, with which instrument. */
export type Look =
  | Probes
  /** amperes out of the battery, or out of the source */
  | { kind: 'amps'; of: 'battery' | 'source' }
  /** loads that must work, and loads that must not */
  | { kind: 'works'; lit: readonly string[]; dark: readonly string[] };
/** A look, with the switches so. */
export interface Sight {
  state: SwitchState;
  look: Look;
}
/** A sight, and what it showed: volts, ohms, amperes, or 1 for as it should be and 0 for not. */
export interface Evidence {
  id: string;
  sight: Sight;
  value: number;
  /** it was judged to fail */
  failing: boolean;
}

const loadsOf = (h: Harness, device: string) => h.elements.filter((e) => e.kind === 'load' && !e.own && e.of === device);
const KEY_ON = { 'unit#key': 'run' };

/** `key:run` and `switch#on:on`, as a kit writes them, as positions of the harness’s switches; null for one it does not have. */
function positions(h: Harness, kit: string, when: readonly string[]): Record<string, string> | null {
  const out: Record<string, string> = {};
  for (const w of when) {
    const [control, position] = w.split(':') as [string, string];
    const id = control.includes('#') ? `${kit}/${control}` : `unit#${control}`;
    const c = h.controls.find((x) => x.id === id);
    if (!c?.positions.some((p) => p.id === position)) {
      // a unit's switch that nothing of this harness asks for changes nothing
      if (!control.includes('#')) continue;
      return null;
    }
    out[id] = position;
  }
  return out;
}

/** Everything on that stays on by itself, engine at idle, as far as the search finds. */
const allOn = (h: Harness): SwitchState => {
  const loads = h.elements.flatMap((e) => (e.kind === 'load' && !e.own ? [e.id] : []));
  const controls: Record<string, string> = { ...(onStates(h, true).of(loads)?.controls ?? KEY_ON) };
  for (const c of h.controls) if (c.momentary) delete controls[c.id];
  if (h.controls.some((c) => c.id === 'unit#engine')) controls['unit#engine'] = 'idle';
  return { controls, beat: true };
};

const across = (e: HarnessElement, state: SwitchState): Sight => ({ state, look: { kind: 'volts', plus: e.from, minus: e.to } });

/** The load that the volts of a circuit are read at: its last device’s. */
export function lastLoad(h: Harness, kit: string, devices: readonly string[]): HarnessElement | null {
  for (const d of [...devices].reverse()) {
    const load = loadsOf(h, `${kit}/${d}`)[0];
    if (load) return load;
  }
  return null;
}

/** Where the volts at the last device of a circuit are read, and with what on; null where the model has no such load. */
export function circuitSight(
  h: Harness,
  circuit: { kit: { id: string }; circuit: { devices: readonly string[] } },
  running: boolean,
): Sight | null {
  const last = lastLoad(h, circuit.kit.id, circuit.circuit.devices);
  if (!last) return null;
  const all = circuit.circuit.devices.flatMap((d) => loadsOf(h, `${circuit.kit.id}/${d}`)).map((e) => e.id);
  const state = onStates(h, running).of([last.id, ...all.filter((id) => id !== last.id)]);
  return state && across(last, state);
}

/** What a planned reading looks at in the model; null for what the model does not know, such as millimetres or a tug. */
export function sightOf(
  h: Harness,
  step: PlannedStep,
  reading: PlannedReading,
  circuits: readonly { id: string; kit: Pick<Kit, 'id' | 'devices'>; circuit: { devices: readonly string[] } }[],
): Sight | null {
  const [kind, rest] = [step.id.slice(0, step.id.indexOf('/')), step.id.slice(step.id.indexOf('/') + 1)];
  const battery: Look = { kind: 'volts', plus: 'bat+', minus: 'bat-' };
  const running = h.controls.some((c) => c.id === 'unit#engine');
  if (step.id === 'safe/rest') return { state: AT_REST, look: battery };
  if (step.id === 'prove/charging') return { state: allOn(h), look: reading.id === 'amps' ? { kind: 'amps', of: 'source' } : battery };
  if (step.id === 'prove/parked') return { state: AT_REST, look: { kind: 'amps', of: 'battery' } };
  if (reading.expected.unit === 'yes' && !reading.sees) return null;
  if (kind === 'feed' && h.nodes.some((n) => n.id === `pp:${rest}`)) {
    const keyed = step.readings.length > 1;
    const on = keyed && reading.id === 'on';
    return { state: on ? { controls: KEY_ON, beat: true } : AT_REST, look: { kind: 'volts', plus: `pp:${rest}`, minus: 'bat-' } };
  }
  const circuit = circuits.find((c) => c.id === step.circuit);
  // what is tried under a hand's load is not the model's rated one
  if (kind === 'volts') return circuit && handShare(circuit) === null ? circuitSight(h, circuit, running) : null;
  if (reading.sees && step.kit) {
    const { lit, dark, when } = reading.sees;
    const at = (ids: readonly string[]) => ids.flatMap((d) => loadsOf(h, `${step.kit}/${d}`).map((e) => e.id));
    const [l, d] = [at(lit), at(dark)];
    if (!l.length && !d.length) return null;
    const look: Look = { kind: 'works', lit: l, dark: d };
    if (when.length) {
      const p = positions(h, step.kit, when);
      return p && { state: { controls: p, beat: true }, look };
    }
    const state = onStates(h, running).of(l.length ? l : d);
    return state && { state, look };
  }
  return null;
}
