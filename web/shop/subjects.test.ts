import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS, Settings } from '#model/settings';
import { FIGURE_SUBJECTS, PROMISE_CHANCE, readAs, usual, writtenAs } from './subjects';

const fields = [...FIGURE_SUBJECTS.flatMap((s) => s.groups.flatMap((g) => g.fields)), PROMISE_CHANCE];

describe('what a shop decides', () => {
  it('every figure among the settings has its place, once', () => {
    const figures = Object.entries(DEFAULT_SETTINGS).flatMap(([k, v]) => (typeof v === 'number' && k !== 'wireInsulationC' ? [k] : []));
    expect(fields.map((f) => f.field).sort()).toEqual(figures.sort());
  });
  it('is written and read back as the same, shares in per cent', () => {
    for (const f of fields) expect(readAs(f, writtenAs(f, DEFAULT_SETTINGS[f.field]))).toBe(DEFAULT_SETTINGS[f.field]);
    const share = fields.find((f) => f.field === 'reserveSoc')!;
    expect([usual(share), readAs(share, '45 %'), readAs(share, '45,5')]).toEqual(['50', 0.45, 0.455]);
    expect(() => readAs(share, 'half')).toThrow('type a figure');
    expect(Settings.shape.reserveSoc.safeParse(readAs(share, '450')).success).toBe(false);
  });
});
