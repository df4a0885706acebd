import fc from 'fast-check';
import { expect, it } from 'vitest';
import { groupSays, monthOf, monthRows, type Finished } from './month';

const finished = (id: string, more: Partial<Finished> = {}): Finished => ({
  id,
  number: 1000,
  unitName: 'Aldermoor Drover 4',
  model: 'drover-4',
  owner: 'Ruben',
  promisedAt: '2026-03-02T16:00:00.000Z',
  sealedAt: '2026-03-02T15:00:00.000Z',
  work: [{ kit: 'road-kit', by: 'tor', planned: 60, spent: 50 }],
  findings: 0,
  mended: 0,
  back: null,
  ...more,
});

it('tells promises kept and late, and each figure with the orders it is made of', () => {
  const m = monthOf(
    [
      finished('a'),
      finished('b', {
        sealedAt: '2026-03-02T18:30:00.000Z',
        work: [
          { kit: 'road-kit', by: 'maud', planned: 60, spent: 80 },
          { kit: '', by: 'maud', planned: 30, spent: 31 },
        ],
      }),
      finished('c', { model: 'tern-300', back: { id: 'x', number: 1040, openedAt: '2026-04-01T08:00:00.000Z' } }),
    ],
    null,
  );
  expect(m.kept).toEqual(['a', 'c']);
  expect(m.late).toEqual([{ id: 'b', hours: 2.5 }]);
  expect(m.back).toEqual(['c']);
  expect(m.byKit).toEqual([{ key: 'road-kit', orders: ['a', 'b', 'c'], planned: 180, spent: 180 }]);
  expect(m.byModel.map((r) => [r.key, r.spent])).toEqual([
    ['drover-4', 161],
    ['tern-300', 50],
  ]);
  expect(m.byPerson.map((r) => [r.key, r.orders])).toEqual([
    ['maud', ['b']],
    ['tor', ['a', 'c']],
  ]);
});

it('who sees only their own times sees nobody else’s', () => {
  const all = [finished('a'), finished('b', { work: [{ kit: 'roof-bar', by: 'maud', planned: 10, spent: 9 }] })];
  expect(monthOf(all, 'tor').byPerson.map((r) => r.key)).toEqual(['tor']);
  expect(monthRows(monthOf(all, 'tor'), 'tor').map((r) => r.by)).toEqual(['tor', '']);
});

it('a group is told by its promises that are past, the shop with most first', () => {
  expect(groupSays([{ name: 'Quay', late: 0 }])).toEqual({ verdict: 'holds', says: 'No unit is past its promise.' });
  expect(groupSays([{ name: 'Quay', late: 1 }]).says).toBe('One unit is past its promise: in Quay.');
  const two = groupSays([
    { name: 'Quay', late: 1 },
    { name: 'Hill', late: 0 },
    { name: 'Mill', late: 3 },
  ]);
  expect(two).toEqual({ verdict: 'fails', says: '4 units are past their promise: 3 in Mill, 1 in Quay.' });
});

it('the tables hold the same minutes, however the work lies (property)', () => {
  const work = fc.record({
    kit: fc.constantFrom('a', 'b', 'c'),
    by: fc.constantFrom('tor', 'maud'),
    planned: fc.nat(200),
    spent: fc.nat(200),
  });
  fc.assert(
    fc.property(fc.array(fc.array(work, { maxLength: 4 }), { maxLength: 8 }), (lists) => {
      const all = lists.map((w, i) => finished(String(i), { work: w, model: `m${i % 3}` }));
      const m = monthOf(all, null);
      const total = lists.flat().reduce((s, w) => s + w.spent, 0);
      for (const t of [m.byKit, m.byModel, m.byPerson]) expect(t.reduce((s, r) => s + r.spent, 0)).toBe(total);
      expect(m.kept.length + m.late.length).toBe(all.length);
    }),
  );
});
