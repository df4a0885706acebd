import { POWER, type SequenceProblem } from '#core/plan/sequence-problem';
import type { Wait } from '#core/plan/waits';

/**
 * A plan as a mixed-integer program in the CPLEX LP format, written from the rules alone: one act at each position,
 * panels, power and what is done as states between positions, and a zone for each position. Panels and power may each
 * be turned `rounds` times there and back. With waits, each position has the time at which it begins, and the end of the last
 * is what is made least.
 */
export function planModel(p: SequenceProblem, rounds = p.tasks.some((t) => t.shut?.length) ? 2 : 1, waits: readonly Wait[] = []): string {
  interface Act {
    name: string;
    zone: string;
    minutes: number;
    most: number;
  }
  const powerRounds = 2;
  const acts: Act[] = [
    ...p.tasks.map((t, i) => ({ name: `t${i}`, zone: t.zone, minutes: t.minutes, most: 1 })),
    ...p.panels.flatMap((x, i) => [
      { name: `f${i}`, zone: x.zone, minutes: x.offMinutes, most: rounds },
      { name: `n${i}`, zone: x.zone, minutes: x.onMinutes, most: rounds },
    ]),
    { name: 'wf', zone: p.power.zone, minutes: p.power.offMinutes, most: powerRounds },
    { name: 'wn', zone: p.power.zone, minutes: p.power.onMinutes, most: powerRounds },
  ];
  const K = acts.reduce((s, a) => s + a.most, 0);
  const panel = (id: string) => p.panels.findIndex((x) => x.id === id);
  const task = (id: string) => p.tasks.findIndex((x) => x.id === id);
  const zones = [...new Set(acts.map((a) => a.zone))];
  const rows: string[] = [];
  const binary: string[] = [];
  const x = (a: string, k: number) => `x_${a}_${k}`;
  const pos = Array.from({ length: K }, (_, k) => k);
  const upTo = (a: string, k: number, sign = '+') => pos.slice(0, k).map((j) => `${sign} ${x(a, j)}`);
  /** off before position k: turned off less turned on */
  const off = (i: number, k: number, sign: '+' | '-' = '+') => [...upTo(`f${i}`, k, sign), ...upTo(`n${i}`, k, sign === '+' ? '-' : '+')];
  const dead = (k: number, sign: '+' | '-' = '+') => [...upTo('wf', k, sign), ...upTo('wn', k, sign === '+' ? '-' : '+')];
  const row = (left: string[], right: string) => {
    if (left.length) rows.push(`${left.join(' ')} ${right}`);
  };
  for (const k of pos) {
    row(
      acts.map((a) => `+ ${x(a.name, k)}`),
      '<= 1',
    );
    // no gap between positions
    if (k) row([...acts.map((a) => `+ ${x(a.name, k)}`), ...acts.map((a) => `- ${x(a.name, k - 1)}`)], '<= 0');
    p.tasks.forEach((t, i) => {
      for (const o of t.open) row([`+ ${x(`t${i}`, k)}`, ...off(panel(o), k, '-')], '<= 0');
      for (const o of t.shut ?? []) row([`+ ${x(`t${i}`, k)}`, ...off(panel(o), k)], '<= 1');
      if (t.power === 'off') row([`+ ${x(`t${i}`, k)}`, ...dead(k, '-')], '<= 0');
      if (t.power === 'on') row([`+ ${x(`t${i}`, k)}`, ...dead(k)], '<= 1');
      for (const b of t.after) row([`+ ${x(`t${i}`, k)}`, ...upTo(`t${task(b)}`, k, '-')], '<= 0');
    });
    p.panels.forEach((y, i) => {
      row([`+ ${x(`f${i}`, k)}`, ...off(i, k)], '<= 1');
      row([`+ ${x(`n${i}`, k)}`, ...off(i, k, '-')], '<= 0');
      for (const a of y.after) {
        row([`+ ${x(`f${i}`, k)}`, ...off(panel(a), k, '-')], '<= 0');
        row([`+ ${x(`n${panel(a)}`, k)}`, ...off(i, k)], '<= 1');
      }
    });
    row([`+ ${x('wf', k)}`, ...dead(k)], '<= 1');
    row([`+ ${x('wn', k)}`, ...dead(k, '-')], '<= 0');
    for (const o of p.power.open ?? []) for (const w of ['wf', 'wn']) row([`+ ${x(w, k)}`, ...off(panel(o), k, '-')], '<= 0');
    // a move wherever this position's zone is not the last one's
    if (k)
      for (const z of zones) {
        const here = acts.filter((a) => a.zone === z).map((a) => `+ ${x(a.name, k)}`);
        const before = acts.filter((a) => a.zone === z).map((a) => `- ${x(a.name, k - 1)}`);
        row([...here, ...before, `- m_${k}`], '<= 0');
      }
  }
  p.tasks.forEach((_, i) => row(upTo(`t${i}`, K), '= 1'));
  p.panels.forEach((_, i) => row(off(i, K), '= 0'));
  row(dead(K), '= 0');
  for (const a of acts) for (const k of pos) binary.push(x(a.name, k));
  const cost = [
    ...acts.filter((a) => a.minutes).flatMap((a) => pos.map((k) => `+ ${a.minutes} ${x(a.name, k)}`)),
    ...pos.slice(1).map((k) => `+ ${p.moveMinutes} m_${k}`),
  ];
  const moves = pos.slice(1).map((k) => `m_${k}`);
  const takes = (k: number, sign: string) => acts.filter((a) => a.minutes).map((a) => `${sign} ${a.minutes} ${x(a.name, k)}`);
  if (waits.length) {
    const all = acts.reduce((s, a) => s + a.minutes * a.most, 0) + K * p.moveMinutes + waits.reduce((s, w) => s + w.minutes, 0);
    for (const k of pos) {
      if (k) row([`+ s_${k}`, `- s_${k - 1}`, ...takes(k - 1, '-'), `- ${p.moveMinutes} m_${k}`], '>= 0');
      row(['+ finish', `- s_${k}`, ...takes(k, '-')], '>= 0');
    }
    for (const w of waits)
      for (const b of w.before)
        for (const j of pos)
          for (const k of pos.slice(j + 1)) {
            const minutes = p.tasks[task(w.task)]!.minutes + w.minutes;
            row(
              [`+ s_${k}`, `- s_${j}`, `- ${all} ${x(`t${task(w.task)}`, j)}`, `- ${all} ${x(`t${task(b)}`, k)}`],
              `>= ${minutes - 2 * all}`,
            );
          }
  }
  return `\\ ${POWER}: wf, wn\nMinimize\n obj: ${waits.length ? 'finish' : cost.join(' ')}\nSubject To\n${rows.map((r, i) => ` c${i}: ${r}`).join('\n')}\nBinary\n ${[...binary, ...moves].join(' ')}\nEnd\n`;
}
