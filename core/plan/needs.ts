import type { Harness } from '#model/harness';
import type { Kit } from '#model/kit';
import type { Taken } from '#model/order';
import type { Settings } from '#model/settings';
import type { UnitModel } from '#model/unit-model';
import { cutPlan, cutRows } from '../harness/cut-list';
import { awgName } from '../wire/resistance';
import { terminalSize } from '../wire-rules/terminal-size';
import type { PlannedCircuit } from '../wiring/planned';
import { shelfId } from '../slug';
import { fuseId, sayFuse } from './say-fuse';
import type { ChangePart } from './change-steps';

/** Something that the wiring of an order uses up, from the shop’s own shelf. */
export interface Need {
  /** as the shelf names it */
  id: string;
  kind: 'wire' | 'fuse' | 'relay' | 'end' | 'part' | 'buy';
  name: string;
  need: number;
  unit: 'm' | 'pieces';
  /** on the shelf; null where nobody counted */
  have: number | null;
  /** what is missing; null where nobody counted */
  short: number | null;
  /** circuits that take it */
  uses: string[];
  /** those of them that wait for it when it is short */
  circuits: string[];
  /** for one, in the shop’s currency, where a sheet or the settings say */
  price?: number;
}

/**
 * Wire, fuses with their holders, relays and ends that the added wiring takes, each beside what is on the shelf. What comes
 * ready in a kit’s box is counted at Fit, not here. `agreed`: things that agreed changes take; `besides`: what a box asks for and
 * does not hold; `used`: circuits that are wired already, whose things are off the shelf; `kept`: pieces of
 * stock by wire, as they were laid out with other orders.
 */
export function needsOf(
  h: Harness,
  model: UnitModel,
  settings: Pick<Settings, 'stock' | 'shelf'>,
  agreed: readonly ChangePart[] = [],
  used: ReadonlySet<string> = new Set(),
  besides: readonly Besides[] = [],
  kept?: ReadonlyMap<string, string>,
): Need[] {
  const shelf = new Map(settings.shelf.map((s) => [s.id, s.have]));
  const rows = cutRows(h, model).filter((r) => !r.circuit || !used.has(r.circuit));
  const plan = cutPlan(rows, settings.stock, kept);
  const unmet = new Set(plan.unmet);
  const counted = settings.stock.length > 0;
  const needs = new Map<string, Need>();
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
      // a shop that has entered no wire at all has not counted it
      have: counted ? Number(onHand.toFixed(2)) : null,
      short: counted ? Number(((had?.short ?? 0) + lacks).toFixed(2)) : null,
      uses: [...new Set([...(had?.uses ?? []), ...(r.circuit ? [r.circuit] : [])])],
      circuits: [...new Set([...(had?.circuits ?? []), ...(lacks && r.circuit ? [r.circuit] : [])])],
    });
  }
  for (const { uses: all, ...p } of piecesOf(h, model, agreed, besides).values()) {
    const uses = [...all].filter(([c]) => c === null || !used.has(c));
    if (!uses.length) continue;
    const need = Math.ceil(uses.reduce((s, [, n]) => s + n, 0));
    const have = shelf.get(p.id) ?? null;
    // first come, first served: whoever comes when the shelf is empty waits
    let left = have ?? 0;
    const waits = uses.filter(([, n]) => (left -= n) < 0);
    needs.set(p.id, {
      ...p,
      need,
      unit: 'pieces',
      have,
      short: have === null ? null : Math.max(0, need - have),
      uses: uses.flatMap(([circuit]) => circuit ?? []),
      circuits: waits.flatMap(([circuit]) => circuit ?? []),
    });
  }
  const order = ['buy', 'part', 'wire', 'fuse', 'relay', 'end'];
  return [...needs.values()].sort(
    (a, b) => order.indexOf(a.kind) - order.indexOf(b.kind) || a.name.localeCompare(b.name, 'en', { numeric: true }),
  );
}

/** Something that neither a box nor the unit has, and that a circuit, or a kit as a whole, waits for. */
export interface Besides {
  item: string;
  count: number;
  circuit: string | null;
}

/** What the boxes of an order ask for besides, and what their plugs want where they do not go into what they are joined to. */
export const besidesOf = (kits: readonly Kit[], circuits: readonly Pick<PlannedCircuit, 'id' | 'adapted'>[]): Besides[] => [
  ...kits.flatMap((k) => k.besides.map(({ item, count }) => ({ item, count, circuit: null }))),
  ...circuits.flatMap((c) =>
    (c.adapted?.buy ?? []).map((b): Besides => {
      const n = /^(\d+) × (.*)$/.exec(b);
      return { item: n ? n[2]! : b, count: n ? Number(n[1]) : 1, circuit: c.id };
    }),
  ),
];

