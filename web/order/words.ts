import { format, isToday, isTomorrow, isYesterday } from 'date-fns';
import type { Station } from '#model/order';

export const STATION_WORD: Record<Station, string> = {
  arrive: 'Arrive',
  fit: 'Fit',
  power: 'Power',
  wire: 'Wire',
  lamps: 'Lamps',
  plan: 'Plan',
  bench: 'Bench',
  handover: 'Hand over',
};

/** A day as a shop says it. */
export const dayWord = (d: Date | number): string =>
  isToday(d) ? 'today' : isTomorrow(d) ? 'tomorrow' : isYesterday(d) ? 'yesterday' : format(d, 'EEE d MMM');
/** A day and hour as a shop says it. */
export const promise = (iso: string): string => {
  const d = new Date(iso);
  return `${dayWord(d)} ${format(d, 'HH:mm')}`;
};
/** A day of the calendar as a shop says it. @param day as `2026-03-31` */
export const sayDay = (day: string): string => dayWord(new Date(`${day}T12:00:00`));
