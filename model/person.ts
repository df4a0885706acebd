import { z } from 'zod';
import { words } from './common';

/** What a person may do is decided by the role alone; see core/people/permissions. */
export const Role = z.enum(['installer', 'desk', 'lead', 'owner']);
export type Role = z.infer<typeof Role>;

/** The owner of a unit, who is nobody of the shop: asks by their page, and stands in the record under a name that no person can have. */
export const CLIENT = 'client';
export const CLIENT_ID = '~owner';
export type Asker = Role | typeof CLIENT;

export const PersonId = z
  .string()
  .regex(/^[a-z][a-z0-9-]{1,30}$/, 'use 2 to 31 lower-case letters, digits or dashes, beginning with a letter');
export const Person = z.object({ id: PersonId, name: words(40), role: Role });
export type Person = z.infer<typeof Person>;

/** A person as the shop's page has them; `ended`: they no longer work here, and stay in the record. */
export const PersonInShop = Person.extend({ version: z.number().int(), ended: z.boolean() });
export type PersonInShop = z.infer<typeof PersonInShop>;

/** What a shop is called in addresses. */
export const ShopId = z.string().regex(/^[a-z][a-z0-9]{1,19}$/, 'use 2 to 20 lower-case letters or digits, beginning with a letter');
/** A shop where somebody works, and what they are there; `first`: it is at the address itself. */
export const ShopOfMine = z.object({ id: ShopId, name: z.string(), role: Role, first: z.boolean() });
export type ShopOfMine = z.infer<typeof ShopOfMine>;

/** The one form of a sign-in name, whatever was typed: what is looked up, and what wrong tries are counted by. */
export const normalName = (typed: unknown): string =>
  (typeof typed === 'string' ? typed : '')
    .normalize('NFKC')
    .replace(/[\p{White_Space}\p{Cf}\p{Cc}]+/gu, '')
    .toLowerCase()
    .slice(0, 40);

const Name = z.string().max(200).transform(normalName).pipe(z.string().min(1, 'type your name'));
export const Password = z.string().min(8, 'at least 8 characters').max(200, 'at most 200 characters');

/** A password as somebody types it, right or wrong. */
export const TypedPassword = z.string().min(1, 'type your password').max(200);

/** The six digits that an authenticator shows, or one of the spare codes. */
export const SecondFactor = z.string().trim().min(6, 'six digits, or a spare code').max(20);
export const SignIn = z.strictObject({
  name: Name,
  password: TypedPassword,
  second: SecondFactor.optional(),
});
export type SignIn = z.infer<typeof SignIn>;
/** What somebody types at a bench that people share. It is short because it opens only what is signed in there already. */
export const BenchCode = z
  .string()
  .trim()
  .regex(/^\d{4,8}$/, 'four to eight digits');
export const BenchSwitch = z.strictObject({ name: Name, code: z.string().trim().min(1, 'type the code').max(20) });
export type BenchSwitch = z.infer<typeof BenchSwitch>;
/** The password is right, and the account asks for a second factor. */
export const AsksSecond = z.object({ asks: z.literal('second factor') });
export type AsksSecond = z.infer<typeof AsksSecond>;

/** A new password by a code that the owner gave. */
export const CodeSignIn = z.strictObject({ name: Name, code: z.string().min(1, 'type the code').max(40), password: Password });
export type CodeSignIn = z.infer<typeof CodeSignIn>;

/** What a browser answers for a passkey, as the W3C’s Web Authentication writes it in JSON; what it holds is checked by its signature. */
export const PasskeyAnswer = z.looseObject({
  id: z.string().min(1).max(1400),
  response: z.looseObject({ userHandle: z.string().max(100).optional() }),
});
export const NewPasskey = z.strictObject({ name: words(40), answer: PasskeyAnswer });
/** A passkey as its person has it; it opens their account at `host` only. */
export const Passkey = z.object({ id: z.string(), name: z.string(), host: z.string(), at: z.string(), usedAt: z.string().nullable() });
export type Passkey = z.infer<typeof Passkey>;
