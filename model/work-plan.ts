import { z } from 'zod';

const stepId = z.string().regex(/^[a-z0-9./-]{1,160}$/);

/**
 * What people choose about the plan. `runs`: panels over the way of a wire come off for a clean run (`off`), stay on and
 * the wire is fished through (`fish`), or whichever takes less time (null).
 */
export const PlanChoice = z.strictObject({
  runs: z.enum(['fish', 'off']).nullable(),
  /** try each kit’s harness on a spare battery before it goes in */
  benchTest: z.boolean(),
});
export type PlanChoice = z.infer<typeof PlanChoice>;
export const USUAL_PLAN: PlanChoice = { runs: null, benchTest: true };

/** A step put at another place by hand: right after one, and before another. It holds when the plan is made anew. */
export const PlanPin = z.strictObject({ step: stepId, after: stepId.nullable(), before: stepId.nullable() });
export type PlanPin = z.infer<typeof PlanPin>;
