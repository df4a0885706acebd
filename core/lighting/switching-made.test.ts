import { describe, expect, it } from 'vitest';
import type { Harness, HarnessElement, When } from '#model/harness';
import { demoModel } from '../../tests/demo-sheets';
import type { Lamp } from './lamp';
import { litAtNav, litWith, roleOf, switchTable, throwSwitch } from './switching';

type Control = Harness['controls'][number];
const control = (id: string, positions: string[], more: Partial<Control> = {}): Control => ({
  id,
  name: id,
  positions: positions.map((p) => ({ id: p, name: p })),
  momentary: false,
  of: 'unit',
  place: null,
  ...more,
});
const KEY = control('unit#key', ['off', 'acc', 'run']);
const base = (id: string, from: string, to: string, of: string | null = null) => ({ id, name: id, from, to, of, circuit: null });
const contact = (id: string, from: string, to: string, when: When[]): HarnessElement => ({
  ...base(id, from, to),
  kind: 'contact',
  when,
  ohms: 0.004,
});
const load = (id: string, from: string, to = 'bat-'): HarnessElement => ({
  ...base(`${id}:load`, from, to, id),
  kind: 'load',
  law: 'resistor',
  watts: 10,
  volts: 12,
  minVolts: 8,
  leastVolts: null,
  own: false,
});
const coil = (id: string, from: string, to = 'bat-'): HarnessElement => ({
  ...base(id, from, to),
  kind: 'coil',
  ohms: 90,
  pullInV: 7.8,
  dropOutV: 1.8,
});
const key = (when = ['run']): When => ({ control: 'unit#key', in: when });

function made(elements: HarnessElement[], controls: Control[]): Harness {
  const ids = new Set(['bat+', 'bat-', ...elements.flatMap((e) => [e.from, e.to, ...(e.kind === 'supply' ? [e.out] : [])])]);
  return {
    unit: 'made by hand',
    nodes: [...ids].map((id) => ({
      id,
      label: id,
      place: null,
      kind: id.startsWith('bat') ? ('battery' as const) : ('inner' as const),
      of: null,
    })),
    elements: [{ ...base('battery', 'bat+', 'bat-', 'unit'), kind: 'battery', volts: 12.7, ohms: 0.01, chargeOhms: 0.02 }, ...elements],
    controls: [KEY, ...controls],
    keyed: [],
    problems: [],
  };
}
const lamp = (id: string, f: Lamp['function'] = 'tail', y = 0): Lamp => ({
  id,
  name: id,
  function: f,
  at: { x: 0, y, z: 700 },
  where: '',
  from: 'kit',
  known: true,
  moved: false,
});
const model = demoModel('drover-4');
const lit = (h: Harness, lamps: Lamp[], positions: Record<string, string>, beat = true) =>
  [...litWith(switchTable(h, model, lamps), h.controls, positions, beat)].sort();

