import type { z } from 'zod';
import type { RulePack } from '#model/rule-pack';
import { RuleItem, RulePackHead, RULE_KINDS, type BadItem } from '#model/rule-pack';
import { ImpossibleInput } from '../errors';

const text = (x: unknown, key: string): string | undefined => {
  const v = typeof x === 'object' && x !== null ? (x as Record<string, unknown>)[key] : undefined;
  return typeof v === 'string' && v.trim() ? v : undefined;
};

/** What is wrong with an item, in a phrase; null when it can be judged. */
export function itemProblem(raw: unknown): string | null {
  const read = RuleItem.safeParse(raw, { reportInput: true });
  return read.success ? null : whatIsWrong(raw, read.error);
}

function whatIsWrong(raw: unknown, error: z.ZodError): string {
  const kind = text(raw, 'kind');
  if (kind !== undefined && !(RULE_KINDS as readonly string[]).includes(kind))
    return `“${kind}” is no kind of rule: ${RULE_KINDS.join(', ')} are`;
  const issue = error.issues[0]!;
  const at = issue.path.join('.');
  const says =
    issue.code === 'invalid_type' && issue.input === undefined
      ? 'is missing'
      : issue.code === 'unrecognized_keys'
        ? `“${issue.keys[0]}” is not a field of this kind of rule`
        : issue.message;
  return at ? `${at}: ${says}` : says;
}

/**
 * Reads a rule pack item by item. A bad item is set aside with what is wrong with it, so that the others can still be judged.
 * @throws ImpossibleInput when the pack's head cannot be read or no item can
 */
export function readPack(raw: unknown): RulePack {
  const head = RulePackHead.safeParse(raw, { reportInput: true });
  if (!head.success) {
    const issue = head.error.issues[0]!;
    const path = issue.path.join('.');
    throw new ImpossibleInput(
      `pack: ${path ? `${path}: ` : ''}${issue.code === 'invalid_type' && issue.input === undefined ? 'is missing' : issue.message}`,
      path || undefined,
    );
  }
  const items: RuleItem[] = [];
  const bad: BadItem[] = [];
  head.data.items.forEach((item, index) => {
    const read = RuleItem.safeParse(item, { reportInput: true });
    const id = text(item, 'id') ?? `item-${index + 1}`;
    const title = text(item, 'title') ?? id;
    if (!read.success) bad.push({ index, id, title, message: whatIsWrong(item, read.error), raw: item });
    else if (items.some((i) => i.id === read.data.id))
      bad.push({ index, id, title, message: `an item “${id}” is there already`, raw: item });
    else items.push(read.data);
  });
  if (!items.length)
    throw new ImpossibleInput(`pack “${head.data.name}”: no item can be judged; ${bad[0]!.id}: ${bad[0]!.message}`, 'items');
  const { items: _, ...rest } = head.data;
  return bad.length ? { ...rest, items, bad } : { ...rest, items };
}

/** A pack as its file holds it: what could not be read stands where it stood. */
export function packFile(pack: RulePack): Record<string, unknown> {
  const { bad = [], ...rest } = pack;
  const items: unknown[] = [...pack.items];
  for (const b of [...bad].sort((a, c) => a.index - c.index)) items.splice(b.index, 0, b.raw);
  return { ...rest, items };
}
