import type { UnitModel } from '#model/unit-model';
import { boat } from './boat';
import { boatEnds } from './boat-ends';
import { golfCart } from './golf-cart';
import { golfCartEnds } from './golf-cart-ends';
import { motorcycle } from './motorcycle';
import { motorcycleEnds } from './motorcycle-ends';
import { sideBySide } from './side-by-side';
import { sideBySideEnds } from './side-by-side-ends';
import { snowMachine } from './snow-machine';
import { snowMachineEnds } from './snow-machine-ends';
import type { Ends, Views } from './shape';

const DRAW: Record<UnitModel['kind'], (m: UnitModel) => Views> = {
  'side-by-side': sideBySide,
  'golf-cart': golfCart,
  motorcycle,
  boat,
  'snow-machine': snowMachine,
};

/** The unit's original line drawing, side (from its right, front to the right) and top (front to the right, left side up), in millimetres of its frame. */
export const drawUnit = (m: UnitModel): Views => DRAW[m.kind](m);

const ENDS: Record<UnitModel['kind'], (m: UnitModel) => Ends> = {
  'side-by-side': sideBySideEnds,
  'golf-cart': golfCartEnds,
  motorcycle: motorcycleEnds,
  boat: boatEnds,
  'snow-machine': snowMachineEnds,
};

/** The unit from its front and its rear, with the faces that lamps can be mounted on. */
export const drawEnds = (m: UnitModel): Ends => ENDS[m.kind](m);
