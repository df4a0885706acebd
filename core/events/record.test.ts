import { describe, expect, it } from 'vitest';
import { demoOrder } from '../../tests/demo-sheets';
import { DEFAULT_SETTINGS } from '#model/settings';
import { assess } from '../order/assess';
import { applyEvent } from './apply';
import { doneAtOf, hashedPart, UnreadableEvent, upToDate, type StoredEvent } from './record';

describe('when something was done', () => {
  it('what one person does stands after what they did before, with their clock behind, so that steps never change places', () => {
    const { order, sheets } = demoOrder('drover-4', ['front-harness', 'roof-bar']);
    const ids = assess(order, sheets, DEFAULT_SETTINGS)
      .steps.slice(0, 3)
      .map((s) => s.id);
    let o = order;
    for (const [i, step] of ids.entries()) {
      // the first by a clock that is right, the others by one that was set back an hour
      const clock = new Date(Date.UTC(2026, 10, 26, i ? 7 : 8, i)).toISOString();
      const body = { type: 'step.skipped' as const, step, title: step, reason: 'x', next: null };
      const doneAt = doneAtOf(clock, '2026-11-26T09:00:00.000Z', 'tor', o);
      o = applyEvent(o, o.id, { seq: o.version + 1, doneAt, by: 'tor', body });
    }
    expect(
      assess(o, sheets, DEFAULT_SETTINGS)
        .steps.slice(0, 3)
        .map((s) => s.id),
    ).toEqual(ids);
  });
  it('keeps the device’s moment, never after it was received or before the order was opened', () => {
    const { order } = demoOrder('drover-4', ['roof-bar']);
    const received = '2026-11-26T10:00:00.000Z';
    expect(doneAtOf('2026-11-26T08:00:00.000Z', received, 'tor', order)).toBe('2026-11-26T08:00:00.000Z');
    expect(doneAtOf('2026-11-26T11:00:00.000Z', received, 'tor', order)).toBe(received);
    expect(doneAtOf('1999-01-01T00:00:00.000Z', received, 'maud', order)).toBe(order.openedAt);
    expect(doneAtOf(null, received, 'maud', order)).toBe(received);
  });
  it('a step takes as long as it took, however much later it was received', () => {
    const { order } = demoOrder('drover-4', ['roof-bar']);
    const start = { type: 'step.started' as const, step: 'safe/rest', title: 'x' };
    const done = { type: 'step.done' as const, step: 'safe/rest', title: 'x', next: null, counts: null, affirmed: [], took: [] };
    const received = '2026-11-26T17:00:00.000Z';
    let o = order;
    for (const [body, at] of [
      [start, '2026-11-26T08:00:00.000Z'],
      [done, '2026-11-26T08:07:00.000Z'],
    ] as const)
      o = applyEvent(o, o.id, { seq: o.version + 1, doneAt: doneAtOf(at, received, 'tor', o), by: 'tor', body });
    expect(o.steps['safe/rest']!.seconds).toBe(420);
  });
});

describe('what was recorded long ago', () => {
  const zero = '0'.repeat(64);
  const stored = (version: number, body: StoredEvent['body']): StoredEvent => ({
    seq: 3,
    version,
    doneAt: '2026-03-02T08:00:00.000Z',
    recordedAt: '2026-03-02T08:00:00.000Z',
    by: 'tor',
    body,
    prevHash: zero,
    hash: zero,
  });
  const reading = {
    type: 'reading.taken',
    step: 'safe/rest',
    reading: 'rest',
    label: 'Battery',
    value: 12.6,
    expected: { low: 12, high: 13, unit: 'V', why: '' },
    verdict: 'holds',
  };
  it('a reading from before origins were kept is read as one whose origin nobody told', () => {
    expect(upToDate(stored(0, reading)).body).toMatchObject({ value: 12.6, origin: { how: 'untold' } });
    expect(upToDate(stored(1, reading)).body).toMatchObject({ origin: { how: 'untold' } });
  });
  it('what is damaged, of a newer version or of an unknown kind is refused by its number, never guessed', () => {
    expect(() => upToDate(stored(2, reading))).toThrow(/event 3 \(reading.taken\) is damaged: origin/);
    expect(() => upToDate(stored(5, { ...reading, origin: { how: 'typed' } }))).toThrow(/newer version/);
    expect(() => upToDate(stored(1, { type: 'order.burnt' }))).toThrow(UnreadableEvent);
    expect(() => upToDate(stored(1, { type: 'timer.stopped', more: 1 }))).toThrow(/damaged/);
  });
  it('its hash is taken as it was then', () => {
    expect(Object.keys(hashedPart('o1', stored(0, reading)))).toEqual(['orderId', 'seq', 'at', 'by', 'body', 'prevHash']);
    expect(hashedPart('o1', stored(2, reading))).toMatchObject({ version: 2, doneAt: expect.any(String), recordedAt: expect.any(String) });
  });
});
