import { TZDate } from '@date-fns/tz';
import { addDays } from 'date-fns/addDays';
import type { Settings } from '#model/settings';
import { WEEKDAYS, type DaysOff, type Rostered, type Skill, type WeekHours } from '#model/shop-week';
import { UnitKind } from '#model/common';
import type { PersonInShop } from '#model/person';

/** A stretch of time, milliseconds of the clock of the world. */
export type Stretch = readonly [number, number];

/** The days of a place from a moment on: each with its date, as `2026-03-31`. */
export function daysFrom(at: number, count: number, timeZone: string): { day: string; date: TZDate }[] {
  const first = new TZDate(at, timeZone);
  const midnight = new TZDate(first.getFullYear(), first.getMonth(), first.getDate(), timeZone);
  return Array.from({ length: count }, (_, i) => {
    const date = addDays(midnight, i);
    const two = (n: number) => String(n).padStart(2, '0');
    return { date, day: `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}` };
  });
}

/** Midnight at which a day begins in a place, or so many days later. @param day as `2026-03-31` */
export function momentOf(day: string, later: number, timeZone: string): number {
  const [y, m, d] = day.split('-').map(Number) as [number, number, number];
  return new TZDate(y, m - 1, d + later, timeZone).getTime();
}

/** A time of a day in a place. @param time as `08:30` */
export function timeOn(day: string, time: string, timeZone: string): number {
  const [y, m, d] = day.split('-').map(Number) as [number, number, number];
  const [h, min] = time.split(':').map(Number) as [number, number];
  return new TZDate(y, m - 1, d, h, min, timeZone).getTime();
}

export const isOff = (off: readonly DaysOff[], day: string): DaysOff | undefined => off.find((d) => d.from <= day && day <= d.to);

/** The stretches of hours on so many days: clocks that are turned in a night make that night longer or shorter, no shift. */
export function stretchesOf(hours: WeekHours, off: readonly DaysOff[], at: number, days: number, timeZone: string): Stretch[] {
  return daysFrom(at, days, timeZone).flatMap(({ day, date }) => {
    if (isOff(off, day)) return [];
    const moment = (time: string) => {
      const [h, m] = time.split(':').map(Number) as [number, number];
      return new TZDate(date.getFullYear(), date.getMonth(), date.getDate(), h, m, timeZone).getTime();
    };
    return hours[WEEKDAYS[(date.getDay() + 6) % 7]!].map(({ from, to }): Stretch => [moment(from), moment(to)]).filter(([a, b]) => b > a);
  });
}

/** Somebody as the week counts on them. */
export interface Worker {
  id: string;
  name: string;
  skills: readonly Skill[];
  hours: WeekHours;
  off: readonly DaysOff[];
}

/** Who works at the bench: all who are rostered, and installers and leads that nobody has said anything of yet. */
export function workersOf(people: readonly PersonInShop[], settings: Pick<Settings, 'roster' | 'hours' | 'closed'>): Worker[] {
  const said = new Map(settings.roster.map((r): [string, Rostered] => [r.person, r]));
  return people.flatMap((p): Worker[] => {
    if (p.ended) return [];
    const r = said.get(p.id);
    if (!r && p.role !== 'installer' && p.role !== 'lead') return [];
    if (r && !r.skills.length) return [];
    return [
      {
        id: p.id,
        name: p.name,
        skills: r?.skills ?? UnitKind.options,
        hours: r?.hours ?? settings.hours,
        off: [...settings.closed, ...(r?.off ?? [])],
      },
    ];
  });
}
