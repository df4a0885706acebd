import type { Probes } from './sight';

/** What every hypothesis would show at one measurement, in their order. */
export interface Shown {
  look: Probes;
  values: readonly (number | null)[];
}

/**
 * Which causes no single measurement tells apart: each with the first that shows the same everywhere.
 * @param causes the cause of each hypothesis, likeliest first; null for none
 * @param shown every measurement that was considered
 * @param differ whether two values of a look would be told apart by a meter
 */
export function alikeOf(
  causes: readonly (string | null)[],
  shown: readonly Shown[],
  differ: (look: Probes, a: number | null, b: number | null) => boolean,
): Map<string, string> {
  const firsts: { id: string; at: number }[] = [];
  const out = new Map<string, string>();
  causes.forEach((id, at) => {
    // the likeliest form of a cause stands for it
    if (id === null || out.has(id)) return;
    const same = firsts.find((f) => !shown.some((m) => differ(m.look, m.values[f.at]!, m.values[at]!)));
    out.set(id, same?.id ?? id);
    if (!same) firsts.push({ id, at });
  });
  return out;
}
