import { ImpossibleInput } from '../errors';

/** A piece of work: `open` panels off, `shut` panels on, power as it wants it, and `after` done before. */
export interface SequenceTask {
  id: string;
  minutes: number;
  zone: string;
  open: readonly string[];
  shut?: readonly string[];
  power: 'off' | 'on' | 'any';
  after: readonly string[];
}
/** A panel comes off only when those in `after` are off, and goes on only when no panel that names it is off. */
export interface SequencePanel {
  id: string;
  zone: string;
  offMinutes: number;
  onMinutes: number;
  after: readonly string[];
}
export interface SequenceProblem {
  tasks: readonly SequenceTask[];
  panels: readonly SequencePanel[];
  /** where power is taken off and given back; `open`: panels that must be off to reach it */
  power: { zone: string; offMinutes: number; onMinutes: number; open?: readonly string[] };
  /** minutes for each change of zone between neighbouring steps */
  moveMinutes: number;
  /** where the work stands; left out: nothing done, every panel on, power on, nobody anywhere yet */
  start?: { done: readonly string[]; off: readonly string[]; power: 'on' | 'off'; zone: string | null };
}
export interface SequenceStep {
  do: 'task' | 'panel-off' | 'panel-on' | 'power-off' | 'power-on';
  id: string;
}
export interface Sequence {
  steps: SequenceStep[];
  /** of everything done, moves included */
  minutes: number;
  /** no sequence takes less */
  bound: number;
  optimal: boolean;
}

/** More than any unit here has; a panel is a bit of a number. */
export const MOST_PANELS = 30;
export const MOST_TASKS = 400;
/** Id of the power steps. */
export const POWER = 'power';

/** The problem in numbers, with what follows from it once and for all. */
interface Compiled {
  zones: string[];
  moveMinutes: number;
  tasks: {
    id: string;
    minutes: number;
    zone: number;
    open: number;
    openList: number[];
    shut: number;
    power: 'off' | 'on' | 'any';
    after: number[];
  }[];
  panels: { id: string; zone: number; off: number; on: number; after: number; afterList: number[]; below: number; belowList: number[] }[];
  power: { zone: number; off: number; on: number; open: number; openList: number[] };
  /** tasks of each zone */
  inZone: number[][];
  /** tasks in an order that keeps what comes before first */
  topo: number[];
  /** panels in an order in which they come off */
  panelTopo: number[];
  /** for each task, those before it that want power or a panel otherwise, with the zone where it is turned between the two */
  turned: [number, number][][];
  /** what each task wants first of panels and power, before anything that comes before it wants the opposite */
  wants: { open: Want[]; shut: Want[]; off: Want[]; on: Want[] }[];
  /** room for `leastLeft` to reckon in */
  row: Uint16Array;
}

/** Panels (or power, as any bit) that a task wants so, unless one of `unless` is still to do, which wants them otherwise first. */
interface Want {
  bits: number;
  unless: number[];
}

/** Everything that lies behind a set, itself included. */
function closure(start: number, step: (i: number) => number): number {
  let all = start;
  for (let grew = true; grew;) {
    grew = false;
    for (let i = 0; i < MOST_PANELS; i++)
      if (all & (1 << i) && (all | step(i)) !== all) {
        all |= step(i);
        grew = true;
      }
  }
  return all;
}

function order(ids: readonly string[], after: (i: number) => readonly number[], what: string): number[] {
  const out: number[] = [];
  const mark = new Uint8Array(ids.length);
  const path: number[] = [];
  const visit = (i: number): void => {
    if (mark[i] === 2) return;
    path.push(i);
    if (mark[i] === 1) {
      const round = path.slice(path.indexOf(i)).map((k) => `“${ids[k]}”`);
      throw new ImpossibleInput(`${what} wait for each other in a circle: ${round.join(' after ')}`, what);
    }
    mark[i] = 1;
    after(i).forEach(visit);
    mark[i] = 2;
    path.pop();
    out.push(i);
  };
  ids.forEach((_, i) => visit(i));
  return out;
}

function index(ids: readonly string[], path: string): (id: string, from: string) => number {
  const at = new Map<string, number>();
  ids.forEach((id, i) => {
    if (at.has(id)) throw new ImpossibleInput(`“${id}” is there twice`, `${path}.${i}.id`);
    at.set(id, i);
  });
  return (id, from) => {
    const i = at.get(id);
    if (i === undefined) throw new ImpossibleInput(`there is no “${id}” among the ${path}`, from);
    return i;
  };
}

