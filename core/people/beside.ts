import type { Asker, Role } from '#model/person';

/** What a person may do beside recording on an order, which each event says itself. */
export const BESIDES = {
  'order.open': ['installer', 'desk', 'lead', 'owner'],
  'shelf.count': ['installer', 'desk', 'lead', 'owner'],
  'purchase.receive': ['installer', 'desk', 'lead', 'owner'],
  'purchase.make': ['desk', 'lead', 'owner'],
  'message.release': ['desk', 'lead', 'owner'],
  'sheets.import': ['lead', 'owner'],
  'settings.change': ['lead', 'owner'],
  'people.change': ['owner'],
  'system.see': ['owner'],
} as const satisfies Record<string, readonly Role[]>;

export type Beside = keyof typeof BESIDES;

const WORDS: Record<Asker, string> = {
  installer: 'an installer',
  desk: 'the front desk',
  lead: 'a lead',
  owner: 'the owner',
  client: 'the unit’s owner',
};
/** Whether a role may do what is no event of an order. */
export const mayBeside = (role: Asker, action: Beside): boolean => (BESIDES[action] as readonly Asker[]).includes(role);

/** Says which roles may, for the person who may not. */
export const onlyFor = (roles: readonly Asker[]): string => `This is for ${roles.map((r) => WORDS[r]).join(' or ')}.`;

/** Says who may do what is no event of an order. */
export const whoMayBeside = (action: Beside): string => onlyFor(BESIDES[action]);
