import type { MessageKind, OwnerMessage, Placeholder } from '#model/message';
import type { Order, Station } from '#model/order';
import type { Settings } from '#model/settings';
import type { EventBody } from '../events/registry';
import { plainTime } from '../quantity/say-here';

/** A message that is due. `text` is whole but for the address of the owner’s page, which is told once: it is made as it is sent. */
export interface DueMessage {
  kind: MessageKind;
  /** what it speaks of: with order and kind it is sent once */
  ref: string;
  text: string;
  /** a telephone number or a mail address; empty where nobody wrote one down */
  address: string;
}

/** Where the address of the owner’s page goes. */
export const PAGE = '{page}';

/** An order at one moment, as far as its owner is told of it. */
export interface Moment {
  order: Order;
  station: Station;
}

/** What happened, of what an owner is told. */
function happened(before: Moment | null, after: Moment, body: EventBody): { kind: MessageKind; ref: string }[] {
  if (!before || after.order.status !== 'open') return [];
  const out: { kind: MessageKind; ref: string }[] = [];
  if (body.type === 'quote.made') out.push({ kind: 'quote', ref: String(after.order.money!.quotes.at(-1)!.revision) });
  if (body.type === 'quote.agreed') out.push({ kind: 'agreed', ref: String(body.revision) });
  if (body.type === 'extra.asked') out.push({ kind: 'extra', ref: after.order.money!.extras.at(-1)!.id });
  if (after.order.promisedAt > before.order.promisedAt) out.push({ kind: 'late', ref: after.order.promisedAt });
  // all that is left is that its owner comes
  const worked = Object.values(after.order.steps).some((s) => s.status === 'done');
  if (before.station !== 'handover' && after.station === 'handover' && worked) out.push({ kind: 'ready', ref: 'ready' });
  return out;
}

/** A message as a line of an order’s log. */
export const sayMessage = (m: OwnerMessage): string =>
  m.state === 'sent' ? `Message to ${m.address}: ${m.text}` : `Message not sent${m.says ? `, ${m.says}` : ' yet'}: ${m.text}`;

/** Puts what is known into a text; what is not named here stays as it is. */
export const filled = (text: string, words: Partial<Record<Placeholder, string>>): string =>
  text.replaceAll(/\{(\w+)\}/g, (whole, word: string) => words[word as Placeholder] ?? whole);

/** What an event gives to tell the unit’s owner, in the words of the shop, as far as it tells that at all. */
export function dueMessages(before: Moment | null, after: Moment, body: EventBody, settings: Settings, unitName: string): DueMessage[] {
  const { order } = after;
  return happened(before, after, body).flatMap(({ kind, ref }): DueMessage[] => {
    const { on, text } = settings.messages[kind];
    if (!on) return [];
    const words = {
      owner: order.owner,
      unit: unitName,
      order: String(order.number),
      shop: settings.shop,
      promise: plainTime(order.promisedAt, settings.timeZone),
    };
    return [{ kind, ref, text: filled(text, words), address: order.phone.trim() }];
  });
}
