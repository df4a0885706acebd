import type { ScheduleProblem } from '#core/shop/schedule-problem';

/**
 * A shop’s week as a mixed-integer program over slots of time, in the LP format, from the rules alone: who begins which task in which
 * slot. All bays must take all kinds, all times be whole slots, and tasks want one person.
 */
export function weekModel(p: ScheduleProblem, slot: number, slots: number): string {
  const on = p.people.map((x) => Array.from({ length: slots }, (_, s) => x.shifts.some(([a, b]) => a <= s * slot && (s + 1) * slot <= b)));
  const cost: string[] = [];
  const rows: string[] = [];
  const binaries: string[] = [];
  /** per person and slot, what would be worked on then */
  const busy = p.people.map(() => Array.from({ length: slots }, (): string[] => []));
  const held = Array.from({ length: slots }, (): string[] => []);
  p.jobs.forEach((j, n) => {
    const first = j.tasks.findIndex((t) => t.needsBay);
    const last = j.tasks.findLastIndex((t) => t.needsBay);
    /** begins: slot of the begin, ready: slot from which the next may begin */
    let before: { v: string; ready: number }[] = [];
    let entered: { v: string; start: number }[] = [];
    j.tasks.forEach((t, k) => {
      const all: { v: string; start: number; ready: number }[] = [];
      p.people.forEach((person, i) => {
        if (!t.skills.every((s) => person.skills.includes(s))) return;
        for (let s = 0; s < slots; s++) {
          if (!on[i]![s] || s * slot < Math.max(p.now, j.releaseMin)) continue;
          let left = Math.round(t.minutes / slot);
          let e = s;
          const works: number[] = [];
          for (; left && e < slots; e++)
            if (on[i]![e]) {
              works.push(e);
              left--;
            }
          if (left) continue;
          const v = `x_${n}_${k}_${i}_${s}`;
          binaries.push(v);
          // he is his own from begin to end, pauses too: nobody else’s work is put between
          for (const w of works) busy[i]![w]!.push(v);
          all.push({ v, start: s, ready: e + Math.round(t.waitAfterMin / slot) });
        }
      });
      rows.push(`${all.map((x) => x.v).join(' + ')} = 1`);
      // by any slot: no more begun than what is before was ready by then
      if (k)
        for (let s = 0; s < slots; s++) {
          const begun = all.filter((x) => x.start <= s).map((x) => `+ ${x.v}`);
          if (begun.length)
            rows.push(
              `${begun.join(' ')} ${before
                .filter((x) => x.ready <= s)
                .map((x) => `- ${x.v}`)
                .join(' ')} <= 0`,
            );
        }
      if (k === first) entered = all;
      if (k === last)
        for (let s = 0; s < slots; s++) {
          held[s]!.push(...entered.filter((x) => x.start <= s).map((x) => `+ ${x.v}`));
          held[s]!.push(...all.filter((x) => x.ready <= s).map((x) => `- ${x.v}`));
        }
      if (k === j.tasks.length - 1)
        for (const x of all) cost.push(`${(j.weight * Math.max(0, x.ready * slot - j.dueMin) + 0.001 * x.ready * slot).toFixed(6)} ${x.v}`);
      before = all;
    });
  });
  for (const b of busy) for (const list of b) if (list.length > 1) rows.push(`${list.join(' + ')} <= 1`);
  for (const list of held) if (list.some((v) => v.startsWith('+'))) rows.push(`${list.join(' ')} <= ${p.bays.length}`);
  return `Minimize\n obj: ${cost.join(' + ')}\nSubject To\n${rows.map((r, i) => ` r${i}: ${r}`).join('\n')}\nBinaries\n ${binaries.join('\n ')}\nEnd\n`;
}
