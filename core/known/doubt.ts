import type { UnitModel } from '#model/unit-model';
import { runLength } from '../circuit/route';
import { howKnown, restsOnAssumed } from './pointer';

/**
 * Between what lengths a way through these places lies, metres; null where all of it is known. Runs differ each for itself: what
 * they may be off adds up as independent errors do.
 */
export function wayDoubt(model: UnitModel, places: readonly string[]): [lowM: number, highM: number] | null {
  let [mm, below, above] = [0, 0, 0];
  for (let i = 1; i < places.length; i++) {
    const [a, b] = [places[i - 1], places[i]];
    const run = model.runs.find((r) => (r.from === a && r.to === b) || (r.from === b && r.to === a));
    if (!run) continue;
    const length = runLength(model, run);
    const { how, spread } = howKnown(model, `/runs/${run.from}..${run.to}/lengthMm`);
    mm += length;
    if (how !== 'assumed' || !spread) continue;
    below += (length - spread[0]) ** 2;
    above += (spread[1] - length) ** 2;
  }
  return below + above ? [(mm - Math.sqrt(below)) / 1000, (mm + Math.sqrt(above)) / 1000] : null;
}

/** A panel of a unit that is known only by its kind takes up to so many times as long, or as short, 8 times in 10. Common practice, no source. */
const PANEL_TIMES = 1.6;

/**
 * Between what minutes work lies whose panels are only assumed; null where all of them are known. Panels differ each for itself:
 * what they may be off adds up as independent errors do.
 * @param minutes of all of it, with its panels as they are assumed
 */
export function workDoubt(
  model: UnitModel,
  steps: readonly { panel: { id: string } | null; minutes: number }[],
  minutes: number,
): [low: number, high: number] | null {
  const assumed = new Map<string, number>();
  for (const { panel, minutes: m } of steps)
    if (panel && howKnown(model, `/panels/${panel.id}`).how === 'assumed') assumed.set(panel.id, (assumed.get(panel.id) ?? 0) + m);
  const off = (share: number) => Math.sqrt([...assumed.values()].reduce((s, m) => s + (m * share) ** 2, 0));
  return assumed.size ? [minutes - off(1 - 1 / PANEL_TIMES), minutes + off(PANEL_TIMES - 1)] : null;
}

/** What is said of a unit that is known only by its kind; empty for any other. */
export function sayAssumed(model: UnitModel): string {
  if (!restsOnAssumed(model)) return '';
  const n = Object.values(model.known).filter((k) => k.how === 'assumed' && k.spread).length;
  return `The unit is known only by its kind: ${n} of its values are assumed, not measured`;
}
