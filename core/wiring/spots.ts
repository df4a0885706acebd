import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { groundSpot, type Spot } from './lay';
import type { JoinedEnd, Target } from './target';

/** A target outside the kit’s own devices, whose place others know. */
export type OutsideTarget = Extract<Target, { to: 'feed' | 'trigger' } | { to: 'wire' }>;

/**
 * Where an end of a box may be joined: at its devices, at what it takes its power from, or, where it takes ground alone, at any of
 * the unit’s grounds.
 * @param outside the places at which a feed, a trigger or a wire of the unit may be found
 */
export function spotsOf(
  kit: Pick<Kit, 'devices'>,
  model: Pick<UnitModel, 'places' | 'grounds'>,
  e: JoinedEnd,
  outside: (t: OutsideTarget) => readonly string[],
): Spot[] {
  const out: Spot[] = [];
  const add = (place: string | undefined, extraMm = 0) => {
    if (place && model.places.some((p) => p.id === place) && !out.some((x) => x.place === place)) out.push({ place, extraMm });
  };
  for (const { target: t } of e.wires) {
    if (t.to === 'terminal') {
      const d = kit.devices.find((x) => x.id === t.device);
      add(d?.place, d?.terminals.find((x) => x.id === t.terminal)?.leadMm);
    } else if (t.to === 'feed' || t.to === 'trigger' || t.to === 'wire') for (const p of outside(t)) add(p);
  }
  if (!out.length && e.wires.some((w) => w.target.to === 'ground'))
    out.push(...model.grounds.filter((g) => model.places.some((p) => p.id === g.place)).map(groundSpot));
  return out;
}
