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

/** A day and hour as a shop says it. */
export const promise = (iso: string): string => {
  const d = new Date(iso);
  return `${isToday(d) ? 'today' : isTomorrow(d) ? 'tomorrow' : isYesterday(d) ? 'yesterday' : format(d, 'EEE d MMM')} ${format(d, 'HH:mm')}`;
};
