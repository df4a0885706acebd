import { describe, expect, it } from 'vitest';
import { demoKit, demoModel, demoPack } from '../tests/demo-sheets';
import { EventBody, OrderCommand } from '#core/events/registry';
import { OrderOpening } from './opening';
import { Kit } from './kit';
import { RulePack } from './rule-pack';
import { Settings } from './settings';
import { UnitModel } from './unit-model';
import { WireColour } from './common';

/** What is wrong with a value, as `path: message`. */
const problems = (schema: { safeParse(v: unknown): { error?: { issues: { path: PropertyKey[]; message: string }[] } } }, v: unknown) =>
  (schema.safeParse(v).error?.issues ?? []).map((i) => `${i.path.join('.')}: ${i.message}`);
const changed = <T extends object>(value: T, change: (v: T) => void): T => {
  const copy = structuredClone(value);
  change(copy);
  return copy;
};

describe('unit models', () => {
  const good = demoModel('drover-4');
  it.each<[string, (m: UnitModel) => void, RegExp]>([
    [
      'a curve that turns back',
      (m) => m.electrical.source.kind !== 'none' && m.electrical.source.curve.reverse(),
      /engine speed must rise/,
    ],
    ['a single point', (m) => m.electrical.source.kind !== 'none' && (m.electrical.source.curve.length = 1), /at least two points/],
    ['a battery of nothing', (m) => (m.electrical.battery.capacityAh = 0), /capacityAh: must be above zero/],
    ['an exponent below one', (m) => (m.electrical.battery.peukert = 0.9), /at least 1/],
    ['a battery nowhere', (m) => (m.electrical.battery.place = 'attic'), /battery.place: names place “attic”/],
    ['a power point nowhere', (m) => (m.powerPoints[0]!.place = 'attic'), /powerPoints.0.place/],
    ['a panel after none', (m) => (m.panels[0]!.after = ['roof']), /panel “roof”/],
    ['a place twice', (m) => (m.places[1]!.id = m.places[0]!.id), /is there twice/],
    ['years that end before they begin', (m) => (m.years.to = 1999), /ends before it begins/],
    ['no builds', (m) => (m.builds = []), /at least one build/],
    ['a length below nothing', (m) => (m.dims.lengthMm = -1), /dims.lengthMm: must be above zero/],
    ['an id with spaces', (m) => (m.id = 'Drover 4'), /lower-case letters/],
  ])('refuse %s', (_, change, message) => expect(problems(UnitModel, changed(good, change)).join('\n')).toMatch(message));
  it('take the good one', () => expect(problems(UnitModel, good)).toEqual([]));
});

describe('kits', () => {
  const good = demoKit('road-kit');
  it.each<[string, (k: Kit) => void, RegExp]>([
    ['a circuit to nothing', (k) => (k.circuits[0]!.devices = []), /circuits.0.devices/],
    ['a load on no circuit', (k) => k.circuits.splice(1, 1), /“Horn” draws current but is on no circuit/],
    ['a device twice', (k) => (k.devices[1]!.id = k.devices[0]!.id), /is there twice/],
    ['a wire of no colour', (k) => (k.circuits[0]!.colour = 'PURPLE'), /IEC 60757/],
    ['a drop of nothing', (k) => (k.circuits[0]!.dropPct = 0), /dropPct/],
    ['a share above one', (k) => (k.devices[0]!.load!.share = 1.2), /share/],
    ['three pairs of hands', (k) => (k.steps[0]!.hands = 3 as 2), /hands/],
    ['an empty box', (k) => (k.contents = []), /an empty box/],
    ['a step of no time', (k) => (k.steps[0]!.minutes = 0), /minutes: must be above zero/],
    ['words past their length', (k) => (k.summary = 'x'.repeat(301)), /summary: must be at most 300 characters/],
  ])('refuse %s', (_, change, message) => expect(problems(Kit, changed(good, change)).join('\n')).toMatch(message));
});

