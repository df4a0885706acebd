import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { runCalculation } from './registry';

const file = (folder: 'models' | 'kits', id: string) =>
  JSON.parse(readFileSync(new URL(`../../demo/${folder}/${id}.json`, import.meta.url), 'utf8')) as Record<string, unknown>;
interface Answer {
  stations: Record<string, { verdict: string | null; owed: string }>;
  fit: { kit: string; verdict: string }[];
  power: { verdict: string; idleMarginA: number | null; workingMarginA: number | null };
  circuits: {
    id: string;
    verdict: string;
    fuseA: number | null;
    fuseVolts: number | null;
    fuseFrom: string | null;
    wireFrom: string;
    awg: number | null;
  }[];
  needs: { item: string; quantity: number; unit: string }[];
  lamps: { pack: string; item: string; verdict: string | null }[];
  steps: {
    id: string;
    power: string;
    panelsOff: string[];
    tools: string[];
    stage: string;
    readings: { id: string; required: boolean }[];
    cautions: string[];
  }[];
  minutes: number;
  unknowns: { path: string; settles: string }[];
}
const ask = (q: object) => runCalculation('order.assess', q) as unknown as Answer;
const UNITS: [string, string[]][] = [
  ['drover-4', ['front-harness', 'road-kit', 'winch-32', 'roof-bar']],
  ['parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors']],
  ['lapwing-500', ['heated-grips', 'aux-lamps', 'navigator']],
  ['sandbar-21', ['helm-panel', 'nav-lights', 'docking-lamps', 'boat-horn']],
  ['skarn-600', ['usb-socket']],
];

describe('order.assess', () => {
  it.each(UNITS)('answers for %s what the screens show', (m, kits) => {
    const { order, sheets } = demoOrder(m, kits);
    const a = assess(order, sheets, DEFAULT_SETTINGS);
    const r = ask({
      model: file('models', m),
      kits: kits.map((k) => file('kits', k)),
      year: order.unit.year,
      identity: order.unit.identity,
      restVolts: order.restVolts,
    });
    expect(r.stations).toEqual(JSON.parse(JSON.stringify(a.stations)));
    expect(r.circuits.map((c) => [c.id, c.verdict, c.awg, c.fuseA, c.fuseVolts])).toEqual(
      a.wiring.circuits.map((c) => [c.id, c.verdict, c.awg, c.fuseA, c.fuseKind?.ratedV ?? null]),
    );
    expect(r.steps.map((s) => s.id)).toEqual(a.steps.map((s) => s.id));
    expect(r.needs.map((n) => n.item)).toEqual(a.needs.map((n) => n.name));
    expect(r.lamps.length).toBe(a.lamps.packs.reduce((n, p) => n + p.items.length, 0));
    expect(r.minutes).toBe(a.minutes.planned);
    // what is under a panel is done with it off, what is wired with the power off
    for (const s of r.steps) if (s.stage === 'mount' || s.stage === 'wire') expect(s.power).toBe('off');
    expect(r.steps.at(-1)!.panelsOff).toEqual([]);
    expect(r.steps.some((s) => s.panelsOff.length > 0)).toBe(true);
    expect(r.circuits.map((c) => [c.wireFrom, c.fuseFrom])).toEqual(a.wiring.circuits.map((c) => [c.wireFrom, c.fuseFrom]));
  });
  it('takes bare sheets as whole files, and what was chosen as events', () => {
    const kit = file('kits', 'roof-bar');
    const whole = ask({ model: file('models', 'drover-4'), kits: [kit] });
    expect(ask({ model: file('models', 'drover-4').sheet, kits: [kit.sheet] })).toEqual(whole);
    const choice = { type: 'wire.overridden' as const, circuit: 'roof-bar/bar', field: 'fuseA' as const, value: 60, reason: 'x' };
    const changed = ask({ model: file('models', 'drover-4'), kits: [kit], choices: [choice] });
    expect([whole.circuits[0]!.verdict, changed.circuits[0]!.verdict]).toEqual(['holds', 'fails']);
    const { order, sheets } = demoOrder('drover-4', ['roof-bar']);
    expect(assess(after(order, choice), sheets, DEFAULT_SETTINGS).wiring.circuits[0]!.verdict).toBe('fails');
  });
  it('names what is not known and what settles it', () => {
    const sheet = structuredClone(file('kits', 'roof-bar').sheet) as { devices: { load?: { watts: number | null } }[] };
    for (const d of sheet.devices) if (d.load) d.load.watts = null;
    const r = ask({ model: file('models', 'drover-4'), kits: [sheet] });
    expect(r.unknowns[0]).toMatchObject({ path: expect.stringMatching(/^watts:roof-bar/), settles: expect.stringMatching(/watts of the/) });
    expect(r.power.idleMarginA).toBeNull();
  });
  it.each([
    [{ model: { kadro: 'kit' }, kits: [] }, /model\.kadro: is “kit”/],
    [{ model: {}, kits: [] }, /^model\./],
    [{ model: file('models', 'drover-4'), kits: [{ id: 'x' }] }, /^kits\.0\.\w+: is missing/],
    [{ model: file('models', 'drover-4'), kits: [file('kits', 'roof-bar'), file('kits', 'roof-bar')] }, /there twice/],
    [{ model: file('models', 'drover-4'), kits: [], build: 'moon' }, /no build “moon”/],
    [{ model: file('models', 'drover-4'), kits: [], choices: [{ type: 'moon.shot' }] }, /^choices\.0/],
    [{ model: file('models', 'drover-4'), kits: [], settings: { tightShare: 7 } }, /^settings/],
  ])('refuses what cannot be, with its path: %#', (q, says) => expect(() => ask(q)).toThrow(says));
});

describe('sheet.check', () => {
  const check = (sheet: object) =>
    runCalculation('sheet.check', { sheet }) as { kind: string; problems: { path: string; message: string }[]; revisionHash: string };
  it('finds nothing in the demo’s sheets, and every problem of a broken one with its path', () => {
    for (const [folder, id, kind] of [
      ['models', 'drover-4', 'model'],
      ['kits', 'road-kit', 'kit'],
    ] as const)
      expect(check(file(folder, id))).toMatchObject({ kind, problems: [] });
    const broken = structuredClone(file('kits', 'roof-bar').sheet) as { circuits: { devices: string[] }[]; moon?: number };
    broken.circuits[0]!.devices.push('ghost');
    broken.moon = 1;
    expect(check(broken).problems).toEqual(expect.arrayContaining([{ path: 'moon', message: 'is not a field of this format' }]));
    delete broken.moon;
    expect(check(broken).problems[0]).toMatchObject({ path: 'circuits.0.devices.1', message: expect.stringMatching(/ghost/) });
  });
  it('the revision’s hash is of what the sheet says: not of its envelope, nor of the order of its fields', () => {
    const whole = file('kits', 'roof-bar');
    const sheet = whole.sheet as Record<string, unknown>;
    const turned = Object.fromEntries(Object.entries(sheet).reverse());
    expect(new Set([check(whole), check(sheet), check(turned)].map((r) => r.revisionHash)).size).toBe(1);
    expect(check({ ...sheet, name: 'Another' }).revisionHash).not.toBe(check(sheet).revisionHash);
    expect(check(sheet).revisionHash).toMatch(/^[0-9a-f]{64}$/);
  });
});
