import type { BodyShape, UnitModel } from '#model/unit-model';
import { boat } from './boat';
import { boatEnds } from './boat-ends';
import { golfCart } from './golf-cart';
import { golfCartEnds } from './golf-cart-ends';
import { hullBoat } from './hull';
import { hullEnds } from './hull-ends';
import { motorcycle } from './motorcycle';
import { motorcycleEnds } from './motorcycle-ends';
import { quad } from './quad';
import { quadEnds } from './quad-ends';
import { scooter } from './scooter';
import { scooterEnds } from './scooter-ends';
import { sideBySide } from './side-by-side';
import { sideBySideEnds } from './side-by-side-ends';
import { snowMachine } from './snow-machine';
import { snowMachineEnds } from './snow-machine-ends';
import type { Ends, Views } from './shape';

interface Drawn {
  views: (m: UnitModel) => Views;
  ends: (m: UnitModel) => Ends;
}

const KINDS: Record<UnitModel['kind'], Drawn> = {
  'side-by-side': { views: sideBySide, ends: sideBySideEnds },
  'golf-cart': { views: golfCart, ends: golfCartEnds },
  motorcycle: { views: motorcycle, ends: motorcycleEnds },
  quad: { views: quad, ends: quadEnds },
  boat: { views: boat, ends: boatEnds },
  'snow-machine': { views: snowMachine, ends: snowMachineEnds },
};
/** Bodies that are drawn otherwise than the others of their kind. */
const BODIES: Partial<Record<BodyShape, Drawn>> = {
  'open-hull': { views: hullBoat, ends: hullEnds },
  console: { views: hullBoat, ends: hullEnds },
  scooter: { views: scooter, ends: scooterEnds },
};

const drawnAs = (m: UnitModel): Drawn => (m.body && BODIES[m.body]) ?? KINDS[m.kind];

/** The unit's original line drawing, side (from its right, front to the right) and top (front to the right, left side up), in millimetres of its frame. */
export const drawUnit = (m: UnitModel): Views => drawnAs(m).views(m);

/** The unit from its front and its rear, with the faces that lamps can be mounted on. */
export const drawEnds = (m: UnitModel): Ends => drawnAs(m).ends(m);
