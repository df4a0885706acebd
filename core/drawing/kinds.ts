import type { UnitModel } from '#model/unit-model';
import { boat } from './boat';
import { golfCart } from './golf-cart';
import { motorcycle } from './motorcycle';
import { sideBySide } from './side-by-side';
import { snowMachine } from './snow-machine';
import type { Views } from './shape';

const DRAW: Record<UnitModel['kind'], (m: UnitModel) => Views> = {
  'side-by-side': sideBySide,
  'golf-cart': golfCart,
  motorcycle,
  boat,
  'snow-machine': snowMachine,
};

/** The unit's original line drawing, side (from its right, front to the right) and top (front to the right, left side up), in millimetres of its frame. */
export const drawUnit = (m: UnitModel): Views => DRAW[m.kind](m);
