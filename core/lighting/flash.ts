import type { SumLine } from '#model/common';
import type { Flasher } from '#model/lamp';
import { ImpossibleInput } from '../errors';
import { round, sum } from '../sum';

export interface FlashRate {
  perMinute: number;
  /** standard deviation of the time from on to on, per cent of its mean */
  jitterPct: number;
  /** share of each beat that it is lit, per cent; null without times of lamp-off */
  onSharePct: number | null;
  beats: number;
}

/** No flasher beats faster than this, a minute: closer taps are a slip of the finger. */
const FASTEST = 600;

/**
 * Rate and steadiness of a flasher from the times its lamp came on, and the share it is lit from the times it went off.
 * Rate is 60 over the mean time from on to on.
 * @param onS seconds, rising, at least two
 * @param offS seconds; the first one after each lamp-on counts
 * @throws ImpossibleInput for fewer than two beats or times that do not rise
 */
export function flashRate(onS: readonly number[], offS: readonly number[] = []): FlashRate {
  if (onS.length < 2) throw new ImpossibleInput('a rate needs at least two beats', 'beatsS');
  const gaps = onS.slice(1).map((t, i) => t - onS[i]!);
  const at = gaps.findIndex((g) => g <= 0);
  if (at >= 0) throw new ImpossibleInput(`beat ${at + 2} is not after beat ${at + 1}: times must rise`, `beatsS.${at + 1}`);
  const fast = gaps.findIndex((g) => g < 60 / FASTEST);
  if (fast >= 0)
    throw new ImpossibleInput(
      `beats ${fast + 1} and ${fast + 2} are ${round(gaps[fast]! * 1000)} ms apart: no flasher is that fast`,
      `beatsS.${fast + 1}`,
    );
  const mean = gaps.reduce((a, b) => a + b, 0) / gaps.length;
  const spread = Math.sqrt(gaps.reduce((a, g) => a + (g - mean) ** 2, 0) / gaps.length);
  const lit = onS.slice(0, -1).flatMap((t, i) => {
    const off = offS.find((o) => o > t && o < onS[i + 1]!);
    return off === undefined ? [] : [(off - t) / gaps[i]!];
  });
  return {
    perMinute: 60 / mean,
    jitterPct: (spread / mean) * 100,
    onSharePct: lit.length ? (lit.reduce((a, b) => a + b, 0) / lit.length) * 100 : null,
    beats: onS.length,
  };
}

/** What a load-sensing flasher does to its rate when it takes a lamp for dead: about twice. Common practice, no source. */
const HURRY = 2;
/** Below this share of its load a thermal flasher's strip never opens. Common practice, no source. */
const THERMAL_LEAST = 0.4;
/** A resistor gets hot: rated for twice what it turns to heat while lit all the time. Common practice, no source. */
const RESISTOR_TIMES = 2;
const FLASH_V = 12.8;
/** Tolerance of a load resistor, and of a lamp's watts. Common practice, no source. */
const RESISTOR_PCT = 5;
const LAMP_PCT = 5;
/** Values that resistors come in. Source: IEC 60063, E24. */
const E24 = [1, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2, 2.2, 2.4, 2.7, 3, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1];
/** A thermal strip is no faster than this, whatever heats it: it stays bent, or burns. Common practice, no source. */
const THERMAL_MOST = 180;

/** The largest resistor on sale that, at the end of its tolerance, still draws so many watts. */
function loadResistor(lackW: number): { ohms: number; watts: number } {
  const most = FLASH_V ** 2 / lackW / (1 + RESISTOR_PCT / 100);
  const decade = 10 ** Math.floor(Math.log10(most));
  const ohms = (E24.filter((e) => e * decade <= most + 1e-9).at(-1) ?? 1) * decade;
  const hottest = FLASH_V ** 2 / (ohms * (1 - RESISTOR_PCT / 100));
  return { ohms, watts: hottest };
}

export interface FlashForecast {
  perMinute: number;
  onSharePct: number;
  says: string;
  /** it keeps its beat with nothing to spare: a lamp's watts are not that sure */
  tight: boolean;
  /** what makes it right again, sized; empty when nothing needs to be done */
  remedies: { says: string; ohms?: number; tolerancePct?: number; watts?: number }[];
  sum: SumLine[];
}

/**
 * The beat to expect with a load on one side, before anything is fitted.
 * @param sideW watts of the lamps of one side that flash together
 * Hurrying, the thermal strip's share and the resistor's size: common practice, no source.
 */
export function forecastFlash(f: Flasher, sideW: number): FlashForecast {
  const least = f.leastW ?? f.ratedW * 0.6;
  const lines = sum(
    {
      label: f.name,
      value: { fixed: 'keeps its beat by a clock', 'load-sensing': 'feels its load', thermal: 'a strip that heats' }[f.kind],
      source: 'its sheet',
    },
    { label: 'Lamps of one side', value: sideW, unit: 'W' },
    ...(f.kind === 'fixed'
      ? []
      : [
          {
            label: f.kind === 'thermal' ? 'Made for' : 'Takes a lamp for dead under',
            value: f.kind === 'thermal' ? f.ratedW : least,
            unit: 'W',
          },
        ]),
  );
  const done = (perMinute: number, says: string, remedies: FlashForecast['remedies'] = [], tight = false): FlashForecast => ({
    perMinute,
    tight,
    onSharePct: f.onSharePct,
    says,
    remedies,
    sum: [
      ...lines,
      ...sum({
        label: 'To be expected',
        value: perMinute,
        unit: 'per minute',
        source: f.kind === 'fixed' ? undefined : 'common practice, no source',
        kind: 'result',
      }),
    ],
  });
  const load = (wanted: number) => {
    // what the lamps lack, with the lamps at the low end of their tolerance
    const { ohms, watts } = loadResistor(wanted - sideW * (1 - LAMP_PCT / 100));
    return [
      {
        says: `a load resistor on each side: ${round(ohms, 2)} Ω ± ${RESISTOR_PCT} %, rated ${Math.ceil((watts * RESISTOR_TIMES) / 5) * 5} W: it gets too hot to touch. On bare metal, a hand’s breadth from plastic, loom, fuel and brake line`,
        ohms,
        tolerancePct: RESISTOR_PCT,
        watts,
      },
      { says: 'or a flasher that keeps its beat by a clock, for any load' },
    ];
  };
  if (f.kind === 'fixed') return done(f.perMinute, 'the load does not matter to it');
  if (f.kind === 'load-sensing') {
    if (sideW >= least * (1 + LAMP_PCT / 100)) return done(f.perMinute, 'enough load: it keeps its beat');
    if (sideW >= least)
      return done(
        f.perMinute,
        `at its threshold of ${round(least)} W: a weak lamp or a cold day and it hurries`,
        load(least * (1 + LAMP_PCT / 100)),
        true,
      );
    return done(f.perMinute * HURRY, `${round(least - sideW)} W too little: it hurries, as with a dead lamp`, load(least));
  }
  const share = sideW / f.ratedW;
  if (share < THERMAL_LEAST) return done(0, 'too little load: its strip never opens and the lamps stay lit', load(f.ratedW));
  // a strip heats with the square of its current
  const perMinute = Math.min(THERMAL_MOST, f.perMinute * share ** 2);
  if (perMinute === THERMAL_MOST)
    return done(perMinute, 'far more load than its strip is made for: it hurries, stays bent or burns out', []);
  return done(
    perMinute,
    share > 0.95 && share < 1.05 ? 'the load it was made for' : share < 1 ? 'less load: slower' : 'more load: faster',
    share < 0.95 ? load(f.ratedW) : [],
  );
}
