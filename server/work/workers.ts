import { randomUUID } from 'node:crypto';
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { ImpossibleInput } from '#core/errors';
import { Refused } from '#core/events/decide';
import type { Failure } from './failure';
import type { TaskInput, TaskName, TaskOutput } from './tasks';

/** Too much was asked for at once, or one thing took too long: the request’s fault, in words for who asked. */
export class TooMuch extends Error {
  override readonly name = 'TooMuch';
  constructor(
    readonly why: 'busy' | 'long' | 'slow',
    message: string,
  ) {
    super(message);
  }
}

export interface RunOptions {
  /** ends the work when its request is gone */
  signal?: AbortSignal;
  /** for whom: one person’s work never fills the queue of all */
  person?: string;
}

/** Whatever computes for the server: a pool of threads, or this thread where nobody else waits. */
export interface Workers {
  run<N extends TaskName>(name: N, input: TaskInput<N>, options?: RunOptions): Promise<TaskOutput<N>>;
  /** settles once what people record is computed without waiting for a thread to begin */
  ready(): Promise<unknown>;
  /** how much waits for its turn */
  waiting(): number;
  close(): Promise<void>;
}

/** What is recorded, what is calculated for somebody, and what is put on paper do not wait for one another. */
type Lane = 'record' | 'calc' | 'paper';
/** Time that a task may take from when it was asked for, ms, and its lane. */
interface Limit {
  ms: number;
  lane: Lane;
}
/** A calculation asked for by anybody signed in ends within this; those that search answer with their bound a little before. */
export const CALC_MS = 800;
const USUAL: Limit = { ms: 12_000, lane: 'record' };
const LIMITS: Partial<Record<TaskName, Limit>> = {
  calc: { ms: CALC_MS, lane: 'calc' },
  // an order has its paper on a machine that is slow for a moment too
  paper: { ms: 30_000, lane: 'paper' },
  // what is searched ends by itself long before this; the machine may be slow
  week: { ms: 30_000, lane: 'paper' },
  soonest: { ms: 20_000, lane: 'paper' },
  checkSheet: { ms: 5000, lane: 'paper' },
  readPicture: { ms: 5000, lane: 'paper' },
};

/** Of these nobody can ask for less. */
const NOT_LESS: ReadonlySet<TaskName> = new Set(['readPicture', 'week', 'soonest', 'supply']);

const MEMORY_MB = 512;
const MOST_WAITING = 64;
/** Heavy tasks that one person has under way at once. */
const MOST_OF_ONE = 6;

/**
 * Threads load their module by import alone: Node 20 ends the whole process where a thread is ended while it loads a module by
 * `require`.
 */
const THREAD_FLAGS = ['--no-experimental-require-module'].filter((f) => process.allowedNodeEnvironmentFlags.has(f));

/** What a thread answered, given back as what it threw there. */
function unwrap<T>(r: { value: T } | { failure: Failure }): T {
  if ('value' in r) return r.value;
  const { name, message, why, path, stack } = r.failure;
  if (name === 'Refused') throw new Refused(message, why, path);
  if (name === 'ImpossibleInput') throw new ImpossibleInput(message, path);
  const e = new Error(message);
  e.name = name;
  e.stack = stack ?? e.stack;
  throw e;
}

/**
 * A pool of threads in lanes: what is recorded is never behind somebody’s calculation, and gets the processor first. A task that takes too long, or too
 * much memory, or whose request is gone, is ended with its thread; another thread takes its place.
 */
export function startWorkers(file: string, calcFile: string): Workers {
  const threads = Math.max(2, Math.min(4, availableParallelism()));
  const lane = (filename: string, nice: number, least: number, most: number) =>
    new Piscina({
      workerData: { nice },
      execArgv: [...process.execArgv, ...THREAD_FLAGS],
      filename,
      minThreads: least,
      maxThreads: most,
      idleTimeout: 60_000,
      maxQueue: MOST_WAITING,
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
    });
  const open: Record<Lane, () => Piscina> = {
    record: () => lane(file, 0, 1, threads - 1),
    // a calculation that was ended leaves a thread to be started: another is there already
    calc: () => lane(calcFile, 10, 2, Math.max(2, threads - 1)),
    paper: () => lane(file, 5, 1, threads - 1),
  };
  const pools: Partial<Record<Lane, Piscina>> = {};
  const pool = (name: Lane): Piscina => (pools[name] ??= open[name]());
  // to begin a thread takes all of a processor for a second: those without which nobody can record come first, by themselves
  let closing = false;
  const begun = pool('record')
    .run({ name: 'checkSheet', input: { text: '' }, until: Infinity })
    .catch(() => undefined)
    .then(() => void (closing || (pool('calc'), pool('paper'))));
  const underWay = new Map<string, number>();
  return {
    async run(name, input, { signal, person } = {}) {
      const limit = LIMITS[name] ?? USUAL;
      const who = limit.lane === 'record' ? '' : `${limit.lane} ${person ?? randomUUID()}`;
      if (who && (underWay.get(who) ?? 0) >= MOST_OF_ONE)
        throw new TooMuch('busy', 'You have asked for several things at once: wait for one of them, then ask again.');
      if (who) underWay.set(who, (underWay.get(who) ?? 0) + 1);
      const asked = Date.now();
      // one controller that is held on to: joined signals may be collected before they tell
      const ender = new AbortController();
      const end = () => ender.abort();
      const timer = setTimeout(end, limit.ms);
      if (signal?.aborted) end();
      signal?.addEventListener('abort', end, { once: true });
      try {
        const r = await pool(limit.lane).run({ name, input, until: asked + limit.ms }, { signal: ender.signal });
        return unwrap(r as { value: TaskOutput<typeof name> } | { failure: Failure });
      } catch (e) {
        const { name: kind, message, code } = e as Error & { code?: string };
        // what is recorded is never too much: the machine is, for a moment, or the server is stopping
        if ((kind === 'AbortError' && (limit.lane === 'record' || NOT_LESS.has(name))) || /Terminating worker/.test(message))
          throw new TooMuch('slow', 'The server has too much to do for a moment. What you typed is kept here and sent again.');
        if (kind === 'AbortError')
          throw new TooMuch('long', 'That takes too long to compute here: ask for less of it, or use the command on your own machine.');
        if (/queue/i.test(message) && /(limit|at maximum|full)/i.test(message))
          throw new TooMuch('busy', 'Too much is being computed just now: ask again in a moment.');
        if (code === 'ERR_WORKER_OUT_OF_MEMORY')
          throw new TooMuch('long', 'That takes too much memory to compute here: ask for less of it.');
        throw e;
      } finally {
        clearTimeout(timer);
        signal?.removeEventListener('abort', end);
        if (who) {
          const left = underWay.get(who)! - 1;
          if (left) underWay.set(who, left);
          else underWay.delete(who);
        }
      }
    },
    ready: () => begun,
    waiting: () => Object.values(pools).reduce((n, p) => n + p.queueSize, 0),
    async close() {
      closing = true;
      await Promise.all(Object.values(pools).map((p) => p.destroy()));
    },
  };
}
