import { noLoads } from './bus';
import { cellAt, usableShare } from './cell';
import { crankVolts } from './day';
import { addLoad, INTERMITTENT_SHARE } from './phases';
import { run } from './simulate';
import type { PowerSystem } from './system';

/** How long a unit stands with the engine off. Null: not within the time looked at. */
export interface Standing {
  amps: number;
  reserveHours: number | null;
  noStartHours: number | null;
  flatHours: number | null;
}

/** Days looked ahead. */
const AHEAD_H = 24 * 200;

/**
 * Runs some loads with the engine off until the reserve, until a start fails, and until the battery is flat.
 * @param ids the loads that are on
 */
export function standing(s: PowerSystem, ids: readonly string[], tempC: number, reserveSoc: number): Standing {
  const loads = s.cells.map(() => noLoads((8 * s.systemV) / 12));
  for (const l of s.loads)
    if (ids.includes(l.id) && l.watts !== null)
      addLoad(loads[Math.min(l.bus, s.cells.length - 1)]!, l, l.watts * (l.kind === 'intermittent' ? INTERMITTENT_SHARE : l.share));
  loads[0]!.amps += s.parkedA;
  const which = s.cells.length > 1 && s.loads.some((l) => ids.includes(l.id) && l.bus === 1) ? 1 : 0;
  const cells = s.cells.map((c) => cellAt(c, tempC));
  // hour by hour at first, then longer and longer: what is looked for is found between two moments
  const segments = [];
  for (let h = 0, step = 0.25; h < AHEAD_H; h += step, step *= 1.15)
    segments.push({ phase: 0, hours: step, sourceA: 0, regulatedV: 0, loads, cells });
  const r = run(
    segments,
    s.cells.map((c) => c.capacityAh * s.startSoc),
    s.join,
    { detail: true },
  );
  const first = (spare: (m: (typeof r.moments)[number]) => number): number | null => {
    for (let i = 0; i < r.moments.length; i++) {
      const x = spare(r.moments[i]!);
      if (x > 0) continue;
      if (i === 0) return 0;
      const a = r.moments[i - 1]!;
      const xa = spare(a);
      return a.hour + (xa / (xa - x)) * (r.moments[i]!.hour - a.hour);
    }
    return null;
  };
  const battery = s.cells[which]!;
  const level = Math.max(reserveSoc, 1 - usableShare(battery, tempC));
  return {
    amps: loads.reduce((a, l) => a + l.power / s.systemV + l.amps + l.siemens * s.systemV, 0),
    reserveHours: first((m) => m.charge[which]! / battery.capacityAh - level),
    noStartHours: s.starter ? first((m) => crankVolts(s, cells[0]!, m.charge[0]!, tempC) - s.starter!.leastVolts) : null,
    flatHours: r.flatAt[which] ?? null,
  };
}
