import type { DayHours } from '#model/shop-week';
import { ImpossibleInput } from '../errors';

/** A day’s shifts as they are written: `08:00-12:00, 12:45-17:00`; nothing for a day on which nobody works. */
export const writeHours = (list: DayHours): string => list.map(({ from, to }) => `${from}-${to}`).join(', ');

/** A day’s shifts as they may be typed: `8-12, 12.45 to 17`. @throws ImpossibleInput for what is no shift */
export function readHours(text: string): DayHours {
  if (!text.trim()) return [];
  return text.split(/[,;]/).map((part) => {
    const m = /^\s*(\d{1,2})[:.]?(\d\d)?\s*(?:-|–|to)\s*(\d{1,2})[:.]?(\d\d)?\s*$/.exec(part);
    if (!m) throw new ImpossibleInput(`“${part.trim()}” is no shift: write 08:00-12:00, 12:45-17:00`);
    const time = (h: string, min = '00') => `${h.padStart(2, '0')}:${min}`;
    return { from: time(m[1]!, m[2]), to: time(m[3]!, m[4]) };
  });
}
