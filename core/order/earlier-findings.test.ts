import { describe, expect, it } from 'vitest';
import { findingsAt, judged, type EarlierFinding } from './earlier-findings';

const finding = (key: string, step: string | null, build = 'a'): Omit<EarlierFinding, 'confirmed' | 'outdated'> => ({
  key,
  order: key.split(':')[0]!,
  number: 1001,
  at: '2026-01-01',
  by: 'tor',
  text: 'Bolt is 8 mm',
  build,
  step,
  photo: null,
});
let orders = 0;
const word = (key: string, still: boolean, by = 'maud', from = `o${orders++}`) => ({ key, from, still, by, at: '2026-02-01' });

describe('findings of earlier units', () => {
  it('count who confirmed them, and the last word decides', () => {
    const list = [finding('a:1', 's'), finding('b:2', 's')];
    expect(judged(list, []).map((f) => [f.confirmed, f.outdated])).toEqual([
      [0, null],
      [0, null],
    ]);
    const said = [word('a:1', true), word('a:1', true), word('b:2', true), word('b:2', false, 'ines')];
    expect(judged(list, said).map((f) => [f.confirmed, f.outdated?.by ?? null])).toEqual([
      [2, null],
      [0, 'ines'],
    ]);
    expect(judged(list, [...said, word('b:2', true)])[1]).toMatchObject({ confirmed: 1, outdated: null });
  });
  it('of several words on one order only the last counts', () => {
    const said = [
      word('a:1', true, 'tor', 'x'),
      word('a:1', true, 'tor', 'x'),
      word('a:1', false, 'tor', 'y'),
      word('a:1', true, 'tor', 'y'),
    ];
    expect(judged([finding('a:1', 's')], said)[0]).toMatchObject({ confirmed: 2, outdated: null });
  });
  it('stand at their step, those of the same build, outdated ones no more', () => {
    const list = judged(
      [finding('a:1', 'open/hood', 'b'), finding('b:1', 'open/hood', 'a'), finding('c:1', 'open/hood', 'a'), finding('d:1', null)],
      [word('c:1', false)],
    );
    expect(findingsAt(list, 'open/hood', 'a').map((f) => f.key)).toEqual(['b:1']);
    expect(findingsAt(list, 'shut/hood', 'a')).toEqual([]);
  });
});
