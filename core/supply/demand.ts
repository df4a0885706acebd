import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { SupplyKind } from '#model/supply';
import { cutRows } from '../harness/cut-list';
import type { Length } from '../harness/cut';
import { currentStation, type Assessment } from '../order/assess';
import { wired } from '../plan/used';
import { shelfId } from '../slug';
import { awgName } from '../wire/resistance';

/** Something that an order still uses up. */
export interface Demand {
  item: string;
  kind: SupplyKind;
  name: string;
  unit: 'm' | 'pieces';
  amount: number;
  /** for wire: its pieces */
  cuts: Length[];
  /** for one, in the shop’s currency, where a sheet says */
  price?: number;
  /** without it the work stands still: it is missing from a box that was counted, or from the shelf once the unit is at the bench */
  holds: boolean;
  /** seen not to be there: it lies in no box, whether or not the shelf was counted */
  missing: boolean;
}

/** How the shelf names wire of a gauge and colour. */
export const wireItem = (awg: number, colour: string): string => `${awgName(awg)} ${colour}`;
/** How the shelf names something that belongs into a kit’s box. */
export const boxItem = (kit: string, item: string): string => shelfId(`${kit} ${item}`);

/** The same in words. */
export const boxItemName = (kit: { name: string }, item: string): string => `${item}, ${kit.name}`;

/** What an open order still takes: of the shelf what is not wired yet, and what a counted box lacks. */
export function demandsOf(order: Order, { model }: Pick<Sheets, 'model'>, a: Assessment): Demand[] {
  if (order.status !== 'open') return [];
  const atBench = currentStation(order, a) === 'bench';
  const done = wired(
    order,
    a.wiring.circuits.map((c) => c.id),
  );
  const rows = cutRows(a.wiring.harness, model).filter((r) => !r.circuit || !done.has(r.circuit));
  const cuts = rows.flatMap((r): Length[] =>
    r.awg === null || !r.lengthM ? [] : [{ id: r.wire, awg: r.awg, colour: r.colour, lengthM: r.lengthM }],
  );
  const boxes = a.fit.kits.flatMap(({ kit, box }) =>
    box.flatMap((b): Demand[] =>
      b.counted !== null && b.counted < b.need
        ? [
            {
              item: boxItem(kit.id, b.item),
              kind: 'buy',
              name: boxItemName(kit, b.item),
              unit: 'pieces',
              amount: b.need - b.counted,
              cuts: [],
              holds: true,
              missing: true,
            },
          ]
        : [],
    ),
  );
  return [
    ...boxes,
    ...a.needs.map(({ id, kind, name, unit, need, price }): Demand => ({
      item: id,
      kind,
      name,
      unit,
      amount: need,
      cuts: kind === 'wire' ? cuts.filter((c) => wireItem(c.awg, c.colour) === id) : [],
      ...(price !== undefined && { price }),
      holds: atBench,
      missing: false,
    })),
  ].filter((d) => d.amount > 0);
}
