import { expose } from 'comlink';
import { Memo } from '#core/memo';
import type { Choices } from '#core/sheets/edit-kit';
import { tryOn, type TryOn } from '#core/sheets/try-on';
import type { Kit } from '#model/kit';
import type { RulePack } from '#model/rule-pack';
import type { Settings } from '#model/settings';
import type { UnitModel } from '#model/unit-model';

/** What does not change from one change of the box to the next is handed over once. */
let beside: { model: UnitModel; packs: RulePack[]; settings: Settings } | null = null;
let memo = new Memo();
const work = {
  beside: (model: UnitModel, packs: RulePack[], settings: Settings): void => {
    beside = { model, packs, settings };
    memo = new Memo();
  },
  try: (kit: Kit, chosen: Choices): TryOn | null => (beside ? tryOn(kit, beside.model, beside.packs, beside.settings, chosen, memo) : null),
};
export type TryWork = typeof work;
expose(work);
