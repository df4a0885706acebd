import { describe, expect, it } from 'vitest';
import type { SystemState } from '#model/system';
import { howWell, sayBytes } from './well';

const NOW = new Date('2026-11-29T12:00:00Z');
const well: SystemState = {
  server: { version: '0.1.0', since: '2026-11-29T06:00:00.000Z', answered: 800, medianMs: 9, p95Ms: 70, faults: 0, screens: 3 },
  servers: [{ version: '0.1.0', since: '2026-11-29T06:00:00.000Z' }],
  database: { ready: true, node: null, nodes: 1, nodesWanted: 1 },
  disk: { freeBytes: 30 * 1024 ** 3, bytes: 100 * 1024 ** 3 },
  record: { orders: 38, events: 3027, pictures: 12 },
  backup: { at: '2026-11-29T02:00:00.000Z', bytes: 45 * 1024 ** 2, file: 'kadro-backup.tar.gz' },
  demo: false,
};
const of = (what: string, change: Partial<SystemState>) => howWell({ ...well, ...change }, NOW).find((l) => l.what === what)!;

describe('how a shop’s machines do', () => {
  it('says so where all is well, and asks for nothing', () => {
    const lines = howWell(well, NOW);
    expect(lines.every((l) => l.verdict === 'holds' && l.todo === null)).toBe(true);
    expect(lines.map((l) => l.says)).toEqual([
      '38 orders, 3,027 events and 12 pictures, on one database.',
      'The last one was written 10 hours ago: kadro-backup.tar.gz, 45 MB.',
      '30.0 GB of 100.0 GB are free.',
      'Of the last 800 answers, half came within 9 ms and 95 of 100 within 70 ms.',
      'None since this server started.',
      '1 server answers; 3 screens listen at this one.',
    ]);
  });
  it('has what is used of what may be, and never past it where all is well', () => {
    const margins = howWell(well, NOW).flatMap((l) => (l.margin ? [[l.what, l.margin]] : []));
    expect(margins).toEqual([
      ['Backup', { used: 10, limit: 26, unit: 'h' }],
      ['Disk', { used: 70, limit: 90, unit: 'GB' }],
      ['Answers', { used: 70, limit: 500, unit: 'ms' }],
    ]);
    for (const line of [
      of('Backup', { backup: { ...well.backup!, at: '2026-11-15T02:00:00.000Z' } }),
      of('Disk', { disk: { freeBytes: 1, bytes: 1024 ** 4 } }),
    ])
      expect(line.margin!.used).toBeGreaterThan(line.margin!.limit!);
    // of what is not known nothing is drawn
    expect([of('Backup', { backup: null }).margin, of('Disk', { disk: null }).margin]).toEqual([undefined, undefined]);
  });
  it.each([
    ['a backup of yesterday morning', 'Backup', { backup: { ...well.backup!, at: '2026-11-28T02:00:00.000Z' } }, 'tight'],
    ['one of two weeks ago', 'Backup', { backup: { ...well.backup!, at: '2026-11-15T02:00:00.000Z' } }, 'fails'],
    ['none at all', 'Backup', { backup: null }, 'fails'],
    ['none at all, of a demo', 'Backup', { backup: null, demo: true }, 'tight'],
    ['little room', 'Disk', { disk: { freeBytes: 6 * 1024 ** 3, bytes: 100 * 1024 ** 3 } }, 'tight'],
    ['next to no room', 'Disk', { disk: { freeBytes: 90 * 1024 ** 2, bytes: 100 * 1024 ** 3 } }, 'fails'],
    ['a disk elsewhere', 'Disk', { disk: null }, 'unknown'],
    ['slow answers', 'Answers', { server: { ...well.server, p95Ms: 900 } }, 'tight'],
    ['very slow answers', 'Answers', { server: { ...well.server, p95Ms: 4200 } }, 'fails'],
    ['a fault', 'Faults', { server: { ...well.server, faults: 1 } }, 'tight'],
    ['a database that does not answer', 'The record', { database: { ...well.database, ready: false } }, 'fails'],
    ['a node that is down', 'The record', { database: { ready: true, node: 'node-1', nodes: 2, nodesWanted: 3 } }, 'tight'],
    [
      'servers of two versions',
      'Servers',
      { servers: [well.servers[0]!, { version: '0.2.0', since: '2026-11-29T07:00:00.000Z' }] },
      'tight',
    ],
  ] as const)('%s', (_name, what, change, verdict) => {
    const line = of(what, change as Partial<SystemState>);
    expect(line.verdict).toBe(verdict);
    expect(line.todo).not.toBeNull();
    // what needs a hand stands first
    expect(howWell({ ...well, ...(change as Partial<SystemState>) }, NOW)[0]).toEqual(line);
  });
  it('says what one node more would cost, by how many are left', () => {
    expect(of('The record', { database: { ready: true, node: 'a', nodes: 2, nodesWanted: 3 } }).todo).toContain(
      'nothing could be recorded',
    );
    expect(of('The record', { database: { ready: true, node: 'a', nodes: 4, nodesWanted: 5 } }).todo).toContain('another one may still go');
  });
  it('does not judge speed by a handful of answers', () => {
    expect(of('Answers', { server: { ...well.server, answered: 3, p95Ms: 9000 } }).verdict).toBe('holds');
  });
  it.each([
    [512, '1 kB'],
    [5 * 1024 ** 2, '5 MB'],
    [1.44 * 1024 ** 3, '1.4 GB'],
  ])('%i bytes are %s', (b, says) => expect(sayBytes(b)).toBe(says));
});
