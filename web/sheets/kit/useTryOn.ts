import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Choices } from '#core/sheets/edit-kit';
import type { TryOn } from '#core/sheets/try-on';
import type { Kit } from '#model/kit';
import type { RulePack } from '#model/rule-pack';
import type { Settings } from '#model/settings';
import type { UnitModel } from '#model/unit-model';
import type { TryWork } from './try-on.worker';

/**
 * What a box comes to on a unit, worked out beside the screen after each change; the last answer stays until the next is there. Null
 * while its sheet does not hold together, undefined before the first answer.
 */
export function useTryOn(
  kit: Kit,
  chosen: Choices,
  model: UnitModel | null,
  packs: RulePack[] | null,
  settings: Settings | null,
): TryOn | null | undefined {
  const [work, setWork] = useState<Remote<TryWork> | null>(null);
  const [tried, setTried] = useState<TryOn | null | undefined>(undefined);
  const asked = useRef(0);
  useEffect(() => {
    if (!model || !packs || !settings) return;
    const worker = new Worker(new URL('./try-on.worker.ts', import.meta.url), { type: 'module' });
    const remote = wrap<TryWork>(worker);
    let gone = false;
    void remote.beside(model, packs, settings).then(() => !gone && setWork(() => remote));
    return () => {
      gone = true;
      setWork(null);
      worker.terminate();
    };
  }, [model, packs, settings]);
  useEffect(() => {
    if (!work) return;
    const mine = ++asked.current;
    void work.try(kit, chosen).then((t) => mine === asked.current && setTried(t));
  }, [work, kit, chosen]);
  return tried;
}
