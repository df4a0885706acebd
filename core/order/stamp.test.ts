import { describe, expect, it } from 'vitest';
import { demoOrder } from '../../tests/demo-sheets';
import { DEFAULT_SETTINGS } from '#model/settings';
import { assess } from './assess';
import { applyEvent } from './reduce';
import { stampAfter } from './stamp';

describe('what a device records', () => {
  it('stands after what was done before it, with its clock behind, so that steps never change places', () => {
    const { order, sheets } = demoOrder('drover-4', ['front-harness', 'roof-bar']);
    const ids = assess(order, sheets, DEFAULT_SETTINGS)
      .steps.slice(0, 3)
      .map((s) => s.id);
    let o = order;
    for (const [i, step] of ids.entries()) {
      // the first by the record's clock, the others by one that is an hour behind
      const clock = new Date(Date.UTC(2026, 10, 26, i ? 7 : 8, i)).toISOString();
      const body = { type: 'step.skipped' as const, step, title: step, reason: 'x', next: null };
      o = applyEvent(o, o.id, { seq: o.version + 1, at: stampAfter(o, clock), by: 'tor', body, prevHash: '', hash: '' });
    }
    expect(
      assess(o, sheets, DEFAULT_SETTINGS)
        .steps.slice(0, 3)
        .map((s) => s.id),
    ).toEqual(ids);
  });
  it('keeps its own moment where that is later', () => {
    const { order } = demoOrder('drover-4', ['roof-bar']);
    expect(stampAfter(order, '2026-11-26T08:00:00.000Z')).toBe('2026-11-26T08:00:00.000Z');
  });
});