describe('rule packs', () => {
  const good = demoPack('road-general');
  it.each<[string, (p: RulePack) => void, RegExp]>([
    [
      'a band upside down',
      (p) => {
        const item = p.items[0]!;
        if (item.kind === 'equipment') item.heightMm = { min: 900, max: 500 };
      },
      /upside down/,
    ],
    ['an item twice', (p) => p.items.push(p.items[0]!), /“headlamps” is there twice/],
    ['an unknown kind of rule', (p) => ((p.items[0] as { kind: string }).kind = 'feeling'), /items.0.kind/],
    ['no edition', (p) => (p.edition = ''), /edition: must not be empty/],
  ])('refuse %s', (_, change, message) => expect(problems(RulePack, changed(good, change)).join('\n')).toMatch(message));
});

describe('orders', () => {
  const opening = {
    model: { id: 'drover-4', revision: 1 },
    build: 'a',
    year: 2025,
    identity: ' abc ',
    meterValue: 3,
    owner: ' Lio ',
    promisedAt: '2026-03-03T16:00:00.000Z',
    wishes: ['road'],
    restVolts: 12.6,
    condition: '',
    fitted: [],
  };
  it('trim and write identity in capitals', () => {
    expect(OrderOpening.parse(opening)).toMatchObject({ identity: 'ABC', owner: 'Lio' });
  });
  it.each([
    [{ owner: '' }, 'owner: must not be empty'],
    [{ year: 20.5 }, 'year: a year is a whole number'],
    [{ meterValue: -1 }, 'meterValue: must not be below zero'],
    [{ restVolts: 0 }, 'restVolts: must be above zero'],
    [{ restVolts: 400 }, 'restVolts: more than any pack here has'],
    [{ wishes: ['fly'] }, 'wishes.0'],
    [{ promisedAt: 'tomorrow' }, 'promisedAt'],
    [{ fitted: [{ id: 'a', name: 'A', watts: 9000 }] }, 'fitted.0.watts'],
    [{ restVolts: Number.NaN }, 'restVolts'],
    [{ restVolts: Infinity }, 'restVolts'],
  ])('refuse %j', (over, message) => expect(problems(OrderOpening, { ...opening, ...over }).join('\n')).toContain(message));
  it('a command cannot carry what only the record may say', () => {
    const reading = { type: 'reading.taken', step: 's', reading: 'r', value: 1 };
    expect(OrderCommand.safeParse(reading).success).toBe(true);
    expect(OrderCommand.safeParse({ ...reading, verdict: 'holds' }).success).toBe(false);
    expect(OrderCommand.safeParse({ type: 'order.opened', number: 1, opening }).success).toBe(false);
    expect(OrderCommand.safeParse({ type: 'order.sealed', sheetHash: 'a'.repeat(64) }).success).toBe(false);
    expect(EventBody.safeParse(reading).success).toBe(false);
  });
  it('over-long and malformed parts of commands are refused', () => {
    expect(OrderCommand.safeParse({ type: 'finding.added', text: 'x'.repeat(501) }).success).toBe(false);
    expect(OrderCommand.safeParse({ type: 'step.done', step: '../../etc' }).success).toBe(true);
    expect(OrderCommand.safeParse({ type: 'step.done', step: 'a b' }).success).toBe(false);
    expect(OrderCommand.safeParse({ type: 'fact.told', key: 'Watts', value: 1, label: 'x' }).success).toBe(false);
    expect(OrderCommand.safeParse({ type: 'handover.signed', name: 'x', strokes: '' }).success).toBe(false);
  });
});

describe('settings and colours', () => {
  it('have stated defaults', () => {
    expect(Settings.parse({})).toMatchObject({ units: 'imperial', tightShare: 0.8, parkedDays: 14, reserveSoc: 0.5, fuse150: false });
  });
  it.each([{ tightShare: 1 }, { tightShare: 0 }, { reserveSoc: 2 }, { parkedDays: 0 }, { units: 'furlongs' }, { more: 1 }])(
    'refuse %j',
    (s) => expect(Settings.safeParse(s).success).toBe(false),
  );
  it.each([
    ['GN/GY', true],
    ['GNYE', true],
    ['RD', true],
    ['RD/', false],
    ['rd', false],
    ['GN-GY', false],
    ['RD/BK/WH', false],
  ])('%s as a wire colour: %s', (c, ok) => expect(WireColour.safeParse(c).success).toBe(ok));
});
