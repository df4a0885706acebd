import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { UnitModel } from '#model/unit-model';
import { after, demoModel, demoOrder, demoPack, packIds } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { proposePacks } from './choose-packs';
import { unitOf } from './lamp';
import { proveLogic } from './logic';
import { runCalculation } from '../calc/registry';
import type { RuleItem } from '#model/rule-pack';
import { switchTable } from './switching';

const packs = packIds().map(demoPack);
const proposed = (m: UnitModel, uses: string[], facts = {}) =>
  proposePacks(packs, [], unitOf(m, facts), facts, uses, null)
    .filter((p) => p.chosen)
    .map((p) => p.pack.id);

describe('which packs are proposed', () => {
  const cart = demoModel('parkway-48');
  it('a cart of the low-speed class that goes on the road, and none that does not', () => {
    expect(proposed(cart, ['road'])).toEqual(['low-speed-vehicle']);
    expect(proposed(cart, ['night'])).toEqual([]);
    expect(proposed({ ...cart, topSpeedKmh: 30 }, ['road'])).toEqual([]);
    expect(proposed({ ...cart, gvwrKg: 1400 }, ['road'])).toEqual([]);
  });
  it('asks for the one fact that is lacking, and proposes once it is told', () => {
    const m = { ...cart, topSpeedKmh: undefined };
    const p = proposePacks(packs, [], unitOf(m, {}), {}, ['road'], null).find((x) => x.pack.id === 'low-speed-vehicle')!;
    expect(p).toMatchObject({ proposed: false, asks: { key: 'unit:top-speed-kmh', kind: 'number' } });
    expect(proposed(m, ['road'], { 'unit:top-speed-kmh': 38 })).toEqual(['low-speed-vehicle']);
    const bike = demoModel('lapwing-500');
    expect(proposed(bike, [])).toEqual(['motorcycle-lamps']);
    expect(proposed(bike, [], { 'fact:un-regulations': true }).sort()).toEqual(['motorcycle-lamps', 'motorcycle-r53']);
  });
  it('a boat by its length: under 12 m, 12 to under 20 m', () => {
    const boat = demoModel('sandbar-21');
    const of = (lengthMm: number) => proposed({ ...boat, dims: { ...boat.dims, lengthMm } }, []);
    expect([of(6400), of(11_990), of(12_000), of(19_990), of(20_000)]).toEqual([
      ['navigation-under-12m'],
      ['navigation-under-12m'],
      ['navigation-12-20m'],
      ['navigation-12-20m'],
      [],
    ]);
  });
  it('what a person chose counts instead', () => {
    const { order, sheets } = demoOrder('parkway-48', []);
    const a = assess(after(order, { type: 'packs.chosen', packs: ['road-general'], label: 'x' }), sheets, DEFAULT_SETTINGS);
    expect(a.lamps.packs.map((p) => p.pack.id)).toEqual(['road-general']);
  });
});