function compile(p: SequenceProblem): Compiled {
  if (p.panels.length > MOST_PANELS) throw new ImpossibleInput(`at most ${MOST_PANELS} panels`, 'panels');
  if (p.tasks.length > MOST_TASKS) throw new ImpossibleInput(`at most ${MOST_TASKS} tasks`, 'tasks');
  const zones = [
    ...new Set([
      p.power.zone,
      ...(p.start?.zone != null ? [p.start.zone] : []),
      ...p.tasks.map((t) => t.zone),
      ...p.panels.map((x) => x.zone),
    ]),
  ];
  const zone = (z: string) => zones.indexOf(z);
  const taskAt = index(
    p.tasks.map((t) => t.id),
    'tasks',
  );
  const panelAt = index(
    p.panels.map((t) => t.id),
    'panels',
  );
  const bits = (ids: readonly string[], from: string) => ids.reduce((m, id, i) => m | (1 << panelAt(id, `${from}.${i}`)), 0);
  const direct = p.panels.map((x, i) => bits(x.after, `panels.${i}.after`));
  const listOf = (mask: number) => p.panels.map((_, k) => k).filter((k) => mask & (1 << k));
  const panelTopo = order(
    p.panels.map((x) => x.id),
    (i) => listOf(direct[i]!),
    'panels',
  );
  const up = (m: number) => closure(m, (i) => direct[i] ?? 0);
  const below = p.panels.map((_, i) => direct.reduce((m, d, k) => (d & (1 << i) ? m | (1 << k) : m), 0));
  // a chain through the last panel to come off is as long as through those before it
  const lowest = (mask: number) => listOf(mask).filter((k) => !(below[k]! & mask));
  const tasks = p.tasks.map((t, i) => {
    const open = up(bits(t.open, `tasks.${i}.open`));
    // a panel that is on has everything on that can only come off after it
    const shut = closure(bits(t.shut ?? [], `tasks.${i}.shut`), (k) => below[k] ?? 0);
    if (open & shut) {
      const both = p.panels.find((_, k) => open & shut & (1 << k))!.id;
      throw new ImpossibleInput(`“${t.id}” wants “${both}” off and on at once`, `tasks.${i}`);
    }
    const after = [...new Set(t.after.map((a, k) => taskAt(a, `tasks.${i}.after.${k}`)))];
    return { id: t.id, minutes: t.minutes, zone: zone(t.zone), open, openList: lowest(open), shut, power: t.power, after };
  });
  const powerOpen = up(bits(p.power.open ?? [], 'power.open'));
  const topo = order(
    tasks.map((t) => t.id),
    (i) => tasks[i]!.after,
    'tasks',
  );
  const before: Set<number>[] = [];
  for (const i of topo) before[i] = new Set(tasks[i]!.after.flatMap((a) => [a, ...before[a]!]));
  // what comes before something else that comes before as well adds nothing
  for (const t of tasks) t.after = t.after.filter((a) => !t.after.some((b) => before[b]!.has(a)));
  return {
    zones,
    moveMinutes: p.moveMinutes,
    tasks,
    panels: p.panels.map((x, i) => ({
      id: x.id,
      zone: zone(x.zone),
      off: x.offMinutes,
      on: x.onMinutes,
      after: direct[i]!,
      afterList: listOf(direct[i]!),
      below: below[i]!,
      belowList: listOf(below[i]!),
    })),
    power: {
      zone: zone(p.power.zone),
      off: p.power.offMinutes,
      on: p.power.onMinutes,
      open: powerOpen,
      openList: lowest(powerOpen),
    },
    inZone: zones.map((_, z) => tasks.flatMap((t, i) => (t.zone === z ? [i] : []))),
    topo,
    panelTopo,
    wants: tasks.map((t, i) => {
      const list = (mask: number, other: (b: number) => number): Want[] => {
        const plain = { bits: 0, unless: [] as number[] };
        const out: Want[] = [plain];
        for (const k of listOf(mask)) {
          const unless = [...before[i]!].filter((b) => other(b) & (1 << k));
          if (unless.length) out.push({ bits: 1 << k, unless });
          else plain.bits |= 1 << k;
        }
        return out.filter((w) => w.bits);
      };
      const power = (way: 'off' | 'on'): Want[] =>
        t.power === way ? [{ bits: 1, unless: [...before[i]!].filter((b) => tasks[b]!.power !== way && tasks[b]!.power !== 'any') }] : [];
      return {
        open: list(t.open, (b) => tasks[b]!.shut),
        shut: list(t.shut, (b) => tasks[b]!.open),
        off: power('off'),
        on: power('on'),
      };
    }),
    row: new Uint16Array((zones.length + 1 + p.panels.length) * (tasks.length + 2 * p.panels.length + 4)),
    turned: tasks.map((t, i) => {
      const all = [...before[i]!].flatMap((b) => {
        const was = tasks[b]!;
        const panels = (t.shut & was.open) | (t.open & was.shut);
        const at = new Set(p.panels.flatMap((x, k) => (panels & (1 << k) ? [zone(x.zone)] : [])));
        if (t.power !== 'any' && was.power !== 'any' && t.power !== was.power) at.add(zone(p.power.zone));
        return [...at].map((z): [number, number] => [b, z]);
      });
      return all.filter(([b, z]) => !all.some(([other, at]) => at === z && before[other]!.has(b)));
    }),
  };
}

