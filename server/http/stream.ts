import type { RequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import { rows, type Db } from '../store/db';
import { Problem } from './problem';

const LOOK_MS = 700;
/** an event with a lower number may be committed a little after one with a higher number: the last few are looked at again */
const OVERLAP = 64;
const KEEP_ALIVE_MS = 20_000;

/**
 * Server-sent events that tell open screens which orders changed. What changed is read from the record, not from this
 * process, so that screens on different servers hear of each other.
 */
export class Stream {
  private readonly screens = new Set<Response>();
  private seen: number | null = null;
  private readonly told = new Set<number>();
  private looking = false;
  private readonly timers: NodeJS.Timeout[] = [];

  constructor(
    private readonly db: Db,
    private readonly log: Logger,
  ) {
    this.timers.push(
      setInterval(() => void this.look(), LOOK_MS),
      setInterval(() => this.screens.forEach((s) => s.write(': still here\n\n')), KEEP_ALIVE_MS),
    );
    this.timers.forEach((t) => t.unref());
  }

  readonly handler: RequestHandler = (req, res) => {
    if (!res.locals.person) throw new Problem(401, 'Sign in', 'Sign in first: your session is over.');
    res.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    res.write('retry: 1500\n\n');
    this.screens.add(res);
    req.on('close', () => this.screens.delete(res));
  };

  /** Looks for new events now instead of at the next beat. */
  readonly look = async (): Promise<void> => {
    if (this.looking || !this.screens.size) {
      if (!this.screens.size) this.seen = null;
      return;
    }
    this.looking = true;
    try {
      if (this.seen === null) {
        this.seen = (await rows<{ id: number | null }>(this.db, 'SELECT MAX(id) id FROM order_events'))[0]?.id ?? 0;
        for (let id = this.seen - OVERLAP; id <= this.seen; id++) this.told.add(id);
        return;
      }
      const news = await rows<{ id: number; order_id: string; seq: number; by_person: string }>(
        this.db,
        'SELECT id, order_id, seq, by_person FROM order_events WHERE id > ? ORDER BY id LIMIT 500',
        [this.seen - OVERLAP],
      );
      for (const n of news) {
        if (this.told.has(n.id)) continue;
        this.told.add(n.id);
        this.seen = Math.max(this.seen, n.id);
        const line = `event: order\ndata: ${JSON.stringify({ id: n.order_id, version: n.seq, by: n.by_person })}\n\n`;
        this.screens.forEach((s) => s.write(line));
      }
      for (const id of this.told) if (id <= this.seen - OVERLAP) this.told.delete(id);
    } catch (e) {
      this.log.warn({ code: (e as { code?: string }).code }, 'could not look for news');
    } finally {
      this.looking = false;
    }
  };

  close(): void {
    this.timers.forEach(clearInterval);
    this.screens.forEach((s) => s.end());
  }
}
