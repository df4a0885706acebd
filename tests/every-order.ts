import { POWER, type SequenceProblem, type SequenceStep } from '#core/plan/sequence-problem';
import type { Wait } from '#core/plan/waits';

/**
 * The least minutes by looking at every state there is, one step at a time, with none of the rules that the search saves by.
 * @param wait something that is left to itself: when it is ready is part of where the work stands
 */
export function everyOrder(p: SequenceProblem, wait?: Wait): number {
  const acts: SequenceStep[] = [
    ...p.tasks.map((t): SequenceStep => ({ do: 'task', id: t.id })),
    ...p.panels.flatMap((x): SequenceStep[] => [
      { do: 'panel-off', id: x.id },
      { do: 'panel-on', id: x.id },
    ]),
    { do: 'power-off', id: POWER },
    { do: 'power-on', id: POWER },
  ];
  const zoneOf = (a: SequenceStep) =>
    a.do === 'task' ? p.tasks.find((t) => t.id === a.id)!.zone : a.id === POWER ? p.power.zone : p.panels.find((x) => x.id === a.id)!.zone;
  interface At {
    done: number;
    off: number;
    on: boolean;
    zone: string | null;
    /** when what is left to itself is ready, minutes */
    ready: number;
  }
  const key = (s: At) => `${s.done}/${s.off}/${s.on}/${s.zone}/${s.ready}`;
  const best = new Map<string, number>();
  const buckets: At[][] = [[{ done: 0, off: 0, on: true, zone: null, ready: 0 }]];
  best.set(key(buckets[0]![0]!), 0);
  const bit = (ids: readonly string[], list: readonly { id: string }[]) =>
    ids.reduce((m, id) => m | (1 << list.findIndex((x) => x.id === id)), 0);
  for (let cost = 0; cost < buckets.length; cost++)
    for (const s of buckets[cost] ?? []) {
      if (best.get(key(s)) !== cost) continue;
      if (s.done === (1 << p.tasks.length) - 1 && s.off === 0 && s.on) return cost;
      for (const a of acts) {
        let to: At;
        let minutes: number;
        if (a.do === 'task') {
          const i = p.tasks.findIndex((t) => t.id === a.id);
          const t = p.tasks[i]!;
          const [open, shut] = [bit(t.open, p.panels), bit(t.shut ?? [], p.panels)];
          if (s.done & (1 << i) || (s.done & bit(t.after, p.tasks)) !== bit(t.after, p.tasks)) continue;
          if ((s.off & open) !== open || s.off & shut || (t.power !== 'any' && (t.power === 'on') !== s.on)) continue;
          to = { ...s, done: s.done | (1 << i) };
          minutes = t.minutes;
        } else if (a.id !== POWER) {
          const i = p.panels.findIndex((x) => x.id === a.id);
          const x = p.panels[i]!;
          const off = a.do === 'panel-off';
          if (!!(s.off & (1 << i)) === off) continue;
          if (
            off
              ? (s.off & bit(x.after, p.panels)) !== bit(x.after, p.panels)
              : p.panels.some((y, k) => s.off & (1 << k) && y.after.includes(x.id))
          )
            continue;
          to = { ...s, off: s.off ^ (1 << i) };
          minutes = off ? x.offMinutes : x.onMinutes;
        } else {
          const open = bit(p.power.open ?? [], p.panels);
          if (s.on !== (a.do === 'power-off') || (s.off & open) !== open) continue;
          to = { ...s, on: !s.on };
          minutes = s.on ? p.power.offMinutes : p.power.onMinutes;
        }
        to.zone = zoneOf(a);
        let at = cost + minutes + (s.zone !== null && s.zone !== to.zone ? p.moveMinutes : 0);
        if (a.do === 'task' && wait?.before.includes(a.id)) at = Math.max(at, s.ready + minutes);
        if (a.do === 'task' && a.id === wait?.task) to.ready = at + wait.minutes;
        if ((best.get(key(to)) ?? Infinity) <= at) continue;
        best.set(key(to), at);
        (buckets[at] ??= []).push(to);
      }
    }
  return NaN;
}
