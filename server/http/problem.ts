import type { ErrorRequestHandler } from 'express';
import { z } from 'zod';
import type { Logger } from 'pino';
import { Refused } from '#core/order/decide';
import { ImpossibleInput } from '#core/errors';
import { isGone } from '../store/db';
import { StaleVersion } from '../store/orders';

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

export const ProblemDocument = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  detail: z.string(),
  fields: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
});

const REFUSED = { role: [403, 'Not yours to do'], state: [409, 'Not now'], input: [422, 'Not possible'] } as const;

function toProblem(e: unknown): Problem {
  if (e instanceof Problem) return e;
  if (e instanceof z.ZodError) {
    const fields = e.issues.map((i) => ({
      path: i.path.join('.'),
      message:
        i.code === 'unrecognized_keys'
          ? `“${i.keys[0]}” is not a field here`
          : i.code === 'invalid_type' && i.input === undefined
            ? 'is needed'
            : i.message.replace(/^Invalid input: /, ''),
    }));
    const f = fields[0]!;
    return new Problem(422, 'Not possible', f.path ? `${f.path}: ${f.message}` : f.message, { fields });
  }
  if (e instanceof Refused)
    return new Problem(REFUSED[e.why][0], REFUSED[e.why][1], e.message, e.path ? { fields: [{ path: e.path, message: e.message }] } : {});
  if (e instanceof ImpossibleInput)
    return new Problem(422, 'Not possible', e.message, e.path ? { fields: [{ path: e.path, message: e.message }] } : {});
  if (e instanceof StaleVersion)
    return new Problem(
      409,
      'Changed meanwhile',
      `Somebody changed this order while you had it open. Yours is kept; look at both and choose.`,
      {
        stale: true,
        current: e.current,
        clashing: e.clashing.map((x) => ({ seq: x.seq, at: x.at, by: x.by, body: x.body })),
      },
    );
  if (isGone(e))
    return new Problem(503, 'Out of reach', 'The record is out of reach for a moment. What you typed is kept here and sent again.');
  const { type, status } = e as { type?: string; status?: number };
  if (type === 'entity.too.large')
    return new Problem(413, 'Too large', `That is larger than ${Math.round(((e as { limit?: number }).limit ?? 0) / 1024 ** 2) || 2} MB.`);
  if (type === 'entity.parse.failed') return new Problem(400, 'Not JSON', 'What was sent is not JSON.');
  if (status && status >= 400 && status < 500) return new Problem(status, 'Not possible', 'The request could not be read.');
  return new Problem(
    500,
    'Our fault',
    'Something went wrong on the server. What you typed is kept here; try again, and tell the shop’s lead if it stays.',
  );
}

/** Answers every error as a problem document and logs the ones that are ours, never to the client. */
export const problems =
  (log: Logger): ErrorRequestHandler =>
  (e, req, res, next) => {
    if (res.headersSent) return next(e);
    const p = toProblem(e);
    if (p.status === 500) log.error({ err: e as Error, path: req.path }, 'unexpected');
    if (p.status === 503) res.setHeader('Retry-After', '2');
    res
      .status(p.status)
      .type('application/problem+json')
      .json({ type: 'about:blank', title: p.title, status: p.status, detail: p.detail, ...p.more });
  };
