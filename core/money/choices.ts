import { changeKey } from '#model/power-change';
import type { OptionChange } from '#model/money';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';

/**
 * What an option of a quote may have otherwise than the plan: a kit less, a stronger source, something agreed left out, another way of a box.
 * @param given the order’s sheets as they are stored
 */
export function choicesOf(order: Order, given: Sheets): OptionChange[] {
  const kits = given.kits.filter((k) => order.kits.some((o) => o.kit.id === k.id));
  const upgrades = given.model.electrical.sourceUpgrades.filter(
    (u) => !order.changes.some((c) => c.change.kind === 'source' && c.change.upgrade === u.id),
  );
  return [
    ...(kits.length > 1 ? kits.map((k): OptionChange => ({ kind: 'without', kit: k.id, label: `without ${k.name}`.slice(0, 160) })) : []),
    ...upgrades.map((u): OptionChange => ({
      kind: 'power',
      change: { kind: 'source', upgrade: u.id, name: u.name, curve: u.curve },
      label: `with ${u.name}`.slice(0, 160),
    })),
    ...order.changes.map((c): OptionChange => ({ kind: 'unpower', key: changeKey(c.change), label: `without ${c.label}`.slice(0, 160) })),
    ...kits.flatMap((k) =>
      k.variants.flatMap((v) => {
        const now = order.variants?.[k.id]?.[v.id] ?? v.options[0]!.id;
        return v.options
          .filter((o) => o.id !== now)
          .map((o): OptionChange => ({
            kind: 'variant',
            kit: k.id,
            variant: v.id,
            option: o.id,
            label: `${k.name}: ${o.name}`.slice(0, 160),
          }));
      }),
    ),
  ];
}
