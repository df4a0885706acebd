import type { Role } from '#model/person';
import { isEvent, rolesOf, type EventType } from '../events/registry';

/** What a person may do beside recording on an order, which each event says itself. */
const BESIDES = {
  'order.open': ['installer', 'desk', 'lead', 'owner'],
  'shelf.count': ['installer', 'desk', 'lead', 'owner'],
  'sheets.import': ['lead', 'owner'],
  'settings.change': ['lead', 'owner'],
  'people.change': ['owner'],
} as const satisfies Record<string, readonly Role[]>;

export type Action = Exclude<EventType, 'order.opened'> | keyof typeof BESIDES;

const WORDS: Record<Role, string> = { installer: 'an installer', desk: 'the front desk', lead: 'a lead', owner: 'the owner' };
const rolesFor = (action: Action): readonly Role[] => (isEvent(action) ? rolesOf(action) : BESIDES[action]);

export const may = (role: Role, action: Action): boolean => rolesFor(action).includes(role);

/** Says who may, for the person who may not. */
export const whoMay = (action: Action): string =>
  `This is for ${rolesFor(action)
    .map((r) => WORDS[r])
    .join(' or ')}.`;
