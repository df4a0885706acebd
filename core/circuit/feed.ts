import type { Circuit } from '#model/kit';
import type { PowerPoint, UnitModel } from '#model/unit-model';
import { round } from '../sum';
import { pairDropV } from '../wire/choose';
import { FUSE_FACTOR } from '../wire/fuse';
import { GAUGES } from '../wire/tables';

/** How a circuit takes its current: straight, through a relay that a keyed wire triggers, or through a plug to pull when parked. */
export const MODES = ['direct', 'relay', 'plug'] as const;
export type Mode = (typeof MODES)[number];

/** A power point judged for one circuit: how it would be used and why, or why not. */
export interface Candidate {
  point: PowerPoint;
  mode: Mode;
  accepted: boolean;
  /** refused for what it costs, not for danger: a lead may take it all the same */
  costly?: boolean;
  reason: string;
  /** lower is better; common practice, no source */
  cost: number;
  freeA: number | null;
  /** one way along the runs, with slack; null when no run leads there */
  distanceM: number | null;
}

/** Amperes still free at a power point: of its fuse by the fuse rule, of its rating, less what is drawn. Null: it has no limit of its own. */
export function freeAmps(point: PowerPoint, takenA: number): number | null {
  const limits = [point.fuseA === undefined ? null : point.fuseA / FUSE_FACTOR, point.limitA ?? null].filter((x) => x !== null);
  return limits.length ? Math.min(...limits) - point.usedA - takenA : null;
}

/** Extra hours-per-ampere share by which tapped batteries of a pack run lower than the rest. */
export function tapImbalance(model: UnitModel, tapV: number, amps: number): { batteries: number; of: number; pctPerHour: number } {
  const { battery } = model.electrical;
  return { batteries: Math.max(1, Math.round(tapV / battery.voltsEach)), of: battery.count, pctPerHour: (amps / battery.capacityAh) * 100 };
}

const RELAY_COST = 8;
/** a device that may stand on either is better off dead with the key */
const CONSTANT_COST = 6;
const COST_PER_M = 1;

export function judgePoint(
  model: UnitModel,
  circuit: Circuit,
  point: PowerPoint,
  amps: number,
  takenA: number,
  distanceM: number | null,
  keyedTrigger: boolean,
): Candidate {
  const freeA = freeAmps(point, takenA);
  const no = (reason: string, mode: Mode = 'direct'): Candidate => ({
    point,
    mode,
    accepted: false,
    reason,
    cost: Infinity,
    freeA,
    distanceM,
  });
  if (point.kind === 'pack-tap') {
    const { battery } = model.electrical;
    const tap = tapImbalance(model, point.volts, amps);
    if (Math.abs(point.volts - circuit.volts) > 1.5)
      return no(
        `${battery.voltsEach} V batteries cannot give ${circuit.volts} V: this tap makes ${point.volts} V, which shortens lamp life`,
      );
    const costs = no(
      `would draw ${round(amps, 2)} A from ${tap.batteries} of ${tap.of} batteries only: in every hour of use ${tap.batteries === 1 ? 'it falls' : 'they fall'} ${round(tap.pctPerHour, 2)} % below the rest, and the pack is charged as one`,
    );
    return { ...costs, costly: true };
  }
  if (point.kind === 'switch-position' && !circuit.only?.includes('switch-position'))
    return no('a position of a switch panel: this kit brings a switch of its own');
  if (Math.abs(point.volts - circuit.volts) > 2) return no(`${point.volts} V here, the kit is made for ${circuit.volts} V`);
  if (circuit.only && !circuit.only.includes(point.kind))
    return no(`this circuit goes to a ${circuit.only.map((k) => k.replaceAll('-', ' ')).join(' or ')}`);
  if (circuit.switching === 'constant' && point.switching === 'keyed') return no('dead with the key off');
  let mode: Mode = 'direct';
  // a hand switches a position: what is behind it is dead until then
  if (circuit.switching === 'keyed' && point.kind !== 'switch-position') {
    if (circuit.relay === 'required') {
      if (point.switching === 'keyed')
        return no('the relay’s contact takes its current from a constant point; this one is only its trigger');
      mode = 'relay';
    } else if (point.switching === 'constant') {
      if (circuit.relay === 'never') return no('live with the key off');
      mode = 'relay';
    }
  }
  if (mode === 'relay' && !keyedTrigger) return no('live with the key off, and no keyed wire is listed to trigger a relay', mode);
  if (freeA !== null && amps > freeA + 1e-9)
    return no(
      `needs ${round(amps)} A, ${round(Math.max(0, freeA), 2)} A free ${point.fuseA ? `of its ${point.fuseA} A fuse` : `of its ${point.limitA} A rating`}`,
      mode,
    );
  if (distanceM === null) return no('no run leads from here to the kit’s place', mode);
  const leastPct = (pairDropV(GAUGES.at(-1)!, amps, distanceM) / circuit.volts) * 100;
  if (leastPct > circuit.dropPct)
    return no(`too far: even 2/0 AWG drops ${round(leastPct, 2)} % over ${round(distanceM, 2)} m each way`, mode);
  const wet = model.places.some((p) => p.id === point.place && p.wet);
  const how =
    mode === 'relay' ? 'through a relay that a keyed wire triggers' : point.switching === 'keyed' ? 'keyed, direct' : 'constant, direct';
  const room = freeA === null ? 'its own fuse is fitted here' : `${round(freeA, 2)} A free, ${round(amps, 2)} A needed`;
  return {
    point,
    mode,
    accepted: true,
    reason: `${how}; ${room}${wet ? '; a wet place: sealed joints' : ''}`,
    cost:
      (mode === 'relay' ? RELAY_COST : 0) +
      (circuit.switching === 'either' && point.switching === 'constant' ? CONSTANT_COST : 0) +
      distanceM * COST_PER_M,
    freeA,
    distanceM,
  };
}
