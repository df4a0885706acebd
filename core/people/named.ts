import { CLIENT_ID } from '#model/person';

/** Who did something, as it is read: somebody of the shop by their name, the unit’s owner as such. */
export const named = (by: string): string => (by === CLIENT_ID ? 'the unit’s owner' : by);
