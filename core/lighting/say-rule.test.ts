import { describe, expect, it } from 'vitest';
import { RuleItem, RULE_KINDS } from '#model/rule-pack';
import { demoPack, packIds } from '../../tests/demo-sheets';
import { KIND_WORD, sayRule } from './say-rule';

const mm = (x: number) => `${x} mm`;
const say = (rule: object) => sayRule(RuleItem.parse({ id: 'i', title: 'T', source: 'S', ...rule }), mm);

describe('what a rule asks for, in a phrase', () => {
  it.each([
    [
      { kind: 'equipment', anyOf: ['turn-front'], count: 2, most: 2, eachSide: true, colour: ['amber'], heightMm: { min: 381 } },
      '2 × turn front, at most 2, on each side, amber, centre at least 381 mm up',
    ],
    [{ kind: 'separation', of: ['turn-rear'], apartMm: { min: 180 }, measure: 'edges' }, 'turn rear at least 180 mm apart, between edges'],
    [
      { kind: 'clearance', of: ['turn-rear'], from: ['tail'], leastMm: 100, single: true },
      'turn rear at least 100 mm from a single tail, between centres',
    ],
    [{ kind: 'edge', of: ['tail'], mostMm: 400 }, 'tail at most 400 mm in from the edge'],
    [{ kind: 'symmetry', of: ['tail'], withinMm: 20 }, 'tail alike within 20 mm'],
    [{ kind: 'above', of: ['all-round'], over: ['sidelight-port'], leastMm: 1000 }, 'all round at least 1000 mm above sidelight port'],
    [
      { kind: 'sector', of: ['stern'], arcDeg: [112.5, 247.5], hiddenMostDeg: 6 },
      'stern seen from 112.5° to 247.5°, at most 6° hidden in one piece',
    ],
    [{ kind: 'intensity', of: ['stern'], rangeNm: 2 }, 'stern seen at 2 nm'],
    [{ kind: 'intensity', of: ['stern'], candela: 5 }, 'stern at least 5 cd'],
    [{ kind: 'flash', perMinute: { min: 60, max: 120 }, onSharePct: { max: 75 } }, '60 to 120 a minute, lit at most 75 % of each beat'],
    [
      {
        kind: 'logic',
        question: 'Q',
        given: [
          { control: 'nav', in: ['anchor'] },
          { lit: ['tail'], which: 'any' },
        ],
        then: [{ dark: ['stern'], side: 'left' }],
        flashing: true,
      },
      'with nav anchor and any tail lit: left stern dark, flashing',
    ],
    [{ kind: 'reading', question: 'How far?', unit: 'm', band: { min: 60 } }, 'How far? at least 60 m'],
    [{ kind: 'proof', question: 'Is it so?' }, 'Is it so?'],
    [{ kind: 'limit', of: 'lengthM', above: 12, below: 20 }, 'lengthM above 12, under 20'],
    [{ kind: 'weight' }, 'with people on every seat, within its gross rating'],
    [{ kind: 'weight', atMostKg: 1360 }, 'with people on every seat, at most 1360 kg'],
  ])('%j', (rule, text) => expect(say(rule)).toBe(text));
  it('has a word for every kind, and a phrase for every item that ships', () => {
    for (const k of RULE_KINDS) expect(KIND_WORD[k]).toMatch(/\S/);
    for (const id of packIds()) for (const i of demoPack(id).items) expect(sayRule(i, mm)).not.toMatch(/undefined|NaN|false/);
  });
});
