import type { Place, Run, UnitModel } from '#model/unit-model';
import { fromSegment } from '../distance';
import type { View } from './view';

/**
 * What a touch on a view means, of what lies within its reach; all in the view's millimetres. Places lie close: what is in hand already
 * counts as so much nearer, and is meant before what lies under it.
 */
export function touchedPlace(
  model: Pick<UnitModel, 'places'>,
  view: Pick<View, 'at'>,
  at: readonly [number, number],
  reach: number,
  held: { id: string | null; nearer: number },
): Place | null {
  const off = (p: Place) => {
    const [u, v] = view.at(p);
    return Math.hypot(u - at[0], v - at[1]) - (p.id === held.id ? held.nearer : 0);
  };
  return model.places.reduce<Place | null>((best, p) => (off(p) <= (best ? off(best) : reach) ? p : best), null);
}

/** The way on whose line a touch falls; null where none lies within its reach. */
export function touchedRun(
  model: Pick<UnitModel, 'places' | 'runs'>,
  view: Pick<View, 'at'>,
  at: readonly [number, number],
  reach: number,
): Run | null {
  const spot = new Map(model.places.map((p) => [p.id, view.at(p)]));
  const off = (r: Run) => fromSegment(at, spot.get(r.from)!, spot.get(r.to)!);
  return model.runs
    .filter((r) => spot.has(r.from) && spot.has(r.to))
    .reduce<Run | null>((best, r) => (off(r) <= (best ? off(best) : reach) ? r : best), null);
}
