import type { EquipmentFunction } from '#model/common';
import type { Point } from '#model/lamp';
import type { RuleItem, RulePack } from '#model/rule-pack';
import type { Ends } from '../drawing/shape';
import type { Answer, Given } from './item';
import { judgeApplies } from './applies';
import { judgeRule } from './judge';
import type { Lamp, LampUnit } from './lamp';

export type Face = 'front' | 'rear' | 'side';
const FRONT: EquipmentFunction[] = [
  'headlamp',
  'turn-front',
  'auxiliary-lamp',
  'sidelight-port',
  'sidelight-starboard',
  'masthead',
  'docking-lamp',
];
const SIDE: EquipmentFunction[] = ['reflector-side'];

/** Where on a unit a lamp of a function stands, for its elevation. */
export const faceOf = (f: EquipmentFunction, at?: Point | null, lengthMm?: number, rearMm = 0): Face =>
  SIDE.includes(f)
    ? 'side'
    : FRONT.includes(f)
      ? 'front'
      : at &&
          lengthMm !== undefined &&
          ['work-lamp', 'mirror-driver', 'mirror-passenger', 'mirror-inside'].includes(f) &&
          at.x > lengthMm / 2 - rearMm
        ? 'front'
        : 'rear';

/** A limit that a lamp's place is drawn with. */
export interface PlaceBand {
  item: string;
  title: string;
  source: string;
  /** up from the ground, millimetres */
  z?: { min?: number; max?: number };
  /** from the centre line, millimetres, either side */
  y?: { min?: number; max?: number };
}

const PLACING = ['equipment', 'separation', 'clearance', 'edge', 'symmetry', 'above'] as const;
type PlacingRule = Extract<RuleItem, { kind: (typeof PLACING)[number] }>;

/** The rules of some packs that say where a lamp of this function may stand. */
export function placingRules(packs: readonly RulePack[], f: EquipmentFunction, given: Given): { pack: RulePack; rule: PlacingRule }[] {
  return packs.flatMap((pack) =>
    pack.items.flatMap((rule) => {
      if (!(PLACING as readonly string[]).includes(rule.kind)) return [];
      const r = rule as PlacingRule;
      const fns: readonly string[] =
        r.kind === 'equipment'
          ? r.anyOf
          : r.kind === 'clearance'
            ? [...r.of, ...r.from]
            : r.kind === 'above'
              ? [...r.of, ...(r.over ?? [])]
              : r.of;
      if (!fns.includes(f) || (r.kind === 'equipment' && !r.heightMm && !r.eachSide)) return [];
      return judgeApplies(r.when, given.unit, given.facts, given.uses, given.lamps).applies === true ? [{ pack, rule: r }] : [];
    }),
  );
}

/** Bands of height and of distance from the centre line for a lamp, as they are drawn. */
export function bandsFor(packs: readonly RulePack[], lamp: Pick<Lamp, 'function' | 'litMm'>, given: Given): PlaceBand[] {
  return placingRules(packs, lamp.function, given).flatMap(({ rule }): PlaceBand[] => {
    const base = { item: rule.id, title: rule.title, source: rule.source };
    if (rule.kind === 'equipment') return rule.heightMm ? [{ ...base, z: rule.heightMm }] : [];
    const half = (lamp.litMm?.w ?? 0) / 2;
    if (rule.kind === 'separation') {
      const edge = rule.measure === 'edges' ? half : 0;
      const to = (x: number | undefined) => (x === undefined ? undefined : x / 2 + edge);
      return [{ ...base, y: { min: to(rule.apartMm.min), max: to(rule.apartMm.max) } }];
    }
    if (rule.kind === 'edge' && given.unit.widthMm !== undefined)
      return [{ ...base, y: { min: Math.max(0, given.unit.widthMm / 2 - rule.mostMm - half) } }];
    return [];
  });
}

