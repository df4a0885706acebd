import { OFF, ON, type Compiled } from './sequence-compile';
import { POWER, type SequenceStep } from './sequence-problem';

/** Where the work stands. */
export interface State {
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
  /** another leads to the end for no more (see `Met`) */
  beaten?: boolean;
}

/** What the tasks still to do ask of panels and power. */
export interface Asked {
  /** panels that must be off once more, or stay off, with power's own */
  open: number;
  /** panels that must be on for something that is still to do */
  shut: number;
  offTasks: boolean;
  onTasks: boolean;
}

export function asked(c: Compiled, s: State): Asked {
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
export function askedNext(c: Compiled, s: State): Asked {
  const { done } = s;
  const { at, open, shut, power, unlessAt, unless } = c.wants;
  const a = { open: 0, shut: 0, offTasks: false, onTasks: false };
  let powerTasks = false;
  for (let i = 0; i < c.tasks.length; i++) {
    if (done[i]) continue;
    if (c.tasks[i]!.power === 'off') powerTasks = true;
    wants: for (let k = at[i]!, end = at[i + 1]!; k < end; k++) {
      for (let u = unlessAt[k]!, last = unlessAt[k + 1]!; u < last; u++) if (!done[unless[u]!]) continue wants;
      a.open |= open[k]!;
      a.shut |= shut[k]!;
      if (power[k] === OFF) a.offTasks = true;
      else if (power[k] === ON) a.onTasks = true;
    }
  }
  if (powerTasks || !s.powered) a.open |= c.power.open;
  return a;
}

export const copy = (s: State): State => ({
  done: s.done.slice(),
  left: s.left,
  off: s.off,
  powered: s.powered,
  zone: s.zone,
  minutes: s.minutes,
  least: s.least,
  steps: [],
  from: s,
});

function act(c: Compiled, s: State, zone: number, minutes: number, step: SequenceStep): void {
  s.minutes += minutes + (s.zone >= 0 && s.zone !== zone ? c.moveMinutes : 0);
  s.zone = zone;
  s.steps.push(step);
}

export function togglePanel(c: Compiled, s: State, i: number): void {
  const p = c.panels[i]!;
  const off = !(s.off & (1 << i));
  act(c, s, p.zone, off ? p.off : p.on, { do: off ? 'panel-off' : 'panel-on', id: p.id });
  s.off ^= 1 << i;
}
export function togglePower(c: Compiled, s: State): void {
  act(c, s, c.power.zone, s.powered ? c.power.off : c.power.on, { do: s.powered ? 'power-off' : 'power-on', id: POWER });
  s.powered = !s.powered;
}
/** Does a task where the work stands. */
export function settleTask(c: Compiled, s: State, i: number): void {
  const t = c.tasks[i]!;
  act(c, s, t.zone, t.minutes, { do: 'task', id: t.id });
  s.done[i] = 1;
  s.left--;
}
export const mayToggle = (c: Compiled, s: State, i: number) => {
  const p = c.panels[i]!;
  return s.off & (1 << i) ? (s.off & p.below) === 0 : (s.off & p.after) === p.after;
};
export const powerReached = (c: Compiled, s: State) => (s.off & c.power.open) === c.power.open;

/**
 * Does in a zone all that costs no more now than at any later time: a task that can be done; a panel off that has to
 * come off and that nothing still wants on; a panel on that nothing wants off any more; power likewise. In any
 * sequence such a step can be moved to here without a minute more, because a step left out between two others never
 * adds a move.
 */
export function settle(c: Compiled, s: State, zone: number): void {
  let a = askedNext(c, s);
  for (let went = true; went;) {
    went = false;
    for (const i of c.inZone[zone]!) {
      const t = c.tasks[i]!;
      if (s.done[i] || (s.off & t.open) !== t.open || s.off & t.shut) continue;
      if (t.power !== 'any' && (t.power === 'on') !== s.powered) continue;
      if (!t.after.every((k) => s.done[k])) continue;
      settleTask(c, s, i);
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

export const finished = (s: State) => s.left === 0 && s.off === 0 && s.powered;
