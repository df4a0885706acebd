import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Phase, type OwnerDay, type PhaseInput } from '#model/day';
import type { OrderCommand } from '../events/registry';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, demoModel, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { burstsOf } from './bursts';
import { judgeDay } from './day';
import { dutyIn, winchAmps } from './phases';
import { standing } from './standing';
import { daysFor } from './templates';
import { RANK } from '../verdict';
import { withCommands } from './remedies';

const dayOf = (...phases: Omit<PhaseInput, 'id'>[]): OwnerDay => ({
  id: 'd',
  name: 'Day',
  phases: phases.map((p, i) => Phase.parse({ ...p, id: `p${i}` })),
});
const systemOf = (model: string, kits: string[], more: Parameters<typeof demoOrder>[2] = {}, commands: OrderCommand[] = []) => {
  const made = demoOrder(model, kits, more);
  const { order, sheets } = withCommands(made.order, made.sheets, commands, []);
  return { ...assess(order, sheets, DEFAULT_SETTINGS).power, order, sheets };
};
const run = (s: ReturnType<typeof systemOf>, ...phases: Omit<PhaseInput, 'id'>[]) => judgeDay(s.system, dayOf(...phases), DEFAULT_SETTINGS);

describe('the scenario’s days', () => {
  it.each([
    ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar'], 'tight', /1\.5 A to spare at idle/],
    ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors', 'usb-socket'], 'holds', /the pack keeps/],
    ['greenway-36', ['cart-basic-lamps'], 'fails', /36-to-12 V reducer/],
    [
      'lapwing-500',
      ['heated-grips', 'aux-lamps', 'navigator'],
      'fails',
      /4\.6 A at idle.*“Commute in town”, no start after “Parked at work”/,
    ],
    ['sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn', 'deck-audio'], 'holds', /Evening at anchor/],
    ['tern-300', ['aux-lamps'], 'holds', /Commute in town/],
  ])('%s with %j is %s', (model, kits, verdict, says) => {
    const p = systemOf(model, kits);
    expect(p.verdict).toBe(verdict);
    expect(p.says).toMatch(says);
    expect(p.dayAssumed).toBe(true);
  });
  it('every kind of unit has its days, each sound, with charge accounted for in every phase', () => {
    for (const id of demoIds('models')) {
      const s = systemOf(id, []);
      const days = daysFor(demoModel(id), true);
      expect(days.length).toBeGreaterThan(1);
      for (const d of days) {
        const r = judgeDay(s.system, d, DEFAULT_SETTINGS);
        expect(r.verdict, `${id} ${d.name}`).not.toBe('unknown');
        const moved = r.phases.reduce((a, p) => a + p.deltaAh[0]!, 0) / s.system.cells[0]!.capacityAh;
        const before = r.moments[0]!.soc[0]!;
        // the starter's ampere-hours are in its phase
        expect(r.endSoc[0]! - before).toBeCloseTo(moved, 5);
      }
    }
  });
});

describe('a start', () => {
  const lapwing = systemOf('lapwing-500', ['heated-grips']);
  it('fails where the battery was run down, and names the phase before it', () => {
    const r = run(
      lapwing,
      { name: 'Ride', minutes: 20, rpm: 3000 },
      { name: 'Stop, grips on', minutes: 90, rpm: 0, duty: { 'heated-grips/grip-left': 1, 'heated-grips/grip-right': 1 } },
      { name: 'On', minutes: 20, rpm: 3000 },
    );
    expect(r.verdict).toBe('fails');
    expect(r.says).toMatch(/no start after “Stop, grips on”: the starter finds [\d.]+ V of 9.6 V/);
    expect(r.noStartFrom).toBeGreaterThan(20);
    expect(r.noStartFrom).toBeLessThan(110);
    expect(r.starts.map((s) => s.ok)).toEqual([true, false]);
  });
  it('is harder in the cold', () => {
    const at = (tempC: number) => run(lapwing, { name: 'Start', minutes: 5, rpm: 3000, tempC }).starts[0]!.volts;
    expect(at(-15)).toBeLessThan(at(5));
    expect(at(5)).toBeLessThan(at(25));
  });
  it('is not asked for while the engine goes on', () => {
    const r = run(lapwing, { name: 'a', minutes: 5, rpm: 3000 }, { name: 'b', minutes: 5, rpm: 4000 });
    expect(r.starts).toHaveLength(1);
  });
});

