import type { UnitModel } from '#model/unit-model';
import { highestSystemVolts } from './highest-volts';

/** A unit of more than this is driven by its battery: a traction pack, whatever kind of unit it is in. Common practice, no source. */
const TRACTION_V = 30;
/** Above this direct current kills as a matter of course: work on the pack is a qualified person's, by its maker's procedure. IEC 60364-4-41 (120 V) and UNECE R100 (60 V), from memory. */
export const PACK_WORK_V = 60;

/** Whether the unit has a traction pack. */
export const isTraction = (model: Pick<UnitModel, 'electrical' | 'kind'>): boolean =>
  model.kind === 'golf-cart' || model.electrical.systemV > TRACTION_V;

/** Whether its pack is beyond what an installer may work on without its maker's isolation procedure. */
export const isHighVoltage = (model: Pick<UnitModel, 'electrical'>): boolean => highestSystemVolts(model) > PACK_WORK_V;

/** The fact by which a qualified person acknowledges the maker's isolation procedure for an order. */
export const ISOLATION_FACT = 'isolation:qualified';
export const ISOLATION_QUESTION = 'The maker’s isolation procedure is here, and a qualified person does it';
