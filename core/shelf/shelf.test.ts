import { describe, expect, it } from 'vitest';
import { Kit } from '#model/kit';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoIds, demoKit, demoModel, demoPack, packIds } from '../../tests/demo-sheets';
import { BODIES } from '../archetype/body';
import { makeSheet } from '../archetype/make-sheet';
import { boxProblems, newKit, removeDevice } from '../sheets/edit-kit';
import { tryOn } from '../sheets/try-on';
import { addPart, feedsHarness } from './add-part';
import { SHELF, SHELF_GROUPS } from './parts';
import { HARNESS_STYLES, removeHarness, withHarness, type HarnessStyle } from './ready-harness';

const packs = packIds().map(demoPack);
const part = (id: string) => SHELF.find((p) => p.id === id)!;
const drover = demoModel('drover-2');
const box = (parts: string[], model = drover): Kit =>
  parts.reduce((k, p) => addPart(k, part(p), model).kit, newKit('Pellam', 'Box', [], model));
const tried = (k: Kit, model = drover) => tryOn(k, model, packs, DEFAULT_SETTINGS)!;
const models = [
  ...demoIds('models').map(demoModel),
  ...BODIES.map((b) =>
    makeSheet({ body: b.id, maker: 'Hollin', name: b.id, year: 2024, figures: {} }, { at: '2026-01-01T00:00:00.000Z', by: 'tor' }),
  ),
];

describe('the parts shelf', () => {
  it('has names and groups of its own for everything on it', () => {
    expect(new Set(SHELF.map((p) => p.id)).size).toBe(SHELF.length);
    expect(new Set(SHELF.map((p) => p.name)).size).toBe(SHELF.length);
    for (const g of SHELF_GROUPS) expect(SHELF.some((p) => p.group === g)).toBe(true);
  });
  it.each(SHELF.map((p) => p.id))('%s goes into a box that holds together, at places that are there, on every model and body', (id) => {
    for (const m of models) {
      const { kit, devices } = addPart(newKit('Pellam', 'Box', [], m), part(id), m);
      expect(devices).toHaveLength(part(id).pair ? 2 : 1);
      expect(
        boxProblems(kit).filter((p) => p.stops),
        m.id,
      ).toEqual([]);
      expect(Kit.parse(JSON.parse(JSON.stringify(kit))), m.id).toEqual(kit);
      for (const d of kit.devices)
        expect(
          m.places.map((p) => p.id),
          `${m.id} ${d.id}`,
        ).toContain(d.place);
    }
  });
  it('twice the same part is two parts, each by a name of its own', () => {
    const k = box(['lamp', 'lamp', 'lamps', 'lamps']);
    expect(new Set(k.devices.map((d) => d.id)).size).toBe(6);
    expect(new Set(k.devices.map((d) => d.name)).size).toBe(6);
    expect(new Set(k.circuits.map((c) => c.colour)).size).toBe(4);
  });
  it('leaves what a maker’s own sheet says of its leads and joins as it was', () => {
    for (const id of demoIds('kits')) {
      const was = demoKit(id);
      const { kit } = addPart(was, part('lamp'), drover);
      expect(kit.leads, id).toEqual(was.leads);
      expect(kit.joins, id).toEqual(was.joins);
      expect(
        boxProblems(kit).filter((p) => p.stops),
        id,
      ).toEqual([]);
    }
  });
});

describe('a box put together from the shelf', () => {
  it('of two lamps and a switch is wired through the switch, proved by it, and leaves nothing out', () => {
    const t = tried(box(['lamps', 'rocker']));
    expect(t.wire).toMatchObject([{ name: 'Lamps', verdict: 'holds' }]);
    expect(t.plan.leftOut).toEqual([]);
    expect(t.plan.steps.map((s) => s.title)).toEqual(expect.arrayContaining(['Mount the Left lamp', 'Wire Lamps']));
  });
  it('with a relay harness takes the battery’s side, by a relay that the key asks', () => {
    const t = tried(withHarness(box(['lamps', 'lit-rocker']), 'lamps', 'relay').kit);
    expect(t.wire[0]).toMatchObject({ verdict: 'holds' });
    expect(t.wire[0]!.says).toMatch(/constant stud, by a relay that .*keyed stud asks; 18 AWG of the box/);
    expect(t.needs).toEqual([]);
    expect(t.plan.leftOut).toEqual([]);
  });
  it('lights left with left and right with right: signals, module and switch, in loose wire and as a harness', () => {
    const loose = box(['front-signals', 'rear-signals', 'signal-module', 'signal-switch']);
    const ready = withHarness(loose, 'signals', 'lead').kit;
    expect(ready.leads).toEqual([]);
    expect(removeHarness(ready, feedsHarness(ready, 'signals')).leads).toEqual(loose.leads);
    for (const k of [loose, ready]) {
      const t = tried(k);
      expect(t.wire[0]).toMatchObject({ name: 'Signals', verdict: 'holds' });
      expect(t.plan.leftOut).toEqual([]);
      expect(t.lamps.find((l) => l.name === 'Left is left')?.verdict ?? 'holds').toBe('holds');
      expect(t.lamps.find((l) => l.name === 'Front signals')?.verdict ?? 'holds').toBe('holds');
    }
  });
  it.each(Object.keys(HARNESS_STYLES) as HarnessStyle[])('made as “%s” and taken out again, is as it was', (style) => {
    const k = box(['bar', 'lit-rocker', 'horn', 'button']);
    const made = withHarness(k, 'horn', style);
    expect(boxProblems(made.kit).filter((p) => p.stops)).toEqual([]);
    const { circuits: _, ...back } = removeHarness(made.kit, made.harness);
    const { circuits: _c, ...was } = k;
    expect(back).toEqual(was);
    // asked again in another style, there is one harness still
    expect(withHarness(made.kit, 'horn', 'lead').kit.harnesses).toHaveLength(1);
  });
  it('sizes the maker’s fuse to the load and its wire to the fuse, not above what the circuit allows', () => {
    const h = (watts: number, most?: number) => {
      const k = box(['bar']);
      const set = { ...k, devices: k.devices.map((d) => ({ ...d, load: { ...d.load!, watts } })) };
      const limited = most === undefined ? set : { ...set, circuits: set.circuits.map((c) => ({ ...c, fuseMaxA: most })) };
      const made = withHarness(limited, 'lamp-bar', 'relay').kit.harnesses[0]!;
      return [made.inline.flatMap((x) => (x.kind === 'fuse' ? x.ratingA : []))[0], made.wires.find((w) => w.id === 'feed')!.awg];
    };
    // 10 A asks for 12.5 A: the next size is 15 A
    expect(h(120)[0]).toBe(15);
    expect(h(240)[0]).toBe(25);
    expect(h(240)[1]!).toBeLessThan(h(20)[1]!);
    expect(h(120, 10)[0]).toBe(10);
  });
  it('without a device has nothing that names it', () => {
    const k = withHarness(box(['lamps', 'lit-rocker']), 'lamps', 'relay').kit;
    for (const d of k.devices) {
      const left = removeDevice(k, d.id);
      expect(JSON.stringify([left.joins, left.leads, left.contents, left.circuits])).not.toContain(`"${d.id}"`);
      expect(JSON.stringify(left.joins)).not.toContain(`${d.id}.`);
      expect(
        boxProblems(left).filter((p) => p.stops),
        d.id,
      ).toEqual([]);
    }
  });
});
