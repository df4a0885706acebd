import type { EquipmentFunction } from '#model/common';
import type { Harness, HarnessControl, HarnessElement, When } from '#model/harness';
import type { UnitModel } from '#model/unit-model';
import { reachable } from '../harness/scan';
import type { SwitchState } from '../harness/simulate';
import { UNIT_CONTROLS } from '../harness/unit-controls';
import type { Lamp } from './lamp';

/** Resistors up to this pass a lamp's current: a wire's or a ground's own; more is a trigger's or a parked draw. */
const WIRE_OHMS = 50;
const NOTHING: ReadonlySet<string> = new Set();
/** Relays that have not come to rest after so many rounds chatter. */
const MOST_ROUNDS = 16;

/** What a control does, where its id says so; a kit's own word in `does` comes first. */
const DOES: Readonly<Record<string, string>> = { lamps: 'lights', pedal: 'brake', signal: 'turn', navigation: 'nav' };
const MEANS: Readonly<Record<string, string>> = { down: 'pressed', up: 'released' };
/** Positions in which a control does nothing. */
const REST = ['off', 'released', 'neutral', 'rest'];
export const ROLES = ['key', 'engine', 'lights', 'brake', 'turn', 'hazard', 'beam', 'gear', 'horn', 'nav'];

const ownName = (id: string) => id.split('#').at(-1)!;
export const roleOf = (c: Pick<HarnessControl, 'id' | 'does'>): string | null => {
  const name = c.does ?? DOES[ownName(c.id)] ?? ownName(c.id);
  return ROLES.includes(name) ? name : null;
};

/** Every state of the switches that matter to lamps, and which lamps are lit in each. */
export interface SwitchTable {
  states: SwitchState[];
  /** per state, per role: positions of the controls that do it */
  roles: ReadonlyMap<string, string>[];
  /** lamps of the unit by id, with their function and side */
  lamps: {
    id: string;
    name: string;
    function: EquipmentFunction;
    side: 'left' | 'right' | null;
    /** it is another lamp of the unit as well, put to this use besides */
    shared?: boolean;
  }[];
  /** per state: lit, by lamp */
  lit: ReadonlySet<string>[];
  /** per state: the same with the flasher between its beats; −1 where nothing flashes or it is between them already */
  between: number[];
  /** lamps whose switching nobody describes: nothing that asks for them can be proved */
  unknown: ReadonlySet<string>;
  /** states in which relays pull in and let go without end */
  chatter: number;
}

/** The factory wire that feeds a factory lamp, by what the lamp does. */
function wireOf(l: Lamp): string | null {
  const left = (l.at?.y ?? 0) >= 0;
  switch (l.function) {
    case 'tail':
    case 'plate':
      return 'tail';
    case 'stop':
      return 'stop';
    case 'turn-front':
    case 'turn-rear':
      return left ? 'turn-left' : 'turn-right';
    case 'headlamp':
      return 'low-beam';
    case 'high-beam-indicator':
      return 'high-beam';
    default:
      return null;
  }
}

/** A condition on the unit's own controls, as a model's sheet writes it. */
function unitWhen(text: string): When | null {
  if (text === 'beat') return { beat: true };
  const m = /^([a-z-]+):([a-z0-9|-]+)$/.exec(text);
  return m && UNIT_CONTROLS.some((c) => c.id === m[1]) ? { control: `unit#${m[1]}`, in: m[2]!.split('|') } : null;
}

/** When a factory lamp is lit, by its own sheet or by the factory wire of its function; null when neither says. */
function factoryWhen(model: UnitModel, l: Lamp): When[] | null {
  const own = model.equipment.find((e) => `factory/${e.id}` === l.id)?.lit;
  const f = wireOf(l);
  const live = own ?? model.factoryWires.find((w) => w.function === f)?.live;
  if (!live) return null;
  const when = live.map(unitWhen);
  return when.some((w) => w === null) ? null : (when as When[]);
}

/** Conductors between two points, by the elements that join them. */
interface Way {
  a: number;
  b: number;
  /** a one-way element lets plus through from a to b, and minus from b to a */
  oneWay: boolean;
  /** index into the contacts, or −1 for what always conducts */
  contact: number;
}

