import type { SequenceProblem } from '#core/plan/sequence-problem';

/** Draws of a seeded generator between 0 and 1, from one number (a linear congruential generator, by Knuth’s constants). */
export function draws(seed: number): () => number {
  let s = seed >>> 0;
  return () => (s = (Math.imul(s, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

/** A plan drawn at random: `shut` is the share of tasks that want a panel on. */
export function randomPlan(seed: number, tasks: number, panels: number, zones: number, shut = 0): SequenceProblem {
  const r = draws(seed * 7919 + 1);
  for (let i = 0; i < 5; i++) r();
  const int = (k: number) => Math.floor(r() * k);
  const list = Array.from({ length: panels }, (_, i) => ({
    id: `p${i}`,
    zone: `z${int(zones)}`,
    offMinutes: 1 + int(5),
    onMinutes: 1 + int(6),
    after: i && r() < 0.4 ? [`p${int(i)}`] : [],
  }));
  const up = (id: string): string[] => [id, ...list.find((p) => p.id === id)!.after.flatMap(up)];
  return {
    panels: list,
    tasks: Array.from({ length: tasks }, (_, i) => {
      const open = panels ? [...new Set(Array.from({ length: int(3) }, () => `p${int(panels)}`))] : [];
      const off = new Set(open.flatMap(up));
      const on = panels && r() < shut ? [`p${int(panels)}`] : [];
      return {
        id: `t${i}`,
        minutes: 1 + int(9),
        zone: `z${int(zones)}`,
        open,
        // not one that would have to be on while something that comes off after it is off
        shut: on.filter((p) => ![...off].some((o) => up(o).includes(p))),
        power: (['off', 'on', 'any', 'any'] as const)[int(4)]!,
        after: i ? [...new Set(Array.from({ length: int(3) }, () => `t${int(i)}`))] : [],
      };
    }),
    power: { zone: 'z0', offMinutes: 3, onMinutes: 4, open: panels && r() < 0.3 ? ['p0'] : [] },
    moveMinutes: 2,
  };
}
