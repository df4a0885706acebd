import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, demoKit, demoModel, demoOrder, looseOrder, looseIds } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { fitRule } from '../order/fit';
import { judgeReading } from './judge';

const stepsOf = (model: string, kits: string[], made = demoOrder) => {
  const { order, sheets } = made(model, kits);
  return assess(order, sheets, DEFAULT_SETTINGS).steps;
};

describe('the order of work', () => {
  it('holds for every unit with any of its kits: safe first, each panel once off and once on, proof before closing', () => {
    const pairs = demoIds('models').map(
      (m) =>
        [m, looseIds().filter((k) => fitRule(demoKit(k), demoModel(m), demoModel(m).years.to, demoModel(m).builds[0]!.id)?.fits)] as const,
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...pairs).chain(([m, kits]) => fc.tuple(fc.constant(m), fc.shuffledSubarray([...kits], { minLength: 1 }))),
        ([m, kits]) => {
          const steps = stepsOf(m, kits);
          expect(steps[0]!.id).toBe('safe/off');
          // power is off for every hand on wires and mounts, on for every proof
          const at = (id: string) => steps.findIndex((s) => s.id === id);
          const dead = at(demoModel(m).kind === 'golf-cart' ? 'safe/isolate' : 'safe/negative');
          const live = at('power/on');
          steps.forEach((s, i) => {
            if (live < 0) return;
            if (s.stage === 'mount' || s.stage === 'wire') expect(i > dead && i < live).toBe(true);
            if (s.stage === 'prove') expect(i > live).toBe(true);
            if (s.id === 'safe/rest') expect(i < dead).toBe(true);
          });
          // no panel goes on before the unit as a whole is proved
          const last = Math.max(at('prove/charging'), at('prove/parked'));
          steps.forEach((s, i) => s.id.startsWith('shut/') && expect(i > last).toBe(true));
          expect(new Set(steps.map((s) => s.id)).size).toBe(steps.length);
          const off = steps.filter((s) => s.stage === 'open').map((s) => s.panel!);
          const on = steps.filter((s) => s.id.startsWith('shut/')).map((s) => s.panel!);
          expect(on.map((p) => p.id).sort()).toEqual(off.map((p) => p.id).sort());
          on.forEach((p, i) => p.after.forEach((a) => expect(on.slice(i).map((x) => x.id)).toContain(a)));
          off.forEach((p, i) => p.after.forEach((a) => expect(off.slice(0, i).map((x) => x.id)).toContain(a)));
          // nothing is worked on behind a panel that stays on
          const hidden = new Set(
            demoModel(m)
              .panels.filter((p) => !off.includes(p) && !off.some((o) => o.id === p.id))
              .flatMap((p) => p.hides),
          );
          for (const s of steps.filter((x) => x.stage === 'mount' || x.stage === 'wire')) expect(hidden.has(s.place ?? '')).toBe(false);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('proves a keyed feed by three readings: dead, live, dead', () => {
    const feed = stepsOf('drover-4', ['roof-bar']).find((s) => s.id === 'feed/bus-keyed' || s.id.startsWith('feed/port'))!;
    expect(feed.readings.map((r) => r.id)).toEqual(['off-1', 'on', 'off-2']);
    const [off, on] = feed.readings.map((r) => r.expected) as [
      (typeof feed.readings)[0]['expected'],
      (typeof feed.readings)[0]['expected'],
    ];
    expect([judgeReading(0.02, off), judgeReading(12.4, off), judgeReading(12.5, on), judgeReading(0, on)]).toEqual([
      'holds',
      'fails',
      'holds',
      'fails',
    ]);
  });
  it('common practice, no source: a 48 V cart shows about 46 V on the key wire, a reducer 7.4 V asleep and 11.9 V awake', () => {
    const steps = stepsOf('parkway-48', ['reducer-48', 'usb-socket']);
    const key = steps.find((s) => s.id === 'feed/key-wire')!.readings.find((r) => r.id === 'on')!.expected;
    expect(judgeReading(12.4, key)).toBe('fails');
    expect(judgeReading(48.5, key)).toBe('holds');
    expect(judgeReading(46.5, key)).not.toBe('unknown');
    const out = steps.find((s) => s.id === 'feed/reducer-out')!.readings.find((r) => r.id === 'on')!.expected;
    expect([judgeReading(7.4, out), judgeReading(11.9, out)]).toEqual(['fails', 'holds']);
    expect(out.why).toMatch(/7.4 V means the trigger lead/);
    // asleep it floats at about 7.4 V: no band of its feed fails that
    for (const r of steps.find((s) => s.id === 'feed/reducer-out')!.readings.filter((x) => x.id.startsWith('off')))
      expect(judgeReading(7.4, r.expected)).not.toBe('fails');
    const safe = steps.filter((s) => s.stage === 'make-safe');
    expect(safe.map((s) => s.id)).toEqual(['safe/off', 'safe/rest', 'safe/tow', 'safe/isolate']);
    expect(safe[3]!.cautions.join()).toMatch(/traction pack can kill/);
  });
  it('a tug test asks for the published pull of the gauge', () => {
    const tug = stepsOf('drover-4', ['winch-32'], looseOrder)
      .find((s) => s.id === 'wire/winch-32/power')!
      .readings.find((r) => r.id === 'tug')!.expected;
    expect(tug.low).toBeCloseTo(70 * 4.44822, 2);
    expect([judgeReading(320, tug), judgeReading(300, tug)]).toEqual(['holds', 'fails']);
  });
  it('without a gauge a tug is done by hand, with the pull said', () => {
    const step = stepsOf('drover-4', ['winch-32'], looseOrder).find((s) => s.id === 'wire/winch-32/power')!;
    expect(step.readings.filter((r) => !r.optional).map((r) => [r.id, r.expected.why])).toContainEqual([
      'tugged',
      'as hard as 311 N pulls',
    ]);
  });
  it('a motorcycle proves its bars lock to lock', () => {
    expect(stepsOf('lapwing-500', ['navigator']).some((s) => s.id === 'prove/bars')).toBe(true);
  });
  it('where the source cannot carry it at idle, battery volts are expected and said so', () => {
    const e = stepsOf('lapwing-500', ['heated-grips', 'aux-lamps']).find((s) => s.id === 'prove/charging')!.readings[0]!.expected;
    expect(e.low!).toBeLessThan(12.5);
    expect(e.why).toMatch(/short by/);
  });
});

describe('judging a reading', () => {
  const band = { low: 10, high: 12, unit: 'V' as const, why: '' };
  it.each([
    [9.99, 'fails'],
    [10, 'tight'],
    [10.05, 'tight'],
    [10.2, 'holds'],
    [11.8, 'holds'],
    [11.95, 'tight'],
    [12, 'tight'],
    [12.01, 'fails'],
  ])('%f in 10 to 12 %s', (v, verdict) => expect(judgeReading(v, band)).toBe(verdict));
  it('knows yes from no and open bands', () => {
    expect([
      judgeReading(1, { low: null, high: null, unit: 'yes', why: '' }),
      judgeReading(0, { low: null, high: null, unit: 'yes', why: '' }),
    ]).toEqual(['holds', 'fails']);
    expect(judgeReading(1e6, { low: 5, high: null, unit: 'N', why: '' })).toBe('holds');
    expect(judgeReading(0, { low: 0, high: 0.3, unit: 'V', why: '' })).toBe('holds');
  });
});
