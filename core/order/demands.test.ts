import { describe, expect, it } from 'vitest';
import { demoOrder } from '../../tests/demo-sheets';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import { assess } from './assess';
import { constantFact } from './demands';

const SIGNALS = 'road-kit/signals';
const look = (order: Order, sheets: Sheets) => assess({ ...order, packs: ['road-general'] }, sheets, DEFAULT_SETTINGS);
const hazard = (a: ReturnType<typeof look>) => a.lamps.packs.flatMap((p) => p.items).find((i) => i.id === 'hazard-key-off')!;
const circuit = (a: ReturnType<typeof look>) => a.wiring.circuits.find((c) => c.id === SIGNALS)!;

describe('what a rule pack asks of a feed', () => {
  const { order, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit']);
  it('a sheet that says keyed excludes hazards with the key off: Wire and Lamps say the same, with what would resolve it', () => {
    const a = look(order, sheets);
    expect(hazard(a).verdict).toBe('fails');
    expect(a.stations.wire.verdict).toBe('fails');
    expect(a.demands.conflicts).toMatchObject([
      {
        circuit: SIGNALS,
        says: expect.stringMatching(/Hazard flashes with the key off.*keyed feed: they exclude each other/),
        asks: { key: constantFact(SIGNALS) },
      },
    ]);
    const no = look({ ...order, facts: { ...order.facts, [constantFact(SIGNALS)]: false } }, sheets);
    expect(no.demands.conflicts[0]!.resolves).toMatch(/does not allow it: another kit/);
  });
  it('told that the maker allows it, the feed is constant, hazards flash, and nothing else gets worse', () => {
    const before = look(order, sheets);
    const a = look({ ...order, facts: { ...order.facts, [constantFact(SIGNALS)]: true } }, sheets);
    expect(a.demands).toMatchObject({ conflicts: [], met: [{ circuit: SIGNALS, says: expect.stringMatching(/^constant, because/) }] });
    expect(circuit(a).feed!.switching).toBe('constant');
    expect(circuit(a).mode).toBe('direct');
    expect(hazard(a).verdict).toBe('holds');
    expect(a.stations.wire.verdict).toBe('holds');
    expect(a.lamps.met).toBeGreaterThan(before.lamps.met);
  });
  it('a sheet that lets it stand on either is fed constant without a word from anybody', () => {
    const kits = sheets.kits.map((k) =>
      k.id === 'road-kit'
        ? { ...k, circuits: k.circuits.map((c) => (c.id === 'signals' ? { ...c, switching: 'either' as const } : c)) }
        : k,
    );
    const a = look(order, { ...sheets, kits });
    expect(hazard(a).verdict).toBe('holds');
    expect(circuit(a).feed!.switching).toBe('constant');
    expect(a.demands.conflicts).toEqual([]);
  });
  it('without a pack that asks, the sheet decides', () => {
    const a = assess({ ...order, packs: [] }, sheets, DEFAULT_SETTINGS);
    expect(a.demands).toEqual({ met: [], conflicts: [] });
    expect(circuit(a).feed!.switching).toBe('keyed');
  });
  it('sidelights joined to the white’s side of the switch: at anchor they are lit, and which switch would part them is said', () => {
    const boat = demoOrder('sandbar-21', ['nav-lights']);
    const whole = assess(boat.order, boat.sheets, DEFAULT_SETTINGS);
    expect(whole.demands.conflicts).toEqual([]);
    const kits = boat.sheets.kits.map((k) => ({
      ...k,
      joins: k.joins.map((j) => (j.end === 'helm' && j.to.side === 'switch.side' ? { ...j, to: { ...j.to, side: 'switch.white' } } : j)),
    }));
    const a = assess(boat.order, { ...boat.sheets, kits }, DEFAULT_SETTINGS);
    const conflict = a.demands.conflicts.find((c) => c.item === 'anchor-dark')!;
    expect(conflict.says).toMatch(/At anchor: sidelights dark.*Navigation lights are joined.*they exclude each other/);
    expect(conflict.resolves).toBe('a switch for Navigation lights that parts what is to be lit from what is to be dark');
    expect(a.stations.wire.verdict).toBe('fails');
    expect(a.lamps.packs.flatMap((p) => p.items).find((i) => i.id === 'anchor-dark')!.verdict).toBe('fails');
  });
  it('a headlamp on one switch and the tail on another: one switch for both would resolve it', () => {
    const cart = demoOrder('parkway-48', ['reducer-48', 'cart-basic-lamps', 'cart-road-lamps']);
    const conflict = assess(cart.order, cart.sheets, DEFAULT_SETTINGS).demands.conflicts.find((c) => c.item === 'tail-with-head')!;
    expect(conflict.resolves).toMatch(/^one switch for .* of .* and .* of /);
  });
  it('what is not fed yet is dark for that reason, and not by its switches', () => {
    const bare = demoOrder('parkway-48', ['cart-road-lamps']);
    const a = assess(bare.order, bare.sheets, DEFAULT_SETTINGS);
    expect(a.lamps.packs.flatMap((p) => p.items).some((i) => i.rule?.kind === 'logic' && i.verdict === 'fails')).toBe(true);
    expect(a.demands.conflicts).toEqual([]);
  });
});
