import type { WinchSpec } from '#model/kit';

/** A stalled winch takes about this many times its rated amperes. Common practice, no source. */
export const STALL_TIMES = 2;
/** How long until a hand lets go of the switch of a winch that stands still. Common practice, no source. */
export const STALL_SECONDS = 1;
/** Amperes of a winch that pulls and does not move. */
export const stallAmps = (w: Pick<WinchSpec, 'ratedA'>): number => w.ratedA * STALL_TIMES;
