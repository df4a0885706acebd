import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoFloor, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { fuseId } from '../plan/say-fuse';
import { CONTACTORS, contactorPart } from '../wire-rules/contacts';
import { demandsOf } from './demand';
import { readItem } from './item-name';

describe('what the shelf calls something, read back', () => {
  it('says of every fuse, terminal and wire of the demo’s orders what its plan says', () => {
    const seen = new Set<string>();
    for (const { model, kits } of demoFloor()) {
      const { order, sheets } = demoOrder(model, kits);
      for (const d of demandsOf(order, sheets, assess(order, sheets, DEFAULT_SETTINGS))) {
        if (!['fuse', 'end', 'wire'].includes(d.kind)) continue;
        seen.add(d.kind);
        const read = readItem(d.item);
        expect([read.kind, read.name.toLowerCase()]).toEqual([d.kind, d.name.toLowerCase()]);
      }
    }
    expect([...seen].sort()).toEqual(['end', 'fuse', 'wire']);
  });
  it('tells volts and halves of amperes of a fuse apart', () => {
    for (const f of [
      { family: 'blade', ratingA: 7.5, ratedV: 32 },
      { family: 'blade', ratingA: 15, ratedV: 58 },
      { family: 'bolt', ratingA: 150, ratedV: 80 },
      { family: 'blade', ratingA: 7.5, ratedV: 58 },
    ] as const)
      expect(readItem(fuseId(f)).name).toBe(
        `${f.ratingA} A ${f.family === 'bolt' ? 'bolt-down' : 'blade'} fuse (${f.ratedV} V) and holder`,
      );
  });
  it('tells a contactor by its coil', () => {
    for (const c of CONTACTORS)
      for (const coilV of [12, 48]) {
        const { id, name } = contactorPart(c, coilV);
        expect(readItem(id)).toEqual({ kind: 'relay', name });
      }
  });
  it('says the rest as it is called', () => {
    expect(readItem('push-pull-switch')).toEqual({ kind: 'buy', name: 'Push pull switch' });
  });
});
