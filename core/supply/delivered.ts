import { timeOn } from '../shop/calendar';

/** What comes on a day is here by noon: common practice, no source. */
export const DELIVERED = '12:00';

/** Whether what comes on a day comes after an order’s promise. @param day as `2026-03-31`, by the shop’s calendar */
export const afterPromise = (day: string, promisedAt: string, timeZone: string): boolean =>
  timeOn(day, DELIVERED, timeZone) > Date.parse(promisedAt);
