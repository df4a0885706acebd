import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { planWiring } from '#core/wiring/plan';
import { demoOrder } from '../../../tests/demo-sheets';
import { readHarness } from '../../tools/read-harness';
import { readout } from './readout';

describe('a meter’s display', () => {
  it.each([
    ['volts', 12.604, '12.60 V'],
    ['volts', -9.161, '−9.16 V'],
    ['volts', -0.001, '0.00 V'],
    ['amps', 10.04, '10.04 A'],
    ['amps', 0.0127, '12.7 mA'],
    ['amps', 0.00423, '4.23 mA'],
    ['ohms', 0.024, '0.02 Ω'],
    ['ohms', 86.46, '86.46 Ω'],
    ['ohms', 4700, '4.7 kΩ'],
    ['ohms', Infinity, 'OL, open'],
  ] as const)('%s of %d reads %s', (mode, x, says) => expect(readout(mode, x)).toBe(says));
});

describe('a saved harness', () => {
  const { order, sheets } = demoOrder('lapwing-500', ['aux-lamps']);
  const text = JSON.stringify({ kadro: 'harness', format: 1, harness: planWiring(order, sheets, DEFAULT_SETTINGS).harness });
  const problems = (t: string) => {
    const r = readHarness(t);
    return 'problems' in r ? r.problems.join('; ') : '';
  };
  it('is read back as it was saved', () => {
    const r = readHarness(text);
    expect('harness' in r && r.harness).toEqual(JSON.parse(text).harness);
  });
  it.each([
    ['no JSON', '{"kadro":', /this is no JSON/],
    ['another of our files', readFileSync(new URL('../../../demo/kits/roof-bar.json', import.meta.url), 'utf8'), /kadro: /],
    ['a newer format', text.replace('"format":1', '"format":2'), /format: /],
    ['a figure below zero', text.replace('"ratingA":7.5', '"ratingA":-7.5'), /ratingA: /],
    ['a field that is not known', text.replace('"keyed":', '"colour":"red","keyed":'), /Unrecognized key|not a field|colour/],
  ])('refuses %s and says where', (_, t, says) => expect(problems(t)).toMatch(says));
});
