import { POWER, type SequenceProblem, type SequenceStep } from './sequence-problem';

/**
 * Walks a sequence step by step as the rules of the work have it, apart from how it was found.
 * @returns minutes of everything done, moves included; and, where it breaks a rule, why, with the step's index
 */
export function replaySequence(
  p: SequenceProblem,
  steps: readonly SequenceStep[],
): { minutes: number; refused: { at: number; why: string } | null } {
  const off = new Set(p.start?.off ?? []);
  const done = new Set(p.start?.done ?? []);
  let powered = p.start?.power !== 'off';
  let zone = p.start?.zone ?? null;
  let minutes = 0;
  const refuse = (at: number, why: string) => ({ minutes, refused: { at, why } });
  for (const [at, s] of steps.entries()) {
    let in_: string;
    if (s.do === 'task') {
      const t = p.tasks.find((x) => x.id === s.id);
      if (!t) return refuse(at, `there is no task “${s.id}”`);
      if (done.has(t.id)) return refuse(at, `“${t.id}” is done already`);
      const before = t.after.find((a) => !done.has(a));
      if (before) return refuse(at, `“${before}” comes before “${t.id}”`);
      const on = t.open.find((x) => !off.has(x));
      if (on) return refuse(at, `“${on}” must be off for “${t.id}”`);
      const gone = t.shut?.find((x) => off.has(x));
      if (gone) return refuse(at, `“${gone}” must be on for “${t.id}”`);
      if (t.power !== 'any' && (t.power === 'on') !== powered) return refuse(at, `power must be ${t.power} for “${t.id}”`);
      done.add(t.id);
      minutes += t.minutes;
      in_ = t.zone;
    } else if (s.do === 'panel-off' || s.do === 'panel-on') {
      const panel = p.panels.find((x) => x.id === s.id);
      if (!panel) return refuse(at, `there is no panel “${s.id}”`);
      if (off.has(panel.id) === (s.do === 'panel-off')) return refuse(at, `“${panel.id}” is so already`);
      const holds =
        s.do === 'panel-off' ? panel.after.find((x) => !off.has(x)) : p.panels.find((x) => off.has(x.id) && x.after.includes(panel.id))?.id;
      if (holds) return refuse(at, `“${holds}” must be ${s.do === 'panel-off' ? 'off' : 'on'} before “${panel.id}”`);
      if (s.do === 'panel-off') off.add(panel.id);
      else off.delete(panel.id);
      minutes += s.do === 'panel-off' ? panel.offMinutes : panel.onMinutes;
      in_ = panel.zone;
    } else {
      if (s.id !== POWER || powered === (s.do === 'power-on')) return refuse(at, 'power is so already');
      const hidden = p.power.open?.find((x) => !off.has(x));
      if (hidden) return refuse(at, `“${hidden}” must be off to reach the power`);
      powered = s.do === 'power-on';
      minutes += powered ? p.power.onMinutes : p.power.offMinutes;
      in_ = p.power.zone;
    }
    if (zone !== null && zone !== in_) minutes += p.moveMinutes;
    zone = in_;
  }
  const left = p.tasks.find((t) => !done.has(t.id));
  if (left) return refuse(steps.length, `“${left.id}” is not done`);
  if (off.size) return refuse(steps.length, `“${[...off][0]}” is still off`);
  if (!powered) return refuse(steps.length, 'power is still off');
  return { minutes, refused: null };
}