/** Pieces of one kind, with how many each circuit takes. */
type Pieces = Pick<Need, 'id' | 'kind' | 'name' | 'price'> & { uses: Map<string | null, number> };

function piecesOf(h: Harness, model: UnitModel, agreed: readonly ChangePart[], besides: readonly Besides[] = []): Map<string, Pieces> {
  const pieces = new Map<string, Pieces>();
  const add = (kind: Need['kind'], id: string, name: string, circuit: string | null, n = 1, price?: number) => {
    let p = pieces.get(id);
    if (!p) pieces.set(id, (p = { id, kind, name, uses: new Map() }));
    p.uses.set(circuit, (p.uses.get(circuit) ?? 0) + n);
    if (price !== undefined) p.price = price;
  };
  for (const r of cutRows(h, model)) {
    if (r.awg === null) continue;
    const { id: size, words } = terminalSize(r.awg);
    for (const at of r.ends) {
      // the terminal, whichever way of a plug or stud it goes to; what is bare, soldered or comes with a plug takes none
      const end = at.replace(/, \d+$/, '');
      // a butt splice takes an end from either side
      const n = end === 'butt splice' ? 0.5 : 1;
      if (!/plug|^bare$|^splice$/.test(end)) add('end', `${shelfId(end)}-${size}`, `${end}, ${words}`, r.circuit, n);
    }
  }
  for (const e of h.elements) {
    if (e.kind === 'fuse' && e.of === null && e.circuit !== null && !e.box) add('fuse', fuseId(e), `${sayFuse(e)} and holder`, e.circuit);
    if (e.kind === 'coil' && e.part) add('relay', e.part.id, e.part.name, e.circuit);
  }
  for (const b of besides) add('buy', shelfId(b.item), b.item, b.circuit, b.count);
  for (const p of agreed) add(p.kind, p.id, p.name, null, 1, p.price);
  return pieces;
}

/**
 * What wiring a circuit uses up: of which spool each of its wires is cut, as the cut plan of all that is left to cut has it, and
 * what comes off the shelf. What nobody counted, and what is not there, is not taken.
 */
export function takenBy(
  circuit: string,
  h: Harness,
  model: UnitModel,
  settings: Pick<Settings, 'stock' | 'shelf'>,
  used: ReadonlySet<string>,
  kept?: ReadonlyMap<string, string>,
): Taken[] {
  const rows = cutRows(h, model).filter((r) => !r.circuit || !used.has(r.circuit));
  const spools = new Map<string, Taken & { of: 'spool' }>();
  for (const { cut, stock } of cutPlan(rows, settings.stock, kept).assignments) {
    const row = rows.find((r) => r.wire === cut)!;
    const { id, awg, colour } = settings.stock.find((s) => s.id === stock)!;
    if (row.circuit !== circuit) continue;
    const lengthM = Number(((spools.get(id)?.lengthM ?? 0) + row.lengthM!).toFixed(3));
    spools.set(id, { of: 'spool', id, awg, colour, lengthM });
  }
  const shelf = new Map(settings.shelf.map((s) => [s.id, s.have]));
  const pieces = [...piecesOf(h, model, []).values()].flatMap((p): Taken[] => {
    const n = Math.min(Math.ceil(p.uses.get(circuit) ?? 0), shelf.get(p.id) ?? 0);
    return n > 0 ? [{ of: 'shelf', id: p.id, pieces: n }] : [];
  });
  return [...spools.values(), ...pieces];
}

/** What fitting an agreed change takes off the shelf: as takenBy has it, for parts that no circuit takes. */
export function partsTaken(parts: readonly ChangePart[], step: string, stock: Settings['shelf']): Taken[] {
  const count = new Map<string, number>();
  for (const p of parts) if (p.step === step) count.set(p.id, (count.get(p.id) ?? 0) + 1);
  return [...count].flatMap(([id, n]): Taken[] => {
    const pieces = Math.min(n, stock.find((s) => s.id === id)?.have ?? 0);
    return pieces > 0 ? [{ of: 'shelf', id, pieces }] : [];
  });
}

/** What must be had before all of it can be done: short of the count, or never counted. */
export const shortNeeds = (needs: readonly Need[]): Need[] => needs.filter((n) => (n.short ?? 0) > 0);
