import type { Verdict } from '#model/common';
import type { Kit } from '#model/kit';
import type { RulePack } from '#model/rule-pack';
import type { Settings } from '#model/settings';
import type { UnitModel } from '#model/unit-model';
import { assess } from '../order/assess';
import { kitAdded, trialOrder } from '../order/trial';
import { awgName } from '../wire/resistance';
import { worst } from '../verdict';
import { Memo } from '../memo';
import { boxProblems, type Choices } from './edit-kit';

/** One thing that is said of a box on a unit. */
export interface Tried {
  name: string;
  verdict: Verdict | null;
  says: string;
}

/** What a box comes to on a unit, by station. */
export interface TryOn {
  fit: Tried;
  power: Tried;
  wire: Tried[];
  /** what it settles, or breaks, of what the rule packs ask */
  lamps: Tried[];
  plan: { steps: { title: string; minutes: number; stage: string }[]; minutes: number; leftOut: string[] };
  needs: { item: string; quantity: number; unit: string }[];
}

/**
 * A box tried on a unit while its sheet is written: everything that an order with it alone would say.
 * @param chosen the option of each variant under which it is tried; left out: the first
 * @param memo what was computed for the box as it was a change ago
 * @returns null while the sheet does not hold together
 */
export function tryOn(
  kit: Kit,
  model: UnitModel,
  packs: RulePack[],
  settings: Settings,
  chosen: Choices = {},
  memo = new Memo(),
): TryOn | null {
  if (boxProblems(kit).some((p) => p.stops)) return null;
  const order = trialOrder(model, [
    kitAdded(kit),
    ...Object.entries(chosen).map(([variant, option]) => ({
      type: 'variant.chosen' as const,
      kit: kit.id,
      variant,
      option,
      label: option,
    })),
  ]);
  const a = assess(order, { model, kits: [kit], packs }, settings, memo);
  const without = assess(trialOrder(model, []), { model, kits: [], packs }, settings, memo);
  const before = new Map(without.lamps.packs.flatMap((p) => p.items.map((i) => [`${p.pack.id}/${i.id}`, i.verdict])));
  const fit = a.fit.kits[0]!;
  return {
    fit: { name: 'Fit', verdict: fit.verdict, says: fit.says },
    power: { name: 'Power', verdict: a.power.verdict, says: a.power.says },
    wire: a.wiring.circuits.map((c) => ({
      name: c.circuit.name,
      verdict: c.verdict,
      says: [
        // what has no feed says so among its problems
        ...(c.feed
          ? [`${c.feed.name}${c.trigger ? `, by a relay that ${c.trigger.name} asks` : ''}`]
          : c.circuit.taps
            ? ['joined to the unit’s own wire']
            : []),
        ...(c.awg === null ? [] : [`${awgName(c.awg)} AWG of the ${c.wireFrom === 'both' ? 'box and the shelf' : c.wireFrom}`]),
        ...(c.fuseA === null ? (c.guardedBy ? [`guarded by ${c.guardedBy}`] : []) : [`${c.fuseA} A`]),
        ...(c.dropPct === null ? [] : [`drop ${c.dropPct.toFixed(1)} %`]),
        ...c.problems,
      ].join('; '),
    })),
    lamps: a.lamps.packs.flatMap((p) =>
      p.items.flatMap((i) =>
        i.verdict !== before.get(`${p.pack.id}/${i.id}`) ? [{ name: i.title, verdict: i.verdict, says: i.says }] : [],
      ),
    ),
    plan: {
      steps: a.steps.map((s) => ({ title: s.title, minutes: s.minutes, stage: s.stage })),
      minutes: a.minutes.planned,
      leftOut: a.work?.leftOut.map((l) => `${l.what}: ${l.lacks}`) ?? [],
    },
    needs: a.needs.map((n) => ({ item: n.name, quantity: n.need, unit: n.unit })),
  };
}

/** The worst of what is said of a box on a unit. */
export const triedVerdict = (t: TryOn): Verdict => worst([t.fit, t.power, ...t.wire, ...t.lamps].flatMap((x) => x.verdict ?? []));
