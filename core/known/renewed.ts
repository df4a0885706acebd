import type { Verdict } from '#model/common';
import type { Order, Station } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { consider } from '../order/assess';
import { VERDICT_WORD } from '../verdict';
import { outcomes } from './study';

/** What comes out otherwise by other sheets; null: it is not asked there. */
export interface Renewed {
  station: Station;
  name: string;
  from: Verdict | null;
  to: Verdict | null;
}

const word = (v: Verdict | null): string => (v === null ? 'not asked' : VERDICT_WORD[v].toLowerCase());

/** One change as a line. */
export const sayRenewed = (c: Renewed): string =>
  `${c.name}: ${c.from === c.to ? `${word(c.to)}, with other wire, fuse or feed` : `${word(c.from)}, then ${word(c.to)}`}`;

/** What would change on an order by other sheets: verdicts, and what is cut and fused though its verdict stays. */
export function whatChanges(order: Order, now: Sheets, next: Sheets, settings: Settings): Renewed[] {
  const [a, b] = [now, next].map((s) => new Map(outcomes(consider(order, s, settings)).map((o) => [o.id, o])));
  return [...new Set([...a!.keys(), ...b!.keys()])].flatMap((id) => {
    const [x, y] = [a!.get(id), b!.get(id)];
    if (x && y && x.verdict === y.verdict && x.as === y.as) return [];
    const { station, name } = (y ?? x)!;
    return [{ station, name, from: x?.verdict ?? null, to: y?.verdict ?? null }];
  });
}
