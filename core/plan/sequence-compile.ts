import { ImpossibleInput } from '../errors';
import { MOST_PANELS, MOST_TASKS, type SequenceProblem } from './sequence-problem';

/** The problem in numbers, with what follows from it once and for all. */
export interface Compiled {
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
  panels: {
    id: string;
    zone: number;
    off: number;
    on: number;
    after: number;
    over: number;
    afterList: number[];
    below: number;
    belowList: number[];
  }[];
  power: { zone: number; off: number; on: number; open: number; openList: number[] };
  /** tasks of each zone */
  inZone: number[][];
  /** tasks in an order that keeps what comes before first */
  topo: number[];
  /** panels in an order in which they come off */
  panelTopo: number[];
  /** what leads to what, whatever is done: see `Edges` */
  edges: Edges;
  /** what each task wants first of panels and power, before anything that comes before it wants the opposite */
  wants: Wants;
  /** tasks that want each panel off */
  usersOf: number[][];
}

/** No zone: nothing is turned there. */
export const NOWHERE = -1;
/** Added to the zone of an edge that is there only while power is off. */
export const UNPOWERED = 64;

/**
 * A node for each task, for each panel as it first comes off and last goes on, and for power off and on, in this order;
 * edges to node `n` are those from `at[n]` to `at[n + 1]`: from what comes before it, with the zone where something is
 * turned in between, if any.
 */
export interface Edges {
  at: Uint16Array;
  from: Uint16Array;
  zone: Int8Array;
}

/** @param turned for each task, those before it that want power or a panel otherwise, with the zone where it is turned between the two */
function edgesOf(c: Pick<Compiled, 'tasks' | 'panels' | 'power'>, turned: readonly [number, number][][]): Edges {
  const [N, P] = [c.tasks.length, c.panels.length];
  const [first, last, off, on] = [N, N + P, N + 2 * P, N + 2 * P + 1];
  const list: [number, number][][] = Array.from({ length: on + 1 }, () => []);
  const edge = (to: number, from: number, zone = NOWHERE) => list[to]!.push([from, zone]);
  c.panels.forEach((p, i) => {
    for (const k of p.afterList) edge(first + i, first + k);
    edge(last + i, first + i);
    // panels go on again after the last that lies under them
    for (const k of p.belowList) edge(last + i, last + k);
  });
  edge(on, off);
  for (const k of c.power.openList) {
    edge(off, first + k);
    edge(last + k, on);
  }
  c.tasks.forEach((t, i) => {
    for (const b of t.after) edge(i, b);
    for (const k of t.openList) {
      edge(i, first + k);
      edge(last + k, i);
    }
    if (t.power === 'off') {
      edge(i, off);
      edge(on, i);
    }
    if (t.power === 'on') edge(i, off, c.power.zone + UNPOWERED);
    for (const [b, z] of turned[i]!) edge(i, b, z);
  });
  const flat = list.flat();
  return { at: begins(list), from: Uint16Array.from(flat, (e) => e[0]), zone: Int8Array.from(flat, (e) => e[1]) };
}

/** Panels off, panels on and power as a task wants them, unless one of `unless` is still to do, which wants them otherwise first. */
interface Want {
  open: number;
  shut: number;
  power: 'off' | 'on' | 'any';
  unless: number[];
}

export const [ANY, OFF, ON] = [0, 1, 2];
/** Wants laid out for speed: those of task `i` from `at[i]` to `at[i + 1]`, and what each is held by alike. */
export interface Wants {
  at: Uint16Array;
  open: Int32Array;
  shut: Int32Array;
  /** `ANY`, `OFF` or `ON` */
  power: Uint8Array;
  unlessAt: Uint16Array;
  unless: Uint16Array;
}

/** Where each of some lists begins when they stand in a row. */
function begins(lists: readonly { length: number }[]): Uint16Array {
  const at = new Uint16Array(lists.length + 1);
  lists.forEach((l, n) => (at[n + 1] = at[n]! + l.length));
  return at;
}

