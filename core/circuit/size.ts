import type { Circuit, Kit } from '#model/kit';
import { round } from '../sum';
import { allowable } from '../wire-rules/allowable';
import { FUSE_FACTOR, FUSE_SIZES } from '../wire/fuse';
import { fuseFamily, fuseOpens } from '../wire/fuse-time';
import { GAUGES } from '../wire/tables';
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
 * 1.25 times the continuous amperes that the burst or the inrush does not blow.
 */
export function size(
  c: Circuit,
  load: CircuitLoad,
  drop: (awg: number) => number | null,
  engineSpace: boolean,
  taps: boolean,
  burst: Burst | null,
): Sized {
  const none = (problem: string): Sized => ({ awg: null, limitedBy: '', fuseA: null, problem });
  if (load.continuousA === null || load.peakA === null || drop(18) === null)
    return { awg: null, limitedBy: '', fuseA: null, problem: null };
  const least = load.continuousA * FUSE_FACTOR - 1e-9;
  const fuseA = FUSE_SIZES.find((f) => f >= least && (!burst || holdsBurst(f, burst)));
  if (fuseA === undefined)
    return none(`${round(load.continuousA * FUSE_FACTOR)} A is beyond the largest standard fuse (${FUSE_SIZES.at(-1)} A)`);
  let limitedBy = 'smallest';
  for (const awg of GAUGES) {
    if (awg > c.awgMin) continue;
    const carries = allowable({ awg }, { hot: engineSpace });
    if (carries < load.continuousA) limitedBy = 'ampacity';
    else if (drop(awg)! > c.dropPct + 1e-9) limitedBy = 'drop';
    else if (!taps && carries < fuseA) limitedBy = 'fuse';
    else {
      if (!taps && c.fuseMaxA !== undefined && fuseA > c.fuseMaxA)
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
        : `no stocked gauge up to 2/0 carries ${round(load.continuousA)} A`,
  );
}

/** Amperes that flow for a while only. */
export interface Burst {
  amps: number;
  seconds: number;
  what: string;
}
/** Whether a fuse stands a burst to its end. */
export const holdsBurst = (fuseA: number, b: Burst): boolean => fuseOpens(fuseFamily(fuseA), fuseA, b.amps).soonestS >= b.seconds;

/** What flows for a while only: a winch's pull, or what its devices take as they are switched on. The worse for a fuse. */
export function burstOf(kit: Kit, circuit: Circuit, load: CircuitLoad): Burst | null {
  const devices = circuit.devices.map((d) => kit.devices.find((x) => x.id === d)!).filter((d) => d.load);
  const pull = devices.find((d) => d.load!.kind === 'burst');
  if (pull && load.peakA) return { amps: load.peakA, seconds: pull.load!.burstSeconds, what: `${pull.name} pulling` };
  const rush = devices.filter((d) => d.load!.inrush);
  if (!rush.length || !load.peakA) return null;
  const more = rush.reduce((s, d) => s + ((d.load!.watts ?? 0) / d.load!.volts) * (d.load!.inrush!.times - 1), 0);
  return { amps: load.peakA + more, seconds: Math.max(...rush.map((d) => d.load!.inrush!.seconds)), what: 'switching on' };
}
