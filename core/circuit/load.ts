import type { Circuit, Device, Kit } from '#model/kit';
import { stallAmps } from '../winch/stall';
import type { Order } from '#model/order';

/** The order's facts name a device's watts by this key when its maker does not say. */
export const wattsKey = (kit: string, device: string): string => `watts:${kit}/${device}`;

/** The order's facts give a draw as one figure under its key, or as a band under these two. */
export const bandKeys = (key: string): [string, string] => [key.replace(/^watts:/, 'wattslow:'), key.replace(/^watts:/, 'wattshigh:')];

/** What was told for a draw that no sheet gives. */
export function toldWatts(order: Pick<Order, 'facts'>, key: string): { watts: number | null; band: [number, number] | null } {
  const number = (k: string) => (typeof order.facts[k] === 'number' ? (order.facts[k] as number) : null);
  const [low, high] = bandKeys(key).map(number) as [number | null, number | null];
  const watts = number(key);
  return low !== null && high !== null && high > low ? { watts: (low + high) / 2, band: [low, high] } : { watts, band: null };
}

/** Watts of a device: the sheet's, or what was told for it, of a band its upper end; null while nobody knows; 0 for a thing that draws nothing. */
export function deviceWatts(order: Pick<Order, 'facts'>, kit: Kit, device: Device): number | null {
  if (!device.load) return 0;
  if (device.load.watts !== null) return device.load.watts;
  const told = toldWatts(order, wattsKey(kit.id, device.id));
  return told.band ? told.band[1] : told.watts;
}

/** A burst is carried this share of the time when a wire's heating is judged. Common practice, no source. */
export const BURST_SHARE = 0.5;

export interface CircuitLoad {
  /** amperes with everything on, which make the drop; null when a device's watts are missing */
  peakA: number | null;
  /** amperes that heat the wire and load the fuse: bursts at BURST_SHARE */
  continuousA: number | null;
  /** amperes that the wire must be able to carry: the continuous ones, or a stalled winch's for its share of the time */
  heatsA: number | null;
  missing: { device: Device; key: string }[];
  hasBurst: boolean;
}

/** What a circuit carries. A circuit that makes a supply is sized for that supply's whole rating. */
export function circuitLoad(order: Pick<Order, 'facts'>, kit: Kit, circuit: Circuit, inputV: number): CircuitLoad {
  if (circuit.makes) {
    const a = (circuit.makes.ratedA * circuit.makes.volts) / circuit.makes.efficiency / inputV;
    return { peakA: a, continuousA: a, heatsA: a, missing: [], hasBurst: false };
  }
  let peakA: number | null = 0;
  let continuousA: number | null = 0;
  const missing: CircuitLoad['missing'] = [];
  let stallA = 0;
  let hasBurst = false;
  for (const id of circuit.devices) {
    const device = kit.devices.find((d) => d.id === id)!;
    const watts = deviceWatts(order, kit, device);
    if (watts === null) missing.push({ device, key: wattsKey(kit.id, id) });
    const a = watts === null ? null : watts / (device.load?.volts ?? circuit.volts);
    const burst = device.load?.kind === 'burst';
    hasBurst ||= burst;
    if (device.winch) stallA += stallAmps(device.winch);
    peakA = peakA === null || a === null ? null : peakA + a;
    continuousA = continuousA === null || a === null ? null : continuousA + (burst ? a * BURST_SHARE : a);
  }
  const heatsA = continuousA === null ? null : Math.max(continuousA, stallA * BURST_SHARE);
  return { peakA, continuousA, heatsA, missing, hasBurst };
}
