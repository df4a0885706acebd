import { expose } from 'comlink';
import { placesFor } from '#core/plan/moves';

const work = { places: placesFor };
export type PlanWork = typeof work;
expose(work);
