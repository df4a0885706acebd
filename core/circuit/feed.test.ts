import { describe, expect, it } from 'vitest';
import type { Circuit } from '#model/kit';
import { Circuit as CircuitShape } from '#model/kit';
import { PowerPoint as PointShape, type PowerPoint } from '#model/unit-model';
import { demoModel } from '../../tests/demo-sheets';
import { freeAmps, judgePoint } from './feed';

const model = demoModel('drover-4');
const circuit = (over: Partial<Circuit> = {}): Circuit =>
  CircuitShape.parse({ id: 'c', name: 'Circuit', devices: ['d'], switching: 'keyed', colour: 'RD', ...over });
const point = (over: Partial<PowerPoint> = {}): PowerPoint =>
  PointShape.parse({ id: 'p', name: 'Point', place: 'dash', kind: 'bus-bar-stud', switching: 'keyed', volts: 12, ...over });
const judge = (
  c: Partial<Circuit>,
  p: Partial<PowerPoint>,
  amps = 5,
  more: { taken?: number; m?: number | null; trigger?: boolean } = {},
) => judgePoint(model, circuit(c), point(p), amps, more.taken ?? 0, more.m === undefined ? 2 : more.m, more.trigger ?? true);

describe('room at a power point', () => {
  it.each([
    ['its fuse by the fuse rule', { fuseA: 10 }, 0, 8],
    ['less what is used', { fuseA: 10, usedA: 3 }, 0, 5],
    ['less what was newly taken', { fuseA: 10, usedA: 3 }, 4, 1],
    ['a rating has no fuse rule', { limitA: 20, usedA: 5 }, 0, 15],
    ['the smaller of both', { fuseA: 30, limitA: 20 }, 0, 20],
    ['none of its own', {}, 7, null],
  ] as const)('%s', (_, p, taken, free) => expect(freeAmps(point(p), taken)).toBe(free));
});

describe('judging a point for a circuit', () => {
  it.each([
    ['keyed on keyed', {}, {}, 'direct'],
    ['keyed on constant, with a relay', {}, { switching: 'constant' }, 'relay'],
    ['a relay on constant', { relay: 'required' }, { switching: 'constant' }, 'relay'],
    ['constant on constant', { switching: 'constant' }, { switching: 'constant' }, 'direct'],
    ['either on keyed', { switching: 'either' }, {}, 'direct'],
    ['either on constant', { switching: 'either' }, { switching: 'constant' }, 'direct'],
    ['the kind it is for', { only: ['bus-bar-stud'] }, {}, 'direct'],
    ['within two volts', {}, { volts: 13.8 }, 'direct'],
  ] as [string, Partial<Circuit>, Partial<PowerPoint>, string][])('takes %s', (_, c, p, mode) => {
    expect(judge(c, p)).toMatchObject({ accepted: true, mode });
  });
  it.each([
    ['other volts', {}, { volts: 48 }, /48 V here, the kit is made for 12 V/],
    ['another kind', { only: ['battery-post', 'solenoid-post'] }, {}, /goes to a battery post or solenoid post/],
    ['keyed for a constant need', { switching: 'constant' }, {}, /dead with the key off/],
    ['constant where a relay is not allowed', { relay: 'never' }, { switching: 'constant' }, /live with the key off/],
    ['keyed for a relay’s contact', { relay: 'required' }, {}, /only its trigger/],
    ['too little room', {}, { fuseA: 5 }, /needs 5 A, 4 A free of its 5 A fuse/],
    ['a rating that is full', {}, { limitA: 6, usedA: 3 }, /needs 5 A, 3 A free of its 6 A rating/],
  ] as [string, Partial<Circuit>, Partial<PowerPoint>, RegExp][])('refuses %s and says why', (_, c, p, reason) => {
    const j = judge(c, p);
    expect(j.accepted).toBe(false);
    expect(j.reason).toMatch(reason);
    expect(j.cost).toBe(Infinity);
  });
  it('refuses a relay that nothing could trigger, and a place that no run reaches', () => {
    expect(judge({}, { switching: 'constant' }, 5, { trigger: false }).reason).toMatch(/no keyed wire is listed/);
    expect(judge({}, {}, 5, { m: null }).reason).toMatch(/no run leads/);
  });
  it('prefers near to far, direct to relay, and keyed for what may stand on either', () => {
    expect(judge({}, {}, 5, { m: 1 }).cost).toBeLessThan(judge({}, {}, 5, { m: 3 }).cost);
    expect(judge({}, {}).cost).toBeLessThan(judge({}, { switching: 'constant' }).cost);
    expect(judge({ switching: 'either' }, {}).cost).toBeLessThan(judge({ switching: 'either' }, { switching: 'constant' }).cost);
  });
});
