import { z } from 'zod';
import { SumLine } from '#model/common';
import { ImpossibleInput } from '../errors';

/** A registered calculation: a name that is fixed, schemas both ways, and a pure function between them. */
export interface Calculation {
  name: string;
  title: string;
  description: string;
  input: z.ZodObject;
  result: z.ZodObject;
  /** input that gives a sensible first answer on its page */
  example: Record<string, unknown>;
  run: (input: never, stop: Stop) => object;
}

/** Whether a search is to end now and answer with the best it has and its bound. */
export type Stop = () => boolean;
export const NEVER: Stop = () => false;

/** Ties a calculation's function to its schemas; every result also carries its sum. */
export function calculation<I extends z.ZodRawShape, R extends z.ZodRawShape>(c: {
  name: string;
  title: string;
  description: string;
  input: I;
  result: R;
  example: Record<string, unknown>;
  run: (input: z.output<z.ZodObject<I>>, stop: Stop) => z.input<z.ZodObject<R>> & { sum: SumLine[] };
}): Calculation {
  return {
    ...c,
    input: z.strictObject(c.input),
    result: z.object({ ...c.result, sum: z.array(SumLine) }),
    run: c.run as Calculation['run'],
  } as Calculation;
}

/** A field's short help, shown on its page: unit and meaning. */
export const field = <T extends z.ZodType>(schema: T, title: string, unit?: string): T => schema.meta({ title, ...(unit ? { unit } : {}) });

/** Turns the first thing wrong with an input into one error for a person. */
export function firstProblem(error: z.ZodError): ImpossibleInput {
  const issue = error.issues[0]!;
  const path = issue.path.join('.');
  if (issue.code === 'unrecognized_keys')
    return new ImpossibleInput(`“${issue.keys[0]}” is not a field of this calculation`, issue.keys[0]);
  const message = issue.code === 'invalid_type' && issue.input === undefined ? 'is needed' : issue.message;
  return new ImpossibleInput(path ? `${path}: ${message}` : message, path || undefined);
}
