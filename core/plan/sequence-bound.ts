import { NOWHERE, UNPOWERED, type Compiled } from './sequence-compile';
import { asked, type Asked, type State } from './sequence-state';

/**
 * How often a thing with two states is turned along a chain of steps: even is its first state, odd its second, and the
 * value counts the turns. A zone is such a thing, odd while somebody is in it; so are power and a panel, odd while off.
 */
const turn = (value: number, odd: 0 | 1): number => value + ((value ^ odd) & 1);

/** Where a task that wants a panel on stands among all that want it off: before them, after them, or between two of them. */
export interface Choice {
  task: number;
  panel: number;
  way: 'before' | 'after' | 'between';
}

const [FRESH, UNDERWAY, READY, ABSENT] = [0, 1, 2, 3];

/**
 * The longest chains of what a state leaves to do. A node for each task, for each panel as it first comes off and last
 * goes on, for power off and on; an edge from what comes before it, with the zone where something is turned in between,
 * if any. Each node's row counts how often every zone, power, and every panel wanted both ways is turned by then.
 */
export class Chains {
  private readonly c: Compiled;
  private readonly s: State;
  /** panels wanted both ways */
  private readonly clash: number[] = [];
  /** for each of them, how many tasks were chosen to stand between others */
  private readonly between: number[] = [];
  private readonly width: number;
  private readonly nodes: number[] = [];
  /** zone in which a node's step is done, or `NOWHERE` */
  private readonly zoneOf: Int8Array;
  /** the newest chosen edge to each node; every one names the one before it */
  private readonly newest = new Map<number, number>();
  private readonly edges: { to: number; from: number; zone: number; next: number }[] = [];
  /** how to take each choice back */
  private readonly chosen: { edges: number; first: number; zone: number; between: number }[] = [];
  private readonly begin: number;
  private readonly most: number;
  /** minutes that no chain changes */
  private fixed = 0;

  constructor(c: Compiled, s: State, a: Asked = asked(c, s)) {
    this.c = c;
    this.s = s;
    const [N, P] = [c.tasks.length, c.panels.length];
    for (let i = 0; i < P; i++) if (a.open & a.shut & (1 << i)) this.clash.push(i);
    this.between = this.clash.map(() => 0);
    this.width = c.zones.length + 1 + this.clash.length;
    const [powerOff, powerOn] = [N + 2 * P, N + 2 * P + 1];
    this.begin = powerOn + 1;
    this.most = powerOn + 2;
    this.zoneOf = c.zoneOf.fill(NOWHERE);
    const touched = s.off | a.open;
    for (let i = 0; i < P; i++) {
      const bit = 1 << i;
      if (!(touched & bit)) continue;
      const p = c.panels[i]!;
      this.nodes.push(N + i, N + P + i);
      if (!(s.off & bit)) this.zoneOf[N + i] = p.zone;
      this.zoneOf[N + P + i] = p.zone;
      if (!(a.open & a.shut & bit)) this.fixed += s.off & bit ? p.on : p.off + p.on;
    }
    if (!s.powered || a.offTasks) {
      this.nodes.push(powerOff, powerOn);
      if (s.powered) this.zoneOf[powerOff] = c.power.zone;
      this.zoneOf[powerOn] = c.power.zone;
    }
    for (let i = 0; i < N; i++) {
      if (s.done[i]) continue;
      const t = c.tasks[i]!;
      this.nodes.push(i);
      this.zoneOf[i] = t.zone;
      this.fixed += t.minutes;
    }
  }

  private edge(to: number, from: number, zone = NOWHERE): void {
    this.edges.push({ to, from, zone, next: this.newest.get(to) ?? -1 });
    this.newest.set(to, this.edges.length - 1);
  }

  /**
   * Chooses for a task that wants a panel on, which others want off; `begun`: one of these is done. `undo` takes back what
   * was chosen last.
   */
  choose({ task, panel, way }: Choice, begun = false): void {
    const { c, s } = this;
    const [first, last] = [c.tasks.length + panel, c.tasks.length + c.panels.length + panel];
    const zone = c.panels[panel]!.zone;
    const at = { edges: this.edges.length, first, zone: this.zoneOf[first]!, between: -1 };
    this.chosen.push(at);
    if (way === 'before') {
      this.edge(first, task);
      this.zoneOf[first] = zone;
      if (s.off & (1 << panel)) this.edge(task, this.begin, zone);
    } else if (way === 'after') this.edge(task, last);
    else {
      this.edge(last, task, zone);
      // with one of them done and the panel on again, the task can come at once
      if (begun && !(s.off & (1 << panel))) return;
      this.edge(task, first, zone);
      at.between = this.clash.indexOf(panel);
      this.between[at.between]!++;
    }
  }
  undo(): void {
    const at = this.chosen.pop()!;
    while (this.edges.length > at.edges) {
      const e = this.edges.pop()!;
      this.newest.set(e.to, e.next);
    }
    this.zoneOf[at.first] = at.zone;
    if (at.between >= 0) this.between[at.between]!--;
  }

