import { z } from 'zod';

/** What an owner of a unit is told of. */
export const MESSAGE_KINDS = ['quote', 'agreed', 'extra', 'late', 'ready'] as const;
export type MessageKind = (typeof MESSAGE_KINDS)[number];

/** What a text may name, each in braces. */
export const PLACEHOLDERS = ['owner', 'unit', 'order', 'shop', 'promise', 'page'] as const;
export type Placeholder = (typeof PLACEHOLDERS)[number];
const isPlaceholder = (word: string): word is Placeholder => (PLACEHOLDERS as readonly string[]).includes(word);

const Text = z
  .string()
  .trim()
  .min(1, 'say something')
  .max(480, 'at most 480 characters')
  .superRefine((text, ctx) => {
    for (const [, word] of text.matchAll(/\{([^{}]*)\}/g))
      if (!isPlaceholder(word!))
        ctx.addIssue({ code: 'custom', message: `{${word}} is nothing that can be told: ${PLACEHOLDERS.map((p) => `{${p}}`).join(', ')}` });
    if (/[{}]/.test(text.replaceAll(/\{[^{}]*\}/g, ''))) ctx.addIssue({ code: 'custom', message: 'a brace stands alone' });
  });

/** Whether the shop tells it, and in what words. */
export const MessageText = z.strictObject({ on: z.boolean(), text: Text });

/** Words to begin with; a shop writes its own. */
const FIRST: Record<MessageKind, string> = {
  quote: '{shop}: the price for your {unit} is ready. Look at it and agree here: {page}',
  agreed: '{shop}: thank you, {owner}. What you agreed to for your {unit} is noted; it is promised for {promise}.',
  extra: '{shop}: something turned up on your {unit} that we ask you about before we go on: {page}',
  late: '{shop}: {owner}, your {unit} takes longer than we said. It is promised for {promise} now.',
  ready: '{shop}: {owner}, your {unit} is ready to be fetched. Please ask for order {order}.',
};

/** What a shop decides of its messages: fields of its settings. A shop sends nothing until it says so. */
export const messageSettings = {
  messages: z.strictObject({ quote: MessageText, agreed: MessageText, extra: MessageText, late: MessageText, ready: MessageText }).default({
    quote: { on: false, text: FIRST.quote },
    agreed: { on: false, text: FIRST.agreed },
    extra: { on: false, text: FIRST.extra },
    late: { on: false, text: FIRST.late },
    ready: { on: false, text: FIRST.ready },
  }),
  /** where owners of units reach this program, as https://fit.example; empty: nowhere, so no text can name their page */
  publicAddress: z
    .string()
    .trim()
    .max(200)
    .transform((a) => a.replace(/\/+$/, ''))
    .refine((a) => a === '' || /^https?:\/\/[^\s/]+(\/\S*)?$/.test(a), 'an address such as https://fit.example')
    .default(''),
};

/** waiting to be sent; sent; held: it cannot be sent as things are, `says` tells why */
export type MessageState = 'waiting' | 'sent' | 'held';

/** A message of an order, as it is listed. */
export interface OwnerMessage {
  id: string;
  kind: MessageKind;
  text: string;
  address: string;
  state: MessageState;
  says: string;
  at: string;
  sentAt: string | null;
}
