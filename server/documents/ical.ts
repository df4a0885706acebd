import ical, { ICalCalendarMethod } from 'ical-generator';
import type { FeedEntry } from '#core/shop/feed';

/** Minutes after which a calendar asks again. */
const AGAIN_MIN = 15;

/** A calendar as iCalendar (RFC 5545). @param host where its entries come from, for names that are theirs alone */
export function icalOf(name: string, entries: readonly FeedEntry[], host: string, now: Date): string {
  const calendar = ical({
    name,
    prodId: { company: 'Kadro', product: 'week', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: AGAIN_MIN * 60,
  });
  for (const e of entries)
    calendar.createEvent({
      id: `${e.id.replace(/ /g, '.')}@${host}`,
      start: new Date(e.from),
      end: new Date(e.to),
      stamp: now,
      summary: e.title,
      location: e.where || undefined,
      description: e.says,
    });
  return calendar.toString();
}
