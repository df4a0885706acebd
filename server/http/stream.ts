import type { Request, RequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import { rows, type Shop } from '../store/db';
import { stillSignedIn } from '../store/sessions';
import { Problem } from './problem';
import { tokenOf } from './session';

const LOOK_MS = 700;
const KEEP_ALIVE_MS = 20_000;
/** How long a stream outlives the session it was opened with, at most. */
const SESSIONS_MS = 5000;
/**
 * What was committed a little late, or written at a node whose clock is an hour off, is seen all the same: the database's clocks
 * count, and what was told already is not told again.
 */
const WINDOW_S = 3660;
const MOST_STREAMS = 500;

/**
 * Server-sent events that tell one shop’s open screens which orders changed. What changed is read from the record, not from
 * this process, so that screens on different servers hear of each other.
 */
export class Stream {
  private readonly screens = new Map<Response, string>();
  /** the newest version of each order that was told, or stood when nobody listened */
  private told: Map<string, number> | null = null;
  private looking = false;
  private readonly timers: NodeJS.Timeout[] = [];

  constructor(
    private readonly shop: Shop,
    private readonly log: Logger,
  ) {
    this.timers.push(
      setInterval(() => void this.look(), LOOK_MS),
      setInterval(() => this.screens.forEach((_t, s) => s.write(': still here\n\n')), KEEP_ALIVE_MS),
      setInterval(() => void this.checkSessions(), SESSIONS_MS),
    );
    this.timers.forEach((t) => t.unref());
  }

  readonly handler: RequestHandler = (req: Request, res) => {
    const token = tokenOf(req.headers.cookie);
    if (!res.locals.person || !token) throw new Problem(401, 'Sign in', 'Sign in first: your session is over.');
    if (this.screens.size >= MOST_STREAMS) throw new Problem(429, 'Too many screens', 'Too many screens are open: close one.');
    res.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    // a head has no body that could go on
    if (req.method === 'HEAD') return void res.end();
    res.write('retry: 1500\n\n');
    this.screens.set(res, token);
    res.on('close', () => this.screens.delete(res));
  };

  /** How many screens listen. */
  readonly open = (): number => this.screens.size;

  /** Ends the streams of a session that is over. */
  readonly end = (token: string): void => {
    for (const [s, t] of this.screens) if (t === token) s.end();
  };

  private async checkSessions(): Promise<void> {
    const tokens = [...new Set(this.screens.values())];
    if (!tokens.length) return;
    try {
      const good = await stillSignedIn(this.shop, tokens);
      tokens.filter((t) => !good.has(t)).forEach(this.end);
    } catch (e) {
      this.log.warn({ code: (e as { code?: string }).code }, 'could not look after sessions');
    }
  }

  /** Looks for news now instead of at the next beat. */
  readonly look = async (): Promise<void> => {
    if (this.looking) return;
    if (!this.screens.size) {
      this.told = null;
      return;
    }
    this.looking = true;
    try {
      const now = await rows<{ id: string; version: number }>(
        this.shop,
        `SELECT id, version FROM orders WHERE touched >= NOW(3) - INTERVAL ${WINDOW_S} SECOND`,
      );
      const told = this.told;
      if (told)
        for (const { id, version } of now) {
          if ((told.get(id) ?? 0) >= version) continue;
          const line = `event: order\ndata: ${JSON.stringify({ id, version })}\n\n`;
          this.screens.forEach((_t, s) => s.write(line));
        }
      // an order that was not touched for so long need not be remembered
      this.told = new Map(now.map((o) => [o.id, Math.max(o.version, told?.get(o.id) ?? 0)]));
    } catch (e) {
      this.log.warn({ code: (e as { code?: string }).code }, 'could not look for news');
    } finally {
      this.looking = false;
    }
  };

  close(): void {
    this.timers.forEach(clearInterval);
    this.screens.forEach((_t, s) => s.end());
  }
}