/** Where the work stands. */
interface State {
  done: Uint8Array;
  left: number;
  /** panels that are off */
  off: number;
  powered: boolean;
  /** −1: nobody is anywhere yet */
  zone: number;
  minutes: number;
  /** minutes still needed at the least */
  least: number;
  steps: SequenceStep[];
  from: State | null;
}

/** What the tasks still to do ask of panels and power. */
interface Asked {
  /** panels that must be off once more, or stay off, with power's own */
  open: number;
  /** panels that must be on for something that is still to do */
  shut: number;
  offTasks: boolean;
  onTasks: boolean;
}

function asked(c: Compiled, s: State): Asked {
  let open = 0;
  let shut = 0;
  let offTasks = false;
  let onTasks = false;
  for (let i = 0; i < c.tasks.length; i++) {
    if (s.done[i]) continue;
    const t = c.tasks[i]!;
    open |= t.open;
    shut |= t.shut;
    if (t.power === 'off') offTasks = true;
    if (t.power === 'on') onTasks = true;
  }
  if (offTasks || !s.powered) open |= c.power.open;
  return { open, shut, offTasks, onTasks };
}

/**
 * What is asked next: a panel that some task wants on only after another has had it off is not asked on yet, and the
 * other way round. What is asked one way only can be turned at once.
 */
function askedNext(c: Compiled, s: State): Asked {
  let [open, shut, off, on] = [0, 0, 0, 0];
  let powerTasks = false;
  const bits = (wants: Want[]) => {
    let m = 0;
    for (const w of wants) if (w.unless.every((b) => s.done[b])) m |= w.bits;
    return m;
  };
  for (let i = 0; i < c.tasks.length; i++) {
    if (s.done[i]) continue;
    const w = c.wants[i]!;
    open |= bits(w.open);
    shut |= bits(w.shut);
    off |= bits(w.off);
    on |= bits(w.on);
    if (c.tasks[i]!.power === 'off') powerTasks = true;
  }
  if (powerTasks || !s.powered) open |= c.power.open;
  return { open, shut, offTasks: off !== 0, onTasks: on !== 0 };
}

const copy = (s: State): State => ({ ...s, done: s.done.slice(), steps: [], from: s });

function act(c: Compiled, s: State, zone: number, minutes: number, step: SequenceStep): void {
  s.minutes += minutes + (s.zone >= 0 && s.zone !== zone ? c.moveMinutes : 0);
  s.zone = zone;
  s.steps.push(step);
}

function togglePanel(c: Compiled, s: State, i: number): void {
  const p = c.panels[i]!;
  const off = !(s.off & (1 << i));
  act(c, s, p.zone, off ? p.off : p.on, { do: off ? 'panel-off' : 'panel-on', id: p.id });
  s.off ^= 1 << i;
}
function togglePower(c: Compiled, s: State): void {
  act(c, s, c.power.zone, s.powered ? c.power.off : c.power.on, { do: s.powered ? 'power-off' : 'power-on', id: POWER });
  s.powered = !s.powered;
}
const mayToggle = (c: Compiled, s: State, i: number) => {
  const p = c.panels[i]!;
  return s.off & (1 << i) ? (s.off & p.below) === 0 : (s.off & p.after) === p.after;
};
const powerReached = (c: Compiled, s: State) => (s.off & c.power.open) === c.power.open;

/**
 * Does in a zone all that costs no more now than at any later time: a task that can be done; a panel off that has to
 * come off and that nothing still wants on; a panel on that nothing wants off any more; power likewise. In any
 * sequence such a step can be moved to here without a minute more, because a step left out between two others never
 * adds a move.
 */
