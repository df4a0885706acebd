import type { z } from 'zod';
import type { UnitModel } from '#model/unit-model';
import type { FrameId } from './body';
import boat from './frames/boat.json';
import golfCart from './frames/golf-cart.json';
import hull from './frames/hull.json';
import motorcycle from './frames/motorcycle.json';
import quad from './frames/quad.json';
import sideBySide from './frames/side-by-side.json';
import snowMachine from './frames/snow-machine.json';

type Sheet = z.input<typeof UnitModel>;

/**
 * What units of a kind have and where, free of size. `x` runs from -1 at the rear end over 0 at the rear axle and 1 at the front
 * axle to 2 at the front end, on boats from 0 at the stern to 1 at the bow; `y` is a share of half the width, left positive; `z` of
 * the height, or with `zOf` of the hull's depth. `slack` is how much longer a run is than the straight way.
 */
export interface Frame extends Pick<
  Sheet,
  'powerPoints' | 'grounds' | 'factoryWires' | 'panels' | 'equipment' | 'flasher' | 'identity' | 'meter' | 'rulePacks'
> {
  spots: { id: string; name: string; x: number; y: number; z: number; wet?: boolean; space?: 'engine' | 'tank' }[];
  runs: { from: string; to: string; hazards?: NonNullable<Sheet['runs'][number]['hazards']>; slack?: number }[];
  zOf?: 'wheelMm';
  ownLoads: Sheet['electrical']['ownLoads'];
}

/** Frames are data: what is in them is checked with every sheet that is made from one. */
export const FRAMES = {
  'side-by-side': sideBySide,
  'golf-cart': golfCart,
  motorcycle,
  quad,
  boat,
  hull,
  'snow-machine': snowMachine,
} as unknown as Record<FrameId, Frame>;
