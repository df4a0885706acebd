import { describe, expect, it } from 'vitest';
import type { FittedItem } from '#model/fitted';
import type { Harness } from '#model/harness';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoModel, demoOrder } from '../../tests/demo-sheets';
import { cutSides } from './factory-cuts';
import { capRows, spliceRows } from '../harness/cut-list';
import { Simulator } from '../harness/simulate';
import { assess } from '../order/assess';

const judged = (o: { order: Order; sheets: Sheets }, change: Partial<Order> = {}) =>
  assess({ ...o.order, ...change }, o.sheets, DEFAULT_SETTINGS);
const item = (a: ReturnType<typeof judged>, title: RegExp) => a.lamps.packs.flatMap((p) => p.items).find((i) => title.test(i.title))!;
/** Loads that draw with the switches so, by what they belong to. */
const lit = (h: Harness, controls: Record<string, string>, beat = true) => {
  const at = new Simulator(h).show({ controls, beat });
  return new Set(h.elements.flatMap((e) => (e.kind === 'load' && Math.abs(at.amps.get(e.id) ?? 0) > 0.01 ? [e.of] : [])));
};

describe('lamps that are replaced by inserts', () => {
  const o = demoOrder('lapwing-500', ['signal-inserts']);
  it('are gone, the inserts are there with their watts, and the old flasher is said to hurry', () => {
    const a = judged(o, { variants: { 'signal-inserts': { flasher: 'kept' } } });
    const signals = a.lamps.lamps.filter((l) => l.function.startsWith('turn-') && l.function !== 'turn-indicator');
    expect(signals.map((l) => [l.id, l.watts])).toEqual(
      ['front-left', 'front-right', 'rear-left', 'rear-right'].map((id) => [`signal-inserts/${id}`, 2.5]),
    );
    // 5 W a side on one made for 20 W: twice as fast as 85 a minute
    expect(item(a, /flash.*rate|per minute|rate/i)).toMatchObject({ verdict: 'fails' });
    expect(item(a, /flash.*rate|per minute|rate/i).says).toMatch(/170/);
  });
  it('flash as they should with the flasher of the box, which takes the old one’s place', () => {
    const a = judged(o);
    expect(item(a, /flash.*rate|per minute|rate/i).says).toMatch(/85/);
    const order = a.steps.map((s) => s.title);
    expect(order.indexOf('Flasher under the seat off')).toBeLessThan(order.indexOf('Electronic flasher in'));
    expect(order.indexOf('Bulbs of the front signals, 10 W off')).toBeLessThan(order.indexOf('Front inserts in'));
    expect(a.steps.find((s) => s.title === 'Flasher under the seat off')!.readings.map((r) => r.label)).toEqual(['Bagged for the owner']);
  });
});

