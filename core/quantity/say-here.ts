import { sayInUnits, type UnitSystem } from './quantity';

/** A moment as a clock in that place has it: day and time. @param timeZone IANA name */
export const localTime = (iso: string, timeZone: string): string =>
  new Intl.DateTimeFormat('sv-SE', { dateStyle: 'short', timeStyle: 'short', timeZone }).format(new Date(iso));

/** A recorded sentence as this shop says it: in its units and by its clocks. Moments are recorded as ISO 8601 in UTC. */
export const sayHere = (text: string, { units, timeZone }: { units: UnitSystem; timeZone: string }): string =>
  sayInUnits(
    text.replace(/\b\d{4}-\d\d-\d\dT\d\d:\d\d(?::\d\d(?:\.\d+)?)?Z/g, (iso) => localTime(iso, timeZone)),
    units,
  );