describe('what is on', () => {
  const drover = systemOf('drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']);
  const bar = drover.system.loads.find((l) => l.id === 'roof-bar/bar')!;
  const duty = (p: Omit<PhaseInput, 'id' | 'name' | 'minutes'>) =>
    dutyIn(drover.system, bar, Phase.parse({ id: 'p', name: 'p', minutes: 9, ...p }));
  it('lamps in the dark, unless the owner says otherwise; nothing keyed with the key off', () => {
    expect(duty({ rpm: 2000 })).toBe(0);
    expect(duty({ rpm: 2000, dark: true })).toBe(1);
    expect(duty({ rpm: 2000, duty: { 'roof-bar/bar': 0.25 } })).toBe(0.25);
    expect(duty({ rpm: 0, key: 'off', dark: true })).toBe(0);
    expect(duty({ rpm: 0, key: 'off', duty: { 'roof-bar/bar': 1 } })).toBe(bar.keyed ? 0 : 1);
  });
  it('a shed load is off under its speed and on above', () => {
    const s = systemOf('drover-4', ['roof-bar'], {}, [
      { type: 'power.changed', change: { kind: 'shed', load: 'roof-bar/bar', belowRpm: 1500 }, label: 'x' },
    ]);
    const l = s.system.loads.find((x) => x.id === 'roof-bar/bar')!;
    const at = (rpm: number) => dutyIn(s.system, l, Phase.parse({ id: 'p', name: 'p', minutes: 9, rpm, dark: true }));
    expect(at(1200)).toBe(0);
    expect(at(1500)).toBe(1);
  });
  it('a pull takes the motor’s amperes by the line’s share, straight from none to rated', () => {
    expect(winchAmps(drover.system, 0)).toBe(38);
    expect(winchAmps(drover.system, 1)).toBe(150);
    const ride = { name: 'Ride', minutes: 5, rpm: 3500 };
    const still = run(drover, ride, { name: 'Idle', minutes: 30, rpm: 1200 });
    const pulled = run(drover, ride, { name: 'Idle', minutes: 30, rpm: 1200, pulls: { count: 3, share: 0.6, seconds: 30 } });
    const taken = (3 * (38 + 112 * 0.6) * 30) / 3600;
    expect(pulled.energy.find((e) => e.id === 'winch-32/motor')!.wh).toBeCloseTo(taken * 12.2, -1);
    expect(pulled.endSoc[0]!).toBeLessThan(still.endSoc[0]!);
    expect(pulled.phases[1]!.leastVolts).toBeLessThan(still.phases[1]!.leastVolts - 0.5);
  });
});

describe('monotonic', () => {
  const lapwing = systemOf('lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']);
  const phase = fc.record({
    minutes: fc.integer({ min: 2, max: 300 }),
    rpm: fc.constantFrom(0, 1300, 2500, 4000),
    dark: fc.boolean(),
    tempC: fc.integer({ min: -10, max: 35 }),
    grips: fc.double({ min: 0, max: 1, noNaN: true }),
  });
  it('more of a load never raises charge; more engine speed never lowers it nor the verdict', () => {
    fc.assert(
      fc.property(fc.array(phase, { minLength: 1, maxLength: 8 }), (list) => {
        const at = (more: number, faster: number) =>
          run(
            lapwing,
            ...list.map((p, i) => ({
              name: `p${i}`,
              minutes: p.minutes,
              rpm: p.rpm && p.rpm + faster,
              dark: p.dark,
              tempC: p.tempC,
              duty: { 'heated-grips/grip-left': Math.min(1, p.grips + more) },
            })),
          );
        const base = at(0, 0);
        expect(at(0.5, 0).endSoc[0]!).toBeLessThanOrEqual(base.endSoc[0]! + 1e-3);
        // the unit's own needs grow with speed too, but slower than its source
        const fast = at(0, 900);
        expect(fast.endSoc[0]!).toBeGreaterThanOrEqual(base.endSoc[0]! - 1e-3);
        expect(RANK[fast.verdict]).toBeLessThanOrEqual(RANK[base.verdict]);
      }),
      { numRuns: 60 },
    );
  });
});

