import type { Margin, Verdict } from '#model/common';
import type { SystemState } from '#model/system';
import { RANK } from '../verdict';

/** One thing that an owner wants to know of the shop's machines: how it is, and what to do where it is not well. */
export interface WellLine {
  what: string;
  verdict: Verdict;
  says: string;
  /** what to do; null where nothing is */
  todo: string | null;
  /** what is used of what may be, where that has figures */
  margin?: Margin;
}

/** Common practice, no source: when each is worth a thought, and when it is wrong. */
const BACKUP_OLD_H = 26;
const BACKUP_TOO_OLD_H = 7 * 24;
const DISK_TIGHT = 0.1;
const DISK_LEAST_BYTES = 500 * 1024 ** 2;
const SLOW_MS = 500;
const TOO_SLOW_MS = 2000;
const FEW = 20;

const many = (n: number, one: string, more = `${one}s`): string => `${n.toLocaleString('en-US')} ${n === 1 ? one : more}`;
const ms = (x: number): string => (x >= 1000 ? `${(x / 1000).toFixed(1)} s` : `${Math.max(1, Math.round(x))} ms`);
/** Bytes as a person reads them: `1.4 GB`. */
export const sayBytes = (b: number): string =>
  b >= 1024 ** 3
    ? `${(b / 1024 ** 3).toFixed(1)} GB`
    : b >= 1024 ** 2
      ? `${Math.round(b / 1024 ** 2)} MB`
      : `${Math.max(1, Math.round(b / 1024))} kB`;
const ago = (h: number): string =>
  h < 1 ? 'less than an hour ago' : h < 48 ? `${many(Math.floor(h), 'hour')} ago` : `${Math.floor(h / 24)} days ago`;

/**
 * How the shop's machines do, in words, what needs a hand first.
 * @param now when it is asked, by the clock of the server
 */
export function howWell(s: SystemState, now: Date): WellLine[] {
  const lines = [record(s), backup(s, now), disk(s), speed(s), faults(s), servers(s)];
  return lines.sort((a, b) => RANK[b.verdict] - RANK[a.verdict]);
}

function record({ database: d, record: r }: SystemState): WellLine {
  const holds = `${many(r.orders, 'order')}, ${many(r.events, 'event')} and ${many(r.pictures, 'picture')}`;
  const what = 'The record';
  if (!d.ready)
    return {
      what,
      verdict: 'fails',
      says: 'The database does not answer.',
      todo: 'Look where it runs; nothing that was acknowledged is lost.',
    };
  if (d.nodes < d.nodesWanted)
    return {
      what,
      // half of what there should be is no quorum
      verdict: 'tight',
      says: `${holds}, on ${d.nodes} of ${d.nodesWanted} databases.`,
      todo: `Start the one that is missing: ${(d.nodes - 1) * 2 > d.nodes ? 'another one may still go' : 'were another one gone, nothing could be recorded'}.`,
    };
  return {
    what,
    verdict: 'holds',
    says: d.nodes > 1 ? `${holds}, the same on ${d.nodes} databases.` : `${holds}, on one database.`,
    todo: null,
  };
}

function backup({ backup: b, demo }: SystemState, now: Date): WellLine {
  const what = 'Backup';
  const todo = 'npm run backup, every night, onto another machine.';
  if (!b)
    return { what, verdict: demo ? 'tight' : 'fails', says: 'None was ever written.', todo: demo ? 'None is needed of a demo.' : todo };
  const hours = (now.getTime() - Date.parse(b.at)) / 3_600_000;
  const line = {
    what,
    says: `The last one was written ${ago(hours)}: ${b.file}, ${sayBytes(b.bytes)}.`,
    margin: { used: Math.floor(Math.max(0, hours)), limit: BACKUP_OLD_H, unit: 'h' },
  };
  if (hours > BACKUP_TOO_OLD_H) return { ...line, verdict: 'fails', todo };
  return hours > BACKUP_OLD_H ? { ...line, verdict: 'tight', todo } : { ...line, verdict: 'holds', todo: null };
}

function disk({ disk: d }: SystemState): WellLine {
  const what = 'Disk';
  if (!d)
    return {
      what,
      verdict: 'unknown',
      says: 'Where the record is kept is not this server’s disk.',
      todo: 'Look at the machine of the database.',
    };
  const line = {
    what,
    says: `${sayBytes(d.freeBytes)} of ${sayBytes(d.bytes)} are free.`,
    margin: {
      used: (d.bytes - d.freeBytes) / 1024 ** 3,
      limit: (d.bytes - Math.max(DISK_LEAST_BYTES, DISK_TIGHT * d.bytes)) / 1024 ** 3,
      unit: 'GB',
    },
  };
  if (d.freeBytes < DISK_LEAST_BYTES)
    return { ...line, verdict: 'fails', todo: 'Make room now: when it is full, nothing can be recorded until there is some.' };
  return d.freeBytes / d.bytes < DISK_TIGHT
    ? { ...line, verdict: 'tight', todo: 'Make room soon.' }
    : { ...line, verdict: 'holds', todo: null };
}

function speed({ server: s }: SystemState): WellLine {
  const what = 'Answers';
  if (s.medianMs === null || s.p95Ms === null || s.answered < FEW)
    return { what, verdict: 'holds', says: `${many(s.answered, 'answer')} so far: too few to say how quick they are.`, todo: null };
  const line = {
    what,
    says: `Of the last ${many(s.answered, 'answer')}, half came within ${ms(s.medianMs)} and 95 of 100 within ${ms(s.p95Ms)}.`,
    margin: { used: Math.ceil(s.p95Ms), limit: SLOW_MS, unit: 'ms' },
  };
  if (s.p95Ms <= SLOW_MS) return { ...line, verdict: 'holds', todo: null };
  return {
    ...line,
    verdict: s.p95Ms > TOO_SLOW_MS ? 'fails' : 'tight',
    todo: 'Look what else this machine is doing; slow answers are in the log at the level “info”.',
  };
}

function faults({ server: s }: SystemState): WellLine {
  const what = 'Faults';
  if (!s.faults) return { what, verdict: 'holds', says: 'None since this server started.', todo: null };
  return {
    what,
    verdict: 'tight',
    says: `${many(s.faults, 'answer')} since this server started ${s.faults === 1 ? 'was a fault' : 'were faults'} of its own.`,
    todo: 'Each screen that met one says its id; the log has the same id with what went wrong.',
  };
}

function servers({ server, servers: all }: SystemState): WellLine {
  const what = 'Servers';
  const versions = new Set(all.map((x) => x.version));
  const says = `${many(all.length, 'server')} answer${all.length === 1 ? 's' : ''}; ${many(server.screens, 'screen')} listen${server.screens === 1 ? 's' : ''} at this one.`;
  if (versions.size > 1)
    return {
      what,
      verdict: 'tight',
      says: `${says} They are of different versions: ${[...versions].sort().join(', ')}.`,
      todo: 'Bring all to the newest.',
    };
  return { what, verdict: 'holds', says, todo: null };
}
