import { describe, expect, it } from 'vitest';
import type { Taken } from '#model/order';
import { DEFAULT_SETTINGS } from '#model/settings';
import { settingsAfter, spoolsAfter, stockMoves } from './used';

const cut = (lengthM: number): Taken => ({ of: 'spool', id: 'red', awg: 14, colour: 'RD', lengthM });
const relay: Taken = { of: 'shelf', id: 'relay-12', pieces: 1 };
const used = (...took: Taken[]) => ({ used: { 'wire/a/b': took } });

describe('what an order takes off the shelf', () => {
  it('a step that is done takes, one that is taken back gives back, the same twice moves nothing', () => {
    expect(stockMoves(null, used(cut(2)))).toEqual([{ taken: cut(2), back: false }]);
    expect(stockMoves(used(cut(2)), {})).toEqual([{ taken: cut(2), back: true }]);
    expect(stockMoves(used(cut(2)), used(cut(2)))).toEqual([]);
  });
  it('there and back is as it was; a spool that is gone comes back with its gauge and colour', () => {
    const stock = [{ id: 'red', awg: 14, colour: 'RD', lengthM: 2 }] as typeof DEFAULT_SETTINGS.stock;
    const gone = spoolsAfter(stock, [{ taken: cut(2), back: false }]);
    expect(gone).toEqual([]);
    expect(spoolsAfter(gone, [{ taken: cut(2), back: true }])).toEqual(stock);
  });
  it('pieces go down with it, never under nothing, and the settings given are left alone', () => {
    const settings = { ...DEFAULT_SETTINGS, shelf: [{ id: 'relay-12', have: 1 }] };
    const moves = stockMoves(null, used(relay));
    const after = settingsAfter(settings, moves);
    expect([after.shelf[0]!.have, settingsAfter(after, moves).shelf[0]!.have, settings.shelf[0]!.have]).toEqual([0, 0, 1]);
  });
});
