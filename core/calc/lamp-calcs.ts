import { z } from 'zod';
import { nonNegative, positive } from '#model/common';
import { Flasher } from '#model/lamp';
import { ImpossibleInput } from '../errors';
import { aimBeam } from '../lighting/aim';
import { flashRate, forecastFlash } from '../lighting/flash';
import { intensityForRange, rangeOfIntensity } from '../lighting/range';
import { sum } from '../sum';
import { calculation, field } from './calculation';

const transmissivity = field(z.number().gt(0, 'between 0 and 1').lt(1, 'between 0 and 1').default(0.8), 'Air transmissivity per mile');
const source = '33 CFR 84 (Annex I), I = 3.43e6 · T · D² · K^−D';

export const lampCalcs = [
  calculation({
    name: 'lamp.intensity',
    title: 'Navigation light intensity',
    description: 'Candela a navigation light needs to be seen at a range.',
    input: { rangeNm: field(positive.max(50), 'Range', 'nm'), transmissivity },
    result: { candela: z.number() },
    example: { rangeNm: 2, transmissivity: 0.8 },
    run: (q) => {
      const candela = intensityForRange(q.rangeNm, q.transmissivity);
      return {
        candela,
        sum: sum({ label: 'Range', value: q.rangeNm, unit: 'nm' }, { label: 'Needed', value: candela, unit: 'cd', source, kind: 'result' }),
      };
    },
  }),
  calculation({
    name: 'lamp.range',
    title: 'Navigation light range',
    description: 'Nautical miles at which a light of so many candela is seen.',
    input: { candela: field(positive.max(1e6), 'Intensity', 'cd'), transmissivity },
    result: { rangeNm: z.number() },
    example: { candela: 4.3, transmissivity: 0.8 },
    run: (q) => {
      const rangeNm = rangeOfIntensity(q.candela, q.transmissivity);
      return {
        rangeNm,
        sum: sum(
          { label: 'Intensity', value: q.candela, unit: 'cd' },
          { label: 'Range', value: rangeNm, unit: 'nm', source, kind: 'result' },
        ),
      };
    },
  }),
  calculation({
    name: 'lamp.aim',
    title: 'Lamp aim',
    description: 'Where a beam’s middle meets a wall and the ground.',
    input: {
      mountHeightM: field(positive.max(10), 'Height of the lamp’s centre', 'm'),
      distanceM: field(positive.max(200), 'Distance to the wall', 'm'),
      declinationPct: field(z.number().max(100), 'Falls by', '%'),
    },
    result: { wallHeightM: z.number(), reachM: z.number().nullable(), dropM: z.number() },
    example: { mountHeightM: 0.7, distanceM: 7.62, declinationPct: 1.2 },
    run: (q) => {
      if (q.declinationPct < 0)
        throw new ImpossibleInput(
          'a beam that rises never meets the ground and blinds: a fall of 1 % is written 1, not −1',
          'declinationPct',
        );
      const a = aimBeam(q.mountHeightM, q.distanceM, q.declinationPct);
      return {
        ...a,
        sum: sum(
          { label: 'Lamp is up', value: q.mountHeightM, unit: 'm' },
          { label: 'Falls on the way to the wall', value: a.dropM, unit: 'm', source: 'distance · per cent / 100' },
          { label: 'On the wall', value: a.wallHeightM, unit: 'm', kind: 'result' },
          {
            label: 'Meets the ground after',
            value: a.reachM ?? 'never: it is level',
            unit: a.reachM === null ? undefined : 'm',
            source: 'height / fall',
            kind: 'result',
          },
          {
            label: 'Low beam under 0.8 m',
            value: 'set 1.0 to 1.5 %, within 0.5 to 2.5 %',
            source: 'UNECE R48, typed from memory',
            kind: 'note',
          },
        ),
      };
    },
  }),
  calculation({
    name: 'flash.rate',
    title: 'Flash rate',
    description: 'Rate and steadiness of a flasher from the times its lamp came on.',
    input: {
      beatsS: field(z.array(nonNegative).min(2, 'at least two beats are needed').max(10000), 'Times of lamp-on', 's'),
      offsS: field(z.array(nonNegative).max(10000).default([]), 'Times of lamp-off', 's'),
    },
    result: { perMinute: z.number(), jitterPct: z.number(), onSharePct: z.number().nullable(), beats: z.number() },
    example: { beatsS: [0, 0.7, 1.41, 2.1, 2.8], offsS: [0.35, 1.05, 1.76, 2.45] },
    run: (q) => {
      const r = flashRate(q.beatsS, q.offsS);
      return {
        ...r,
        sum: sum(
          { label: 'Beats', value: r.beats },
          { label: 'Rate', value: r.perMinute, unit: 'per minute', source: '60 over the mean time from on to on', kind: 'result' },
          { label: 'Unsteady by', value: r.jitterPct, unit: '%', source: 'standard deviation over the mean' },
          {
            label: 'Called for',
            value: '60 to 120 a minute, lit 30 to 75 % of each',
            source: '49 CFR 571.108 (after SAE J590), from memory',
            kind: 'limit',
          },
        ),
      };
    },
  }),
  calculation({
    name: 'flash.forecast',
    title: 'Flash rate to be expected',
    description: 'The beat of a flasher with a load on one side, before anything is fitted, and what puts it right.',
    input: { flasher: field(Flasher, 'Flasher'), sideW: field(nonNegative.max(500), 'Lamps of one side', 'W') },
    result: {
      perMinute: z.number(),
      onSharePct: z.number(),
      says: z.string(),
      remedies: z.array(z.object({ says: z.string(), ohms: z.number().optional(), watts: z.number().optional() })),
    },
    example: { flasher: { name: 'Flasher', kind: 'load-sensing', perMinute: 85, onSharePct: 50, ratedW: 42, leastW: 25 }, sideW: 10 },
    run: (q) => forecastFlash(q.flasher, q.sideW),
  }),
];