/** The band of height that all packs together leave a lamp; null where none says. */
export function heightBand(
  packs: readonly RulePack[],
  lamp: Pick<Lamp, 'function' | 'litMm'>,
  given: Given,
): { min: number | null; max: number | null; source: string } | null {
  const bands = bandsFor(packs, lamp, given).filter((b) => b.z);
  if (!bands.length) return null;
  const mins = bands.flatMap((b) => (b.z!.min === undefined ? [] : [b.z!.min]));
  const maxs = bands.flatMap((b) => (b.z!.max === undefined ? [] : [b.z!.max]));
  return {
    min: mins.length ? Math.max(...mins) : null,
    max: maxs.length ? Math.min(...maxs) : null,
    source: [...new Set(bands.map((b) => b.source))].join('; '),
  };
}

const inside = (poly: readonly (readonly [number, number])[], x: number, z: number): boolean => {
  let odd = false;
  for (let i = 0, j = poly.length - 1; i < poly.length; j = i++) {
    const [a, b] = [poly[i]!, poly[j]!];
    if (a[1] > z !== b[1] > z && x < ((b[0] - a[0]) * (z - a[1])) / (b[1] - a[1]) + a[0]) odd = !odd;
  }
  return odd;
};

/** A lamp nearer to the centre line than this stands on it, millimetres. */
const ON_CENTRE_MM = 20;
/** Millimetres between the places that are tried. */
const GRID = 10;
const MOST_TRIED = 60_000;

/** The other side's lamp of the same kind, nearest to the mirrored place; null for a lamp on the centre line, or alone. */
export const otherSide = (l: Lamp, all: readonly Lamp[]): Lamp | null =>
  !l.at || Math.abs(l.at.y) < ON_CENTRE_MM
    ? null
    : (all
        .filter((o) => o.id !== l.id && o.function === l.function && o.at && o.at.y * l.at!.y < 0)
        .sort((a, b) => Math.abs(a.at!.y + l.at!.y) - Math.abs(b.at!.y + l.at!.y))[0] ?? null);

/** Where to begin with something added to a unit: on the right face of its body, low, at the centre line; it is moved from there. */
export function startFor(f: EquipmentFunction, unit: LampUnit, places: readonly (Point & { id: string })[]): Point {
  const [rear, front] = [-unit.rearOverhangMm, (unit.lengthMm ?? 0) - unit.rearOverhangMm];
  const z = Math.round((unit.heightMm ?? 1200) * 0.36);
  const named = places.find(
    (p) => p.id === (f === 'mirror-driver' ? 'mirror-left' : f === 'mirror-passenger' ? 'mirror-right' : 'rear-plate'),
  );
  if (f.startsWith('mirror')) return named && f !== 'mirror-inside' ? { x: named.x, y: named.y, z: named.z } : { x: front, y: 0, z };
  switch (faceOf(f)) {
    case 'side':
      return { x: rear + 250, y: Math.round((unit.widthMm ?? 1000) / 2), z };
    case 'rear':
      return named ? { x: named.x, y: 0, z: named.z } : { x: rear, y: 0, z };
    case 'front':
      return { x: front, y: 0, z };
  }
}

export interface Placement {
  /** the nearest place to where it is that keeps every limit; null when this body has none */
  at: { lamp: string; at: Point }[] | null;
  /** how far it would move, millimetres */
  movedMm: number;
  /** places that keep every limit, of those on the body, as y and z */
  legal: [number, number][];
  tried: number;
  /** without any: the limits that leave no place by themselves or together, by item */
  against: { item: string; title: string; says: string }[];
}

/**
 * Searches the body's own faces for the nearest place where a lamp keeps every limit of the packs, together with its other
 * side at the mirrored place. Every place of a 10 mm grid is tried, nearest first in effect: the answer is the best of the
 * grid. What other lamps stand in the way is judged by the same rules as on the screen.
 */
