import type { Harness } from '#model/harness';
import type { Settings } from '#model/settings';
import type { UnitModel } from '#model/unit-model';
import { cutPlan, cutRows } from '../harness/cut-list';
import { awgName } from '../wire/resistance';
import type { ChangePart } from './change-steps';

/** Something that the wiring of an order uses up, from the shop’s own shelf. */
export interface Need {
  /** as the shelf names it */
  id: string;
  kind: 'wire' | 'fuse' | 'relay' | 'end' | 'part';
  name: string;
  need: number;
  unit: 'm' | 'pieces';
  /** on the shelf; null where nobody counted */
  have: number | null;
  /** what is missing; null where nobody counted */
  short: number | null;
  /** circuits that wait for it when it is short */
  circuits: string[];
  /** for one, in the shop’s currency, where a sheet or the settings say */
  price?: number;
}

/** Gauges that one size of terminal takes, thinnest first. */
const SIZES: readonly (readonly [number, string])[] = [
  [18, '22–18'],
  [14, '16–14'],
  [10, '12–10'],
  [-9, '8 and over'],
];
const sizeOf = (awg: number): string => (SIZES.find(([least]) => awg >= least) ?? SIZES.at(-1)!)[1];
const slug = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

/**
 * Wire, fuses with their holders, relays and ends that the added wiring takes, each beside what is on the shelf. What comes
 * ready in a kit’s box is counted at Fit, not here. `agreed`: things that agreed changes take.
 */
export function needsOf(
  h: Harness,
  model: UnitModel,
  settings: Pick<Settings, 'stock' | 'shelf'>,
  agreed: readonly ChangePart[] = [],
): Need[] {
  const shelf = new Map(settings.shelf.map((s) => [s.id, s.have]));
  const rows = cutRows(h, model);
  const plan = cutPlan(rows, settings.stock);
  const unmet = new Set(plan.unmet);
  const needs = new Map<string, Need>();
  const add = (kind: Need['kind'], id: string, name: string, circuit: string | null, n = 1) => {
    const had = needs.get(id);
    const need = (had?.need ?? 0) + n;
    const have = shelf.get(id) ?? null;
    needs.set(id, {
      id,
      kind,
      name,
      need,
      unit: 'pieces',
      have,
      short: have === null ? null : Math.max(0, need - have),
      circuits: [...new Set([...(had?.circuits ?? []), ...(circuit ? [circuit] : [])])],
    });
  };
  for (const r of rows) {
    if (r.awg === null) continue;
    const id = `${awgName(r.awg)} ${r.colour}`;
    const had = needs.get(id);
    const cut = r.lengthM ?? 0;
    const lacks = unmet.has(r.wire) ? cut : 0;
    const onHand = settings.stock.filter((s) => s.awg === r.awg && s.colour === r.colour).reduce((s, x) => s + x.lengthM, 0);
    needs.set(id, {
      id,
      kind: 'wire',
      name: `${awgName(r.awg)} AWG, ${r.colour}`,
      need: Number(((had?.need ?? 0) + cut).toFixed(2)),
      unit: 'm',
      have: Number(onHand.toFixed(2)),
      short: Number(((had?.short ?? 0) + lacks).toFixed(2)),
      circuits: [...new Set([...(had?.circuits ?? []), ...(lacks && r.circuit ? [r.circuit] : [])])],
    });
    for (const end of r.ends)
      if (!/plug|sealed|splice$/.test(end)) add('end', `${slug(end)}-${slug(sizeOf(r.awg))}`, `${end}, ${sizeOf(r.awg)} AWG`, r.circuit);
  }
  for (const e of h.elements) {
    if (e.kind === 'fuse' && e.of === null && e.circuit !== null)
      add('fuse', `fuse-${e.family}-${slug(String(e.ratingA))}`, `${e.ratingA} A ${e.family} fuse and holder`, e.circuit);
    if (e.kind === 'coil' && e.of?.endsWith('#relay')) add('relay', 'relay-12', 'relay, sealed, with its socket', e.circuit);
  }
  for (const p of agreed) {
    add(p.kind, p.id, p.name, null);
    needs.get(p.id)!.price = p.price;
  }
  const order = ['part', 'wire', 'fuse', 'relay', 'end'];
  return [...needs.values()].sort(
    (a, b) => order.indexOf(a.kind) - order.indexOf(b.kind) || a.name.localeCompare(b.name, 'en', { numeric: true }),
  );
}

/** What must be had before all of it can be done: short of the count, or never counted. */
export const shortNeeds = (needs: readonly Need[]): Need[] => needs.filter((n) => (n.short ?? 0) > 0);
