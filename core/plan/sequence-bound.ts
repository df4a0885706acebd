import { NOWHERE, UNPOWERED, type Compiled } from './sequence-compile';
import { asked, type Asked, type State } from './sequence-state';

/** Where a task that wants a panel on stands among all that want it off: before them, after them, or between two of them. */
export interface Choice {
  task: number;
  panel: number;
  way: 'before' | 'after' | 'between';
}

/**
 * How often each thing with two states is turned along the longest chain from a node to the end, for either state that it is
 * in before. A zone is such a thing, odd while somebody is in it; so are power and a panel, odd while off: at the end both are
 * on. A row for each node and a column for each thing, for either state.
 */
type Turns = readonly [Uint16Array, Uint16Array];

const [FRESH, UNDERWAY, READY] = [0, 1, 2];

function ready(after: readonly number[], done: Uint8Array): boolean {
  for (const b of after) if (!done[b]) return false;
  return true;
}

/**
 * The longest chains of what is left to do, from wherever the work stands. A node for each task, for each panel as it first
 * comes off and last goes on, and for power off and on (see `Edges`), with what was chosen of tasks that want a panel on which
 * others want off. What comes after a node does not depend on what is done, as long as the node itself is not: so chains are
 * reckoned once, from their ends, and a state asks only for the longest that begin with what it leaves.
 */
export class Chains {
  /** panels wanted both ways */
  private readonly clash: number[];
  private readonly width: number;
  private readonly first: number;
  private readonly last: number;
  private readonly off: number;
  private readonly on: number;
  private readonly zoneOf: Int8Array;
  /** nodes that there is anything to do at, from the start on */
  private readonly there: Uint8Array;
  /** for what is dropped of the choices, a bit each (past 32 they share, and fall together: the bound is only lower); null where they go round in a circle */
  private readonly tables = new Map<number, Turns | null>();
  /** room to reckon in */
  private readonly most: Uint16Array;
  private readonly head: readonly [Uint16Array, Uint16Array];
  private readonly parity: Uint8Array;

  /** @param start where the work stands at first; states asked for come after it */
  constructor(
    private readonly c: Compiled,
    start: State,
    private readonly choices: readonly Choice[] = [],
  ) {
    const [N, P] = [c.tasks.length, c.panels.length];
    [this.first, this.last, this.off, this.on] = [N, N + P, N + 2 * P, N + 2 * P + 1];
    const a = asked(c, start);
    this.clash = c.panelTopo.filter((i) => a.open & a.shut & (1 << i));
    this.width = c.zones.length + 1 + this.clash.length;
    this.zoneOf = Int8Array.from([
      ...c.tasks.map((t) => t.zone),
      ...c.panels.map((p) => p.zone),
      ...c.panels.map((p) => p.zone),
      c.power.zone,
      c.power.zone,
    ]);
    const touched = start.off | a.open;
    const power = !start.powered || a.offTasks ? 1 : 0;
    const panels = c.panels.map((_, i) => (touched >> i) & 1);
    this.there = Uint8Array.from([...Array.from(start.done, (d) => 1 - d), ...panels, ...panels, power, power]);
    this.most = new Uint16Array(this.width);
    this.head = [new Uint16Array((P + 1) * this.width), new Uint16Array((P + 1) * this.width)];
    this.parity = new Uint8Array(this.width);
  }

  /** What a node itself wants of a thing: 0 or 1, or -1 for either. */
  private wants(n: number, d: number): number {
    const { c } = this;
    const Z = c.zones.length;
    if (d < Z) return d === this.zoneOf[n] ? 1 : 0;
    const t = c.tasks[n];
    if (!t) return -1;
    if (d === Z) return t.power === 'any' ? -1 : t.power === 'off' ? 1 : 0;
    const bit = 1 << this.clash[d - Z - 1]!;
    return (t.open | t.shut) & bit ? (t.open & bit ? 1 : 0) : -1;
  }

  /** Edges that choices make, to, from, with the zone where something is turned in between. */
  private chosenEdges(dropped: number): [number, number, number][] {
    return this.choices.flatMap(({ task, panel, way }, k): [number, number, number][] => {
      if (dropped & (1 << k)) return [];
      const [first, last] = [this.first + panel, this.last + panel];
      const zone = this.c.panels[panel]!.zone;
      if (way === 'before') return [[first, task, NOWHERE]];
      if (way === 'after') return [[task, last, NOWHERE]];
      // power turned under the panel wants it off as well, and leaves no trace of whether it was
      const begun = this.c.power.open & (1 << panel);
      return [[last, task, zone], ...(begun ? [] : [[task, first, zone] as [number, number, number]])];
    });
  }

