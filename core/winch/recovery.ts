import { Phase } from '#model/day';
import type { WinchSpec } from '#model/kit';
import type { Wiring } from '../wiring/planned';
import { cellAt } from '../energy/cell';
import { loadsIn, NO_GUESS, sourceAt, winchAmps } from '../energy/phases';
import { run } from '../energy/simulate';
import type { PowerSystem } from '../energy/system';
import { winchLayers } from './layers';

export interface Recovery {
  /** layer that the rope is pulled from, and what it can pull there */
  layer: number;
  layerPullN: number;
  /** the line's load as a share of the rated pull, with the layer's radius counted; above 1 the winch cannot */
  share: number;
  amps: number;
  metersPerMinute: number;
  secondsPerPull: number;
  /** at the motor, with the cable's resistance counted */
  volts: number;
  ahPerPull: number;
  /** pulls from now until the reserve, the engine at idle, with that rest between; null: more than a hundred */
  pulls: number | null;
  /** rated pull that this load asks for on the layer in use, newtons */
  neededRatedN: number;
  /** minutes until the motor has cooled from a pull */
  coolMinutes: number;
  /** minutes of idling that put back what a pull took; null when the idling source cannot */
  restMinutes: number | null;
}

/** Ohms of the cable that feeds a winch, there and back, as planned; 0 while it is not. */
export function winchCableOhms(s: PowerSystem, wiring: Wiring): number {
  const c = wiring.circuits.find((x) => x.circuit.devices.some((d) => `${x.kit.id}/${d}` === s.winch?.load));
  return c?.dropV && c.load.peakA ? c.dropV / c.load.peakA : 0;
}

/** Minutes that a winch's motor cools for each minute at its rated pull; its heat goes by the square of its amperes. Common practice, no source. */
const COOL_PER_MINUTE = 14;

/** Pulls beyond which counting stops. */
const MANY = 100;

/**
 * What a pull asks of the unit: amperes from the line's load and the layer, straight between none and rated pull; the volts left at
 * the motor; and by simulation how many pulls the battery has before the reserve, with the engine idling between them.
 * @param q line's load; meters of rope that are out, and that are hauled in a pull; rest between pulls; engine speed at rest; ohms of the
 *   winch's cable, there and back
 */
export function recovery(
  s: PowerSystem,
  spec: WinchSpec,
  q: { lineN: number; outM: number; pullM: number; restMinutes: number; rpm: number; cableOhms: number },
  reserveSoc: number,
): Recovery {
  const layers = winchLayers(spec);
  const onDrum = Math.max(0, spec.ropeLengthM - q.outM);
  const layer = layers.find((l) => onDrum <= l.ropeToM) ?? layers.at(-1)!;
  const torque = (q.lineN * layer.radiusMm) / layers[0]!.radiusMm / spec.ratedN;
  const share = Math.min(1, torque);
  const amps = winchAmps({ ...s, winch: { load: '', name: '', spec, amps: spec.ratedA } }, share);
  const speed = ((spec.noLoadMPerMin + (spec.ratedMPerMin - spec.noLoadMPerMin) * share) * layer.radiusMm) / layers[0]!.radiusMm;
  const seconds = (q.pullM / speed) * 60;
  const idle = Phase.parse({ id: 'idle', name: 'Idle', minutes: 1, rpm: q.rpm, tempC: 20 });
  const loads = loadsIn(s, idle, NO_GUESS);
  const cells = s.cells.map((c) => cellAt(c, 20));
  const base = { phase: 0, sourceA: sourceAt(s, q.rpm, 20), regulatedV: s.source?.regulatedV ?? 0, cells };
  const pulling = { ...base, hours: seconds / 3600, loads: loads.map((l, i) => (i === 0 ? { ...l, burst: amps } : l)) };
  const start = s.cells.map((c) => c.capacityAh * s.startSoc);
  const one = run([pulling], start, s.join);
  const restOf = (minutes: number) => ({ ...base, loads, hours: minutes / 60 });
  let charge = start;
  let pulls: number | null = 0;
  const above = (c: readonly number[]) => c[0]! / s.cells[0]!.capacityAh >= reserveSoc;
  while (above(charge)) {
    charge = run([pulling], charge, s.join).charge;
    if (!above(charge)) break;
    pulls++;
    if (q.restMinutes > 0) charge = run([restOf(q.restMinutes)], charge, s.join).charge;
    if (pulls >= MANY) {
      pulls = null;
      break;
    }
  }
  let rest: number | null = null;
  for (let lo = 0, hi = 120, i = 0; i < 40; i++) {
    const back = (m: number) => run([restOf(m)], one.charge, s.join).charge[0]! >= start[0]! - 1e-6;
    if (i === 0 && !back(hi)) break;
    const mid = (lo + hi) / 2;
    if (back(mid)) rest = hi = mid;
    else lo = mid;
  }
  return {
    layer: layer.layer,
    layerPullN: layer.pullN,
    share: torque,
    amps,
    metersPerMinute: speed,
    secondsPerPull: seconds,
    volts: one.leastVolts[0]! - amps * q.cableOhms,
    ahPerPull: start[0]! - one.charge[0]!,
    pulls,
    restMinutes: rest,
    neededRatedN: q.lineN * (layer.radiusMm / layers[0]!.radiusMm),
    coolMinutes: (seconds / 60) * COOL_PER_MINUTE * (amps / spec.ratedA) ** 2,
  };
}
