import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { stepPlugs } from './step-plugs';

describe('what is in hand at a wiring step', () => {
  const { order, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit', 'roof-bar']);
  const { wiring, steps } = assess(order, sheets, DEFAULT_SETTINGS);
  const at = (id: string) =>
    stepPlugs(
      steps.find((s) => s.id === id)!,
      wiring,
    );

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
    expect(at('safe/off')).toEqual({ plugs: [], tables: [] });
    expect(at('volts/roof-bar/bar')).toEqual({ plugs: [], tables: [] });
  });
});
