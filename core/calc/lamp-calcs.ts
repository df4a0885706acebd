import { z } from 'zod';
import { positive } from '#model/common';
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
];
