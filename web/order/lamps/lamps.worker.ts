import { expose } from 'comlink';
import type { Ends } from '#core/drawing/shape';
import type { Given } from '#core/lighting/item';
import { judgePack, type PackCheck } from '#core/lighting/judge';
import type { Lamp } from '#core/lighting/lamp';
import { searchPlace, type Placement } from '#core/lighting/placing';
import { switchTable } from '#core/lighting/switching';
import type { Harness } from '#model/harness';
import type { RulePack } from '#model/rule-pack';
import type { UnitModel } from '#model/unit-model';

const work = {
  /** The nearest place that keeps every limit, and all places that do. */
  place(packs: RulePack[], lamp: Lamp, given: Given, faces: Ends['faces']): Placement {
    return searchPlace(packs, lamp, given, faces);
  },
  /** Every pack there is against the unit, with every state of the switches and every ray worked out afresh. */
  all(packs: RulePack[], harness: Harness, model: UnitModel, given: Given): PackCheck[] {
    const table = switchTable(harness, model, given.lamps);
    return packs.map((pack) => ({ pack, items: judgePack(pack, { ...given, table }) }));
  },
};
export type LampWork = typeof work;
expose(work);