describe('factory rear lamps that become signals', () => {
  const a = judged(demoOrder('drover-4', ['rear-lamp-signals']));
  const h = a.wiring.harness;
  const key = { 'unit#key': 'run' };
  const turn = 'rear-lamp-signals/switch#turn';
  const lamp = (side: string) => `rear-lamp-signals/rear-${side}`;
  it('flash with their side, stay stop lamps, and do both at once', () => {
    const rear = (controls: Record<string, string>, beat = true) =>
      [...lit(h, { ...key, ...controls }, beat)].filter((x) => x?.includes('/rear-')).sort();
    expect(rear({})).toEqual([]);
    expect(rear({ [turn]: 'left' })).toEqual([lamp('left')]);
    expect(rear({ [turn]: 'left' }, false)).toEqual([]);
    expect(rear({ 'unit#brake': 'pressed' })).toEqual([lamp('left'), lamp('right')]);
    expect(rear({ [turn]: 'left', 'unit#brake': 'pressed' })).toEqual([lamp('left'), lamp('right')]);
    expect(rear({ [turn]: 'left', 'unit#brake': 'pressed' }, false)).toEqual([lamp('right')]);
  });
  it('are signals by the rules: a stop light that stands beside a flashing signal is no wrong signal', () => {
    expect(a.demands.conflicts).toEqual([]);
    expect(item(a, /Left is left/).verdict).toBe('holds');
  });
  it('are mounted by no step; their covers and the old reflector come off first, bagged; what is cut has both sides seen to', () => {
    expect(a.steps.some((s) => s.id.startsWith('mount/rear-lamp-signals/rear'))).toBe(false);
    const off = a.steps.filter((s) => s.id.startsWith('take/'));
    expect(off.map((s) => s.title)).toEqual(
      expect.arrayContaining(['Rear reflector off', 'Cover behind the left tail lamp off', 'Cover behind the right tail lamp off']),
    );
    expect(a.lamps.lamps.filter((l) => l.function === 'reflector-rear').map((l) => l.id)).toEqual(['rear-lamp-signals/reflector']);
    const joints = spliceRows(h, a.ends, () => 'crimp');
    expect(joints.map((j) => [j.from[0], j.to[0], j.pull!.lbf])).toEqual([
      ['RD/BU', 'BU', 10],
      ['RD/BU', 'GN/BK', 10],
      // a lamp’s own 18 AWG on the harness’s 16
      ['BK', 'BK', 10],
      ['RD/BU', 'GY/BK', 10],
      ['BK', 'BK', 10],
    ]);
    const at = (id: string) => a.steps.findIndex((s) => s.id === id);
    const [left, right] = ['left', 'right'].map((side) => at(`cut/rear-lamp-signals/stop-tail-${side}`)) as [number, number];
    // each is found with power on, at its own place, before power is off; then cut, then joined
    for (const [side, cut] of [
      ['left', left],
      ['right', right],
    ] as const) {
      const found = at(`find/stop/tail-${side}`);
      expect(a.steps[found]!.readings[0]!.label).toBe('Dead; live with key run, brake pressed; dead again');
      expect(found).toBeGreaterThan(-1);
      expect(a.steps.findIndex((s) => s.title === `Cover behind the ${side} tail lamp off`)).toBeLessThan(found);
      expect(found).toBeLessThan(at('safe/negative'));
      expect(at('safe/negative')).toBeLessThan(cut);
      expect(cut).toBeLessThan(at('wire/rear-lamp-signals/signals'));
    }
    expect(a.steps[left]!.text).toMatch(/unit’s side: to lead marked STOP\.\nThe far side: to leads marked RL/);
    expect(a.steps[right]!.text).toMatch(/unit’s side: capped and tied back\./);
    const { kits, model } = a.sheets;
    expect(capRows(h, a.ends, cutSides(kits, model)).map((c) => c.lead)).toContain('stop-lamp wire, cut, unit’s side: RD/BU');
  });
});

describe('a tap of a pack that a lead chose', () => {
  const o = demoOrder('greenway-36', ['cart-basic-lamps']);
  const by = { by: 'ines', at: '2026-03-02T08:30:00.000Z' };
  const a = judged(o, {
    overrides: [{ circuit: 'cart-basic-lamps/lamps', field: 'feed', value: 'tap-12', reason: 'the owner wants no reducer', ...by }],
  });
  it('is never taken by itself, and by hand is sized, fused and said to cost the tapped batteries', () => {
    expect(judged(o).wiring.circuits[0]!.feed).toBeNull();
    const [c] = a.wiring.circuits;
    expect(c).toMatchObject({ verdict: 'tight', fuseA: 7.5 });
    expect(c!.awg).not.toBeNull();
    expect(c!.problems[0]).toMatch(/2 of 6 batteries only: in every hour of use they fall 2\.4 % below the rest/);
  });
  it('with its lead too short it is led on, by wire and a joint of the needs list', () => {
    expect(a.ends.find((e) => e.of.end === 'feed')).toMatchObject({ how: 'extend' });
    expect(a.needs.map((n) => n.id)).toEqual(['16 RD', 'butt-splice-16-14']);
    expect(a.steps.map((s) => s.id)).toEqual(expect.arrayContaining(['feed/tap-12', 'volts/cart-basic-lamps/lamps']));
  });
});

describe('a power manager on the data plug', () => {
  const a = judged(demoOrder('lapwing-500', ['data-power-manager']));
  it('plugs into it and cuts nothing: no wire comes off the shelf', () => {
    expect(a.ends.find((e) => e.of.end === 'data')).toMatchObject({ how: 'plug', into: 'data plug', adapted: null });
    expect(a.needs.filter((n) => n.kind === 'wire')).toEqual([]);
  });
  it('wakes with the unit, and its channels that nothing takes are capped', () => {
    const channels = (position: string) =>
      new Simulator(a.wiring.harness).show({ controls: { 'unit#key': position }, beat: false }).volts.get('pp:sealed-1')!;
    expect(channels('off')).toBeLessThan(1);
    expect(channels('run')).toBeGreaterThan(11);
    expect(capRows(a.wiring.harness, a.ends).filter((c) => /channel/.test(c.lead))).toHaveLength(4);
  });
  it('what it draws asleep is counted, and what was set is read', () => {
    const asleep = judged(demoOrder('lapwing-500', [])).power.checks.find((c) => c.id === 'parked')!;
    expect(a.power.checks.find((c) => c.id === 'parked')!.margin.used).not.toBe(asleep.margin.used);
    expect(a.steps.find((s) => s.id === 'data-power-manager/settings')!.readings.map((r) => r.expected.unit)).toEqual(['A', 'yes']);
  });
});

