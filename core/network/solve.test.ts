import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import type { Element } from './element';
import { Network } from './solve';
import { randomNetwork } from '../../tests/random-network';

const solve = (elements: Element[], ground = '0') => new Network(elements, ground).solve();
const V = (id: string, from: string, to: string, volts: number, ohms = 0): Element => ({ id, kind: 'V', from, to, volts, ohms });
const R = (id: string, from: string, to: string, ohms: number): Element => ({ id, kind: 'R', from, to, ohms });
const P = (id: string, from: string, to: string, watts: number, minVolts: number): Element => ({
  id,
  kind: 'load',
  law: 'constant-power',
  from,
  to,
  watts,
  volts: 12,
  minVolts,
});
const D = (id: string, from: string, to: string, volts = 0.7): Element => ({ id, kind: 'diode', from, to, volts });
const S = (id: string, from: string, to: string, closed: boolean): Element => ({ id, kind: 'switch', from, to, closed });

describe('linear networks', () => {
  it('divides volts', () => {
    const s = solve([V('b', 'p', '0', 12), R('r1', 'p', 'm', 1), R('r2', 'm', '0', 3)]);
    expect(s.volts.get('m')).toBeCloseTo(9, 12);
    expect(s.amps.get('r1')).toBeCloseTo(3, 12);
    expect(s.amps.get('b')).toBeCloseTo(-3, 12);
  });

  it('takes a source whose plus is not ground’s side, and one with ohms of its own', () => {
    const s = solve([V('b', '0', 'm', 12, 0.1), R('r', 'm', '0', 1.1)]);
    expect(s.volts.get('m')).toBeCloseTo(-11, 12);
  });

  it('stacks ideal sources', () => {
    const s = solve([V('a', 'm', '0', 12), V('b', 'p', 'm', 12), R('r', 'p', '0', 24)]);
    expect(s.volts.get('p')).toBe(24);
    expect(s.amps.get('a')).toBeCloseTo(-1, 12);
    expect(s.amps.get('b')).toBeCloseTo(-1, 12);
  });

  it('shares a current between closed switches in parallel', () => {
    const s = solve([V('b', 'p', '0', 12), S('s1', 'p', 'm', true), S('s2', 'p', 'm', true), R('r', 'm', '0', 6)]);
    expect(s.amps.get('s1')).toBeCloseTo(1, 12);
    expect(s.amps.get('s2')).toBeCloseTo(1, 12);
  });

  it('leaves what an open switch cuts off at rest', () => {
    const s = solve([V('b', 'p', '0', 12), S('s', 'p', 'm', false), R('r', 'm', '0', 6), R('far', 'x', 'y', 1)]);
    expect(s.volts.get('m')).toBe(0);
    expect(s.amps.get('s')).toBe(0);
    expect(s.amps.get('far')).toBe(0);
  });

  it('drives a current', () => {
    const s = solve([{ id: 'i', kind: 'I', from: '0', to: 'm', amps: 2 }, R('r', 'm', '0', 3)]);
    expect(s.volts.get('m')).toBeCloseTo(6, 12);
  });
});

describe('what has no answer', () => {
  it.each([
    ['batteries that disagree', [V('a', 'p', '0', 12), V('b', 'p', '0', 6)], /“b” closes a loop.*6.*loop of batteries/],
    ['a short across a source', [V('a', 'p', '0', 12), S('s', 'p', '0', true)], /“s” closes a loop.*short across a source/],
    ['an element joined to itself', [R('r', 'a', 'a', 1)], /same point/],
    ['ohms below zero', [R('r', 'a', '0', -1)], /below zero/],
    ['a figure that is none', [R('r', 'a', '0', NaN)], /not a number/],
    ['two of one name', [R('r', 'a', '0', 1), R('r', 'b', '0', 1)], /twice/],
    ['a current with no way back', [{ id: 'i', kind: 'I', from: '0', to: 'm', amps: 1 } as Element, R('r', 'x', '0', 1)], /no way back/],
  ] as [string, Element[], RegExp][])('%s', (_, elements, message) => {
    expect(() => solve(elements)).toThrow(message);
  });
});

