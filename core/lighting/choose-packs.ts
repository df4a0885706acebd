import type { Order } from '#model/order';
import type { RulePack } from '#model/rule-pack';
import { judgeApplies } from './applies';
import type { Ask } from './item';
import type { Facts, LampUnit } from './lamp';

/** A pack beside a unit: proposed, not, or waiting for one fact. */
export interface Proposal {
  pack: RulePack;
  proposed: boolean;
  why: string;
  /** the one fact that is lacking */
  asks: Ask | null;
  /** on the order as it stands */
  chosen: boolean;
}

/**
 * Proposes rule packs from a unit's kind, length, speed, weight and use. The model's own list counts as well: whoever wrote
 * its sheet knew what applies to it. A pack that waits for a fact is not proposed yet.
 * @param own ids that the model's sheet names
 */
export function proposePacks(
  packs: readonly RulePack[],
  own: readonly string[],
  unit: LampUnit,
  facts: Facts,
  uses: readonly string[],
  chosen: readonly string[] | null,
): Proposal[] {
  return packs
    .map((pack): Proposal => {
      const is = (proposed: boolean, why: string, asks: Ask | null = null): Proposal => ({
        pack,
        proposed,
        why,
        asks,
        chosen: chosen ? chosen.includes(pack.id) : proposed,
      });
      if (!pack.kinds.includes(unit.kind)) return is(false, 'for other kinds of unit');
      const when = judgeApplies(pack.when, unit, facts, uses);
      if (when.applies === false)
        return own.includes(pack.id) ? is(true, `named on the model’s sheet, though ${when.why}`) : is(false, when.why);
      if (when.applies === 'ask') return is(false, when.why, when.ask);
      return is(true, own.includes(pack.id) ? 'named on the model’s sheet' : 'fits this unit and its use');
    })
    .sort((a, b) => Number(b.chosen) - Number(a.chosen) || Number(b.proposed) - Number(a.proposed) || Number(!!b.asks) - Number(!!a.asks));
}

/** The packs an order is judged by: those chosen, else those proposed. */
export const packsOf = (order: Pick<Order, 'packs'>, proposals: readonly Proposal[]): RulePack[] =>
  proposals.filter((p) => (order.packs ? order.packs.includes(p.pack.id) : p.proposed)).map((p) => p.pack);