function settle(c: Compiled, s: State, zone: number): void {
  let a = askedNext(c, s);
  for (let went = true; went;) {
    went = false;
    for (const i of c.inZone[zone]!) {
      const t = c.tasks[i]!;
      if (s.done[i] || (s.off & t.open) !== t.open || s.off & t.shut) continue;
      if (t.power !== 'any' && (t.power === 'on') !== s.powered) continue;
      if (!t.after.every((k) => s.done[k])) continue;
      act(c, s, zone, t.minutes, { do: 'task', id: t.id });
      s.done[i] = 1;
      s.left--;
      went = true;
    }
    if (went) a = askedNext(c, s);
    for (let i = 0; i < c.panels.length; i++) {
      if (c.panels[i]!.zone !== zone || !mayToggle(c, s, i)) continue;
      const [bit, isOff] = [1 << i, (s.off >> i) & 1];
      const wanted = isOff ? !(a.open & bit) : a.open & bit && !(a.shut & bit);
      if (!wanted) continue;
      togglePanel(c, s, i);
      went = true;
    }
    if (c.power.zone === zone && powerReached(c, s) && (s.powered ? a.offTasks && !a.onTasks : !a.offTasks)) {
      togglePower(c, s);
      a = askedNext(c, s);
      went = true;
    }
  }
}

/**
 * How often a thing with two states is turned along a chain of steps: even is its first state, odd its second, and the
 * value counts the turns. A zone is such a thing, odd while somebody is in it; so are power and a panel, odd while off.
 */
const turn = (value: number, odd: boolean): number => (((value & 1) === 1) === odd ? value : value + 1);

/** The rows in which `leastLeft` reckons its chains, and the steps between them. */
type Rows = Uint16Array;
function copyRow(rows: Rows, to: number, from: number, length: number): void {
  for (let d = 0; d < length; d++) rows[to + d] = rows[from + d]!;
}
function laterRow(rows: Rows, to: number, from: number, length: number): void {
  for (let d = 0; d < length; d++) if (rows[from + d]! > rows[to + d]!) rows[to + d] = rows[from + d]!;
}
/** Later than a row after which something in a zone is turned. */
function turnedRow(rows: Rows, to: number, from: number, zones: number, zone: number): void {
  for (let d = 0; d < zones; d++) {
    const v = turn(rows[from + d]!, d === zone);
    if (v > rows[to + d]!) rows[to + d] = v;
  }
}

/**
 * Minutes that any way on from here takes at the least: the tasks; every panel and the power turned as often as the
 * longest chain of tasks that must come one after the other turns it; and for each zone as many arrivals as the
 * longest such chain of tasks, panels and power leads into it.
 */
