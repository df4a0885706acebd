import type { Kit } from '#model/kit';

/** A line pulled by hand, newtons: what a winch is tried under. Common practice, no source. */
const HAND_N = 200;
/** Share of its rated amperes that a winch takes while it spools under a hand's load; null for what is none. */
export function handShare(c: { kit: Pick<Kit, 'devices'>; circuit: { devices: readonly string[] } }): number | null {
  const spec = c.kit.devices.find((d) => d.id === c.circuit.devices.at(-1))?.winch;
  return spec ? (spec.noLoadA + ((spec.ratedA - spec.noLoadA) * HAND_N) / spec.ratedN) / spec.ratedA : null;
}
