import type { Circuit, Kit } from '#model/kit';
import { round } from '../sum';
import { allowable, type Surroundings, type WireKind } from '../wire-rules/allowable';
import { fuseFamilyFor, sizesAt } from '../wire-rules/fuse-volts';
import { ImpossibleInput } from '../errors';
import { FUSE_FACTOR, FUSE_SIZES } from '../wire/fuse';
import { fuseFamily, fuseOpens } from '../wire/fuse-time';
import { GAUGES } from '../wire/tables';
import { stallAmps, STALL_SECONDS } from '../winch/stall';
import type { CircuitLoad } from './load';

/** Gauge and fuse that Kadro chooses for a circuit, what ruled out the next thinner gauge, or why none will do. */
export interface Sized {
  awg: number | null;
  limitedBy: string;
  fuseA: number | null;
  problem: string | null;
}

/**
 * The thinnest stocked gauge that the drop of the worst device, the amperes and the fuse allow, and the next fuse up from
 * 1.25 times the continuous amperes that is made for the circuit's volts and that the burst or the inrush does not blow.
 * @param guard what guards its wires: a fuse of its own, still to choose; one that is given, of the box or the feed; or, joined to
 *   others' wires, theirs
 * @param drop per cent lost with a gauge and a fuse; null where a length is not known
 * @param where the wire as the shop stocks it, and what lies round it
 * @param highestV the highest volts of the circuit
 * @param awgMin the thinnest gauge allowed
 */
export function size(
  c: Circuit,
  load: CircuitLoad,
  drop: (awg: number, fuseA: number | null) => number | null,
  where: Omit<WireKind, 'awg'> & Surroundings,
  guard: Guard,
  bursts: readonly Burst[],
  highestV: number,
  awgMin = c.awgMin,
): Sized {
  const none = (problem: string): Sized => ({ awg: null, limitedBy: '', fuseA: null, problem });
  if (load.continuousA === null || load.peakA === null || drop(18, null) === null)
    return { awg: null, limitedBy: '', fuseA: null, problem: null };
  const chosen = guard.by === 'given' ? { fuseA: guard.ratingA, problem: null } : chooseFuse(load.continuousA, bursts, highestV);
  if (chosen.fuseA === null) return none(chosen.problem);
  const { fuseA } = chosen;
  const taps = guard.by === 'others';
  let limitedBy = 'smallest';
  for (const awg of GAUGES) {
    if (awg > awgMin) continue;
    const carries = allowable({ ...where, awg }, where);
    if (carries < (load.heatsA ?? load.continuousA)) limitedBy = 'ampacity';
    else if (drop(awg, taps ? null : fuseA)! > c.dropPct + 1e-9) limitedBy = 'drop';
    else if (!taps && carries < fuseA) limitedBy = 'fuse';
    else {
      if (guard.by === 'own' && c.fuseMaxA !== undefined && fuseA > c.fuseMaxA)
        return {
          awg,
          limitedBy,
          fuseA: null,
          problem: `a ${fuseA} A fuse is needed, above the ${c.fuseMaxA} A that the device’s maker allows: split the circuit`,
        };
      return { awg, limitedBy, fuseA: taps ? null : fuseA, problem: null };
    }
  }
  return none(
    limitedBy === 'drop'
      ? `no stocked gauge up to 2/0 keeps the drop under ${c.dropPct} %`
      : limitedBy === 'fuse'
        ? `no stocked gauge up to 2/0 may stand behind a ${fuseA} A fuse`
        : `no stocked gauge up to 2/0 carries ${round(load.heatsA ?? load.continuousA)} A`,
  );
}

/** What guards a circuit's wires. */
export type Guard = { by: 'own' | 'others' } | { by: 'given'; ratingA: number };

/** The next fuse up from 1.25 times what flows for good that is made for the circuit's volts and stands its bursts, or why there is none. */
export function chooseFuse(
  continuousA: number,
  bursts: readonly Burst[],
  highestV: number,
): { fuseA: number; problem: null } | { fuseA: null; problem: string } {
  const least = continuousA * FUSE_FACTOR - 1e-9;
  const enough = (f: number) => f >= least && bursts.every((b) => holdsBurst(f, b));
  const fuseA = sizesAt(highestV).find(enough);
  if (fuseA !== undefined) return { fuseA, problem: null };
  const plain = FUSE_SIZES.find(enough);
  return {
    fuseA: null,
    problem:
      plain === undefined
        ? `${round(continuousA * FUSE_FACTOR)} A is beyond the largest standard fuse (${FUSE_SIZES.at(-1)} A)`
        : (noFuse(plain, highestV) ?? ''),
  };
}

/** Why no fuse of a size is made for a circuit's volts, in words; null where one is. */
export function noFuse(ratingA: number, highestV: number): string | null {
  try {
    fuseFamilyFor(ratingA, highestV);
    return null;
  } catch (e) {
    if (e instanceof ImpossibleInput) return e.message;
    throw e;
  }
}

/** Amperes that flow for a while only. */
export interface Burst {
  amps: number;
  seconds: number;
  what: string;
}
/** Whether a fuse stands a burst to its end. */
export const holdsBurst = (fuseA: number, b: Burst): boolean => fuseOpens(fuseFamily(fuseA), fuseA, b.amps).soonestS >= b.seconds;

/** What flows for a while only: a winch's pull and its stall, or what devices take as they are switched on. A fuse stands all of them. */
export function burstsOf(kit: Kit, circuit: Circuit, load: CircuitLoad): Burst[] {
  const devices = circuit.devices.map((d) => kit.devices.find((x) => x.id === d)!).filter((d) => d.load);
  const pull = devices.find((d) => d.load!.kind === 'burst');
  if (pull && load.peakA)
    return [
      { amps: load.peakA, seconds: pull.load!.burstSeconds, what: `${pull.name} pulling` },
      ...(pull.winch
        ? [{ amps: load.peakA - pull.winch.ratedA + stallAmps(pull.winch), seconds: STALL_SECONDS, what: `${pull.name} stalled` }]
        : []),
    ];
  const rush = devices.filter((d) => d.load!.inrush);
  if (!rush.length || !load.peakA) return [];
  const more = rush.reduce((s, d) => s + ((d.load!.watts ?? 0) / d.load!.volts) * (d.load!.inrush!.times - 1), 0);
  return [{ amps: load.peakA + more, seconds: Math.max(...rush.map((d) => d.load!.inrush!.seconds)), what: 'switching on' }];
}
