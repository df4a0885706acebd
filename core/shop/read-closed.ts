import ICAL from 'ical.js';
import type { DaysOff } from '#model/shop-week';
import { ImpossibleInput } from '../errors';

/** Days are read so far ahead, and from a calendar of so many entries at most. */
const YEARS = 2;
const MOST = 2000;
const MOST_TIMES = 400;

/**
 * Days closed from a calendar of holidays (iCalendar, RFC 5545): its entries of whole days that are not over yet, those that come
 * again each time they do, two years ahead.
 * @param today as `2026-03-31`
 * @returns those days in order, and how many entries were left out because they have hours
 * @throws ImpossibleInput for what is no calendar
 */
export function readClosed(text: string, today: string): { days: DaysOff[]; timed: number } {
  let calendar: ICAL.Component;
  try {
    calendar = new ICAL.Component(ICAL.parse(text) as unknown[]);
  } catch {
    throw new ImpossibleInput('that is no calendar: a file as calendars give them out (.ics) is wanted');
  }
  const entries = calendar.name === 'vcalendar' ? calendar.getAllSubcomponents('vevent') : [];
  if (!entries.length) throw new ImpossibleInput('there is no entry in that calendar');
  if (entries.length > MOST) throw new ImpossibleInput(`that calendar has ${entries.length} entries; ${MOST} are read at most`);
  const last = `${Number(today.slice(0, 4)) + YEARS}${today.slice(4)}`;
  const days: DaysOff[] = [];
  let timed = 0;
  for (const entry of entries) {
    const event = new ICAL.Event(entry);
    if (!event.startDate?.isDate) {
      timed++;
      continue;
    }
    const long = Math.max(1, Math.round(event.duration.toSeconds() / 86_400));
    const add = (start: ICAL.Time): boolean => {
      const from = start.toString().slice(0, 10);
      const end = start.clone();
      end.addDuration(ICAL.Duration.fromSeconds((long - 1) * 86_400));
      const to = end.toString().slice(0, 10);
      if (from > last) return false;
      if (to >= today)
        days.push({
          from,
          to,
          why: String(event.summary ?? '')
            .trim()
            .slice(0, 60),
        });
      return true;
    };
    if (!event.isRecurring()) add(event.startDate);
    else {
      const times = event.iterator();
      for (let n = 0, t = times.next(); t && n < MOST_TIMES && add(t); n++) t = times.next();
    }
  }
  days.sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
  return { days, timed };
}
