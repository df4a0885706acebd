import type { UnitKind } from '#model/common';
import type { Panel, UnitModel } from '#model/unit-model';

/** Where a person stands to work: a third of the unit by its length, or the workbench. */
export type Zone = 'front' | 'middle' | 'rear' | 'workbench';

/** What people call these on a kind of unit. */
export const zoneName = (zone: Zone, kind: UnitKind): string =>
  zone === 'workbench' ? 'workbench' : kind !== 'boat' ? zone : zone === 'front' ? 'bow' : zone === 'rear' ? 'stern' : 'amidships';

const spans = new WeakMap<UnitModel, [number, number]>();

/** The zone of a place, by thirds of the length over all places of the unit; without a place, the middle. */
export function zoneOf(model: UnitModel, place: string | null): Zone {
  const p = model.places.find((x) => x.id === place);
  if (!p) return 'middle';
  let span = spans.get(model);
  if (!span) {
    const xs = model.places.map((x) => x.x);
    spans.set(model, (span = [Math.min(...xs), Math.max(...xs)]));
  }
  const share = (p.x - span[0]) / Math.max(1, span[1] - span[0]);
  return share > 2 / 3 ? 'front' : share < 1 / 3 ? 'rear' : 'middle';
}

/** Where one stands to take a panel off: the zone of most of what it hides. */
export function panelZone(model: UnitModel, panel: Panel): Zone {
  const zones = panel.hides.map((h) => zoneOf(model, h));
  const count = (z: Zone) => zones.filter((x) => x === z).length;
  return (['front', 'middle', 'rear'] as const).reduce(
    (best, z) => (count(z) > count(best) ? z : best),
    zoneOf(model, panel.hides[0] ?? null),
  );
}