/** The part of a harness that lamps hang on, up to the unit's own rails: what else is fed there does not matter to them. */
function upstream(h: Harness, ends: Iterable<string>): Set<HarnessElement> {
  const kind = new Map(h.nodes.map((n) => [n.id, n.kind]));
  const at = new Map<string, HarnessElement[]>();
  const put = (n: string, e: HarnessElement) => {
    const list = at.get(n);
    if (list) list.push(e);
    else at.set(n, [e]);
  };
  for (const e of h.elements) {
    put(e.from, e);
    put(e.to, e);
    if (e.kind === 'supply') put(e.out, e);
  }
  const coils = new Map(h.elements.flatMap((e) => (e.kind === 'coil' ? [[e.id, e] as const] : [])));
  const rail = (n: string) => n === 'bat-' || n === 'bat+' || ['point', 'ground', 'battery', 'unit-wire'].includes(kind.get(n) ?? '');
  const taken = new Set<HarnessElement>();
  const seen = new Set<string>();
  const open = [...ends];
  while (open.length) {
    const n = open.pop()!;
    if (seen.has(n)) continue;
    seen.add(n);
    for (const e of at.get(n) ?? []) {
      if (taken.has(e) || e.kind === 'charger' || (e.kind === 'load' && e.own)) continue;
      // from a rail only its own supply is followed, not what else hangs on it
      const feeds = (e.kind === 'supply' && e.out === n) || (kind.get(n) === 'point' && e.to === n);
      if (rail(n) && e.of !== 'unit' && !feeds) continue;
      taken.add(e);
      if (e.kind === 'load') continue;
      for (const end of [e.from, e.to, ...(e.kind === 'supply' && e.trigger ? [e.trigger] : [])]) open.push(end);
      if (e.kind === 'contact')
        for (const w of e.when)
          if ('coil' in w) {
            const c = coils.get(w.coil);
            if (c) {
              taken.add(c);
              open.push(c.from, c.to);
            }
          }
    }
  }
  return taken;
}

/**
 * Tries every state of the switches that lamps depend on, and answers which are lit: a lamp is lit when one end has a way to
 * plus and the other to minus, through closed contacts, relays that are pulled in, fuses and diodes. Volts are not reckoned
 * here; the Wire station does that, and tests hold the two against each other.
 */
