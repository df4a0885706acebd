import type { Asker } from '#model/person';
import { isEvent, rolesOf, type EventType } from '../events/registry';
import { BESIDES, onlyFor, type Beside } from './beside';

export type Action = Exclude<EventType, 'order.opened'> | Beside;

const rolesFor = (action: Action): readonly Asker[] => (isEvent(action) ? rolesOf(action) : BESIDES[action]);

export const may = (role: Asker, action: Action): boolean => rolesFor(action).includes(role);

/** Says who may, for the person who may not. */
export const whoMay = (action: Action): string => onlyFor(rolesFor(action));
