import type { FlashForecast } from './flash';

/** Spread of a healthy flasher's beat, as a share of it. Common practice, no source. */
const SPREAD = 0.015;

/**
 * The simulated flash meter: the times a photocell would give for a flasher that behaves as forecast, with its own small
 * unsteadiness. Stands in for a meter on the bench; it measures nothing.
 * @param random numbers from 0 to 1, seeded by the caller
 * @returns lamp-on and lamp-off times, seconds
 */
export function meterBeats(
  f: Pick<FlashForecast, 'perMinute' | 'onSharePct'>,
  beats: number,
  random: () => number,
): { onS: number[]; offS: number[] } {
  const [onS, offS]: [number[], number[]] = [[], []];
  if (f.perMinute <= 0) return { onS, offS };
  const period = 60 / f.perMinute;
  let t = 0;
  for (let i = 0; i < beats; i++) {
    onS.push(t);
    offS.push(t + (period * f.onSharePct) / 100);
    t += period * (1 + (random() + random() + random() - 1.5) * 2 * SPREAD);
  }
  return { onS, offS };
}
