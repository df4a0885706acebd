import { describe, expect, it } from 'vitest';
import { RuleItem, type StateClause } from '#model/rule-pack';
import { proveLogic } from './logic';
import type { SwitchTable } from './switching';

/** A small unit by hand: a lamp knob, a brake, a flasher for left and right. */
function table(
  lit: (s: { knob: string; brake: string; turn: string; beat: boolean }) => string[],
  over: Partial<SwitchTable> = {},
): SwitchTable {
  const t: SwitchTable = {
    states: [],
    roles: [],
    lit: [],
    between: [],
    unknown: new Set(),
    chatter: 0,
    lamps: [
      { id: 'u/head', name: 'Headlamp', function: 'headlamp', side: null },
      { id: 'u/tail-l', name: 'Left tail', function: 'tail', side: 'left' },
      { id: 'u/tail-r', name: 'Right tail', function: 'tail', side: 'right' },
      { id: 'u/stop', name: 'Stop lamp', function: 'stop', side: null },
      { id: 'u/turn-l', name: 'Left signal', function: 'turn-front', side: 'left' },
      { id: 'u/turn-r', name: 'Right signal', function: 'turn-front', side: 'right' },
    ],
  };
  for (const knob of ['off', 'on'])
    for (const brake of ['released', 'pressed'])
      for (const turn of ['off', 'left', 'right'])
        for (const beat of [true, false]) {
          t.between.push(-1);
          if (!beat) t.between[t.states.length - 1] = t.states.length;
          t.states.push({ controls: { knob, brake, turn }, beat });
          t.roles.push(
            new Map([
              ['lights', knob],
              ['brake', brake],
              ['turn', turn],
            ]),
          );
          t.lit.push(new Set(lit({ knob, brake, turn, beat })));
        }
  return { ...t, ...over };
}
const right = (s: { knob: string; brake: string; turn: string; beat: boolean }) => [
  ...(s.knob === 'on' ? ['u/head', 'u/tail-l', 'u/tail-r'] : []),
  ...(s.brake === 'pressed' ? ['u/stop'] : []),
  ...(s.turn === 'left' && s.beat ? ['u/turn-l'] : []),
  ...(s.turn === 'right' && s.beat ? ['u/turn-r'] : []),
];
const rule = (given: object[], then: object[], flashing = false) =>
  RuleItem.parse({ id: 'i', kind: 'logic', title: 'T', source: 'S', question: 'Q', given, then, flashing }) as Extract<
    RuleItem,
    { kind: 'logic' }
  >;
const HEAD: StateClause = { lit: ['headlamp'], which: 'any' };

describe('a rule about switching, over all states', () => {
  const good = table(right);
  it('holds where every state that it speaks of is so, and says in how many', () => {
    expect(proveLogic(rule([HEAD], [{ lit: ['tail'] }]), good)).toMatchObject({ outcome: 'holds', called: 12, tried: 24, failing: null });
    expect(proveLogic(rule([{ control: 'brake', in: ['released'] }], [{ dark: ['stop'] }]), good).outcome).toBe('holds');
  });
  it('fails with the plainest state, the fewest switches thrown, and names what is wrong', () => {
    const bad = table((s) => right(s).filter((l) => l !== 'u/tail-r' || s.brake === 'pressed'));
    const p = proveLogic(rule([HEAD], [{ lit: ['tail'] }]), bad);
    expect(p).toMatchObject({ outcome: 'fails', says: 'Right tail is dark' });
    expect(p.failing!.controls).toEqual({ knob: 'on', brake: 'released', turn: 'off' });
    expect(proveLogic(rule([HEAD], [{ lit: ['tail'], which: 'any' }]), bad).outcome).toBe('holds');
    expect(proveLogic(rule([HEAD], [{ lit: ['tail'], side: 'left' }]), bad).outcome).toBe('holds');
  });
  it('names several in one breath', () => {
    const dark = table((s) => right(s).filter((l) => !l.startsWith('u/tail')));
    expect(proveLogic(rule([HEAD], [{ lit: ['tail'] }]), dark).says).toBe('Left tail, Right tail are dark');
    const all = table(() => ['u/head', 'u/tail-l', 'u/tail-r', 'u/stop']);
    expect(proveLogic(rule([{ control: 'lights', in: ['off'] }], [{ dark: ['headlamp', 'tail'] }]), all).says).toBe(
      'Headlamp, Left tail and 1 more are lit',
    );
  });
  it('flashing means lit on the beat and dark between', () => {
    const left = rule(
      [{ control: 'turn', in: ['left'] }],
      [
        { lit: ['turn-front'], side: 'left' },
        { dark: ['turn-front'], side: 'right' },
      ],
      true,
    );
    expect(proveLogic(left, good)).toMatchObject({ outcome: 'holds', called: 4 });
    const steady = table((s) => [...right(s), ...(s.turn === 'left' ? ['u/turn-l'] : [])]);
    expect(proveLogic(left, steady)).toMatchObject({ outcome: 'fails', says: 'Left signal does not flash' });
    const both = table((s) => [...right(s), ...(s.turn === 'left' && s.beat ? ['u/turn-r'] : [])]);
    expect(proveLogic(left, both)).toMatchObject({ outcome: 'fails', says: 'Right signal is lit' });
  });
  it('a control that is not on the unit stands at rest: asking for rest is met, asking for more is never called for', () => {
    expect(proveLogic(rule([HEAD, { control: 'hazard', in: ['off'] }], [{ lit: ['tail'] }]), good).outcome).toBe('holds');
    expect(proveLogic(rule([{ control: 'hazard', in: ['on'] }], [{ lit: ['tail'] }]), good)).toMatchObject({
      outcome: 'unknown',
      says: expect.stringMatching(/not in the wiring/),
    });
  });
  it('what cannot be tried is not proved: no such lamp, or one whose switching nobody describes', () => {
    expect(proveLogic(rule([HEAD], [{ lit: ['plate'] }]), good)).toMatchObject({ outcome: 'unknown', says: 'no plate to try' });
    expect(proveLogic(rule([HEAD], [{ lit: ['headlamp'], side: 'left' }]), good)).toMatchObject({
      outcome: 'unknown',
      says: 'no headlamp on the left to try',
    });
    expect(proveLogic(rule([HEAD], [{ lit: ['tail'] }]), table(right, { unknown: new Set(['u/tail-l']) }))).toMatchObject({
      outcome: 'unknown',
      says: 'how Left tail is switched is on no sheet',
    });
    // a lamp that is not there is dark for sure
    expect(proveLogic(rule([HEAD], [{ dark: ['plate'] }]), good).outcome).toBe('holds');
  });
});
