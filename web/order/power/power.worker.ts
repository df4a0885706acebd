import { expose } from 'comlink';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { ChanceRun, type Chance } from '#core/energy/chance';
import { searchRemedies, type By, type RemedySearch } from '#core/energy/remedies';
import type { SpareKit } from '#core/energy/remedy-parts';
import type { PowerSystem } from '#core/energy/system';
import type { OwnerDay } from '#model/day';
import type { Order } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';

/** Days simulated between two tellings of how far it is. */
const CHUNK = 250;

const work = {
  chance(
    system: PowerSystem,
    day: OwnerDay,
    settings: Settings,
    days: number,
    seed: number,
    ageKnown: boolean,
    progress: (done: number) => void,
  ): Chance {
    const run = new ChanceRun(system, day, settings, days, xoroshiro128plus(seed), ageKnown);
    while (run.done < days) {
      run.step(CHUNK);
      progress(run.done);
    }
    return run.result();
  },
  remedies(order: Order, sheets: Sheets, settings: Settings, spare: SpareKit[], by: By): RemedySearch {
    return searchRemedies(order, sheets, settings, spare, by);
  },
};
export type PowerWork = typeof work;
expose(work);
