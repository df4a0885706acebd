import type { Harness, HarnessControl, HarnessElement, HarnessWire } from '#model/harness';
import type { ContactRating } from '#model/parts';
import { BURST_SHARE } from '../circuit/load';
import { allowable } from '../wire-rules/allowable';
import { contactProblem } from '../wire-rules/contacts';
import { round } from '../sum';
import { NoOperatingPoint } from '../network/solve';
import { AT_REST, NO_FAULTS, Simulator, type Faults, type Shown, type SwitchState } from './simulate';

export const FINDING_KINDS = [
  'blown',
  'overload',
  'short',
  'low-volts',
  'back-feed',
  'alive',
  'chatter',
  'contact',
  'at-limit',
  'battery-loop',
  'no-answer',
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

/** Something wrong in some state of the switches: the worst state of it, and in how many it is seen. */
export interface Finding {
  kind: FindingKind;
  text: string;
  /** element or point it is about */
  at: string;
  circuit: string | null;
  place: string | null;
  state: SwitchState;
  /** how bad, in the kind's own unit, to keep the worst */
  grade: number;
  states: number;
}

/** A position of a switch and what then works. */
export interface PanelRow {
  control: string;
  position: string;
  powered: { id: string; name: string; volts: number; amps: number }[];
}

export interface Scan {
  states: number;
  /** of how many reachable ones; more than `states` when not all were tried */
  of: number;
  complete: boolean;
  findings: Finding[];
  panel: PanelRow[];
  /** everything off and the key out: what still draws */
  parked: { amps: number; alive: { id: string; name: string; amps: number }[] };
  rounds: number;
}

const MOST_STATES = 20_000;
/** A current against a wire's direction counts from here, amperes: below, it is a meter's leak or a pilot lamp's. */
const BACK_A = 0.02;
const LIVE_V = 1;
/** What a sleeping supply lets through is no circuit alive. */
const ALIVE_A = 0.05;
/** No charger lifts a 12 V battery this much above its own volts: another battery does. */
const OVER_V = 2.5;
const NOMINAL_SHARE = 0.5;

const isKey = (c: HarnessControl) => c.id === 'unit#key' || c.id === 'unit#engine';

/** Whether anything of a harness goes on and off by itself. */
export const flashes = (h: Harness): boolean => h.elements.some((e) => e.kind === 'contact' && e.when.some((w) => 'beat' in w));

/**
 * Every state of key, engine, switches and flasher that a hand can reach, by its place in their order: the engine runs only with the
 * key on. Neighbours differ little, so that one's answer is near the next one's.
 */
function statesOf(h: Harness): { of: number; at: (n: number) => SwitchState } {
  const others = h.controls.filter((c) => !isKey(c));
  const key = h.controls.find((c) => c.id === 'unit#key');
  const engine = h.controls.find((c) => c.id === 'unit#engine');
  const inner = (key?.positions ?? [{ id: 'run' }])
    .flatMap((k) => (k.id === 'run' && engine ? engine.positions : [{ id: 'off' }]).map((e) => ({ key: k.id, engine: e.id })))
    .flatMap((k) => (flashes(h) ? [true, false] : [true]).map((beat) => ({ ...k, beat })));
  return {
    of: others.reduce((n, c) => n * c.positions.length, inner.length),
    at: (n) => {
      const { beat, ...at } = inner[n % inner.length]!;
      let rest = Math.floor(n / inner.length);
      const controls: Record<string, string> = {};
      for (const { id, positions } of others) {
        controls[id] = positions[rest % positions.length]!.id;
        rest = Math.floor(rest / positions.length);
      }
      if (key) controls[key.id] = at.key;
      if (engine) controls[engine.id] = at.engine;
      return { controls, beat };
    },
  };
}

/** All of them, one after another. */
export function* reachable(h: Harness): Generator<SwitchState> {
  const { of, at } = statesOf(h);
  for (let n = 0; n < of; n++) yield at(n);
}

/** How many states `reachable` gives. */
export const countStates = (h: Harness): number => statesOf(h).of;

/** Words for a state, what differs from rest: `key run, engine idle, Signal switch left`. */
export function sayState(h: Harness, s: SwitchState): string {
  const said = h.controls.flatMap((c) => {
    const at = s.controls[c.id];
    const i = c.positions.findIndex((p) => p.id === at);
    return i > 0 ? [`${c.name.toLowerCase()} ${c.positions[i]!.name}`] : [];
  });
  return said.length ? said.join(', ') : 'everything off';
}

/**
 * Tries every reachable state and answers what is wrong in any of them: fuses that open, wires beyond what they may carry,
 * devices below their least volts, current against a wire's direction (a back-feed), circuits alive with the key off, relays
 * that chatter, supplies at their limit. Past 20,000 states a spread of them is tried and `complete` is false.
 * @param options.progress called now and then with the share done; answers false to stop
 * @param options.part a share of the states, the `nth` (from 0) of `of`: those of all parts come together by `mergeScans`
 */
export function scan(
  h: Harness,
  faults: Faults = NO_FAULTS,
  { progress, part = { nth: 0, of: 1 } }: { progress?: (share: number) => boolean; part?: { nth: number; of: number } } = {},
): Scan {
  const found = new Map<string, Finding>();
  const keyed = new Set(h.keyed);
  const sim = new Simulator(h, faults);
  const { of: total, at } = statesOf(h);
  const stride = Math.max(1, Math.ceil(total / MOST_STATES));
  const watch = watched(h, sim);
  const note: Note = ({ text, node, ...f }) => {
    const id = `${f.kind} ${f.at}`;
    const was = found.get(id);
    if (was) was.states++;
    // words only for what is kept: the same is found in many states
    if (!was || f.grade > was.grade)
      found.set(id, { ...f, text: text(), place: node === null ? null : watch.placeOf(node), states: was?.states ?? 1 });
  };
  let tried = 0;
  let rounds = 0;
  let stopped = false;
  for (let index = part.nth * stride; index < total; index += part.of * stride) {
    const state = at(index);
    let s: Settled;
    sim.reset();
    try {
      s = sim.settle(state);
    } catch (e) {
      if (!(e instanceof NoOperatingPoint)) throw e;
      note({ kind: 'no-answer', text: () => e.message, at: 'bat+', circuit: null, node: 'bat+', state, grade: 1 });
      continue;
    }
    tried++;
    rounds += s.rounds;
    judge(watch, keyed, state, s, note);
    if (progress && tried % 256 === 0 && !progress(index / total)) {
      stopped = true;
      break;
    }
  }
  return {
    states: tried,
    of: total,
    complete: stride === 1 && !stopped,
    findings: inOrder([...found.values()]),
    panel: part.nth ? [] : panel(h, sim),
    parked: part.nth ? { amps: 0, alive: [] } : parked(h, sim),
    rounds,
  };
}

const inOrder = (list: Finding[]): Finding[] =>
  list.sort((a, b) => FINDING_KINDS.indexOf(a.kind) - FINDING_KINDS.indexOf(b.kind) || b.grade - a.grade);

/** All parts of a scan as the one that it is. */
export function mergeScans(parts: readonly Scan[]): Scan {
  const found = new Map<string, Finding>();
  for (const f of parts.flatMap((p) => p.findings)) {
    const id = `${f.kind} ${f.at}`;
    const was = found.get(id);
    const states = (was?.states ?? 0) + f.states;
    found.set(id, { ...(was && was.grade >= f.grade ? was : f), states });
  }
  const [first] = parts as [Scan];
  return {
    states: parts.reduce((n, p) => n + p.states, 0),
    of: first.of,
    complete: parts.every((p) => p.complete),
    findings: inOrder([...found.values()]),
    panel: first.panel,
    parked: first.parked,
    rounds: parts.reduce((n, p) => n + p.rounds, 0),
  };
}

type Settled = ReturnType<Simulator['settle']>;
type Read = () => number;
type Of<K extends HarnessElement['kind']> = Extract<HarnessElement, { kind: K }>;

/** What a scan looks at in every state, with how each figure is read: made once. */
interface Watched {
  byId: ReadonlyMap<string, HarnessElement>;
  placeOf: (node: string) => string | null;
  voltsAt: (node: string) => number;
  wires: { w: HarnessWire; amps: Read; mayA: number | null; burst: boolean }[];
  contacts: { e: Of<'contact'> & { rated: ContactRating }; amps: Read; across: Read; burst: boolean }[];
  loads: { e: Of<'load'>; amps: Read; across: Read; ownA: Read }[];
  batteries: { e: Of<'battery'>; amps: Read; across: Read }[];
}

function watched(h: Harness, sim: Simulator): Watched {
  const volts = new Map(h.nodes.map((n) => [n.id, sim.voltsReader(n.id)]));
  const places = new Map(h.nodes.map((n) => [n.id, n.place]));
  const across = (e: HarnessElement): Read => {
    const [from, to] = [volts.get(e.from)!, volts.get(e.to)!];
    return () => from() - to();
  };
  const none: Read = () => 0;
  const amps = (id: string): Read | null => (h.elements.some((e) => e.id === id) ? sim.ampsReader(id) : null);
  const bursts = new Set(h.elements.flatMap((e) => (e.kind === 'fuse' && e.burstS !== null && e.circuit !== null ? [e.circuit] : [])));
  const burst = (e: HarnessElement) => e.circuit !== null && bursts.has(e.circuit);
  const out: Watched = {
    byId: new Map(h.elements.map((e) => [e.id, e])),
    placeOf: (node) => places.get(node) ?? null,
    voltsAt: (node) => volts.get(node)?.() ?? 0,
    wires: [],
    contacts: [],
    loads: [],
    batteries: [],
  };
  for (const e of h.elements) {
    const read = amps(e.id);
    if (!read) continue;
    if (e.kind === 'wire')
      out.wires.push({ w: e, amps: read, mayA: e.awg === null ? null : allowable({ ...e, awg: e.awg }, e), burst: burst(e) });
    else if (e.kind === 'contact' && e.rated)
      out.contacts.push({ e: { ...e, rated: e.rated }, amps: read, across: across(e), burst: burst(e) });
    else if (e.kind === 'load' && !e.own) out.loads.push({ e, amps: read, across: across(e), ownA: amps(`${e.circuit}#fuse`) ?? none });
    else if (e.kind === 'battery') out.batteries.push({ e, amps: read, across: across(e) });
  }
  return out;
}

/** Takes down what is wrong in a state; its words are asked for only where it is the worst of its kind so far. */
type Note = (f: Omit<Finding, 'states' | 'text' | 'place'> & { text: () => string; node: string | null }) => void;

function judge(watch: Watched, keyed: ReadonlySet<string>, state: SwitchState, s: Settled, note: Note): void {
  const { byId } = watch;
  const keyOff = (state.controls['unit#key'] ?? 'off') === 'off';
  for (const b of s.blown) {
    const e = byId.get(b.id)!;
    const after = b.soonestS < 1 ? `${round(b.soonestS, 1)} s` : `${Math.round(b.soonestS)} s`;
    note({
      kind: 'blown',
      text: () => `${e.name} opens: ${round(b.amps)} A, as soon as ${after}`,
      at: b.id,
      circuit: e.circuit,
      node: e.to,
      state,
      grade: b.amps,
    });
  }
  for (const { w, amps, mayA: may, burst } of watch.wires) {
    const a = amps();
    if (!w.bothWays && a < -BACK_A)
      note({
        kind: 'back-feed',
        text: () => `${w.name}: ${round(-a, 2)} A run backwards, fed through another path`,
        at: w.id,
        circuit: w.circuit,
        node: w.to,
        state,
        grade: -a,
      });
    if (may === null) continue;
    // a burst heats a wire by its share of the time
    const warms = Math.abs(a) * (burst ? BURST_SHARE : 1);
    if (Math.abs(a) <= may * 3 && warms > may)
      note({
        kind: 'overload',
        text: () => `${w.name}: ${round(Math.abs(a))} A, the wire may carry ${round(may)} A`,
        at: w.id,
        circuit: w.circuit,
        node: w.to,
        state,
        grade: Math.abs(a) / may,
      });
    if (Math.abs(a) > may * 3)
      note({
        kind: 'short',
        text: () => `${w.name}: ${round(Math.abs(a))} A with nothing to stop it, a short across the source`,
        at: w.id,
        circuit: w.circuit,
        node: w.to,
        state,
        grade: Math.abs(a),
      });
  }
  for (const { e, amps, across, ownA } of watch.loads) {
    const a = amps();
    const v = across();
    const least = e.leastVolts ?? e.minVolts;
    if (a > ALIVE_A && v > LIVE_V && v < least - 0.005)
      note({
        // a glow without current through its own fuse comes by another path
        kind: v < e.volts * NOMINAL_SHARE && Math.abs(ownA()) < a / 2 ? 'back-feed' : 'low-volts',
        text: () => `${e.name}: ${round(v, 3)} V, works from ${least} V`,
        at: e.id,
        circuit: e.circuit,
        node: e.from,
        state,
        grade: least - v,
      });
    if (keyOff && e.circuit && keyed.has(e.circuit) && v > LIVE_V && (a > ALIVE_A || v > e.minVolts))
      note({
        kind: 'alive',
        text: () => `${e.name}: ${round(v, 3)} V with the key off`,
        at: e.id,
        circuit: e.circuit,
        node: e.from,
        state,
        grade: v,
      });
  }
  for (const { e, amps, across } of watch.batteries)
    if (across() > e.volts + OVER_V * Math.max(1, e.volts / 12))
      note({
        kind: 'battery-loop',
        text: () => `${e.name} is driven backwards with ${round(amps())} A: a loop of batteries`,
        at: e.id,
        circuit: null,
        node: e.from,
        state,
        grade: amps(),
      });
  for (const { e, amps, across, burst } of watch.contacts) {
    const a = Math.abs(amps());
    // a burst is carried for its share of the time; what stands across an open contact is what it has broken
    const broken = Math.abs(across());
    const says = contactProblem(e.name, e.rated, a * (burst ? BURST_SHARE : 1), broken);
    if (says) note({ kind: 'contact', text: () => says, at: e.id, circuit: e.circuit, node: e.from, state, grade: Math.max(a, broken) });
  }
  for (const c of s.chatter) {
    const e = byId.get(c)!;
    note({
      kind: 'chatter',
      text: () => `${e.name} pulls in and lets go without end: what it switches takes its own volts away`,
      at: c,
      circuit: e.circuit,
      node: e.from,
      state,
      grade: 1,
    });
  }
  for (const [id, as] of s.supplies)
    if (as === 'at its limit') {
      const e = byId.get(id)!;
      const volts = watch.voltsAt(e.kind === 'supply' ? e.out : e.from) - watch.voltsAt(e.to);
      note({
        kind: 'at-limit',
        text: () => `${e.name} is at its limit: its volts fall to ${round(volts, 3)} V`,
        at: id,
        circuit: e.circuit,
        node: e.from,
        state,
        grade: 1,
      });
    }
}

/** Less than this flows through a thing that does not work, amperes. */
const DRAWS_A = 1e-4;

/** Loads that work in a state: those with their volts. */
export function powered(h: Harness, s: Shown): PanelRow['powered'] {
  return h.elements.flatMap((e) => {
    if (e.kind !== 'load' || e.own) return [];
    const volts = s.volts.get(e.from)! - s.volts.get(e.to)!;
    const amps = s.amps.get(e.id) ?? 0;
    // volts that lean on it from its ground’s side, with nothing to flow to, do not make it work
    const draws = !e.watts || Math.abs(amps) > DRAWS_A;
    return draws && Math.abs(volts) > e.volts * NOMINAL_SHARE ? [{ id: e.id, name: e.name, volts, amps }] : [];
  });
}

/** Every position of every switch, one at a time, with the key on: what it powers. */
function panel(h: Harness, sim: Simulator): PanelRow[] {
  const on: Record<string, string> = { 'unit#key': 'run' };
  const rows: PanelRow[] = [];
  const tell = (control: string, position: string, state: SwitchState) => {
    sim.reset();
    try {
      rows.push({ control, position, powered: powered(h, sim.show(state)) });
    } catch {
      rows.push({ control, position, powered: [] });
    }
  };
  tell('', 'key off', AT_REST);
  tell('', 'key on, all at rest', { controls: on, beat: true });
  for (const c of h.controls)
    if (!isKey(c)) for (const p of c.positions.slice(1)) tell(c.name, p.name, { controls: { ...on, [c.id]: p.id }, beat: true });
  return rows;
}

function parked(h: Harness, sim: Simulator): Scan['parked'] {
  sim.reset();
  const s = sim.show(AT_REST);
  const alive = h.elements.flatMap((e) => {
    if (e.kind !== 'load' && e.kind !== 'coil' && e.kind !== 'resistor') return [];
    if (e.kind === 'resistor' && e.ohms < 50) return [];
    const amps = Math.abs(s.amps.get(e.id) ?? 0);
    return amps > 5e-5 ? [{ id: e.id, name: e.name, amps }] : [];
  });
  const supplies = h.elements.flatMap((e) => (e.kind === 'battery' ? [-(s.amps.get(e.id) ?? 0)] : []));
  return { amps: Math.max(0, ...supplies), alive };
}