describe('a switch swapped on a winch that was there before', () => {
  const wires: FittedItem['wires'] = [
    { function: 'winch-feed', colour: 'RD', place: 'dash' },
    { function: 'winch-in', colour: 'GN', place: 'dash' },
    { function: 'winch-out', colour: 'BK', place: 'dash' },
  ];
  const fitted: FittedItem[] = [{ id: 'winch', name: 'winch', watts: 0, standbyMa: 0, wires }];
  it('finds its wires by what they do, whatever their colours', () => {
    const a = judged(demoOrder('drover-2', ['lit-winch-switch'], { fitted }));
    expect(a.wiring.circuits.map((c) => c.verdict)).toEqual(['holds']);
    const joint = a.steps.find((s) => s.id === 'wire/lit-winch-switch/switch')!.text;
    expect(joint).toMatch(
      /RD\/WH to RD, winch-feed wire of the winch; GN to GN, winch-in wire of the winch; BN to BK, winch-out wire of the winch/,
    );
    const h = a.wiring.harness;
    const pulls = (position: string, key = 'run') => {
      const at = new Simulator(h).show({ controls: { 'unit#key': key, 'lit-winch-switch/switch#winch': position }, beat: false });
      return ['in', 'out'].map((w) => (at.amps.get(`wire:fitted-winch-winch-${w}:takes`) ?? 0) > 0.5);
    };
    expect([pulls('rest'), pulls('in'), pulls('out'), pulls('in', 'off')]).toEqual([
      [false, false],
      [true, false],
      [false, true],
      [false, false],
    ]);
    expect(a.steps.map((s) => s.title)).toEqual(expect.arrayContaining(['Old winch switch off', 'Lit switch in']));
  });
  it('without any says what is missing and where to tell it', () => {
    const a = judged(demoOrder('drover-2', ['lit-winch-switch']));
    expect(a.wiring.circuits[0]!.problems[0]).toMatch(/nothing here has a winch-feed wire.*tell its wires at Arrive/);
  });
});

describe('overhead audio on a tee', () => {
  it('takes its constant and its keyed wire from one plug, and is asleep with the key off', () => {
    const a = judged(demoOrder('drover-2', ['overhead-audio']), { variants: { 'overhead-audio': { lead: 'tee' } } });
    expect(a.wiring.circuits.map((c) => [c.circuit.id, c.feed?.id, c.verdict])).toEqual([
      ['pod', 'front-constant', 'holds'],
      ['wake', 'front-keyed', 'holds'],
    ]);
    expect(a.ends.find((e) => e.of.end === 'plug')).toMatchObject({ how: 'plug', adapted: null });
    const wake = (key: string) => lit(a.wiring.harness, { 'unit#key': key }).has('overhead-audio/wake');
    expect([wake('off'), wake('run')]).toEqual([false, true]);
  });
});

describe('a job that is no kit', () => {
  const job = {
    id: 'horn',
    title: 'Mend the horn’s lead',
    place: 'dash',
    minutes: 15,
    text: 'New splice.',
    powerOff: true,
    question: 'Sounds',
  };
  it('is planned, opened for, done with the battery off and proved', () => {
    const a = judged(demoOrder('drover-4', []), { jobs: [job] });
    const ids = a.steps.map((s) => s.id);
    const at = (id: string) => ids.indexOf(id);
    expect(at('open/dash-top')).toBeGreaterThan(-1);
    expect(at('safe/negative')).toBeLessThan(at('job-horn/do'));
    expect(at('job-horn/do')).toBeLessThan(at('power/on'));
    expect(at('power/on')).toBeLessThan(at('job-horn/prove'));
    expect(at('job-horn/prove')).toBeLessThan(at('shut/dash-top'));
    expect(a.proofs.map((p) => p.step.id)).toContain('job-horn/prove');
    expect(a.blocks).not.toContain('no kit is chosen, and no job');
  });
  it('goes with the kits of its order: panels come off once', () => {
    const a = judged(demoOrder('drover-4', ['winch-32']), { jobs: [job] });
    expect(a.steps.filter((s) => s.id === 'open/dash-top')).toHaveLength(1);
    expect(demoModel('drover-4').panels.find((p) => p.id === 'dash-top')!.hides).toContain(job.place);
  });
});
