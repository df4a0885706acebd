import type { Order } from '#model/order';
import type { Reading } from '#model/reading';
import { withStep } from './clock';
import type { Stamp } from './definition';

type Taken = Pick<Reading, 'value' | 'expected' | 'verdict' | 'origin'> & { step: string; reading: string };

/** An order with a reading of a step, as it was judged. */
export const withReading = (order: Order, { reading, step, ...e }: Taken, stamp: Stamp): Order =>
  withStep(order, step, (s) => ({
    ...s,
    readings: { ...s.readings, [reading]: { value: e.value, expected: e.expected, verdict: e.verdict, origin: e.origin, ...stamp } },
  }));
