import type { HarnessWire } from '#model/harness';

/** The two ends of a run in either direction, as one name. */
const runKey = (a: string, b: string): string => (a < b ? `${a}>${b}` : `${b}>${a}`);

/** Wires by the run of the unit that they lie in. */
export function byRun(wires: readonly HarnessWire[]): Map<string, HarnessWire[]> {
  const out = new Map<string, HarnessWire[]>();
  for (const w of wires)
    for (let i = 1; i < w.places.length; i++) {
      const key = runKey(w.places[i - 1]!, w.places[i]!);
      const list = out.get(key);
      if (!list) out.set(key, [w]);
      else if (!list.includes(w)) list.push(w);
    }
  return out;
}
/** What lies in one run, however it is named. */
export const inRun = (runs: ReadonlyMap<string, HarnessWire[]>, from: string, to: string): HarnessWire[] =>
  runs.get(runKey(from, to)) ?? [];

/** A wire thicker than this is led on its own. Common practice, no source. */
export const CABLE_AWG = 8;
/** From this many amperes a wire counts as carrying current. Common practice, no source. */
const CARRIES_A = 1;

/** Whether a wire counts in its bundle: it carries a load, and is no cable that is led on its own. */
export const counts = (w: HarnessWire, amps: number, awg = w.awg): boolean => !w.signal && (awg ?? 18) > CABLE_AWG && amps >= CARRIES_A;

/**
 * For each wire how many current-carrying wires lie together where most do, itself among them: 1 for what lies alone or is no
 * part of a bundle.
 * @param counted whether a wire counts
 */
export function lieTogether(wires: readonly HarnessWire[], counted: (w: HarnessWire) => boolean): Map<string, number> {
  const out = new Map<string, number>();
  for (const list of byRun(wires).values()) {
    const carrying = list.filter(counted);
    for (const w of carrying) out.set(w.id, Math.max(out.get(w.id) ?? 1, carrying.length));
  }
  return out;
}
