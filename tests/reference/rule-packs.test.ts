import { describe, expect, it } from 'vitest';
import type { RuleItem, RulePack } from '#model/rule-pack';
import { rangeOfIntensity } from '#core/lighting/range';
import { demoPack } from '../demo-sheets';

// What the packs that ship hold, against the published values they were made from. All typed from memory: to be confirmed
// against a copy. A pack edited by mistake is found here, whatever its judgement says.

const item = <K extends RuleItem['kind']>(pack: RulePack, id: string, kind: K) => {
  const i = pack.items.find((x) => x.id === id);
  expect(i, `${pack.id}/${id}`).toBeDefined();
  expect(i!.kind).toBe(kind);
  return i as Extract<RuleItem, { kind: K }>;
};
const inches = (mm: number | undefined) => Math.round(mm! / 25.4);

describe('49 CFR 571.500 S5(b): what a low-speed vehicle must carry', () => {
  const pack = demoPack('low-speed-vehicle');
  const equipment = pack.items.flatMap((i) => (i.kind === 'equipment' ? [i] : []));
  it.each([
    ['headlamp', 2, ['white']],
    ['turn-front', 2, ['amber']],
    ['turn-rear', 2, ['amber', 'red']],
    ['tail', 2, ['red']],
    ['stop', 2, ['red']],
    ['reflector-side', 2, ['red']],
    ['reflector-rear', 1, ['red']],
    ['mirror-driver', 1, undefined],
    ['mirror-inside', 1, undefined],
    ['parking-brake', 1, undefined],
    ['windshield', 1, undefined],
    ['identity-plate', 1, undefined],
    ['belt', 1, undefined],
  ] as const)('%s', (f, count, colour) => {
    const rule = equipment.find((e) => (e.anyOf as readonly string[]).includes(f))!;
    expect(rule.count).toBe(count);
    expect(rule.colour).toEqual(colour);
    expect(rule.eachSide).toBe(count === 2);
    expect(rule.source).toMatch(/571\.500/);
    // no height of its own: 571.500 sets none
    expect(rule.heightMm).toBeUndefined();
  });
  it('571.3: more than 20 and at most 25 mph, gross rating under 3000 lb', () => {
    const speed = item(pack, 'class-speed', 'limit');
    expect([speed.above! / 1.609344, speed.atMost! / 1.609344].map((x) => Math.round(x * 1000) / 1000)).toEqual([20, 25]);
    expect(item(pack, 'class-mass', 'limit').below! / 0.45359237).toBeCloseTo(3000, 0);
  });
  it('571.111 and 571.141 are asked of a person, the alert sound of electric units only', () => {
    expect(item(pack, 'rear-visibility', 'proof').source).toBe('49 CFR 571.500 S5(b)(11), 571.111');
    expect(item(pack, 'alert-sound', 'proof')).toMatchObject({ source: '49 CFR 571.500 S5(b)(12), 571.141', when: { power: 'electric' } });
  });
});

describe('49 CFR 571.108: heights in inches, from the ground to the lamp’s centre', () => {
  const TABLE: Record<string, [number, number]> = {
    headlamp: [22, 54],
    tail: [15, 72],
    stop: [15, 72],
    'turn-front': [15, 83],
    'turn-rear': [15, 83],
    'reflector-rear': [15, 60],
  };
  for (const id of ['low-speed-vehicle', 'road-general', 'motorcycle-lamps'])
    it.each(Object.entries(TABLE))(`${id}: %s %j`, (f, [low, high]) => {
      const rule = demoPack(id).items.find((i) => i.kind === 'equipment' && i.heightMm && (i.anyOf as string[]).includes(f)) as Extract<
        RuleItem,
        { kind: 'equipment' }
      >;
      if (id === 'low-speed-vehicle') expect(rule.source).toMatch(/^not in 49 CFR 571.500: state law or advice/);
      expect([inches(rule.heightMm!.min), inches(rule.heightMm!.max)]).toEqual([low, high]);
    });
  it('flash rate after SAE J590: 60 to 120 a minute, lit 30 to 75 % of the cycle', () => {
    for (const id of ['low-speed-vehicle', 'road-general', 'motorcycle-lamps'])
      expect(item(demoPack(id), 'flash-rate', 'flash')).toMatchObject({
        perMinute: { min: 60, max: 120 },
        onSharePct: { min: 30, max: 75 },
      });
  });
});