function leastLeft(c: Compiled, s: State): number {
  const a = asked(c, s);
  const P = c.panels.length;
  const Z = c.zones.length;
  const N = c.tasks.length;
  const { off, done, powered, zone } = s;
  const clash: number[] = [];
  for (let i = 0; i < P; i++) if (a.open & a.shut & (1 << i)) clash.push(i);
  const K = clash.length;
  // a row of chains for each task, for each panel off and on: Z zones, then power, then the panels wanted both ways
  const D = Z + 1 + K;
  const row = c.row;
  const panelOff = D * N;
  const panelOn = panelOff + D * P;
  const begin = panelOn + D * P;
  const powerOff = begin + D;
  const powerOn = powerOff + D;
  for (let d = 0; d < Z; d++) row[begin + d] = d === zone ? 1 : 0;
  row[begin + Z] = powered ? 0 : 1;
  for (let k = 0; k < K; k++) row[begin + Z + 1 + k] = (off >> clash[k]!) & 1;
  const most = powerOn + D;
  copyRow(row, most, begin, D);
  const later = (to: number, from: number) => laterRow(row, to, from, D);
  const arrive = (at: number, z: number) => {
    for (let d = 0; d < Z; d++) row[at + d] = turn(row[at + d]!, d === z);
  };
  const see = (at: number) => {
    for (let d = 0; d < D; d++) if (row[at + d]! > row[most + d]!) row[most + d] = row[at + d]!;
  };
  let minutes = 0;
  for (const i of c.panelTopo) {
    const [at, p] = [panelOff + i * D, c.panels[i]!];
    const bit = 1 << i;
    copyRow(row, at, begin, D);
    for (const k of p.afterList) later(at, panelOff + k * D);
    if (a.open & bit && !(off & bit)) {
      arrive(at, p.zone);
      see(at);
    }
    if (!(a.open & a.shut & bit)) minutes += off & bit ? p.on : a.open & bit ? p.off + p.on : 0;
  }
  const offMove = powered && a.offTasks;
  copyRow(row, powerOff, begin, D);
  if (offMove || !powered) for (const k of c.power.openList) later(powerOff, panelOff + k * D);
  if (offMove) {
    arrive(powerOff, c.power.zone);
    see(powerOff);
  }
  copyRow(row, powerOn, powerOff, D);
  copyRow(row, panelOn, panelOff, P * D);
  for (const i of c.topo) {
    if (done[i]) continue;
    const [at, t] = [i * D, c.tasks[i]!];
    copyRow(row, at, begin, D);
    for (const b of t.after) if (!done[b]) later(at, b * D);
    for (const k of t.openList) later(at, panelOff + k * D);
    if (t.power === 'off') later(at, powerOff);
    if (t.power === 'on' && !powered) turnedRow(row, at, powerOff, Z, c.power.zone);
    for (const [b, z] of c.turned[i]!) if (!done[b]) turnedRow(row, at, b * D, Z, z);
    arrive(at, t.zone);
    if (t.power !== 'any') row[at + Z] = turn(row[at + Z]!, t.power === 'off');
    for (let k = 0; k < K; k++) {
      const bit = 1 << clash[k]!;
      if ((t.open | t.shut) & bit) row[at + Z + 1 + k] = turn(row[at + Z + 1 + k]!, !!(t.open & bit));
    }
    see(at);
    for (const k of t.openList) later(panelOn + k * D, at);
    if (t.power === 'off') later(powerOn, at);
    minutes += t.minutes;
  }
  if (!powered || a.offTasks) {
    arrive(powerOn, c.power.zone);
    see(powerOn);
    for (const k of c.power.openList) later(panelOn + k * D, powerOn);
  }
  // panels go on again after the last that lies under them
  for (let n = P - 1; n >= 0; n--) {
    const i = c.panelTopo[n]!;
    const [at, p] = [panelOn + i * D, c.panels[i]!];
    for (const k of p.belowList) later(at, panelOn + k * D);
    if ((off | a.open) & (1 << i)) {
      arrive(at, p.zone);
      see(at);
    }
  }
  let arrivals = 0;
  for (let d = 0; d < Z; d++) arrivals += ((row[most + d]! + 1) >> 1) - (zone === d ? 1 : 0);
  // from nowhere the first arrival is free, whichever zone it is
  if (zone < 0 && arrivals > 0) arrivals--;
  // at the end power and every panel are on
  const turns = (d: number, offCost: number, onCost: number) => {
    const [from, to] = [row[begin + d]!, turn(row[most + d]!, false)];
    minutes += (((to + 1) >> 1) - ((from + 1) >> 1)) * offCost + ((to >> 1) - (from >> 1)) * onCost;
  };
  turns(Z, c.power.off, c.power.on);
  for (let k = 0; k < K; k++) turns(Z + 1 + k, c.panels[clash[k]!]!.off, c.panels[clash[k]!]!.on);
  return minutes + arrivals * c.moveMinutes;
}

const finished = (s: State) => s.left === 0 && s.off === 0 && s.powered;

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

/** A heap, least `minutes + least` first; among equals what is further on. */
class Heap {
  private readonly list: State[] = [];
  private static before(a: State, b: State): boolean {
    const d = a.minutes + a.least - (b.minutes + b.least);
    return Math.abs(d) > 1e-9 ? d < 0 : a.least < b.least;
  }
  get size(): number {
    return this.list.length;
  }
  push(s: State): void {
    const l = this.list;
    let i = l.push(s) - 1;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (!Heap.before(l[i]!, l[up]!)) break;
      [l[i], l[up]] = [l[up]!, l[i]!];
      i = up;
    }
  }
  peek(): State | undefined {
    return this.list[0];
  }
  pop(): State {
    const l = this.list;
    const top = l[0]!;
    const last = l.pop()!;
    if (l.length) {
      l[0] = last;
      for (let i = 0; ;) {
        let k = 2 * i + 1;
        if (k >= l.length) break;
        if (k + 1 < l.length && Heap.before(l[k + 1]!, l[k]!)) k++;
        if (!Heap.before(l[k]!, l[i]!)) break;
        [l[i], l[k]] = [l[k]!, l[i]!];
        i = k;
      }
    }
    return top;
  }
}