  /** What an edge says of a node's row; false where what was chosen goes round in a circle. */
  private follow(n: number, from: number, zone: number): boolean {
    const { width } = this;
    const { rows, mark } = this.c;
    if (mark[from] === ABSENT) return true;
    if (mark[from] !== READY && (mark[from] === UNDERWAY || !this.reach(from))) return false;
    const [at, was] = [n * width, from * width];
    if (zone < 0) {
      for (let d = 0; d < width; d++) if (rows[was + d]! > rows[at + d]!) rows[at + d] = rows[was + d]!;
      return true;
    }
    const Z = this.c.zones.length;
    for (let d = 0; d < width; d++) {
      const v = d < Z ? turn(rows[was + d]!, d === zone ? 1 : 0) : rows[was + d]!;
      if (v > rows[at + d]!) rows[at + d] = v;
    }
    return true;
  }

  /** Reckons a row and all that it rests on; false where what was chosen goes round in a circle. */
  private reach(n: number): boolean {
    const { c, width, zoneOf } = this;
    const { rows, mark, edges } = c;
    mark[n] = UNDERWAY;
    const Z = c.zones.length;
    const at = n * width;
    for (let d = 0, from = this.begin * width; d < width; d++) rows[at + d] = rows[from + d]!;
    for (let k = edges.at[n]!, end = edges.at[n + 1]!; k < end; k++) {
      let zone = edges.zone[k]!;
      if (zone >= UNPOWERED) {
        if (this.s.powered) continue;
        zone -= UNPOWERED;
      }
      if (!this.follow(n, edges.from[k]!, zone)) return false;
    }
    if (this.edges.length)
      for (let k = this.newest.get(n) ?? -1; k >= 0; k = this.edges[k]!.next)
        if (!this.follow(n, this.edges[k]!.from, this.edges[k]!.zone)) return false;
    const zone = zoneOf[n]!;
    if (zone >= 0) {
      for (let d = 0; d < Z; d++) rows[at + d] = turn(rows[at + d]!, d === zone ? 1 : 0);
      if (n < c.tasks.length) {
        const t = c.tasks[n]!;
        if (t.power !== 'any') rows[at + Z] = turn(rows[at + Z]!, t.power === 'off' ? 1 : 0);
        for (let k = 0; k < this.clash.length; k++) {
          const bit = 1 << this.clash[k]!;
          if ((t.open | t.shut) & bit) rows[at + Z + 1 + k] = turn(rows[at + Z + 1 + k]!, t.open & bit ? 1 : 0);
        }
      }
      const most = this.most * width;
      for (let d = 0; d < width; d++) if (rows[at + d]! > rows[most + d]!) rows[most + d] = rows[at + d]!;
    }
    mark[n] = READY;
    return true;
  }

  /** Minutes needed at the least with what was chosen; infinite where that goes round in a circle. */
  minutes(): number {
    const { c, s, clash, width } = this;
    const { rows, mark } = c;
    const Z = c.zones.length;
    const [begin, most] = [this.begin * width, this.most * width];
    for (let d = 0; d < Z; d++) rows[begin + d] = d === s.zone ? 1 : 0;
    rows[begin + Z] = s.powered ? 0 : 1;
    for (let k = 0; k < clash.length; k++) rows[begin + Z + 1 + k] = (s.off >> clash[k]!) & 1;
    rows.copyWithin(most, begin, begin + width);
    mark.fill(ABSENT);
    for (const n of this.nodes) mark[n] = FRESH;
    mark[this.begin] = READY;
    for (const n of this.nodes) if (mark[n] === FRESH && !this.reach(n)) return Infinity;
    let minutes = this.fixed;
    let arrivals = 0;
    for (let d = 0; d < Z; d++) arrivals += ((rows[most + d]! + 1) >> 1) - (s.zone === d ? 1 : 0);
    // from nowhere the first arrival is free, whichever zone it is
    if (s.zone < 0 && arrivals > 0) arrivals--;
    // at the end power and every panel are on
    const turns = (d: number, least: number, offCost: number, onCost: number) => {
      const [from, to] = [rows[begin + d]!, Math.max(least, turn(rows[most + d]!, 0))];
      minutes += (((to + 1) >> 1) - ((from + 1) >> 1)) * offCost + ((to >> 1) - (from >> 1)) * onCost;
    };
    turns(Z, 0, c.power.off, c.power.on);
    // off, on for the task between, off again and on
    clash.forEach((i, k) => turns(Z + 1 + k, this.between[k] ? 4 : 0, c.panels[i]!.off, c.panels[i]!.on));
    return minutes + arrivals * c.moveMinutes;
  }
}

/**
 * Minutes that any way on from here takes at the least: the tasks; every panel and the power turned as often as the
 * longest chain of tasks that must come one after the other turns it; and for each zone as many arrivals as the
 * longest such chain of tasks, panels and power leads into it. Infinite where `choices` cannot be kept any more.
 */
export function leastLeft(c: Compiled, s: State, choices: readonly Choice[] = []): number {
  const a = asked(c, s);
  const chains = new Chains(c, s, a);
  for (const x of choices) {
    if (s.done[x.task]) continue;
    const users = c.usersOf[x.panel]!;
    // power turned under the panel wants it off as well, and leaves no trace of whether it was
    const power = c.power.open & (1 << x.panel);
    if (a.open & (1 << x.panel)) chains.choose(x, !!power || users.some((u) => s.done[u]));
    else if (x.way === 'between') return Infinity;
  }
  return chains.minutes();
}