describe('lamps by contact, on harnesses made by hand', () => {
  it('a lamp is lit through its switch with the key on, and dark otherwise', () => {
    const h = made(
      [
        contact('k', 'bat+', 'keyed', [key()]),
        contact('s', 'keyed', 'lamp', [{ control: 'kit/s#on', in: ['on'] }]),
        load('kit/lamp', 'lamp'),
      ],
      [control('kit/s#on', ['off', 'on'])],
    );
    const lamps = [lamp('kit/lamp')];
    expect(lit(h, lamps, { 'unit#key': 'run', 'kit/s#on': 'on' })).toEqual(['kit/lamp']);
    expect(lit(h, lamps, { 'kit/s#on': 'on' })).toEqual([]);
    expect(lit(h, lamps, { 'unit#key': 'run' })).toEqual([]);
  });
  it('an open minus is dark as well', () => {
    const h = made(
      [
        contact('k', 'bat+', 'lamp', [key()]),
        load('kit/lamp', 'lamp', 'minus'),
        contact('g', 'minus', 'bat-', [{ control: 'kit/g#on', in: ['on'] }]),
      ],
      [control('kit/g#on', ['off', 'on'])],
    );
    expect(lit(h, [lamp('kit/lamp')], { 'unit#key': 'run' })).toEqual([]);
    expect(lit(h, [lamp('kit/lamp')], { 'unit#key': 'run', 'kit/g#on': 'on' })).toEqual(['kit/lamp']);
  });
  it('a relay’s two sides: one lamp with it at rest, the other with it pulled', () => {
    const h = made(
      [
        contact('s', 'bat+', 'ask', [{ control: 'kit/s#on', in: ['on'] }]),
        coil('relay', 'ask'),
        contact('nc', 'bat+', 'a', [{ coil: 'relay', pulled: false }]),
        contact('no', 'bat+', 'b', [{ coil: 'relay', pulled: true }]),
        load('kit/a', 'a'),
        load('kit/b', 'b'),
      ],
      [control('kit/s#on', ['off', 'on'])],
    );
    const lamps = [lamp('kit/a'), lamp('kit/b')];
    expect(lit(h, lamps, {})).toEqual(['kit/a']);
    expect(lit(h, lamps, { 'kit/s#on': 'on' })).toEqual(['kit/b']);
  });
  it('a relay that takes its own volts away chatters, and it is counted', () => {
    const h = made([coil('relay', 'ask'), contact('nc', 'bat+', 'ask', [{ coil: 'relay', pulled: false }]), load('kit/a', 'ask')], []);
    expect(switchTable(h, model, [lamp('kit/a')]).chatter).toBeGreaterThan(0);
  });
  it('a diode lets plus through one way: the dash lamp is lit from either side, neither side from the other', () => {
    const diode = (id: string, from: string): HarnessElement => ({ ...base(id, from, 'dash'), kind: 'diode', volts: 0.7 });
    const turn = (p: string): When => ({ control: 'kit/t#turn', in: [p] });
    const h = made(
      [
        contact('l', 'bat+', 'left', [turn('left')]),
        contact('r', 'bat+', 'right', [turn('right')]),
        load('kit/left', 'left'),
        load('kit/right', 'right'),
        diode('dl', 'left'),
        diode('dr', 'right'),
        load('kit/dash', 'dash'),
      ],
      [control('kit/t#turn', ['off', 'left', 'right'])],
    );
    const lamps = [lamp('kit/left', 'turn-front', 300), lamp('kit/right', 'turn-front', -300), lamp('kit/dash', 'turn-indicator')];
    expect(lit(h, lamps, { 'kit/t#turn': 'left' })).toEqual(['kit/dash', 'kit/left']);
    expect(lit(h, lamps, { 'kit/t#turn': 'right' })).toEqual(['kit/dash', 'kit/right']);
    expect(lit(h, lamps, {})).toEqual([]);
  });
  it('a reducer feeds its lamps only with its trigger live', () => {
    const supply: HarnessElement = {
      ...base('reducer', 'bat+', 'bat-', 'kit/reducer'),
      kind: 'supply',
      out: 'twelve',
      trigger: 'trigger',
      volts: 12,
      ohms: 0.02,
      limitA: 20,
      efficiency: 0.9,
      cutoffV: null,
      asleepV: 7.4,
    };
    const h = made([supply, contact('k', 'bat+', 'trigger', [key()]), load('kit/lamp', 'twelve')], []);
    expect(lit(h, [lamp('kit/lamp')], { 'unit#key': 'run' })).toEqual(['kit/lamp']);
    expect(lit(h, [lamp('kit/lamp')], {})).toEqual([]);
  });
  it('the flasher’s beat is tried both ways, and each state finds its partner', () => {
    const h = made(
      [contact('f', 'bat+', 'lamp', [{ control: 'kit/h#hazard', in: ['on'] }, { beat: true }]), load('kit/lamp', 'lamp')],
      [control('kit/h#hazard', ['off', 'on'])],
    );
    const t = switchTable(h, model, [lamp('kit/lamp', 'turn-rear', 300)]);
    t.states.forEach((s, i) => {
      if (!s.beat) return expect(t.between[i]).toBe(-1);
      const o = t.between[i]!;
      expect(t.states[o]).toEqual({ ...s, beat: false });
    });
    expect(lit(h, [lamp('kit/lamp')], { 'kit/h#hazard': 'on' }, true)).toEqual(['kit/lamp']);
    expect(lit(h, [lamp('kit/lamp')], { 'kit/h#hazard': 'on' }, false)).toEqual([]);
  });
  it('switches that no lamp hangs on are not tried', () => {
    const winch = Array.from({ length: 8 }, (_, i) => control(`kit/w${i}#on`, ['off', 'on']));
    const h = made(
      [
        contact('k', 'bat+', 'lamp', [key()]),
        load('kit/lamp', 'lamp'),
        ...winch.map((w, i) => contact(`w${i}`, 'bat+', `m${i}`, [{ control: w.id, in: ['on'] }])),
        ...winch.map((_, i) => load(`kit/m${i}`, `m${i}`)),
      ],
      winch,
    );
    const t = switchTable(h, model, [lamp('kit/lamp')]);
    expect(t.states.length).toBe(3);
  });
});

