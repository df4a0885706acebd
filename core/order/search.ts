import { z } from 'zod';
import { Mark } from '../events/marks';
import { isAtBench, marksOf, say, type EventBody } from '../events/registry';
import type { ListedOrder, OrderSummary } from './summary';

const day = z.iso.date('a day as 2026-03-31');
/** What is looked for: words that all stand in an order’s record, and what else must be so. */
export const OrderQuery = z.object({
  q: z.string().max(200).default(''),
  kit: z.string().max(60).optional(),
  model: z.string().max(60).optional(),
  by: z.string().max(40).optional(),
  mark: Mark.optional(),
  /** opened on this day or later, and on this day or earlier */
  from: day.optional(),
  to: day.optional(),
  /** how many at most, the newest */
  limit: z.coerce.number().int().min(1).max(300).default(30),
});
export type OrderQuery = z.infer<typeof OrderQuery>;

const LONGEST = 40;
/** Words of a line that everyone’s lines have. */
const EMPTY = new Set(['the', 'of', 'and', 'to', 'a', 'in', 'at', 'is', 'on', 'it', 'by']);

/** The words of a text as they are looked for: small letters, no accents, each once. */
export function wordsOf(text: string): string[] {
  const plain = text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}.]+/gu, ' ');
  return [
    ...new Set(
      plain
        .split(' ')
        .map((w) => w.replace(/^\.+|\.+$/g, '').slice(0, LONGEST))
        .filter((w) => w && !EMPTY.has(w)),
    ),
  ];
}

const token = (kind: string, id: string) => `${kind}:${id}`.slice(0, LONGEST);
export const tokens = {
  kit: (id: string) => token('kit', id),
  model: (id: string) => token('model', id),
  by: (id: string) => token('by', id),
  mark: (m: Mark) => token('mark', m),
};

/** What an event adds to the words under which its order is found. Nothing that was once recorded is ever not found again. */
export function eventWords(e: EventBody, by: string): string[] {
  return [
    ...wordsOf(say(e)),
    ...marksOf(e).map(tokens.mark),
    ...(e.type === 'kit.added' ? [tokens.kit(e.kit.id)] : []),
    ...(isAtBench(e.type) ? [tokens.by(by)] : []),
  ];
}

/** Events after which an order may be called by other words. */
const RENAMES: EventBody['type'][] = ['order.opened', 'arrive.changed', 'kit.added', 'bench.assigned', 'action.undone'];

/** What an order is called, where the event may have changed that: its number, unit, owner, kits and condition. */
export const nameWords = (e: EventBody, number: number, model: string, condition: string, s: OrderSummary): string[] =>
  RENAMES.includes(e.type)
    ? [
        ...wordsOf([number, s.unitName, s.kind, s.owner, s.identity, ...s.kits.map((k) => k.name), condition, s.assignee ?? ''].join(' ')),
        tokens.model(model),
      ]
    : [];

/** What a search found as rows for a spreadsheet, one an order. */
export const searchRows = (found: readonly ListedOrder[]) =>
  found.map((o) => ({
    order: o.number,
    unit: o.summary.unitName,
    identity: o.summary.identity,
    owner: o.summary.owner,
    kits: o.summary.kits.map((k) => k.name).join('; '),
    status: o.status,
    station: o.summary.station,
    bench_of: o.summary.assignee ?? '',
    promised: o.promisedAt,
    last_change: o.updatedAt,
    minutes_planned: Math.round(o.summary.minutes.planned),
    minutes_spent: Math.round(o.summary.minutes.spent),
    found: (o.matches ?? []).map((m) => `${m.at.slice(0, 16).replace('T', ' ')} ${m.by}: ${m.says}`).join(' | '),
  }));