describe('functions in every state of the switches', () => {
  const logic = (id: string, item: string) => demoPack(id).items.find((i) => i.id === item) as Extract<RuleItem, { kind: 'logic' }>;
  const table = (model: string, kits: string[], change?: (kits: ReturnType<typeof demoOrder>['sheets']['kits']) => void) => {
    const { order, sheets } = demoOrder(model, kits);
    if (change) change(sheets.kits);
    const a = assess(order, sheets, DEFAULT_SETTINGS);
    return { t: a.lamps.given.table!, a, sheets };
  };
  it('a hazard on a keyed feed is dark with the key off, and the state is shown', () => {
    const { t } = table('drover-4', ['front-harness', 'road-kit']);
    const p = proveLogic(logic('road-general', 'hazard-key-off'), t);
    expect(p).toMatchObject({ outcome: 'fails', says: 'Front left signal, Front right signal and 2 more are dark' });
    expect(p.failing!.controls).toMatchObject({ 'road-kit/switch#hazard': 'on', 'unit#key': 'off' });
    expect(proveLogic(logic('road-general', 'left-is-left'), t).outcome).toBe('holds');
  });
  it('left and right changed over is found', () => {
    const { t } = table('drover-4', ['front-harness', 'road-kit'], (kits) => {
      const kit = kits.find((k) => k.id === 'road-kit')!;
      const swap: Record<string, string> = { 'front-left.plus': 'front-right.plus', 'front-right.plus': 'front-left.plus' };
      const to = (t: string | string[]) => (typeof t === 'string' ? (swap[t] ?? t) : t);
      kits[kits.indexOf(kit)] = {
        ...kit,
        joins: kit.joins.map((j) => ({ ...j, to: Object.fromEntries(Object.entries(j.to).map(([w, t]) => [w, to(t)])) })),
      };
    });
    expect(proveLogic(logic('road-general', 'left-is-left'), t)).toMatchObject({
      outcome: 'fails',
      says: expect.stringMatching(/Front left signal is dark|Front right signal is lit/),
    });
  });
  it('sidelights that stay lit at anchor are found: bow and anchor on one switch', () => {
    const { t } = table('sandbar-21', ['nav-lights'], (kits) => {
      const k = structuredClone(kits[0]!);
      for (const d of k.devices) for (const p of d.inside) if (p.kind === 'contact' && p.to === 'side') p.when = ['nav:run|anchor'];
      kits[0] = k;
    });
    expect(proveLogic(logic('navigation-under-12m', 'anchor-dark'), t)).toMatchObject({
      outcome: 'fails',
      says: 'Port sidelight, Starboard sidelight are lit',
    });
    expect(proveLogic(logic('navigation-under-12m', 'under-way'), t).outcome).toBe('holds');
  });
  it('a signal that stays lit does not count as flashing', () => {
    const { t } = table('parkway-48', ['reducer-48', 'cart-road-lamps'], (kits) => {
      const i = kits.findIndex((k) => k.id === 'cart-road-lamps');
      const k = structuredClone(kits[i]!);
      for (const d of k.devices) for (const p of d.inside) if (p.kind === 'contact') p.when = p.when.filter((w) => w !== 'beat');
      kits[i] = k;
    });
    expect(proveLogic(logic('low-speed-vehicle', 'left-is-left'), t)).toMatchObject({ outcome: 'fails' });
  });
  it('nothing is proved of a lamp whose switching nobody describes', () => {
    const { sheets, a } = table('drover-4', ['front-harness', 'road-kit']);
    const model = { ...sheets.model, equipment: sheets.model.equipment.map((e) => ({ ...e, lit: undefined })) };
    const t = switchTable(a.wiring.harness, model, a.lamps.lamps);
    expect(proveLogic(logic('road-general', 'tail-with-head'), t)).toMatchObject({
      outcome: 'unknown',
      says: 'how Left headlamp is switched is on no sheet',
    });
  });
});

describe('weight and axles', () => {
  it('the kits’ masses at their places move the load by the lever', () => {
    const { order, sheets } = demoOrder('drover-4', ['winch-32']);
    const w = assess(order, sheets, DEFAULT_SETTINGS).lamps.given.weight!;
    const { massKg, rearShare, dims, gvwrKg } = sheets.model;
    const devices = sheets.kits[0]!.devices.filter((d) => d.massKg > 0);
    const added = devices.reduce((s, d) => s + d.massKg, 0);
    const behind =
      massKg * rearShare! +
      devices.reduce((s, d) => s + d.massKg * (1 - sheets.model.places.find((p) => p.id === d.place)!.x / dims.wheelbaseMm), 0);
    expect(w.rearAfter).toBeCloseTo(behind / (massKg + added), 9);
    expect(w.leftKg).toBeCloseTo(gvwrKg! - massKg - added - 4 * 75, 9);
    expect(w.rearAfter!).toBeLessThan(w.rearBefore!);
  });
  it('people on every seat beyond the gross rating fail the item', () => {
    const { order, sheets } = demoOrder('drover-4', ['winch-32']);
    const o = after(order, { type: 'packs.chosen', packs: ['road-general'], label: 'x' });
    const a = assess(o, { ...sheets, model: { ...sheets.model, gvwrKg: 1000 } }, DEFAULT_SETTINGS);
    expect(a.lamps.packs[0]!.items.find((i) => i.id === 'laden')).toMatchObject({
      verdict: 'fails',
      says: expect.stringMatching(/^over by/),
    });
  });
});

