import { format } from 'date-fns';
import { parseQuantity, type UnitSystem } from '#core/quantity/quantity';
import { ImpossibleInput } from '#core/errors';

/** Reads of what is typed at Arrive, shared by taking in and by changing later. */
export const readYear = (from: number, to: number) => (t: string) => {
  const y = Number(t.trim());
  if (!Number.isInteger(y) || y < from || y > to) throw new ImpossibleInput(`a year from ${from} to ${to}: the model was made then`);
  return y;
};
/** What a meter shows: hours as they stand; a distance in the shop's unit or its own, kept in kilometres. */
export const readMeter = (t: string, kind: 'hours' | 'distance' = 'distance', units: UnitSystem = 'metric'): number | null => {
  if (!t.trim()) return null;
  const m = /^(.*?)\s*(h|km|mi)?$/i.exec(t.trim())!;
  const typed = Number(m[1]!.replace(/[\s,](?=\d{3}\b)/g, ''));
  if (!Number.isFinite(typed) || typed < 0) throw new ImpossibleInput(`“${t.trim()}” is not what a meter shows`);
  const miles = kind === 'distance' && (m[2] ? m[2].toLowerCase() === 'mi' : units === 'imperial');
  const x = miles ? Number((typed * 1.609344).toFixed(1)) : typed;
  if (x > 1_000_000) throw new ImpossibleInput('more than a million: read the meter again');
  return x;
};
/** A meter's figure as it is typed again. */
export const showMeter = (x: number | null, kind: 'hours' | 'distance', units: UnitSystem): string =>
  x === null ? '' : kind === 'hours' ? `${x} h` : units === 'imperial' ? `${Math.round(x / 1.609344)} mi` : `${Math.round(x)} km`;
export const readVolts = (t: string): number | null => {
  if (!t.trim()) return null;
  const v = parseQuantity(t, 'volts', 'metric');
  if (v <= 0 || v > 120) throw new ImpossibleInput('volts at rest lie between 0 and 120');
  return v;
};
export const readWords = (max: number) => (t: string) => {
  if (!t.trim()) throw new ImpossibleInput('must not be empty');
  if (t.trim().length > max) throw new ImpossibleInput(`${t.trim().length} characters, at most ${max}`);
  return t.trim();
};
/** Words that may be left out. */
const readShort = (max: number) => (t: string) => {
  if (t.trim().length > max) throw new ImpossibleInput(`${t.trim().length} characters, at most ${max}`);
  return t.trim();
};
export const readPhone = readShort(40);
/** The number on a unit's plate: empty while nobody has found one. */
export const readIdentity = readShort(30);
export const readWatts = (t: string): number | null => {
  if (!t.trim() || t.trim() === '?') return null;
  const w = parseQuantity(t, 'watts', 'metric');
  if (w < 0 || w > 5000) throw new ImpossibleInput('between 0 and 5000 W, or empty if nobody knows');
  return w;
};
export const toLocal = (iso: string): string => format(new Date(iso), "yyyy-MM-dd'T'HH:mm");
export const fromLocal = (t: string): string => {
  const d = new Date(t);
  if (Number.isNaN(d.getTime())) throw new ImpossibleInput('a day and an hour');
  return d.toISOString();
};