describe('motorcycle signals by two bodies of rules', () => {
  const us = demoPack('motorcycle-lamps');
  const un = demoPack('motorcycle-r53');
  it('49 CFR 571.108: centres 16 in apart in front, 9 in behind; 4 in clear of headlamp and of a single tail lamp', () => {
    expect(item(us, 'front-apart', 'separation')).toMatchObject({ apartMm: { min: 16 * 25.4 }, measure: 'centres' });
    expect(item(us, 'rear-apart', 'separation')).toMatchObject({ apartMm: { min: 9 * 25.4 }, measure: 'centres' });
    expect(item(us, 'front-clear', 'clearance')).toMatchObject({ leastMm: 4 * 25.4, from: ['headlamp'], single: false });
    expect(item(us, 'rear-clear', 'clearance')).toMatchObject({ leastMm: 4 * 25.4, from: ['tail'], single: true, colour: ['red'] });
  });
  it('UNECE R53: 240 mm in front, 180 mm behind between lighted surfaces, 350 to 1200 mm up, 90 ± 30 a minute', () => {
    expect(item(un, 'front-apart', 'separation')).toMatchObject({ apartMm: { min: 240 }, measure: 'edges' });
    expect(item(un, 'rear-apart', 'separation')).toMatchObject({ apartMm: { min: 180 }, measure: 'edges' });
    for (const id of ['front-signals', 'rear-signals']) expect(item(un, id, 'equipment').heightMm).toEqual({ min: 350, max: 1200 });
    expect(item(un, 'flash-rate', 'flash').perMinute).toEqual({ min: 90 - 30, max: 90 + 30 });
  });
});

describe('Uniform Vehicle Code ch. 12: distances in feet', () => {
  const pack = demoPack('road-general');
  it.each([
    ['horn-heard', 200],
    ['plate-read', 50],
    ['stop-seen', 300],
    ['signals-seen', 500],
    ['tail-seen', 1000],
    ['mirror-view', 200],
  ])('%s %i ft', (id, feet) => {
    const r = item(pack, id, 'reading');
    expect(r.unit).toBe('m');
    // a tenth of a metre below at most, so that a paced figure of so many feet is enough
    expect(feet * 0.3048 - r.band.min!).toBeGreaterThanOrEqual(-1e-9);
    expect(feet * 0.3048 - r.band.min!).toBeLessThan(0.1);
  });
  it('says that it is a pattern and that the state decides', () => {
    expect(pack.place).toMatch(/your state decides/);
    expect(pack.caution).toMatch(/copy this pack/);
  });
});

describe('33 CFR 83 and 84: navigation lights', () => {
  const small = demoPack('navigation-under-12m');
  const large = demoPack('navigation-12-20m');
  const width = (p: RulePack, id: string) => {
    const [a, b] = item(p, id, 'sector').arcDeg;
    return b - a;
  };
  it('83.21: masthead 225°, sidelights 112.5° each, stern 135°, all-round 360°', () => {
    expect([width(small, 'port-sector'), width(small, 'starboard-sector'), width(small, 'white-sector')]).toEqual([112.5, 112.5, 360]);
    expect([width(large, 'masthead-sector'), width(large, 'stern-sector'), width(large, 'anchor-sector')]).toEqual([225, 135, 360]);
    // port is to the left of the bow, starboard to the right
    expect(item(small, 'port-sector', 'sector').arcDeg[1]).toBe(0);
    expect(item(small, 'starboard-sector', 'sector').arcDeg[0]).toBe(0);
  });
  it('83.22: under 12 m side 1 and white 2 sea miles; 12 to 20 m masthead 3, side 2, stern 2, all-round 2', () => {
    const nm = (p: RulePack, id: string) => item(p, id, 'intensity').rangeNm;
    expect([nm(small, 'side-range'), nm(small, 'white-range')]).toEqual([1, 2]);
    expect(['masthead-range', 'side-range', 'stern-range', 'anchor-range'].map((id) => nm(large, id))).toEqual([3, 2, 2, 2]);
    for (const p of [small, large]) for (const i of p.items) if (i.kind === 'intensity') expect(i.transmissivity).toBe(0.8);
  });
  it('84: under 12 m the white is at least 1 m above the sidelights', () => expect(item(small, 'above', 'above').leastMm).toBe(1000));
  it('83.30: at anchor the sidelights are dark', () => {
    expect(item(small, 'anchor-dark', 'logic').then).toEqual([{ dark: ['sidelight-port', 'sidelight-starboard'] }]);
  });
  it('84, Annex I the other way round: the table’s candela are seen at the table’s miles, to what its rounding leaves', () => {
    for (const [nm, cd] of [
      [1, 0.9],
      [2, 4.3],
      [3, 12],
      [4, 27],
      [5, 52],
      [6, 94],
    ] as const)
      expect(Math.abs(rangeOfIntensity(cd) - nm)).toBeLessThan(0.03);
  });
});
