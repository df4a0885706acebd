import { useMemo } from 'react';
import { copiedKit, newKit } from '#core/sheets/edit-kit';
import type { Kit } from '#model/kit';
import type { UnitModel } from '#model/unit-model';
import { useDraft } from '../../app/kept';

/** A box whose sheet somebody began and did not publish yet. */
export interface BegunKit {
  base: Kit;
  /** the model it is tried on */
  on: string;
}

/** Boxes that this person has begun on this device. */
export function useBegunKits(): {
  list: BegunKit[];
  begin: (maker: string, name: string, on: UnitModel, taken: readonly string[]) => Kit;
  copy: (kit: Kit, name: string, on: string, taken: readonly string[]) => Kit;
  drop: (id: string) => void;
} {
  const [kept, keep] = useDraft('kits.begun');
  const list = useMemo(() => (kept ? (JSON.parse(kept) as BegunKit[]) : []), [kept]);
  const add = (b: BegunKit) => {
    keep(JSON.stringify([...list, b]));
    return b.base;
  };
  const ids = (taken: readonly string[]) => [...taken, ...list.map((b) => b.base.id)];
  return {
    list,
    begin: (maker, name, on, taken) => add({ base: newKit(maker, name, ids(taken), on), on: on.id }),
    copy: (kit, name, on, taken) => add({ base: copiedKit(kit, name, ids(taken)), on }),
    drop: (id) => keep(JSON.stringify(list.filter((b) => b.base.id !== id))),
  };
}