describe('with the engine off', () => {
  it('hours to the reserve are charge over amperes where Peukert gives nothing up', () => {
    const s = systemOf('sandbar-21', ['deck-audio']);
    const amp = s.system.loads.find((l) => l.use === 'audio')!;
    const calm = { ...s.system, parkedA: 0, cells: s.system.cells.map((c) => ({ ...c, peukert: 1, selfA: 0 })) };
    const r = standing(calm, [amp.id], 25, 0.5);
    const volts = 12.6;
    expect(r.reserveHours!).toBeCloseTo(((calm.startSoc - 0.5) * 100 * volts) / (amp.watts! * amp.share), 0);
    expect(r.noStartHours!).toBeGreaterThan(r.reserveHours!);
    expect(r.flatHours!).toBeGreaterThanOrEqual(r.noStartHours!);
  });
  it('a standby lamp of a power manager needs about two years to flatten a battery (common practice, no source)', () => {
    const s = systemOf('drover-4', []);
    // 30 Ah over two years: 1.7 mA, self-discharge left aside
    const lamp = { ...s.system, parkedA: 0.0017, startSoc: 1, starter: null, cells: s.system.cells.map((c) => ({ ...c, selfA: 0 })) };
    const r = standing(lamp, [], 25, 0.5);
    expect(r.reserveHours).toBeNull();
    expect(30 / 0.0017 / 24 / 365).toBeCloseTo(2, 1);
  });
  it('a second battery behind an isolator keeps the start battery out of it', () => {
    const one = systemOf('drover-2', ['overhead-audio']);
    const two = systemOf('drover-2', ['overhead-audio'], {}, [
      { type: 'power.changed', change: { kind: 'second-battery', capacityAh: 60, chemistry: 'agm', join: 'isolator' }, label: 'x' },
    ]);
    const stop = [
      { name: 'Ride', minutes: 60, rpm: 3200 },
      { name: 'Stop', minutes: 400, rpm: 0 },
    ];
    const a = run(one, ...stop);
    const b = run(two, ...stop);
    expect(two.system.cells).toHaveLength(2);
    expect(b.endSoc[0]!).toBeGreaterThan(a.endSoc[0]! + 0.2);
    expect(b.endSoc[1]!).toBeLessThan(0.95);
    // and the source charges it as it goes on
    const on = run(two, ...stop, { name: 'Home', minutes: 90, rpm: 3200 });
    expect(on.endSoc[1]!).toBeGreaterThan(b.endSoc[1]! + 0.02);
  });
});

describe('bursts', () => {
  it('take amperes times seconds, and pull the bus down less with the engine idling', () => {
    const s = systemOf('drover-4', ['front-harness', 'road-kit', 'winch-32']);
    const list = burstsOf(s.system);
    const horn = list.find((b) => b.id === 'road-kit/horn')!;
    expect(horn.amps).toBe(5);
    // a resistor of 60 W at 12 V draws a little more at the battery's own volts
    expect(horn.takesAh).toBeGreaterThan((5 * 5) / 3600);
    const motor = list.find((b) => b.id === 'winch-32/motor')!;
    expect(motor.amps).toBe(150);
    expect(motor.offVolts).toBeLessThan(horn.offVolts);
    expect(motor.idleVolts!).toBeGreaterThan(motor.offVolts);
    expect(motor.takesAh).toBeGreaterThan((150 * 25) / 3600);
  });
});

describe('unknown draws', () => {
  const box = { id: 'box', name: 'Grey box', watts: null, standbyMa: 0 };
  it('make the day and the verdict not known, and name the figure', () => {
    const p = systemOf('tern-300', [], { fitted: [box] });
    expect(p.verdict).toBe('unknown');
    expect(p.missing).toEqual([{ key: 'watts:fitted/box', label: 'watts of the Grey box already fitted' }]);
    expect(p.days[0]!.says).toMatch(/Grey box.*not known/);
  });
  it.each([
    [10, 15, 'holds'],
    [10, 600, 'unknown'],
    [500, 600, 'fails'],
  ])('a band from %i to %i W is %s', (low, high, verdict) => {
    const p = systemOf('tern-300', [], { fitted: [box] }, [
      { type: 'fact.told', key: 'wattslow:fitted/box', value: low, label: 'l' },
      { type: 'fact.told', key: 'wattshigh:fitted/box', value: high, label: 'h' },
    ]);
    expect(p.missing).toEqual([]);
    expect(p.verdict).toBe(verdict);
    if (verdict === 'unknown') expect(p.says).toMatch(/between “Holds.*” and “Fails/);
  });
});

describe('an owner’s day', () => {
  it.each([
    [{ minutes: 0 }, /longer than nothing/],
    [{ minutes: 10, duty: { 'a/b': 1.2 } }, /at most 1/],
    [{ minutes: 10, rpm: -5 }, /below zero/],
    [{ minutes: 10, pulls: { count: 1.5, share: 0.5, seconds: 20 } }, /whole/],
    [{ minutes: 10, duty: { 'not a load': 1 } }, /own\/ID/],
  ])('%j is refused with its reason', (patch, message) => {
    const r = Phase.safeParse({ id: 'p', name: 'p', rpm: 0, ...patch });
    expect(r.success).toBe(false);
    expect(JSON.stringify(r.error!.issues)).toMatch(message);
  });
});
