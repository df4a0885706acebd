import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import { drawEnds } from '#core/drawing/kinds';
import type { OrderLamps } from '#core/lighting/check';
import type { PackCheck } from '#core/lighting/judge';
import type { Lamp } from '#core/lighting/lamp';
import type { Placement } from '#core/lighting/placing';
import type { Harness } from '#model/harness';
import type { UnitModel } from '#model/unit-model';
import type { LampWork } from './lamps.worker';

let remote: Remote<LampWork> | null = null;
const worker = (): Remote<LampWork> =>
  (remote ??= wrap<LampWork>(new Worker(new URL('./lamps.worker.ts', import.meta.url), { type: 'module' })));

/** Searches where a lamp could stand on this body. */
export const findPlace = (check: OrderLamps, lamp: Lamp, model: UnitModel): Promise<Placement> =>
  worker().place(
    check.packs.map((p) => p.pack),
    lamp,
    { ...check.given, table: null },
    drawEnds(model).faces,
  );

/** Every pack there is for this kind of unit, judged in a worker; null while it is under way. */
export function useEveryPack(check: OrderLamps, harness: Harness, model: UnitModel): PackCheck[] | null {
  const [state, setState] = useState<{ of: OrderLamps; all: PackCheck[] } | null>(null);
  useEffect(() => {
    let stale = false;
    const packs = check.proposals.map((p) => p.pack).filter((p) => p.kinds.includes(check.unit.kind));
    void worker()
      .all(packs, harness, model, { ...check.given, table: null })
      .then((all) => !stale && setState({ of: check, all }));
    return () => {
      stale = true;
    };
  }, [check, harness, model]);
  return state?.of === check ? state.all : null;
}