  private table(dropped: number): Turns | null {
    const known = this.tables.get(dropped);
    if (known !== undefined) return known;
    const made = this.reckon(dropped);
    this.tables.set(dropped, made);
    return made;
  }

  private reckon(dropped: number): Turns | null {
    const { c, width } = this;
    const Z = c.zones.length;
    const nodes = this.on + 1;
    const more: [number, number][][] = Array.from({ length: nodes }, () => []);
    for (const [to, from, zone] of this.chosenEdges(dropped)) more[to]!.push([from, zone]);
    const order: number[] = [];
    const mark = new Uint8Array(nodes);
    const before = (n: number, each: (from: number, zone: number) => boolean): boolean => {
      for (let k = c.edges.at[n]!, end = c.edges.at[n + 1]!; k < end; k++) {
        const from = c.edges.from[k]!;
        // those of power that is off are no chains of the order: see `least`
        if (this.there[from] && c.edges.zone[k]! < UNPOWERED && !each(from, c.edges.zone[k]!)) return false;
      }
      return more[n]!.every(([from, zone]) => each(from, zone));
    };
    const visit = (n: number): boolean => {
      if (mark[n] !== FRESH) return mark[n] === READY;
      mark[n] = UNDERWAY;
      if (!before(n, visit)) return false;
      mark[n] = READY;
      order.push(n);
      return true;
    };
    for (let n = 0; n < nodes; n++) if (this.there[n] && !visit(n)) return null;
    // what comes after a node’s own step, then with the step itself
    const turns = [new Uint16Array(nodes * width), new Uint16Array(nodes * width)] as const;
    for (let n = 0; n < nodes; n++) for (let d = Z; d < width; d++) turns[1][n * width + d] = 1;
    for (const n of order.reverse()) {
      this.own(n, turns, n * width);
      before(n, (from, zone) => {
        for (let d = 0; d < width; d++) this.join(turns, from * width + d, turns, n * width + d, d < Z ? zone : NOWHERE, d);
        return true;
      });
    }
    return turns;
  }

  /** Puts a node’s own step before what comes after it. */
  private own(n: number, rows: Turns, at: number): void {
    for (let d = 0; d < this.width; d++) {
      const want = this.wants(n, d);
      if (want === 0) rows[1][at + d] = rows[0][at + d]! + 1;
      else if (want === 1) rows[0][at + d] = rows[1][at + d]! + 1;
    }
  }

  /** What a row is at the least with a chain that goes on elsewhere, with a zone in between where there is one. */
  private join(rows: Turns, at: number, other: Turns, from: number, zone: number, d: number): void {
    let [even, odd] = [other[0][from]!, other[1][from]!];
    if (zone >= 0) {
      if (d === zone) even = odd + 1;
      else odd = even + 1;
    }
    if (even > rows[0][at]!) rows[0][at] = even;
    if (odd > rows[1][at]!) rows[1][at] = odd;
  }

  /** Begins a row of `head` with nothing but the end, and answers what adds to it the chains that begin with a node. */
  private fresh(row: number): (rows: Turns, n: number) => void {
    const { c, width, head } = this;
    for (let d = 0, at = row * width; d < width; d++, at++) {
      head[0][at] = 0;
      head[1][at] = d < c.zones.length ? 0 : 1;
    }
    return (rows, n) => {
      for (let d = 0; d < width; d++) this.join(head, row * width + d, rows, n * width + d, NOWHERE, d);
    };
  }

  /** The chains that begin with power going off once more, as the last row of `head`. */
  private cuts(s: State, turns: Turns): void {
    const { c, head } = this;
    const row = c.panels.length;
    const through = this.fresh(row);
    through(turns, this.on);
    for (let t = 0; t < c.tasks.length; t++) if (!s.done[t] && c.tasks[t]!.power === 'off') through(turns, t);
    this.own(this.off, head, row * this.width);
  }

  /**
   * The chains that begin with a panel coming off once more, as its row of `head`: as reckoned while nobody has had it off,
   * else through what is left under it.
   * @param heads panels whose rows stand: those that come off after it
   * @param cut whether the row of power does
   */
  private opens(i: number, s: State, turns: Turns, heads: number, cut: boolean, offDone: boolean): void {
    const { c, head } = this;
    const users = c.usersOf[i]!;
    const again = users.some((u) => s.done[u]) || (c.power.open & (1 << i) && (offDone || !s.powered));
    const through = this.fresh(i);
    if (!again) return through(turns, this.first + i);
    through(turns, this.last + i);
    for (const u of users) if (!s.done[u] && c.tasks[u]!.openList.includes(i)) through(turns, u);
    for (const k of c.panels[i]!.belowList) if (heads & (1 << k)) through(head, k);
    if (c.power.openList.includes(i)) {
      if (cut) through(head, c.panels.length);
      else if (!s.powered) through(turns, this.on);
    }
    this.own(this.first + i, head, i * this.width);
  }