export function switchTable(h: Harness, model: UnitModel, lamps: readonly Lamp[]): SwitchTable {
  const loads = h.elements.filter((e) => e.kind === 'load' && !e.own && e.of !== null);
  const unknown = new Set<string>();
  const byLamp = new Map<string, { loads: HarnessElement[]; when: When[] | null }>();
  for (const l of lamps) {
    const device = l.from === 'added' ? null : l.id;
    const mine = loads.filter((e) => e.of === device || (l.from === 'added' && e.of!.endsWith(`/${l.id.slice(6)}`)));
    const when = l.from === 'factory' ? factoryWhen(model, l) : null;
    if (!mine.length && !when) unknown.add(l.id);
    else byLamp.set(l.id, { loads: mine, when });
  }
  const lampLoads = [...byLamp.values()].flatMap((x) => x.loads);
  const part = upstream(
    h,
    lampLoads.flatMap((e) => [e.from, e.to]),
  );
  lampLoads.forEach((e) => part.add(e));

  const conditions = [
    ...[...part].flatMap((e) => (e.kind === 'contact' ? e.when : [])),
    ...[...byLamp.values()].flatMap((x) => x.when ?? []),
  ];
  const wanted = new Set(conditions.flatMap((w) => ('control' in w ? [w.control] : [])));
  // what a rule may ask for is tried too, also where no lamp hangs on it
  const controls = [
    ...h.controls,
    ...UNIT_CONTROLS.filter((c) => wanted.has(`unit#${c.id}`) && !h.controls.some((x) => x.id === `unit#${c.id}`)).map((c) => ({
      ...c,
      id: `unit#${c.id}`,
      of: 'unit',
      place: null,
    })),
  ].filter((c) => wanted.has(c.id) || c.id === 'unit#key' || c.id === 'unit#engine');
  const roles = new Map(controls.map((c) => [c.id, roleOf(c)]));
  const brakes = controls.filter((c) => roles.get(c.id) === 'brake');

  const ids = new Map<string, number>();
  const num = (n: string) => {
    const had = ids.get(n);
    if (had !== undefined) return had;
    ids.set(n, ids.size);
    return ids.size - 1;
  };
  const contacts: When[][] = [];
  const ways: Way[] = [];
  const coils: { id: string; a: number; b: number }[] = [];
  const supplies: { in: number; minus: number; out: number; trigger: number }[] = [];
  const plus: number[] = [];
  for (const e of part) {
    const [a, b] = [num(e.from), num(e.to)];
    if (e.kind === 'wire' || e.kind === 'fuse' || (e.kind === 'resistor' && e.ohms <= WIRE_OHMS))
      ways.push({ a, b, oneWay: false, contact: -1 });
    else if (e.kind === 'diode') ways.push({ a, b, oneWay: true, contact: -1 });
    else if (e.kind === 'contact') {
      ways.push({ a, b, oneWay: false, contact: contacts.length });
      contacts.push(e.when);
    } else if (e.kind === 'coil') coils.push({ id: e.id, a, b });
    else if (e.kind === 'battery') plus.push(a);
    else if (e.kind === 'supply') supplies.push({ in: a, minus: b, out: num(e.out), trigger: num(e.trigger ?? e.from) });
  }
  plus.push(num('bat+'));
  const minus = num('bat-');
  const count = ids.size;

  const closed = (w: When, s: SwitchState, pulled: ReadonlySet<string>): boolean =>
    'beat' in w
      ? s.beat
      : 'coil' in w
        ? pulled.has(w.coil) === w.pulled
        : w.in.includes(s.controls[w.control] ?? controls.find((c) => c.id === w.control)?.positions[0]?.id ?? '');

  // ways from each point, so that only what is reached is followed
  const at: { to: number; contact: number; live: boolean; ground: boolean }[][] = Array.from({ length: count }, () => []);
  for (const w of ways) {
    at[w.a]!.push({ to: w.b, contact: w.contact, live: true, ground: !w.oneWay });
    at[w.b]!.push({ to: w.a, contact: w.contact, live: !w.oneWay, ground: true });
  }
  const reach = (from: readonly number[], on: readonly boolean[], live: boolean): Uint8Array => {
    const seen = new Uint8Array(count);
    const open = [...from];
    for (const n of from) seen[n] = 1;
    while (open.length)
      for (const w of at[open.pop()!]!)
        if (!seen[w.to] && (live ? w.live : w.ground) && (w.contact < 0 || on[w.contact])) {
          seen[w.to] = 1;
          open.push(w.to);
        }
    return seen;
  };

  const table: SwitchTable = { states: [], roles: [], lamps: [], lit: [], between: [], unknown, chatter: 0 };
  table.lamps = lamps.map((l) => ({
    id: l.id,
    name: l.name,
    function: l.function,
    shared: l.shared ?? false,
    side: !l.at || Math.abs(l.at.y) < 20 ? null : l.at.y > 0 ? 'left' : 'right',
  }));
  const settle = (state: SwitchState): { lit: ReadonlySet<string>; chatters: boolean } => {
    let pulled = new Set<string>();
    let live: Uint8Array = new Uint8Array();
    let ground: Uint8Array = new Uint8Array();
    let rounds = 0;
    let chatters = false;
    for (; ; rounds++) {
      const on = contacts.map((when) => when.every((w) => closed(w, state, pulled)));
      ground = reach([minus], on, false);
      live = reach(plus, on, true);
      for (let more = true; more;) {
        more = false;
        for (const s of supplies)
          if (live[s.in] && ground[s.minus] && live[s.trigger] && !live[s.out]) {
            live = reach([...plus, ...supplies.filter((x) => live[x.out] || x === s).map((x) => x.out)], on, true);
            more = true;
          }
      }
      const now = new Set(coils.filter((c) => (live[c.a] && ground[c.b]) || (live[c.b] && ground[c.a])).map((c) => c.id));
      if (now.size === pulled.size && [...now].every((c) => pulled.has(c))) break;
      if (rounds > MOST_ROUNDS) {
        chatters = true;
        break;
      }
      pulled = now;
    }
    const lit = new Set<string>();
    for (const [id, x] of byLamp)
      if (
        (x.when !== null && x.when.every((w) => closed(w, state, pulled))) ||
        x.loads.some((e) => {
          const [a, b] = [ids.get(e.from)!, ids.get(e.to)!];
          return (live[a] && ground[b]) || (live[b] && ground[a]);
        })
      )
        lit.add(id);
    return { lit, chatters };
  };
  const answers = new Map<string, ReturnType<typeof settle>>();
  let onBeat = -1;
  for (const state of reachable({ ...h, elements: beats(conditions), controls })) {
    // one pedal works every brake switch on the unit
    if (brakes.length > 1) {
      const pressed = brakes.map((c) => state.controls[c.id] !== c.positions[0]!.id);
      if (pressed.some((p) => p !== pressed[0])) continue;
    }
    // states that close the same contacts light the same lamps
    const pattern = conditions.map((w) => ('coil' in w ? '' : closed(w, state, NOTHING) ? '1' : '0')).join('');
    let answer = answers.get(pattern);
    if (!answer) answers.set(pattern, (answer = settle(state)));
    if (answer.chatters) table.chatter++;
    const { lit } = answer;
    const by = new Map<string, string>();
    for (const c of controls) {
      const role = roles.get(c.id);
      if (!role) continue;
      const at = state.controls[c.id] ?? c.positions[0]!.id;
      const means = MEANS[at] ?? at;
      // of several controls that do the same, the one that is not at rest counts
      if (!by.has(role) || REST.includes(by.get(role)!)) by.set(role, means);
    }
    // each state comes on the beat first, then between beats
    table.between.push(-1);
    if (state.beat) onBeat = table.states.length;
    else if (onBeat >= 0) table.between[onBeat] = table.states.length;
    table.states.push(state);
    table.roles.push(by);
    table.lit.push(lit);
  }
  return table;
}