const keyOf = (s: State) => `${String.fromCharCode(...packed(s.done), s.off & 0x7fff, s.off >> 15, s.zone + 1)}${s.powered ? 'p' : ''}`;
/** Fifteen flags to a character. */
function packed(done: Uint8Array): number[] {
  const out: number[] = [];
  for (let i = 0; i < done.length; i += 15) {
    let v = 0;
    for (let k = 0; k < 15; k++) if (done[i + k]) v |= 1 << k;
    out.push(v);
  }
  return out;
}

function pathOf(s: State): SequenceStep[] {
  const parts: SequenceStep[][] = [];
  for (let at: State | null = s; at; at = at.from) parts.push(at.steps);
  return parts.reverse().flat();
}

/** A good way to the end, level by level with the best few kept: what is answered where no optimum is proved. */
function beam(c: Compiled, from: State, width: number): State {
  let best: State | null = null;
  let level = [from];
  // without what was met on earlier levels, so that nobody turns a panel back and forth for ever
  const met = new Map<string, number>();
  while (level.length) {
    const seen = new Map<string, State>();
    for (const s of level)
      for (const to of next(c, s)) {
        if (finished(to)) {
          if (!best || to.minutes < best.minutes) best = to;
          continue;
        }
        to.least = leastLeft(c, to);
        if (best && to.minutes + to.least >= best.minutes - 1e-9) continue;
        const key = keyOf(to);
        if ((met.get(key) ?? Infinity) <= to.minutes + 1e-9) continue;
        met.set(key, to.minutes);
        seen.set(key, to);
      }
    level = [...seen.values()].sort((x, y) => x.minutes + x.least - (y.minutes + y.least)).slice(0, width);
  }
  return best!;
}

/**
 * The order of tasks, panels and power that takes the fewest minutes, each panel off at most as often as needed.
 * A* over what is a matter of choice (see `settle`), with a bound on panels, power and moves. Where `most` states do
 * not prove an optimum, the best found is answered with the bound proved until then.
 * @throws ImpossibleInput for ids that are not there or twice, circles, a panel wanted off and on at once
 */
export function sequence(problem: SequenceProblem, most = 3_500): Sequence {
  const c = compile(problem);
  const start = problem.start;
  const done = new Uint8Array(c.tasks.length);
  start?.done.forEach((id, i) => {
    const at = c.tasks.findIndex((t) => t.id === id);
    if (at < 0) throw new ImpossibleInput(`there is no “${id}” among the tasks`, `start.done.${i}`);
    done[at] = 1;
  });
  let off = 0;
  start?.off.forEach((id, i) => {
    const at = c.panels.findIndex((t) => t.id === id);
    if (at < 0) throw new ImpossibleInput(`there is no “${id}” among the panels`, `start.off.${i}`);
    off |= 1 << at;
  });
  c.panels.forEach((p, i) => {
    if (off & (1 << i) && (off & p.after) !== p.after)
      throw new ImpossibleInput(`“${p.id}” cannot be off while what comes off before it is on`, 'start.off');
  });
  const from: State = {
    done,
    left: done.reduce((n, d) => n - d, done.length),
    off,
    powered: start?.power !== 'off',
    zone: start?.zone == null ? -1 : c.zones.indexOf(start.zone),
    minutes: 0,
    least: 0,
    steps: [],
    from: null,
  };
  if (from.zone >= 0) settle(c, from, from.zone);
  if (finished(from)) return { steps: from.steps, minutes: from.minutes, bound: from.minutes, optimal: true };
  from.least = leastLeft(c, from);
  const heap = new Heap();
  heap.push(from);
  const best = new Map<string, number>();
  for (let n = 0; n < most;) {
    const s = heap.pop();
    if (finished(s)) return { steps: pathOf(s), minutes: s.minutes, bound: s.minutes, optimal: true };
    if ((best.get(keyOf(s)) ?? Infinity) < s.minutes - 1e-9) continue;
    n++;
    for (const to of next(c, s)) {
      const key = keyOf(to);
      if ((best.get(key) ?? Infinity) <= to.minutes + 1e-9) continue;
      best.set(key, to.minutes);
      to.least = finished(to) ? 0 : leastLeft(c, to);
      heap.push(to);
    }
  }
  const bound = heap.peek() ? heap.peek()!.minutes + heap.peek()!.least : from.minutes + from.least;
  const found = beam(c, from, 40);
  return { steps: pathOf(found), minutes: found.minutes, bound: Math.min(bound, found.minutes), optimal: found.minutes <= bound + 1e-9 };
}
