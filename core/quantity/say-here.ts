import { sayInUnits, type UnitSystem } from './quantity';

/** A moment as a clock in that place has it: day and time. @param timeZone IANA name */
export const localTime = (iso: string, timeZone: string): string =>
  new Intl.DateTimeFormat('sv-SE', { dateStyle: 'short', timeStyle: 'short', timeZone }).format(new Date(iso));

/** The day of a moment by the calendar of a place, as `2026-03-31`. */
export const localDay = (iso: string, timeZone: string): string => localTime(iso, timeZone).slice(0, 10);

/** A moment as somebody is told it who reads no dates for a living: `Sun 29 Nov, 17:00`, by the clocks of a place. */
export const plainTime = (iso: string, timeZone: string): string =>
  new Intl.DateTimeFormat('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone,
  }).format(new Date(iso));

/** A recorded sentence as this shop says it: in its units and by its clocks. Moments are recorded as ISO 8601 in UTC. */
export const sayHere = (text: string, { units, timeZone }: { units: UnitSystem; timeZone: string }): string =>
  sayInUnits(
    text.replace(/\b\d{4}-\d\d-\d\dT\d\d:\d\d(?::\d\d(?:\.\d+)?)?Z/g, (iso) => localTime(iso, timeZone)),
    units,
  );
