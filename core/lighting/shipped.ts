import lowSpeedVehicle from '../../rules/low-speed-vehicle.json';
import motorcycle from '../../rules/motorcycle-lamps.json';
import motorcycleR53 from '../../rules/motorcycle-r53.json';
import navigation12to20 from '../../rules/navigation-12-20m.json';
import navigationUnder12 from '../../rules/navigation-under-12m.json';
import roadGeneral from '../../rules/road-general.json';
import type { RulePack } from '#model/rule-pack';
import { readPack } from './pack';

const FILES = [lowSpeedVehicle, motorcycle, motorcycleR53, navigationUnder12, navigation12to20, roadGeneral];

let read: RulePack[] | null = null;
/** The rule packs that ship, for calculations that stand alone. An order uses those in the shop's sheets. */
export const shippedPacks = (): readonly RulePack[] => (read ??= FILES.map((f) => readPack(f.sheet)));
