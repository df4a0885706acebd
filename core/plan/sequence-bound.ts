import type { Compiled } from './sequence-compile';
import { asked, type State } from './sequence-state';

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
export function leastLeft(c: Compiled, s: State): number {
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
