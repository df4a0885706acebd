import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { makeSheet } from '../archetype/make-sheet';
import { decide } from '../events/decide';
import { applyEvent } from '../events/apply';
import type { OrderCommand } from '../events/registry';
import { assess } from '../order/assess';
import { study } from './study';
import { openValues } from './values';

const model = makeSheet(
  { body: 'side-by-side-2-open', maker: 'Hollin', name: 'Ridge', year: 2024, figures: {} },
  { at: '2026-03-02T08:00:00.000Z', by: 'tor' },
);
const { order: first, sheets: demo } = demoOrder('drover-2', ['roof-bar']);
const sheets = { ...demo, model };
const order = { ...first, unit: { ...first.unit, build: model.builds[0]!.id, year: 2024 } };
const DRAWS = 64;

const ask = (command: OrderCommand, o = order) => {
  const assessment = assess(o, sheets, DEFAULT_SETTINGS);
  const body = decide(command, o, { role: 'installer', sheets, settings: DEFAULT_SETTINGS, assessment, by: 'tor', known: {} });
  return applyEvent(o, o.id, { seq: o.version + 1, doneAt: '2026-03-02T12:00:00.000Z', by: 'tor', body });
};

describe('an order on a unit that is known only by its kind', () => {
  const s = study(order, sheets, DEFAULT_SETTINGS, new Set(), DRAWS);
  const idle = s.questions.find((q) => q.id === 'power/idle')!;
  it('says what holds whatever it is, and what does not', () => {
    expect(s.assumed).toBe(openValues(model).length);
    expect(idle.open).toBe(true);
    expect(s.questions.find((q) => q.id === 'power/parked')).toMatchObject({ open: false, share: 1 });
  });
  it('names at most three values that would settle most, with what must come off first, and no other', () => {
    expect(s.next.length).toBeGreaterThan(0);
    expect(s.next.length).toBeLessThanOrEqual(3);
    const source = s.next.find((m) => m.pointer === '/electrical/source/curve')!;
    expect(source.off).toEqual(['Front seats']);
    expect(source.minutesNow).toBeGreaterThan(source.minutes);
    const open = study(order, sheets, DEFAULT_SETTINGS, new Set(['seats-front']), DRAWS);
    expect(open.next.find((m) => m.pointer === '/electrical/source/curve')!.minutesNow).toBe(source.minutes);
    // a lamp’s height settles nothing of the wiring or the source
    expect(s.next.map((m) => m.pointer)).not.toContain('/places/head-left/z');
  });
  it('once measured it counts everywhere, and settles what it was measured for', () => {
    const strong = ask({ type: 'value.taken', pointer: '/electrical/source/curve', value: 34 });
    expect(strong.values).toEqual({
      '/electrical/source/curve': { value: 34, how: 'measured', at: '2026-03-02T12:00:00.000Z', by: 'tor' },
    });
    const a = assess(strong, sheets, DEFAULT_SETTINGS);
    const check = (x: typeof a) => x.power.checks.find((c) => c.id === 'idle')!;
    expect(check(a).margin.limit! - check(assess(order, sheets, DEFAULT_SETTINGS)).margin.limit!).toBeCloseTo(11, 1);
    const after = study(strong, sheets, DEFAULT_SETTINGS, new Set(), DRAWS);
    expect(after.questions.find((q) => q.id === 'power/idle')).toMatchObject({ open: false, share: 1 });
    expect(after.next.map((m) => m.pointer)).not.toContain('/electrical/source/curve');
    expect(after.assumed).toBe(s.assumed - 1);
    const back = ask({ type: 'value.dropped', pointer: '/electrical/source/curve' }, strong);
    expect(back.values).toBeUndefined();
    expect(assess(back, sheets, DEFAULT_SETTINGS).power).toEqual(assess(order, sheets, DEFAULT_SETTINGS).power);
  });
  it('a wire whose way was not taped says so at its step, and the order when it is handed over', () => {
    const a = assess(order, sheets, DEFAULT_SETTINGS);
    expect(a.open.map((o) => o.says)).toContainEqual(expect.stringMatching(/known only by its kind/));
    const shelf = demoOrder('drover-2', ['roof-bar'], { loose: true });
    const loose = assess({ ...shelf.order, unit: order.unit }, { ...shelf.sheets, model }, DEFAULT_SETTINGS);
    expect(loose.steps.find((x) => x.id.startsWith('wire/'))!.text).toMatch(/only assumed, \d\.\d m to \d\.\d m: tape it before it is cut/);
  });
  it.each<[OrderCommand, RegExp]>([
    [{ type: 'value.taken', pointer: '/electrical/source/curve', value: 3400 }, /3400 A, and 23 A were to be expected/],
    [{ type: 'value.taken', pointer: '/runs/a..b/lengthMm', value: 900 }, /no figure of this unit/],
    [{ type: 'value.dropped', pointer: '/electrical/parkedMa' }, /Nothing was read or measured/],
  ])('what cannot be is refused with why: %o', (command, why) => {
    expect(() => ask(command)).toThrow(why);
  });
});
