import type { Asker, Role } from '#model/person';
import { isEvent, rolesOf, type EventType } from '../events/registry';

/** What a person may do beside recording on an order, which each event says itself. */
const BESIDES = {
  'order.open': ['installer', 'desk', 'lead', 'owner'],
  'shelf.count': ['installer', 'desk', 'lead', 'owner'],
  'purchase.receive': ['installer', 'desk', 'lead', 'owner'],
  'purchase.make': ['desk', 'lead', 'owner'],
  'message.release': ['desk', 'lead', 'owner'],
  'sheets.import': ['lead', 'owner'],
  'settings.change': ['lead', 'owner'],
  'people.change': ['owner'],
} as const satisfies Record<string, readonly Role[]>;

export type Action = Exclude<EventType, 'order.opened'> | keyof typeof BESIDES;

const WORDS: Record<Asker, string> = {
  installer: 'an installer',
  desk: 'the front desk',
  lead: 'a lead',
  owner: 'the owner',
  client: 'the unit’s owner',
};
const rolesFor = (action: Action): readonly Asker[] => (isEvent(action) ? rolesOf(action) : BESIDES[action]);

export const may = (role: Asker, action: Action): boolean => rolesFor(action).includes(role);

/** Says who may, for the person who may not. */
export const whoMay = (action: Action): string =>
  `This is for ${rolesFor(action)
    .map((r) => WORDS[r])
    .join(' or ')}.`;
