import type { ErrorRequestHandler } from 'express';
import { z } from 'zod';
import type { Logger } from 'pino';
import { Refused } from '#core/events/decide';
import { UnreadableEvent } from '#core/events/record';
import { ImpossibleInput } from '#core/errors';
import { sayBytes } from '#core/system/well';
import { PicturesAway } from '../pictures/store';
import { KeyUsed, StaleVersion } from '../store/orders';
import { isFull, isPassing } from '../store/passing';
import { PersonRefused } from '../store/rights';
import { StaleSetting } from '../store/settings';
import { TooMuch } from '../work/workers';

/** An RFC 9457 problem document; `detail` is a sentence for the person who asked. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(detail);
  }
}

/** One field that will not do, in words beside it. */
export const wrong = (path: string, says: string): Problem => new Problem(422, 'Not possible', says, { fields: [{ path, message: says }] });

export const ProblemDocument = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  detail: z.string(),
  /** the rules refused it: the same again is refused again. Without this, what was sent is worth keeping. */
  refused: z.boolean().optional(),
  /** of a fault of the server: the same stands in its log */
  id: z.string().optional(),
  fields: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
});

const REFUSED = { role: [403, 'Not yours to do'], state: [409, 'Not now'], input: [422, 'Not possible'] } as const;
/** Mistakes that one answer names. */
const MOST_FIELDS = 20;
const at = (path: string | undefined, message: string) => (path ? { fields: [{ path, message }] } : {});

function ofZod(e: z.ZodError): Problem {
  const fields = e.issues.slice(0, MOST_FIELDS).map((i) => ({
    path: i.path.join('.').slice(0, 200),
    message: (i.code === 'unrecognized_keys'
      ? `“${String(i.keys[0]).slice(0, 80)}” is not a field here`
      : i.code === 'invalid_type' && i.input === undefined
        ? 'is needed'
        : i.message.replace(/^Invalid input: /, '')
    ).slice(0, 300),
  }));
  const f = fields[0]!;
  return new Problem(422, 'Not possible', f.path ? `${f.path}: ${f.message}` : f.message, { refused: true, fields });
}

function toProblem(e: unknown, id: string): Problem {
  if (e instanceof Problem) return e;
  if (e instanceof z.ZodError) return ofZod(e);
  if (e instanceof Refused)
    return new Problem(REFUSED[e.why][0], REFUSED[e.why][1], e.message, { refused: true, ...at(e.path, e.message) });
  if (e instanceof ImpossibleInput) return new Problem(422, 'Not possible', e.message, { refused: true, ...at(e.path, e.message) });
  if (e instanceof StaleVersion)
    return new Problem(
      409,
      'Changed meanwhile',
      `Somebody changed this order while you had it open. Yours is kept; look at both and choose.`,
      {
        stale: true,
        current: e.current,
        clashing: e.clashing.map((x) => ({ seq: x.seq, doneAt: x.doneAt, by: x.by, body: x.body })),
      },
    );
  if (e instanceof StaleSetting)
    return new Problem(409, 'Changed meanwhile', 'Somebody changed that meanwhile. It was not overwritten: look, and say it again.', {
      stale: true,
      field: e.field,
      current: e.current,
    });
  if (e instanceof PersonRefused)
    return new Problem(e.why === 'unknown' ? 404 : 409, e.why === 'unknown' ? 'Not here' : 'Not now', e.message);
  if (e instanceof KeyUsed) return new Problem(422, 'Key used', 'This Idempotency-Key was used for another request.');
  if (e instanceof TooMuch)
    return e.why === 'slow'
      ? new Problem(503, 'Busy', e.message)
      : e.why === 'busy'
        ? new Problem(429, 'Too much at once', e.message)
        : new Problem(422, 'Too much to compute', e.message);
  if (e instanceof UnreadableEvent) return new Problem(409, 'Cannot be read', `This order’s record cannot be read: ${e.message}.`);
  if (isFull(e))
    return new Problem(
      503,
      'Disk full',
      'The disk of the shop’s computer is full: nothing can be recorded until there is room. What you typed is kept here and sent again.',
    );
  if (e instanceof PicturesAway)
    return new Problem(503, 'Out of reach', 'Pictures cannot be kept or read at this moment. Yours is kept on this device and sent again.');
  if (isPassing(e))
    return new Problem(503, 'Out of reach', 'The record is out of reach for a moment. What you typed is kept here and sent again.');
  const { type, status } = e as { type?: string; status?: number };
  if (type === 'entity.too.large') {
    const limit = (e as { limit?: number }).limit ?? 0;
    return new Problem(413, 'Too large', `That is larger than ${sayBytes(limit)}.`);
  }
  if (type === 'entity.parse.failed') return new Problem(400, 'Not JSON', 'What was sent is not JSON.');
  if (status && status >= 400 && status < 500) return new Problem(status, 'Not possible', 'The request could not be read.');
  return new Problem(
    500,
    'Our fault',
    `Something went wrong on the server. What you typed is kept here; try again, and tell the shop’s lead if it stays (fault ${id}).`,
    { id },
  );
}

/** Answers every error as a problem document and logs the ones that are ours, never to the client. */
export const problems =
  (log: Logger): ErrorRequestHandler =>
  (e, req, res, next) => {
    if (res.headersSent) return next(e);
    const request = res.locals.request as string;
    const p = toProblem(e, request);
    if (p.status === 500) log.error({ err: e as Error, request, method: req.method, path: req.path }, 'fault');
    else if (p.status === 503)
      log.warn({ request, code: (e as { code?: string }).code, said: (e as Error).message, path: req.path }, 'out of reach');
    if (p.status === 503) res.setHeader('Retry-After', '2');
    res
      .status(p.status)
      .type('application/problem+json')
      .json({ type: 'about:blank', title: p.title, status: p.status, detail: p.detail, ...p.more });
  };