describe('lamps placed and added', () => {
  const { order, sheets } = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps']);
  it('a lamp put elsewhere is wired, drawn, planned and judged there', () => {
    const o = after(
      order,
      { type: 'packs.chosen', packs: ['low-speed-vehicle'], label: 'x' },
      ...(['left', 'right'] as const).map((s) => ({
        type: 'lamp.placed' as const,
        lamp: `cart-road-lamps/head-${s}`,
        at: { x: 2080, y: s === 'left' ? 380 : -380, z: 620 },
        label: s,
      })),
    );
    const [before, a] = [assess(order, sheets, DEFAULT_SETTINGS), assess(o, sheets, DEFAULT_SETTINGS)];
    expect(a.lamps.packs[0]!.items.find((i) => i.id === 'headlamps')!.verdict).toBe('holds');
    // the leg that its maker made for the old place is asked for another way
    const need = (x: typeof a) => x.ends.find((e) => e.of.end === 'head-left')!.leg!.needMm;
    expect(need(a)).not.toBe(need(before));
    const step = a.steps.find((s) => s.id === 'lamp/cart-road-lamps/head-left')!;
    expect(step).toMatchObject({ stage: 'mount', text: expect.stringMatching(/380 mm left of the centre line, 620 mm up/) });
    expect(step.readings[0]!.expected).toMatchObject({ low: 559, high: 1372, unit: 'mm' });
    // the cowl comes off for it as before
    expect(a.steps.some((s) => s.id === 'open/cowl-panel')).toBe(true);
  });
  it('one more like a kit’s lamp hangs on the same circuit and is lit with it', () => {
    const o = after(order, {
      type: 'lamp.added',
      lamp: {
        id: 'tail-3',
        name: 'Third tail lamp',
        function: 'tail',
        colour: 'red',
        at: { x: -450, y: 0, z: 900 },
        like: 'cart-road-lamps/tail-left',
      },
    });
    const a = assess(o, sheets, DEFAULT_SETTINGS);
    const { table, lamps } = a.lamps.given;
    expect(lamps.find((l) => l.id === 'added/tail-3')).toMatchObject({ from: 'added', at: { x: -450, y: 0, z: 900 } });
    expect(a.wiring.circuits.find((c) => c.circuit.id === 'lamps')!.circuit.devices).toContain('tail-3');
    table!.lit.forEach((lit) => expect(lit.has('added/tail-3')).toBe(lit.has('cart-road-lamps/tail-left')));
    expect(a.power.loads.length).toBe(assess(order, sheets, DEFAULT_SETTINGS).power.loads.length + 1);
  });
});

describe('lighting.check at the door', () => {
  const check = (q: object) =>
    runCalculation('lighting.check', q) as {
      items: { id: string; verdict: string | null; measured?: number; limit?: number; says: string }[];
      met: number;
      required: number;
    };
  const pair = (y: number) => [y, -y].map((yMm) => ({ function: 'turn-front', colour: 'amber', xMm: 1200, yMm, zMm: 800 }));
  it('motorcycle signals too close, and far enough', () => {
    const at = (y: number) =>
      check({ pack: 'motorcycle-lamps', unit: { kind: 'motorcycle' }, lamps: pair(y) }).items.find((i) => i.id === 'front-apart')!;
    expect(at(200)).toMatchObject({ verdict: 'fails', measured: 400, limit: 406.4 });
    expect(at(204).verdict).toBe('holds');
  });
  it('a missing height names its item; a pack given whole is judged; readings count', () => {
    const r = check({
      pack: {
        id: 'mine',
        name: 'M',
        place: 'P',
        edition: 'E',
        kinds: ['boat'],
        caution: 'C',
        items: [
          { id: 'a', kind: 'equipment', title: 'A', anyOf: ['tail'], heightMm: { min: 1, max: 9 }, source: 'S' },
          { id: 'b', kind: 'sparkle', title: 'B', source: 'S' },
          { id: 'c', kind: 'reading', title: 'C', question: 'Q?', unit: 'm', band: { min: 5 }, source: 'S' },
        ],
      },
      unit: { kind: 'boat' },
      lamps: [{ function: 'tail', colour: 'red', xMm: 0, yMm: 0 }],
      readings: [{ id: 'c', value: 6 }],
    });
    expect(r.items.map((i) => i.verdict)).toEqual(['unknown', 'unknown', 'holds']);
    expect(r.items[0]!.says).toMatch(/place is not known/);
    expect(r.items[1]!.says).toMatch(/item 2, “b”: “sparkle” is no kind of rule/);
    expect([r.met, r.required]).toEqual([1, 3]);
  });
});
