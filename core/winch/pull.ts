import { ImpossibleInput } from '../errors';

/** Standard gravity, m/s². */
const G = 9.80665;

/** Resistance of a surface as a share of weight. Source: recovery handbooks, from memory. */
export const SURFACES = { hard: 1 / 25, grass: 1 / 7, wetSand: 1 / 5, softSand: 1 / 4, mud: 1 / 3, bog: 1 / 2 } as const;
export type Surface = keyof typeof SURFACES;

/** How deep it sits: what frees it as multiples of its weight. Source: US Army FM 4-30.31, from memory. */
export const STUCK = { no: 0, wheel: 1, fender: 2, hood: 3 } as const;
export type Stuck = keyof typeof STUCK;

/** Share of the line's load that each sheave loses. Source: US Army FM 4-30.31, from memory. */
export const SHEAVE_LOSS = 0.1;
/** Rated pull as a multiple of loaded weight. Common practice, no source. */
export const RATED_FACTOR = 1.5;

export interface Pull {
  weightN: number;
  slopeN: number;
  surfaceN: number;
  stuckN: number;
  /** on the load */
  pullN: number;
  /** on the winch */
  lineN: number;
  recommendedRatedN: number;
  /** on whatever each sheave hangs from: both of its lines pull there; 0 without one */
  anchorN: number;
  /** what the field's rule gives for the slope alone: weight over 60 a degree */
  fieldSlopeN: number;
}

/**
 * The pull that moves a unit: mechanics on the slope, the surface's resistance on what presses on it, and what frees it
 * when it is stuck; and the line's load at the winch through sheaves, each doubling the parts of line and losing a tenth.
 * Sources: mechanics; US Army FM 4-30.31 for stuck, sheaves and the field rule, from memory.
 * @throws ImpossibleInput for a slope steeper than 60 degrees or a mass that is not above zero
 */
export function winchPull(massKg: number, slopeDeg: number, surface: Surface, stuck: Stuck, sheaves = 0): Pull {
  if (!(massKg > 0)) throw new ImpossibleInput('a unit weighs more than nothing', 'massKg');
  if (slopeDeg < 0 || slopeDeg > 60) throw new ImpossibleInput('a slope from 0 to 60 degrees', 'slopeDeg');
  const weightN = massKg * G;
  const rad = (slopeDeg * Math.PI) / 180;
  const slopeN = weightN * Math.sin(rad);
  const surfaceN = weightN * SURFACES[surface] * Math.cos(rad);
  const stuckN = weightN * STUCK[stuck];
  const pullN = slopeN + surfaceN + stuckN;
  const lineN = (pullN * (1 + SHEAVE_LOSS * sheaves)) / (1 + sheaves);
  return {
    weightN,
    slopeN,
    surfaceN,
    stuckN,
    pullN,
    lineN,
    recommendedRatedN: Math.max(weightN * RATED_FACTOR, lineN),
    anchorN: sheaves > 0 ? 2 * lineN : 0,
    fieldSlopeN: (weightN / 60) * slopeDeg,
  };
}
