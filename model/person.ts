import { z } from 'zod';
import { words } from './common';

/** What a person may do is decided by the role alone; see core/people/permissions. */
export const Role = z.enum(['installer', 'desk', 'lead', 'owner']);
export type Role = z.infer<typeof Role>;

export const PersonId = z
  .string()
  .regex(/^[a-z][a-z0-9-]{1,30}$/, 'use 2 to 31 lower-case letters, digits or dashes, beginning with a letter');
export const Person = z.object({ id: PersonId, name: words(40), role: Role });
export type Person = z.infer<typeof Person>;

export const SignIn = z.strictObject({
  name: z.string().trim().toLowerCase().min(1, 'type your name').max(40),
  password: z.string().min(1, 'type your password').max(200),
});
export type SignIn = z.infer<typeof SignIn>;