  /**
   * Minutes that any way on from a state takes at the least: the tasks; every panel and the power turned as often as the
   * longest chain of tasks that must come one after the other turns it; and for each zone as many arrivals as the longest
   * such chain of tasks, panels and power leads into it. Infinite where the choices cannot be kept any more.
   */
  least(s: State, a: Asked = asked(this.c, s)): number {
    const { c, clash, width, most, parity, head } = this;
    const Z = c.zones.length;
    let dropped = 0;
    let between = 0;
    for (let k = 0; k < this.choices.length; k++) if (s.done[this.choices[k]!.task]) dropped |= 1 << k;
    const turns = this.table(dropped);
    if (!turns) return Infinity;
    for (let d = 0; d < width; d++) {
      parity[d] = d < Z ? (d === s.zone ? 1 : 0) : d === Z ? (s.powered ? 0 : 1) : (s.off >> clash[d - Z - 1]!) & 1;
      most[d] = d < Z ? 0 : parity[d]!;
    }
    const begins = (rows: Turns, n: number) => {
      for (let d = 0, at = n * width; d < width; d++, at++) {
        const v = (parity[d] ? rows[1] : rows[0])[at]!;
        if (v > most[d]!) most[d] = v;
      }
    };
    /** through a zone first */
    const beginsBy = (zone: number, n: number) => {
      for (let d = 0, at = n * width; d < Z; d++, at++) {
        const v = d === zone ? turns[1][at]! + (parity[d] ? 0 : 1) : turns[0][at]! + (parity[d] ? 1 : 0);
        if (v > most[d]!) most[d] = v;
      }
    };
    let minutes = 0;
    let offDone = false;
    for (let i = 0; i < c.tasks.length; i++) {
      const t = c.tasks[i]!;
      if (s.done[i]) {
        if (t.power === 'off') offDone = true;
        continue;
      }
      minutes += t.minutes;
      // what waits for something else that is left is part of a chain that begins there
      if (t.open & ~s.off || !ready(t.after, s.done)) continue;
      if (t.power === 'off' && s.powered) continue;
      begins(turns, i);
      if (t.power === 'on' && !s.powered) beginsBy(c.power.zone, i);
    }
    for (const x of this.choices) {
      if (s.done[x.task] || x.way === 'after') continue;
      const bit = 1 << x.panel;
      if (!(a.open & bit)) {
        if (x.way === 'between') return Infinity;
        continue;
      }
      if (s.off & bit) beginsBy(c.panels[x.panel]!.zone, x.task);
      // with one of the others done and the panel on again, the task can come at once
      const begun = c.power.open & bit || c.usersOf[x.panel]!.some((u) => s.done[u]);
      if (x.way === 'between' && (s.off & bit || !begun)) between |= bit;
    }
    const touched = s.off | a.open;
    const cut = s.powered && a.offTasks;
    if (cut) {
      this.cuts(s, turns);
      begins(head, c.panels.length);
    }
    let heads = 0;
    for (let k = c.panelTopo.length - 1; k >= 0; k--) {
      const i = c.panelTopo[k]!;
      const bit = 1 << i;
      if (!(touched & bit)) continue;
      const p = c.panels[i]!;
      begins(turns, this.last + i);
      if (!(s.off & bit)) {
        this.opens(i, s, turns, heads, cut, offDone);
        heads |= bit;
        begins(head, i);
      }
      if (!(a.open & a.shut & bit)) minutes += s.off & bit ? p.on : p.off + p.on;
    }
    if (!s.powered || a.offTasks) begins(turns, this.on);
    let arrivals = 0;
    for (let d = 0; d < Z; d++) arrivals += ((parity[d]! + most[d]! + 1) >> 1) - parity[d]!;
    // from nowhere the first arrival is free, whichever zone it is
    if (s.zone < 0 && arrivals > 0) arrivals--;
    const turned = (d: number, least: number, offCost: number, onCost: number) => {
      const [from, to] = [parity[d]!, Math.max(least, parity[d]! + most[d]!)];
      minutes += (((to + 1) >> 1) - from) * offCost + (to >> 1) * onCost;
    };
    turned(Z, 0, c.power.off, c.power.on);
    // off, on for the task between, off again and on
    for (let k = 0; k < clash.length; k++) {
      const p = c.panels[clash[k]!]!;
      const bit = 1 << clash[k]!;
      if (a.open & a.shut & bit) turned(Z + 1 + k, between & bit ? 4 : 0, p.off, p.on);
    }
    return minutes + arrivals * c.moveMinutes;
  }
}
