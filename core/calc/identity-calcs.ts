import { z } from 'zod';
import { checkHin } from '../identity/hin';
import { checkVin } from '../identity/vin';
import { sum } from '../sum';
import { calculation, field } from './calculation';

export const identityCalcs = [
  calculation({
    name: 'vin.check',
    title: 'VIN check',
    description: 'Checks a vehicle identification number: length, letters and check character.',
    input: { vin: field(z.string().max(60), 'VIN') },
    result: {
      valid: z.boolean(),
      checked: z.boolean(),
      expected: z.string().nullable(),
      found: z.string().nullable(),
      problems: z.array(z.string()),
    },
    example: { vin: '1M8GDM9AXKP042788' },
    run: ({ vin }) => {
      const r = checkVin(vin);
      return {
        ...r,
        sum: sum(
          { label: 'Check character called for', value: r.expected ?? 'not known', source: '49 CFR 565' },
          { label: 'Found in position 9', value: r.found ?? 'nothing', kind: 'result' },
          ...(r.valid && !r.checked
            ? [{ label: 'Not checked: outside North America none is required', value: '–', source: 'ISO 3779', kind: 'note' as const }]
            : []),
        ),
      };
    },
  }),
  calculation({
    name: 'hin.check',
    title: 'HIN check',
    description: 'Checks the shape of a hull identification number: maker, serial, month, year, model year.',
    input: { hin: field(z.string().max(60), 'HIN') },
    result: { valid: z.boolean(), problems: z.array(z.string()) },
    example: { hin: 'ABC12345D404' },
    run: ({ hin }) => {
      const r = checkHin(hin);
      return {
        ...r,
        sum: sum({
          label: 'Shape',
          value: r.valid ? 'agrees' : r.problems[0]!,
          source: '33 CFR 181; it has no check digit',
          kind: 'result',
        }),
      };
    },
  }),
];