describe('throwing switches', () => {
  const controls = [
    KEY,
    control('unit#engine', ['off', 'idle', 'working']),
    control('unit#brake', ['released', 'pressed']),
    control('kit/b#pedal', ['up', 'down']),
  ];
  it('the engine runs with the key on only', () => {
    expect(throwSwitch(controls, {}, 'unit#engine', 'idle')).toEqual({ 'unit#engine': 'idle', 'unit#key': 'run' });
    expect(throwSwitch(controls, { 'unit#engine': 'idle', 'unit#key': 'run' }, 'unit#key', 'off')).toEqual({
      'unit#engine': 'off',
      'unit#key': 'off',
    });
    expect(throwSwitch([KEY], {}, 'unit#key', 'acc')).toEqual({ 'unit#key': 'acc' });
  });
  it('one pedal works every brake switch', () => {
    expect(throwSwitch(controls, {}, 'kit/b#pedal', 'down')).toEqual({ 'unit#brake': 'pressed', 'kit/b#pedal': 'down' });
    expect(throwSwitch(controls, { 'unit#brake': 'pressed', 'kit/b#pedal': 'down' }, 'unit#brake', 'released')).toEqual({
      'unit#brake': 'released',
      'kit/b#pedal': 'up',
    });
  });
  it('what a control does comes from its own word first, then from its id', () => {
    expect([
      roleOf({ id: 'k/s#lamps' }),
      roleOf({ id: 'k/s#pedal' }),
      roleOf({ id: 'k/s#on' }),
      roleOf({ id: 'k/s#on', does: 'lights' }),
      roleOf({ id: 'unit#turn' }),
    ]).toEqual(['lights', 'brake', null, 'lights', 'turn']);
  });
});

describe('the navigation switch', () => {
  const nav = (p: string[]): When => ({ control: 'kit/n#nav', in: p });
  const h = made(
    [
      contact('side', 'bat+', 'a', [nav(['run']), key()]),
      contact('white', 'bat+', 'b', [nav(['run', 'anchor'])]),
      load('kit/side', 'a'),
      load('kit/white', 'b'),
    ],
    [control('kit/n#nav', ['off', 'run', 'anchor'])],
  );
  const t = switchTable(h, model, [lamp('kit/side', 'sidelight-port', 900), lamp('kit/white', 'all-round')]);
  it('under way with the key on, at anchor and off with the key out', () => {
    expect([...litAtNav(t, 'run')!].sort()).toEqual(['kit/side', 'kit/white']);
    expect([...litAtNav(t, 'anchor')!]).toEqual(['kit/white']);
    expect([...litAtNav(t, 'off')!]).toEqual([]);
  });
  it('there is none on a unit without such a switch', () => expect(litAtNav(switchTable(made([], []), model, []), 'run')).toBeNull());
});
