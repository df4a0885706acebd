import { z } from 'zod';
import { words } from '#model/common';

/** Why something was done otherwise than planned. */
export const reason = words(300);
/** A step, circuit or proof by its id in the plan. */
export const stepId = z.string().regex(/^[a-z0-9./-]{1,160}$/, 'an id as the plan gives it');
/** A person by id; null for nobody. */
export const someone = z.string().max(40).nullable();
