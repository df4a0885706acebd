import { say, type EventBody } from '#core/events/registry';

/** What others recorded meanwhile, and what is held back for it, in the log's words. */
export default function Changed({ theirs, mine }: { theirs: readonly { by: string; says: EventBody }[]; mine: { type: string } }) {
  return (
    <>
      {theirs.map((t) => `${t.by}: ${say(t.says)}`).join('; ')}. Yours: {sayCommand(mine)}.
    </>
  );
}

function sayCommand(c: { type: string }): string {
  if (c.type === 'reading.taken') return `reading ${(c as unknown as { value: number }).value}`;
  try {
    return say(c as EventBody);
  } catch {
    return c.type;
  }
}
