import { randomBytes } from 'node:crypto';
import type { RequestHandler } from 'express';
import type { Logger } from 'pino';
import { Counter, Gauge, Histogram, Registry } from 'prom-client';
import type { SystemState } from '#model/system';
import { VERSION } from '../version';
import type { Directory } from '../store/db';
import { nodeState } from '../store/node';
import { tries } from '../store/tries';

/** Of so many answers the owner is told how long they took. */
const LATELY = 2000;
/** Answers that took longer than this are in the log, ms. */
const SLOW_MS = 2000;
/** Where the counts of a histogram are kept apart, seconds: about what a screen, a command and a computation are asked to take. */
const BUCKETS = [0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10];

const ASKS: ReadonlySet<string> = new Set(['/api/live', '/api/ready', '/api/health', '/api/metrics', '/api/system', 'none']);

/** An id that somebody in front gave, if it is one that can be read out. */
const given = (header: unknown): string | null => (typeof header === 'string' && /^[\w-]{4,64}$/.test(header) ? header : null);

/** Gives every request an id that a person can read out: its answer says it, and so does the log. */
export const named: RequestHandler = (req, res, next) => {
  const id = given(req.headers['x-request-id']) ?? randomBytes(4).toString('hex');
  res.locals.request = id;
  res.set('X-Request-Id', id);
  next();
};

/** What is counted of one server, as OpenMetrics has it. */
export class Watch {
  private readonly registry = new Registry<'application/openmetrics-text; version=1.0.0; charset=utf-8'>();
  private readonly seconds: Histogram<'method' | 'route' | 'status'>;
  private readonly open: Gauge;
  private readonly since = new Date();
  /** how long the last answers took, ms, round and round */
  private readonly took: number[] = [];
  private answered = 0;
  private faults = 0;

  constructor(
    private readonly log: Logger,
    directory: Directory,
    private readonly streams: () => number,
    waiting: () => number,
  ) {
    this.registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE);
    const registers = [this.registry];
    this.seconds = new Histogram({
      name: 'kadro_request_seconds',
      help: 'How long requests took, by route and kind of answer',
      labelNames: ['method', 'route', 'status'],
      buckets: BUCKETS,
      registers,
    });
    this.open = new Gauge({ name: 'kadro_requests_open', help: 'Requests that are being answered', registers });
    const now = (name: string, help: string, read: () => number) =>
      new Gauge({
        name,
        help,
        registers,
        collect() {
          this.set(read());
        },
      });
    now('kadro_streams_open', 'Screens that listen for news', streams);
    now('kadro_work_waiting', 'Computations that wait for a worker', waiting);
    now('kadro_memory_bytes', 'Memory that the server holds', () => process.memoryUsage.rss());
    const faults = () => this.faults;
    new Counter({
      name: 'kadro_faults',
      help: 'Answers that were a fault of the server',
      registers,
      collect() {
        this.reset();
        this.inc(faults());
      },
    });
    new Counter({
      name: 'kadro_database_again',
      help: 'What was asked of the database again, by why',
      labelNames: ['why'],
      registers,
      collect() {
        this.reset();
        for (const [why, n] of tries.counts()) this.inc({ why }, n);
      },
    });
    new Gauge({
      name: 'kadro_database_node',
      help: 'The database that this server asks: nodes it sees, whether it is ready, and how much waits to be taken in',
      labelNames: ['what'],
      registers,
      async collect() {
        const s = await nodeState(directory).catch(() => null);
        this.set({ what: 'ready' }, s?.ready ? 1 : 0);
        if (!s) return;
        this.set({ what: 'nodes' }, s.nodes);
        this.set({ what: 'waiting' }, s.waiting);
      },
    });
  }

  /** Counts a request, and how long its answer took. */
  readonly each: RequestHandler = (req, res, next) => {
    const began = performance.now();
    this.open.inc();
    res.on('close', () => {
      this.open.dec();
      const ms = performance.now() - began;
      // by its pattern: an order’s own address would make a row of its own
      const route = String((req.route as { path?: unknown } | undefined)?.path ?? 'none');
      if (route === '/api/stream') return;
      this.seconds.observe({ method: req.method, route, status: `${Math.floor(res.statusCode / 100)}xx` }, ms / 1000);
      if (res.statusCode === 500) this.faults++;
      // what asks how well it is does not count as work
      if (!ASKS.has(route)) this.took[this.answered++ % LATELY] = ms;
      if (ms > SLOW_MS)
        this.log.info(
          { request: res.locals.request as string, method: req.method, path: req.path, status: res.statusCode, ms: Math.round(ms) },
          'slow',
        );
    });
    next();
  };

  /** How this server did lately. */
  lately(): SystemState['server'] {
    const sorted = [...this.took].sort((a, b) => a - b);
    const at = (share: number) => sorted[Math.floor(sorted.length * share)] ?? null;
    return {
      version: VERSION,
      since: this.since.toISOString(),
      answered: sorted.length,
      medianMs: at(0.5),
      p95Ms: at(0.95),
      faults: this.faults,
      screens: this.streams(),
    };
  }

  /** All counts in the OpenMetrics text format. */
  async text(): Promise<{ type: string; text: string }> {
    return { type: this.registry.contentType, text: await this.registry.metrics() };
  }
}