/** Whether any of these asks for a flasher's beat, in the shape that `reachable` looks for. */
const beats = (conditions: readonly When[]): HarnessElement[] =>
  conditions.some((w) => 'beat' in w)
    ? [{ kind: 'contact', id: 'beat', name: 'beat', from: 'bat+', to: 'bat-', of: null, circuit: null, when: [{ beat: true }], ohms: 0 }]
    : [];

const isBrake = (c: Pick<HarnessControl, 'id' | 'does'>) => roleOf(c) === 'brake';

/**
 * The switches after one is thrown: an engine runs with the key on only, and one pedal works every brake switch.
 * @param positions what does not stand at rest; a switch left out does
 */
export function throwSwitch(
  controls: readonly HarnessControl[],
  positions: Readonly<Record<string, string>>,
  control: string,
  position: string,
): Record<string, string> {
  const next = { ...positions, [control]: position };
  if (control === 'unit#engine' && position !== 'off') next['unit#key'] = 'run';
  if (control === 'unit#key' && position !== 'run' && controls.some((c) => c.id === 'unit#engine')) next['unit#engine'] = 'off';
  const brakes = controls.filter(isBrake);
  const thrown = brakes.find((c) => c.id === control);
  if (thrown) {
    const pressed = position !== thrown.positions[0]!.id;
    for (const b of brakes) next[b.id] = b.positions[pressed ? 1 : 0]!.id;
  }
  return next;
}

/** Lamps lit with the switches so; none where that state cannot be reached. A switch left out stands at rest. */
export function litWith(
  t: SwitchTable,
  controls: readonly HarnessControl[],
  positions: Readonly<Record<string, string>>,
  beat: boolean,
): ReadonlySet<string> {
  const rest = new Map(controls.map((c) => [c.id, c.positions[0]!.id]));
  const flashes = t.states.some((s) => !s.beat);
  const at = t.states.findIndex(
    (s) => s.beat === (flashes ? beat : true) && Object.entries(s.controls).every(([c, p]) => (positions[c] ?? rest.get(c)) === p),
  );
  return at < 0 ? NOTHING : t.lit[at]!;
}

/** Lamps lit with the navigation switch in a position: under way with the key on, otherwise with the key out. Null without such a switch. */
export function litAtNav(t: SwitchTable, position: 'run' | 'anchor' | 'off'): ReadonlySet<string> | null {
  const key = position === 'run' ? 'run' : 'off';
  const at = t.states.findIndex((s, i) => t.roles[i]!.get('nav') === position && (s.controls['unit#key'] ?? 'off') === key);
  return at < 0 ? null : t.lit[at]!;
}
