import type { Lamp } from './lamp';

/**
 * Where a beam's centre meets a wall and the ground.
 * @param mountM height of the lamp's centre, metres
 * @param distanceM from lamp to wall
 * @param declinationPct how far the beam falls, per cent of the way it goes; 0 is level
 * @returns wallHeightM may be below zero, where the beam meets the ground before the wall; reachM is null for a level beam
 */
export function aimBeam(
  mountM: number,
  distanceM: number,
  declinationPct: number,
): { wallHeightM: number; reachM: number | null; dropM: number } {
  const dropM = (distanceM * declinationPct) / 100;
  return { wallHeightM: mountM - dropM, reachM: declinationPct > 0 ? mountM / (declinationPct / 100) : null, dropM };
}

/** How a lamp is aimed: what to set it to, and what is allowed, per cent downward; outward degrees for auxiliary lamps. */
export interface AimBand {
  setPct: number;
  lowPct: number;
  highPct: number;
  outwardDeg: number;
  source: string;
}

/** UNECE R48, 6.2.6.1: low beam mounted under 0.8 m is set to −1.0 to −1.5 %, within −0.5 to −2.5 %; from 0.8 to 1 m, either; above, −1.5 to −2.0 %, within −1.0 to −3.0 %. From memory: to be confirmed against a copy. */
export function lowBeamAim(mountM: number): AimBand {
  const source = 'UNECE R48, typed from memory';
  return mountM <= 1
    ? { setPct: mountM < 0.8 ? 1.2 : 1.5, lowPct: 0.5, highPct: 2.5, outwardDeg: 0, source }
    : { setPct: 1.7, lowPct: 1, highPct: 3, outwardDeg: 0, source };
}

/** Auxiliary lamps: down and outward, clear of eyes that come the other way. Common practice, no source. */
const AUXILIARY: AimBand = { setPct: 2, lowPct: 1, highPct: 4, outwardDeg: 3, source: 'common practice, no source' };

export interface AimLine {
  lamp: Lamp;
  band: AimBand;
  mountM: number;
  /** of the lamp's centre from the unit's, metres, left positive */
  sideM: number;
  wallM: number;
  /** between these on the wall */
  lowM: number;
  highM: number;
  /** across the wall from straight ahead of the lamp, metres, outward */
  outM: number;
  reachM: number | null;
}

const AIMED = ['headlamp', 'auxiliary-lamp', 'work-lamp', 'docking-lamp'];

/** The lines to mark on a wall at a distance for every lamp that is aimed and whose place is known. */
export function aimCard(lamps: readonly Lamp[], distanceM: number): AimLine[] {
  return lamps.flatMap((lamp) => {
    if (!AIMED.includes(lamp.function) || !lamp.at || lamp.at.z <= 0 || !lamp.known) return [];
    const mountM = lamp.at.z / 1000;
    const band = lamp.function === 'headlamp' ? lowBeamAim(mountM) : AUXILIARY;
    const at = (pct: number) => aimBeam(mountM, distanceM, pct).wallHeightM;
    return [
      {
        lamp,
        band,
        mountM,
        sideM: lamp.at.y / 1000,
        wallM: at(band.setPct),
        lowM: at(band.highPct),
        highM: at(band.lowPct),
        // a lamp on the centre line has no outside
        outM: Math.abs(lamp.at.y) < 50 ? 0 : distanceM * Math.tan((band.outwardDeg * Math.PI) / 180),
        reachM: aimBeam(mountM, distanceM, band.setPct).reachM,
      },
    ];
  });
}
