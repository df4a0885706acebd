import { setTimeout as pause } from 'node:timers/promises';
import type { Sight } from '#core/fault/sight';

/** One figure of a meter, as it would come over the air; null: an open way. */
export interface Sample {
  value: number | null;
  steady: boolean;
}

/** What the record calls it. */
export const METER_NAME = 'simulated bench meter';

const BEAT_MS = 200;
/** A hand-held meter’s error, share of the reading and least step by what it reads. Common practice, no source. */
const ERROR = 0.003;
const STEP: Record<Sight['look']['kind'], number> = { volts: 0.01, ohms: 0.1, amps: 0.0001, works: 1 };
/** Share of the way still to go that is left after each beat, and the beats until it counts as steady. */
const SETTLE = 0.35;
const STEADY_AFTER = 6;

/** Figures as a meter shows them once its probes touch: they run up, waver by its error, and hold. */
export async function* samples(kind: Sight['look']['kind'], truth: number, random: () => number = Math.random): AsyncGenerator<Sample> {
  if (kind === 'works') return void (yield { value: truth, steady: true });
  const step = STEP[kind];
  // a meter is off by the same share as long as it is held
  const off = 1 + ERROR * (random() * 2 - 1);
  for (let n = 0; ; n++) {
    const steady = n >= STEADY_AFTER;
    if (!Number.isFinite(truth)) yield { value: null, steady };
    else {
      const way = steady ? 1 : 1 - SETTLE ** (n + 1);
      const waver = (Math.floor(random() * 3) - 1) * step;
      const at = truth * off * way + (Math.abs(truth) > step ? waver : 0);
      yield { value: Number((Math.round(at / step) * step).toFixed(5)), steady };
    }
    await pause(BEAT_MS);
  }
}
