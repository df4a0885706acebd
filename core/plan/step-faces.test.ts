import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoFloor, demoOrder } from '../../tests/demo-sheets';
import type { PlannedStep } from './planned';
import { assess } from '../order/assess';
import { stepFaces } from './step-faces';

function faces(model: string, kits: string[]) {
  const { order, sheets } = demoOrder(model, kits);
  const { wiring, steps, ends } = assess(order, sheets, DEFAULT_SETTINGS);
  return { steps, of: (step: PlannedStep) => stepFaces(step, wiring, ends, order, sheets) };
}

describe('what is in hand at a step', () => {
  const { steps, of } = faces('drover-4', ['front-harness', 'road-kit', 'roof-bar']);
  const at = (id: string) => of(steps.find((s) => s.id === id)!);

  it('a relay shows its terminals with what goes where', () => {
    const relay = at('wire/roof-bar/bar').tables.find((t) => t.kind === 'relay')!;
    expect(relay.rows.map((r) => r.terminal).sort()).toEqual(['30', '85', '86', '87']);
    expect(relay.rows.find((r) => r.terminal === '87')!.wires[0]!.goes).toMatch(/bar/i);
  });
  it('only what belongs to the circuit', () => {
    const signals = at('wire/road-kit/signals');
    for (const t of [...signals.tables, ...signals.plugs]) expect(t.id).not.toMatch(/roof-bar/);
    expect(signals.tables.length + signals.plugs.length).toBeGreaterThan(0);
  });
  it('other steps show none', () => {
    for (const id of ['safe/off', 'volts/roof-bar/bar', 'open/seats-front'])
      expect(at(id)).toEqual({ plugs: [], tables: [], studs: [], templates: [] });
  });
  it('what is cut and drilled shows its template, once for what is alike, flipped over for the handed other side', () => {
    const cart = faces('parkway-48', ['reducer-48', 'cart-road-lamps']);
    const shown = cart.steps.flatMap((s) => cart.of(s).templates);
    const heads = shown.filter((t) => t.names.some((n) => n.includes('headlamp')));
    expect(heads.map((t) => [t.names, t.sheet.mirrored])).toEqual([
      [['Left headlamp'], false],
      [['Right headlamp'], true],
    ]);
    expect(shown.find((t) => t.names.includes('Left tail lamp'))!.names).toEqual(['Left tail lamp', 'Right tail lamp']);
  });
  it('a stud shows what goes onto it, the thickest lowest, with the wrench that fits its nut', () => {
    const all = demoFloor().flatMap(({ model, kits }) => {
      const unit = faces(model, kits);
      return unit.steps.flatMap((s) => unit.of(s).studs.map((stud) => ({ stud, tool: s.tool ?? '' })));
    });
    expect(all.length).toBeGreaterThan(3);
    for (const { stud, tool } of all) {
      expect(stud.rings.map((r) => r.awg)).toEqual(stud.rings.map((r) => r.awg).sort((a, b) => b - a));
      if (tool.includes('wrench')) expect(tool).toContain(stud.wrench);
    }
  });
});