function inRow(wants: readonly Want[][]): Wants {
  const flat = wants.flat();
  return {
    at: begins(wants),
    open: Int32Array.from(flat, (w) => w.open),
    shut: Int32Array.from(flat, (w) => w.shut),
    power: Uint8Array.from(flat, (w) => (w.power === 'off' ? OFF : w.power === 'on' ? ON : ANY)),
    unlessAt: begins(flat.map((w) => w.unless)),
    unless: Uint16Array.from(flat.flatMap((w) => w.unless)),
  };
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

/** What comes before each task, as a bit each. */
class Before {
  private readonly words: number;
  private readonly bits: Uint32Array;
  constructor(private readonly tasks: number) {
    this.words = (tasks + 31) >> 5;
    this.bits = new Uint32Array(tasks * this.words);
  }
  has(i: number, before: number): boolean {
    return (this.bits[i * this.words + (before >> 5)]! & (1 << (before & 31))) !== 0;
  }
  add(i: number, before: number): void {
    this.bits[i * this.words + (before >> 5)]! |= 1 << (before & 31);
  }
  /** What comes before another comes before this one as well. */
  join(i: number, other: number): void {
    for (let w = 0; w < this.words; w++) this.bits[i * this.words + w]! |= this.bits[other * this.words + w]!;
  }
  list(i: number): number[] {
    const out: number[] = [];
    for (let b = 0; b < this.tasks; b++) if (this.has(i, b)) out.push(b);
    return out;
  }
}

export function compile(p: SequenceProblem): Compiled {
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
  const zoneAt = new Map(zones.map((z, i) => [z, i]));
  const zone = (z: string) => zoneAt.get(z)!;
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
  const listOf = (mask: number) => {
    const out: number[] = [];
    for (let left = mask; left; left &= left - 1) out.push(31 - Math.clz32(left & -left));
    return out;
  };
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
  const before = new Before(tasks.length);
  for (const i of topo) {
    const t = tasks[i]!;
    for (const a of t.after) before.join(i, a);
    // what comes before something else that comes before as well adds nothing
    t.after = t.after.filter((a) => !before.has(i, a));
    for (const a of t.after) before.add(i, a);
  }
  const panels = p.panels.map((x, i) => ({
    id: x.id,
    zone: zone(x.zone),
    off: x.offMinutes,
    on: x.onMinutes,
    after: direct[i]!,
    over: up(direct[i]!),
    afterList: listOf(direct[i]!),
    below: below[i]!,
    belowList: listOf(below[i]!),
  }));
  const power = {
    zone: zone(p.power.zone),
    off: p.power.offMinutes,
    on: p.power.onMinutes,
    open: powerOpen,
    openList: lowest(powerOpen),
  };
  const earlier = tasks.map((_, i) => before.list(i));
  const turned = tasks.map((t, i) => {
    const all: [number, number][] = [];
    for (const b of earlier[i]!) {
      const was = tasks[b]!;
      const turnedPanels = (t.shut & was.open) | (t.open & was.shut);
      const turnedPower = t.power !== 'any' && was.power !== 'any' && t.power !== was.power;
      if (!turnedPanels && !turnedPower) continue;
      const at = new Set(listOf(turnedPanels).map((k) => panels[k]!.zone));
      if (turnedPower) at.add(power.zone);
      for (const z of at) all.push([b, z]);
    }
    return all.filter(([b, z]) => !all.some(([other, at]) => at === z && before.has(other, b)));
  });
  return {
    zones,
    moveMinutes: p.moveMinutes,
    tasks,
    panels,
    power,
    inZone: zones.map((_, z) => tasks.flatMap((t, i) => (t.zone === z ? [i] : []))),
    topo,
    panelTopo,
    wants: inRow(
      tasks.map((t, i) => {
        const others = (wantsOtherwise: (b: (typeof tasks)[number]) => unknown) => earlier[i]!.filter((b) => wantsOtherwise(tasks[b]!));
        const [shutBefore, openBefore] = earlier[i]!.reduce(([shut, open], b) => [shut | tasks[b]!.shut, open | tasks[b]!.open], [0, 0]);
        const at = { open: 0, shut: 0, power: 'any' as Want['power'], unless: [] as number[] };
        const held: Want[] = [];
        for (const k of listOf(t.open | t.shut)) {
          const bit = 1 << k;
          const otherwise = (t.open & shutBefore & bit) | (t.shut & openBefore & bit);
          const unless = otherwise ? others((b) => (t.open & b.shut & bit) | (t.shut & b.open & bit)) : [];
          const want = unless.length ? { open: 0, shut: 0, power: 'any' as const, unless } : at;
          want.open |= t.open & bit;
          want.shut |= t.shut & bit;
          if (want !== at) held.push(want);
        }
        const unless = t.power === 'any' ? [] : others((b) => b.power !== t.power && b.power !== 'any');
        if (unless.length) held.push({ open: 0, shut: 0, power: t.power, unless });
        else at.power = t.power;
        return at.open || at.shut || at.power !== 'any' ? [at, ...held] : held;
      }),
    ),
    usersOf: p.panels.map((_, k) => tasks.flatMap((t, i) => (t.open & (1 << k) ? [i] : []))),
    edges: edgesOf({ tasks, panels, power }, turned),
  };
}