export function searchPlace(packs: readonly RulePack[], lamp: Lamp, given: Given, faces: Ends['faces']): Placement {
  const face = faceOf(lamp.function, lamp.at, given.unit.lengthMm, given.unit.rearOverhangMm);
  const rules = placingRules(packs, lamp.function, given);
  const polys = faces[face];
  const from = lamp.at ?? { x: 0, y: 300, z: 700 };
  // a lamp on the centre line has no other side
  const twin = lamp.at ? otherSide(lamp, given.lamps) : null;
  const across = face === 'side' ? 'x' : 'y';
  const side = from.y >= 0 ? 1 : -1;
  const xs = polys.flatMap((p) => p.map((q) => q[0]));
  const zs = polys.flatMap((p) => p.map((q) => q[1]));
  const bounds = { lo: Math.min(...xs), hi: Math.max(...xs), low: Math.min(...zs), high: Math.max(...zs) };
  const step = Math.max(GRID, Math.ceil(Math.sqrt(((bounds.hi - bounds.lo) * (bounds.high - bounds.low)) / MOST_TRIED)));
  const candidates: { u: number; z: number; d: number }[] = [];
  for (let z = Math.ceil(bounds.low / step) * step; z <= bounds.high; z += step)
    for (let u = Math.ceil(bounds.lo / step) * step; u <= bounds.hi; u += step) {
      if (across === 'y' && twin && u * side <= 0) continue;
      if (across === 'y' && !twin && Math.abs(from.y) < ON_CENTRE_MM && u !== 0) continue;
      if (polys.some((p) => inside(p, u, z))) candidates.push({ u, z, d: Math.hypot(u - from[across], z - from.z) });
    }
  candidates.sort((a, b) => a.d - b.d);
  const at = (c: { u: number; z: number }): Point => (across === 'y' ? { x: from.x, y: c.u, z: c.z } : { x: c.u, y: from.y, z: c.z });
  const put = (c: { u: number; z: number }): readonly Lamp[] =>
    given.lamps.map((l) =>
      l.id === lamp.id
        ? { ...l, at: at(c) }
        : twin && l.id === twin.id
          ? { ...l, at: { ...at(c), x: twin.at!.x, ...(across === 'y' ? { y: -c.u } : { y: twin.at!.y }) } }
          : l,
    );
  const mine = (i: Answer) => (i.lamps ?? []).filter((f) => f.lamp.id === lamp.id || f.lamp.id === twin?.id);
  const keeps = (rule: PlacingRule, pack: RulePack, lamps: readonly Lamp[]): boolean => {
    const item = judgeRule(rule, pack.id, { ...given, lamps });
    if (item.verdict === null || item.verdict === 'holds') return true;
    // an item may fail for another lamp, or for want of one; a lamp answers for itself alone
    return item.verdict === 'unknown' || (mine(item).length > 0 && mine(item).every((f) => f.verdict !== 'fails'));
  };
  const legal: [number, number][] = [];
  let best: (typeof candidates)[0] | null = null;
  const broken = new Map<string, { title: string; kept: number }>(rules.map(({ rule }) => [rule.id, { title: rule.title, kept: 0 }]));
  for (const c of candidates) {
    const lamps = put(c);
    let all = true;
    for (const { rule, pack } of rules) {
      if (keeps(rule, pack, lamps)) broken.get(rule.id)!.kept++;
      else {
        all = false;
        // once somewhere is legal, only the first limit in the way is looked for
        if (best) break;
      }
    }
    if (!all) continue;
    best ??= c;
    legal.push([c.u, c.z]);
  }
  const none = [...broken].filter(([, b]) => b.kept === 0);
  const against = best
    ? []
    : (none.length ? none : [...broken].sort((a, b) => a[1].kept - b[1].kept).slice(0, 2)).map(([item, b]) => ({
        item,
        title: b.title,
        says:
          b.kept === 0 ? 'no place on this body keeps it' : `kept at ${b.kept} of ${candidates.length} places, but never with the others`,
      }));
  const chosen = best ? put(best).filter((l) => l.id === lamp.id || l.id === twin?.id) : null;
  return {
    at: chosen ? chosen.map((l) => ({ lamp: l.id, at: l.at! })) : null,
    movedMm: best?.d ?? 0,
    legal,
    tried: candidates.length,
    against,
  };
}
