import type { Order } from '#model/order';
import { unpackStepOf } from '../plan/unpack';

/** Steps without the count of a box: another box, or other things that should be in it. */
const uncounted = ({ steps }: Order, kit: string): Order['steps'] =>
  Object.fromEntries(Object.entries(steps).filter(([id]) => id !== unpackStepOf(kit)));

/** An order with a kit off it, and with all that was said of that kit. */
export const withoutKit = (order: Order, kit: string): Order => ({
  ...order,
  kits: order.kits.filter((k) => k.kit.id !== kit),
  overrides: order.overrides.filter((o) => !o.circuit.startsWith(`${kit}/`)),
  changes: order.changes.filter((c) => !('load' in c.change && c.change.load.startsWith(`${kit}/`))),
  steps: uncounted(order, kit),
  variants: Object.fromEntries(Object.entries(order.variants ?? {}).filter(([k]) => k !== kit)),
  places: Object.fromEntries(Object.entries(order.places ?? {}).filter(([d]) => !d.startsWith(`${kit}/`))),
  lamps: {
    placed: Object.fromEntries(Object.entries(order.lamps.placed).filter(([id]) => !id.startsWith(`${kit}/`))),
    added: order.lamps.added.filter((l) => !l.like?.startsWith(`${kit}/`)),
  },
});

/** An order with another option of what a kit’s box leaves open. */
export const withVariant = (order: Order, kit: string, variant: string, option: string): Order => ({
  ...order,
  variants: { ...order.variants, [kit]: { ...order.variants?.[kit], [variant]: option } },
  steps: uncounted(order, kit),
  // what was set by hand on circuits of the other option means nothing here
  overrides: order.overrides.filter((o) => !o.circuit.startsWith(`${kit}/`)),
});
