import { ImpossibleInput } from '../errors';
import { firstProblem, NEVER, type Calculation, type Stop } from './calculation';
import { energyDay } from './energy-day-calc';
import { energyCalcs } from './energy-calcs';
import { harnessCalcs } from './harness-calcs';
import { identityCalcs } from './identity-calcs';
import { lampCalcs } from './lamp-calcs';
import { lightingCheck } from './lighting-check-calc';
import { orderAssess } from './order-calc';
import { quotePrice } from './money-calcs';
import { photoPlane } from './photo-calcs';
import { planSequence } from './plan-calc';
import { sheetCheck } from './sheet-calc';
import { shopCalcs } from './shop-calcs';
import { winchCalcs } from './winch-calcs';
import { wireCalcs } from './wire-calcs';

/** Every calculation there is, by its fixed name: Tools pages, the HTTP API and the command read this list. */
export const CALCULATIONS: readonly Calculation[] = [
  ...wireCalcs,
  ...harnessCalcs,
  energyDay,
  ...energyCalcs,
  ...winchCalcs,
  ...lampCalcs,
  lightingCheck,
  planSequence,
  orderAssess,
  sheetCheck,
  ...identityCalcs,
  photoPlane,
  quotePrice,
  ...shopCalcs,
];

export const findCalculation = (name: string): Calculation | undefined => CALCULATIONS.find((c) => c.name === name);

/**
 * Runs a calculation by name on input that nobody has checked yet.
 * @param stop asked now and then by one that searches: once it says so, the best so far is answered with its bound
 * @throws ImpossibleInput for an unknown name or input that cannot be
 */
export function runCalculation(name: string, input: unknown, stop: Stop = NEVER): Record<string, unknown> {
  const calc = findCalculation(name);
  if (!calc) throw new ImpossibleInput(`there is no calculation “${name}”`);
  const parsed = calc.input.safeParse(input, { reportInput: true });
  if (!parsed.success) throw firstProblem(parsed.error);
  return calc.run(parsed.data as never, stop) as Record<string, unknown>;
}
