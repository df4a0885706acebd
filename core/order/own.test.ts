import { describe, expect, it } from 'vitest';
import type { Order } from '#model/order';
import { OWN_KIT } from '#model/own';
import type { Role } from '#model/person';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { demoOrder } from '../../tests/demo-sheets';
import { applyEvent } from '../events/apply';
import { decide } from '../events/decide';
import type { OrderCommand } from '../events/registry';
import { addPart } from '../shelf/add-part';
import { SHELF } from '../shelf/parts';
import { addStep, changeStep } from '../sheets/edit-kit';
import { assess } from './assess';
import { handoverSheet } from './handover-sheet';
import { emptyOwn, ownSheets } from './own';

const part = (id: string) => SHELF.find((p) => p.id === id)!;
const look = (order: Order, sheets: Sheets) => assess(order, sheets, DEFAULT_SETTINGS);
const done = (order: Order, sheets: Sheets, command: OrderCommand, role: Role = 'installer'): Order => {
  const context = { by: 'tor', role, sheets, settings: DEFAULT_SETTINGS, assessment: look(order, sheets), known: {} };
  const body = decide(command, order, context);
  return applyEvent(order, order.id, { seq: order.version + 1, doneAt: '2026-03-02T12:00:00.000Z', by: 'tor', body });
};
const { order, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit']);
const withLamp = addPart(addPart(emptyOwn(), part('lamp'), sheets.model).kit, part('rocker'), sheets.model).kit;

describe('parts of one order alone', () => {
  it('are wired, planned and proved like those of a kit, and no sheet of the shop is otherwise', () => {
    const next = done(order, sheets, { type: 'own.changed', own: withLamp });
    const a = look(next, sheets);
    expect(a.wiring.circuits.find((c) => c.kit.id === OWN_KIT)).toMatchObject({ verdict: 'holds' });
    expect(a.steps.filter((s) => s.kit === OWN_KIT).map((s) => s.stage)).toEqual(expect.arrayContaining(['mount', 'wire', 'prove']));
    expect(a.work!.leftOut).toEqual([]);
    expect(a.fit.kits.at(-1)).toMatchObject({ verdict: 'holds', kit: { id: OWN_KIT } });
    // nobody counts a box that there is none of
    expect(a.steps.some((s) => s.id === `unpack/${OWN_KIT}`)).toBe(false);
    expect(sheets.kits.some((k) => k.id === OWN_KIT)).toBe(false);
    expect(handoverSheet(next, sheets, a, []).kits.at(-1)).toMatchObject({
      maker: 'This order',
      name: 'Lamp, Lamp: rocker switch',
      sheetRevision: 0,
    });
    expect(ownSheets(next, ownSheets(next, sheets))).toEqual(ownSheets(next, sheets));
    const none = done(next, sheets, { type: 'own.changed', own: null });
    expect(none).not.toHaveProperty('own');
    expect(look(none, sheets).steps.length).toBe(look(order, sheets).steps.length);
  });
  it('may be steps and readings without any device', () => {
    const made = addStep(emptyOwn(), 'Lower the suspension', 'mount', 'dash');
    const own = changeStep(made.kit, made.id, {
      readings: [{ id: 'gap', label: 'Gap at the fender', unit: 'mm', expect: { kind: 'band', low: 40, high: 60 } }],
    });
    const a = look(done(order, sheets, { type: 'own.changed', own }), sheets);
    expect(a.steps.find((s) => s.id === `${OWN_KIT}/lower-the-suspension`)!.readings[0]!.expected).toMatchObject({
      low: 40,
      high: 60,
      unit: 'mm',
    });
  });
  it('refuse what is no part of this unit, says nothing new, or takes the ground from what is done', () => {
    const ask =
      (own: typeof withLamp, of = order) =>
      () =>
        done(of, sheets, { type: 'own.changed', own });
    expect(ask({ ...withLamp, id: 'roof-bar' })).toThrow('are called');
    expect(ask({ ...withLamp, devices: withLamp.devices.map((d) => ({ ...d, place: 'moon' })) })).toThrow('There is no place “moon”');
    expect(() => done(order, sheets, { type: 'own.changed', own: withLamp }, 'desk')).toThrow();
    const next = done(order, sheets, { type: 'own.changed', own: withLamp });
    expect(ask(withLamp, next)).toThrow('Nothing of it is otherwise');
    const step = look(next, sheets).steps.find((s) => s.kit === OWN_KIT && s.stage === 'mount')!;
    const begun: Order = { ...next, steps: { ...next.steps, [step.id]: { status: 'done', seconds: 60, readings: {} } } };
    expect(() => done(begun, sheets, { type: 'own.changed', own: null })).toThrow(/already done: reopen/);
    // one more is no harm
    const more = addPart(withLamp, part('dome'), sheets.model).kit;
    expect(done(begun, sheets, { type: 'own.changed', own: more }).own!.devices).toHaveLength(3);
  });
});

describe('what of a kit is left out', () => {
  it('is neither mounted nor wired nor proved, and is said at the end with its reason', () => {
    const before = look(order, sheets);
    const next = done(order, sheets, { type: 'device.leftOut', kit: 'road-kit', device: 'plate', reason: 'has a lit plate' });
    const a = look(next, sheets);
    expect(before.wiring.circuits.some((c) => c.id === 'road-kit/plate')).toBe(true);
    expect(a.wiring.circuits.some((c) => c.id === 'road-kit/plate')).toBe(false);
    expect(a.steps.map((s) => s.title).join()).not.toMatch(/plate.lamp/i);
    expect(a.open).toContainEqual({ verdict: 'tight', says: 'Left out: Plate lamp, because has a lit plate' });
    const back = done(next, sheets, { type: 'device.putBack', kit: 'road-kit', device: 'plate' });
    expect(look(back, sheets).steps.map((s) => s.id)).toEqual(before.steps.map((s) => s.id));
    expect(() => done(back, sheets, { type: 'device.putBack', kit: 'road-kit', device: 'plate' })).toThrow('That is not left out');
    expect(() => done(order, sheets, { type: 'device.leftOut', kit: 'road-kit', device: 'none', reason: 'x' })).toThrow(
      'no device of this order',
    );
  });
});

describe('another switch in the place of a box’s', () => {
  const { order, sheets } = demoOrder('drover-2', ['roof-bar']);
  const kit = sheets.kits[0]!;
  const device = kit.devices.find((d) => d.controls.length)!;
  const swap = (o: Order, over: object = {}) =>
    done(o, sheets, {
      type: 'switch.swapped',
      kit: kit.id,
      device: device.id,
      name: 'Red rocker',
      part: 'rocker',
      reason: 'to be felt',
      ...over,
    });
  it('is mounted in its own hole, wired and proved alike, and is to be had besides; the box’s stays in the box', () => {
    const before = look(order, sheets);
    const next = swap(order);
    const a = look(next, sheets);
    expect(next.swapped).toMatchObject([{ was: device.name, name: 'Red rocker', reason: 'to be felt' }]);
    const there = a.sheets.kits[0]!.devices.find((d) => d.id === device.id)!;
    expect(there).toMatchObject({ name: 'Red rocker', mount: { note: expect.stringMatching(/^Rocker switch/) as string } });
    expect([there.terminals, there.controls, there.inside]).toEqual([device.terminals, device.controls, device.inside]);
    expect(a.needs).toContainEqual(expect.objectContaining({ name: 'Red rocker', need: 1 }));
    expect(a.wiring.circuits.map((c) => [c.id, c.verdict])).toEqual(before.wiring.circuits.map((c) => [c.id, c.verdict]));
    expect(a.wiring.harness.elements.length).toBe(before.wiring.harness.elements.length);
    expect(a.work!.leftOut).toEqual([]);
    // once more, and back
    const again = swap(next, { name: 'Lit one', part: 'lit-rocker' });
    expect(again.swapped).toMatchObject([{ was: device.name, name: 'Lit one' }]);
    const back = done(again, sheets, { type: 'switch.restored', kit: kit.id, device: device.id });
    expect(look(back, sheets).steps.map((s) => s.title)).toEqual(before.steps.map((s) => s.title));
  });
  it('has as many positions, held or sprung alike, and another name', () => {
    expect(() => swap(order, { part: 'three-way' })).toThrow('other positions');
    expect(() => swap(order, { part: 'button' })).toThrow('other positions');
    expect(() => swap(order, { part: 'lamp' })).toThrow('other positions');
    expect(() => swap(order, { device: kit.devices.find((d) => !d.controls.length)!.id })).toThrow('no switch of a kit');
    expect(() => swap(order, { name: device.name.toUpperCase() })).toThrow('Call it by what tells it');
    expect(() => done(order, sheets, { type: 'switch.restored', kit: kit.id, device: device.id })).toThrow('the one of its box');
  });
});

describe('a way for wires of one order', () => {
  it('is taken where it is shorter, and taken off again', () => {
    const { order, sheets } = demoOrder('drover-2', ['bed-lamp']);
    const [a, b] = ['dash', 'rear-frame'];
    const next = done(order, sheets, { type: 'way.added', from: a, to: b, lengthMm: 300 });
    const length = (o: Order) =>
      look(o, sheets).wiring.harness.elements.reduce((s, e) => s + (e.kind === 'wire' ? (e.lengthM ?? 0) : 0), 0);
    expect(length(next)).toBeLessThan(length(order));
    expect(() => done(next, sheets, { type: 'way.added', from: b, to: a, lengthMm: 900 })).toThrow('There is a way between these already');
    expect(() => done(order, sheets, { type: 'way.added', from: a, to: a, lengthMm: 900 })).toThrow('from one place to another');
    const off = done(next, sheets, { type: 'way.removed', from: a, to: b });
    expect(length(off)).toBeCloseTo(length(order), 9);
    expect(() => done(off, sheets, { type: 'way.removed', from: a, to: b })).toThrow('not of this order');
  });
  it('may lead to a place that the sheet does not have, where a part may stand', () => {
    const { order, sheets } = demoOrder('drover-2', ['roof-bar']);
    const at = { x: 900, y: 300, z: 700 };
    const next = done(order, sheets, { type: 'place.added', name: 'Behind the seat', at, from: 'tunnel', lengthMm: 650 });
    expect(next.spots).toMatchObject([{ id: 'behind-the-seat', ...at }]);
    const lamp = addPart(emptyOwn(), part('lamp'), sheets.model).kit;
    const own = { ...lamp, devices: lamp.devices.map((d) => ({ ...d, place: 'behind-the-seat' })) };
    expect(() => done(order, sheets, { type: 'own.changed', own })).toThrow('There is no place');
    const there = done(next, sheets, { type: 'own.changed', own });
    expect(look(there, sheets).wiring.circuits.find((c) => c.kit.id === OWN_KIT)!.lengthM).toBeGreaterThan(0.65);
    expect(() => done(there, sheets, { type: 'place.removed', id: 'behind-the-seat' })).toThrow('Lamp is there');
    expect(() => done(next, sheets, { type: 'place.added', name: 'behind the SEAT', at, from: 'dash', lengthMm: 9 })).toThrow(
      'there already',
    );
    expect(() => done(next, sheets, { type: 'place.added', name: 'x', at, from: 'moon', lengthMm: 9 })).toThrow('not on this unit');
    const gone = done(next, sheets, { type: 'place.removed', id: 'behind-the-seat' });
    expect([gone.spots, gone.ways]).toEqual([[], []]);
    expect(() => done(gone, sheets, { type: 'place.removed', id: 'dash' })).toThrow('not of this order');
  });
});
