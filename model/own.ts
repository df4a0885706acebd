import type { Kit } from './kit';
import type { Place, Run } from './unit-model';

/** By which parts of one order alone are known, as those of a kit are by the kit: no sheet of the shop has this id. */
export const OWN_KIT = 'own-parts';

/** A device of a kit that is left out on one order, and why. */
export interface LeftOut {
  kit: string;
  device: string;
  name: string;
  reason: string;
  at: string;
  by: string;
}

/** A switch of a kit for which another one of the same contacts is fitted on one order, and why. */
export interface Swapped {
  kit: string;
  device: string;
  /** what the box has, and what is fitted in its place */
  was: string;
  name: string;
  /** the part of the shelf whose hole it has */
  part: string;
  reason: string;
  at: string;
  by: string;
}

/** What one order has that no sheet says: parts of its own, devices that are left out, ways for wires. */
export interface OwnWork {
  /** parts, devices, circuits and steps of this order alone, written as a box’s sheet */
  own?: Kit;
  leftOut?: LeftOut[];
  swapped?: Swapped[];
  ways?: Run[];
  /** places that the sheet does not have */
  spots?: Place[];
}