describe('loads and diodes', () => {
  it('gives a constant-power load the higher of its two answers', () => {
    // 12 V behind 1 Ω and 20 W: v² − 12 v + 20 = 0, so 10 V or 2 V
    const s = solve([V('b', 'p', '0', 12), R('r', 'p', 'm', 1), P('lamp', 'm', '0', 20, 1)]);
    expect(s.volts.get('m')).toBeCloseTo(10, 9);
    expect(s.amps.get('lamp')).toBeCloseTo(2, 9);
  });

  it('turns it into a resistor where it cannot have its watts', () => {
    // 12 V behind 4 Ω gives at most 9 W; under 8 V the load is 8²/20 = 3.2 Ω
    const s = solve([V('b', 'p', '0', 12), R('r', 'p', 'm', 4), P('lamp', 'm', '0', 20, 8)]);
    expect(s.volts.get('m')).toBeCloseTo((12 * 3.2) / 7.2, 9);
  });

  it('lets a diode conduct one way', () => {
    const on = solve([V('b', 'p', '0', 12), D('d', 'p', 'm'), R('r', 'm', '0', 10)]);
    expect(on.volts.get('m')).toBeCloseTo(11.3, 3);
    const off = solve([V('b', 'p', '0', 12), D('d', 'm', 'p'), R('r', 'm', '0', 10)]);
    expect(off.amps.get('d')).toBe(0);
  });

  it('finds the way through a bridge, whichever way round the source is', () => {
    for (const volts of [12, -12]) {
      const s = solve([
        V('b', 'p', 'n', volts),
        D('1', 'p', 'x'),
        D('2', 'n', 'x'),
        D('3', '0', 'p'),
        D('4', '0', 'n'),
        R('r', 'x', '0', 10),
      ]);
      expect(s.volts.get('x')).toBeCloseTo(10.6, 2);
    }
  });

  it('a filament draws by the 1.6th power of its volts', () => {
    const s = solve([
      V('b', 'p', '0', 14),
      { id: 'f', kind: 'load', law: 'filament', from: 'p', to: '0', watts: 55, volts: 12, minVolts: 1 },
    ]);
    expect(s.amps.get('f')! * 14).toBeCloseTo(55 * (14 / 12) ** 1.6, 9);
  });
});

describe('laws that hold in any network', () => {
  it('Kirchhoff’s current law to 1e-9 and Ohm’s in every wire', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e9 }), (seed) => {
        const { elements, ground } = randomNetwork(seed, { nonlinear: seed % 2 === 0 });
        const s = new Network(elements, ground).solve();
        const sums = new Map<string, number>();
        for (const e of elements) {
          const i = s.amps.get(e.id)!;
          sums.set(e.from, (sums.get(e.from) ?? 0) + i);
          sums.set(e.to, (sums.get(e.to) ?? 0) - i);
          if (e.kind === 'R') expect(Math.abs(s.volts.get(e.from)! - s.volts.get(e.to)! - i * e.ohms)).toBeLessThan(1e-9);
        }
        const largest = Math.max(1, ...[...s.amps.values()].map(Math.abs));
        for (const x of sums.values()) expect(Math.abs(x)).toBeLessThan(1e-9 * largest);
      }),
      { numRuns: 300 },
    );
  });

  it('power given equals power taken', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e9 }), (seed) => {
        const { elements, ground } = randomNetwork(seed, { nonlinear: true });
        const s = new Network(elements, ground).solve();
        const powers = elements.map((e) => (s.volts.get(e.from)! - s.volts.get(e.to)!) * s.amps.get(e.id)!);
        const scale = Math.max(1, ...powers.map(Math.abs));
        expect(Math.abs(powers.reduce((a, b) => a + b, 0)) / scale).toBeLessThan(1e-8);
      }),
      { numRuns: 200 },
    );
  });

  it.each([588666390, 262594041, 328171280, 332795976, 376611803, 629861423])(
    'settles network %i, where a load stands at the volts at which it leaves its law',
    (seed) => {
      const { elements, ground } = randomNetwork(seed, { nonlinear: true });
      const s = new Network(elements, ground).solve();
      const into = new Map<string, number>();
      for (const e of elements) {
        const v = s.volts.get(e.from)! - s.volts.get(e.to)!;
        const i = s.amps.get(e.id)!;
        into.set(e.from, (into.get(e.from) ?? 0) + i);
        into.set(e.to, (into.get(e.to) ?? 0) - i);
        // the law of each, written out once more
        if (e.kind === 'load' && e.law === 'constant-power' && v > 0)
          expect(i).toBeCloseTo(v >= e.minVolts ? e.watts / v : (e.watts / e.minVolts ** 2) * v, 9);
      }
      for (const x of into.values()) expect(Math.abs(x)).toBeLessThan(1e-7);
    },
  );

  it('answers the same when solved again with changed figures as when built anew', () => {
    const at = (volts: number, ohms: number) => [
      V('b', 'p', '0', volts),
      R('w', 'p', 'm', ohms),
      P('l', 'm', '0', 15, 6),
      D('d', 'm', 'k'),
      R('k', 'k', '0', 50),
    ];
    const kept = new Network(at(12, 0.1), '0');
    kept.solve();
    for (const [volts, ohms] of [
      [13, 0.2],
      [9, 0.5],
      [14.4, 0.01],
    ] as const) {
      (kept.element('b') as { volts: number }).volts = volts;
      (kept.element('w') as { ohms: number }).ohms = ohms;
      const again = kept.solve();
      const anew = new Network(at(volts, ohms), '0').solve();
      for (const [n, v] of anew.volts) expect(again.volts.get(n)).toBeCloseTo(v, 9);
    }
  });
});
