import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { OrderCommand } from '../events/registry';
import type { Order } from '#model/order';
import type { Role } from '#model/person';
import { assessed, demoOrder } from '../../tests/demo-sheets';
import { evidenceOf } from '../fault/evidence';
import { FaultFinder } from '../fault/find';
import { hiddenPlaces, panelsOff } from '../plan/panels-off';
import { decide } from '../events/decide';
import { applyEvent } from '../events/apply';

/** Two people at one unit, each command a minute after the one before. */
function twoPeople() {
  const { order: first, sheets } = demoOrder('drover-4', ['front-harness', 'road-kit', 'roof-bar']);
  let order: Order = first;
  let minute = 0;
  const at = () => new Date(Date.UTC(2026, 2, 2, 9, minute)).toISOString();
  const look = () => assessed(order, sheets);
  const ask = (command: OrderCommand, by = 'tor', role: Role = 'installer') => {
    minute++;
    const body = decide(command, order, {
      role,
      sheets,
      settings: DEFAULT_SETTINGS,
      assessment: look(),
      by,
      known: { kit: () => null, people: ['tor', 'maud'], hasPhoto: (id) => id.startsWith('a'), seal: () => '' },
    });
    order = applyEvent(order, 'o1', { seq: order.version + 1, doneAt: at(), by, body });
    return body;
  };
  return { ask, look, now: () => order, sheets, wait: (m: number) => (minute += m) };
}

describe('two people on one order', () => {
  it('each has a clock, and one’s work does not stop the other’s', () => {
    const b = twoPeople();
    const mount = b.look().steps.find((s) => s.stage === 'mount')!.id;
    b.ask({ type: 'step.started', step: 'safe/off' }, 'tor');
    b.ask({ type: 'step.started', step: mount }, 'maud');
    expect(b.now().clocks.map((c) => [c.by, c.step])).toEqual([
      ['tor', 'safe/off'],
      ['maud', mount],
    ]);
    b.wait(8);
    b.ask({ type: 'timer.stopped' }, 'tor');
    expect(b.now().steps['safe/off']!.seconds).toBe(10 * 60);
    expect(b.now().clocks.map((c) => c.by)).toEqual(['maud']);
    expect(() => b.ask({ type: 'timer.stopped' }, 'tor')).toThrow(/No clock of yours/);
  });
  it('a step that one of them finishes is finished for both, and each goes on with their own', () => {
    const b = twoPeople();
    const steps = b.look().steps;
    const mounts = steps.filter((s) => s.stage === 'mount');
    for (const s of steps) if (s.kit === 'roof-bar') b.ask({ type: 'step.given', step: s.id, to: 'maud' });
    b.ask({ type: 'step.started', step: 'safe/off' }, 'tor');
    const done = b.ask({ type: 'step.done', step: 'safe/off' }, 'tor');
    expect(done.type === 'step.done' && b.now().given[done.next!]).not.toBe('maud');
    const roof = mounts.find((s) => s.kit === 'roof-bar')!;
    b.ask({ type: 'step.started', step: roof.id }, 'maud');
    for (const r of roof.readings) b.ask({ type: 'reading.taken', step: roof.id, reading: r.id, value: 1 }, 'maud');
    // the other sees that it is done and says so: its clock stops there
    b.ask({ type: 'step.done', step: roof.id }, 'tor');
    expect(b.now().clocks.some((c) => c.step === roof.id)).toBe(false);
  });
  it('whoever did a later step first goes back to what is left before it', () => {
    const b = twoPeople();
    const later = b.look().steps.find((s) => s.stage === 'mount')!;
    const done = b.ask({ type: 'step.skipped', step: later.id, reason: 'fitted at the desk' }, 'tor');
    expect(done).toMatchObject({ next: 'safe/off' });
  });
  it('a step is given to somebody who is here, and only while it is open', () => {
    const b = twoPeople();
    expect(() => b.ask({ type: 'step.given', step: 'safe/off', to: 'nobody' })).toThrow(/Nobody here/);
    b.ask({ type: 'step.given', step: 'safe/off', to: 'maud' });
    expect(b.now().given).toEqual({ 'safe/off': 'maud' });
    b.ask({ type: 'step.given', step: 'safe/off', to: null });
    expect(b.now().given).toEqual({});
    b.ask({ type: 'step.done', step: 'safe/off' });
    expect(() => b.ask({ type: 'step.given', step: 'safe/off', to: 'maud' })).toThrow(/settled/);
  });
});

describe('pictures', () => {
  it('are named only once they are there', () => {
    const b = twoPeople();
    expect(() => b.ask({ type: 'photo.taken', photo: 'b'.repeat(64), note: '' })).toThrow(/has not arrived/);
    b.ask({ type: 'photo.taken', photo: 'a'.repeat(64), step: 'safe/off', note: 'fuse box' });
    expect(b.now().photos).toHaveLength(1);
    expect(() => b.ask({ type: 'finding.added', text: 'x', photo: 'b'.repeat(64) })).toThrow(/has not arrived/);
    b.ask({ type: 'finding.added', text: 'x', photo: 'a'.repeat(64) });
    expect(b.now().findings[0]!.photo).toBe('a'.repeat(64));
  });
});

describe('a fault at the bench', () => {
  const planted = 'open:road-kit/signals:ground:front-left';
  it('is hunted with the readings of the order, measured, put right and read again', () => {
    const b = twoPeople();
    b.ask({ type: 'reading.taken', step: 'road-kit/left', reading: 'front', value: 0 });
    b.ask({ type: 'reading.taken', step: 'road-kit/left', reading: 'rear', value: 1 });
    const { wiring } = b.look();
    const finder = new FaultFinder(wiring.harness);
    const evidence = () => evidenceOf(b.now(), b.look().steps, wiring);
    expect(evidence().map((e) => [e.step, e.failing])).toEqual([
      ['road-kit/left', true],
      ['road-kit/left', false],
    ]);
    const { faults } = finder.causes.find((c) => c.id === planted)!.variants[0]!;
    for (let i = 0; i < 3 && finder.find(evidence()).causes[0]!.share < 0.9; i++) {
      const { sight } = finder.find(evidence()).next[0]!;
      const value = finder.foretell(sight, faults)!;
      const said = b.ask({
        type: 'probe.taken',
        step: 'road-kit/left',
        probe: { ...sight, state: { ...sight.state, controls: { ...sight.state.controls } } },
        value: Number.isFinite(value) ? value : null,
      });
      expect(said.type === 'probe.taken' && said.foretold).not.toBeNull();
    }
    expect(finder.find(evidence()).causes[0]!.cause.id).toBe(planted);
    b.ask({ type: 'fault.mended', step: 'road-kit/left', cause: planted, says: 'crimp remade' });
    // what was measured before is of another unit now
    expect(evidence().some((e) => e.failing)).toBe(false);
    expect(evidence().every((e) => !e.id.startsWith('probe'))).toBe(true);
    b.ask({ type: 'reading.taken', step: 'road-kit/left', reading: 'front', value: 1 });
    // what is not fitted yet cannot be proved, however good its readings are
    expect(() => b.ask({ type: 'step.done', step: 'road-kit/left' })).toThrow(/comes before: what is not there yet cannot be proved/);
    const before = b.look().steps;
    const skip = (stages: string[], role?: Role) => {
      for (const s of before)
        if (stages.includes(s.stage)) b.ask({ type: 'step.skipped', step: s.id, reason: 'fitted before' }, 'tor', role);
    };
    // what keeps people safe is left out by a lead only; and nothing is proved while its power is off
    expect(() => skip(['make-safe'])).toThrow(/keeps people safe: a lead may skip it/);
    skip(['make-safe'], 'lead');
    skip(['mount', 'wire', 'bench-test']);
    expect(() => b.ask({ type: 'step.done', step: 'road-kit/left' })).toThrow(
      /Power is off as the work stands: “Positive on, negative last, fuses in” comes first/,
    );
    skip(['power-up'], 'lead');
    b.ask({ type: 'step.done', step: 'road-kit/left' });
  });
  it('a measurement names points that are there and gives a figure', () => {
    const b = twoPeople();
    const probe = (plus: string, kind: 'volts' | 'ohms' = 'volts') => ({
      look: { kind, plus, minus: 'bat-' },
      state: { controls: {}, beat: true },
    });
    expect(() => b.ask({ type: 'probe.taken', step: 'safe/off', probe: probe('moon'), value: 1 })).toThrow(/no point “moon”/);
    expect(() => b.ask({ type: 'probe.taken', step: 'safe/off', probe: probe('bat+'), value: null })).toThrow(/figure/);
    const open = b.ask({ type: 'probe.taken', step: 'safe/off', probe: probe('roof-bar/bar.plus', 'ohms'), value: null });
    expect(open.type === 'probe.taken' && open.label).toMatch(/^Ohms, .* to .*, everything off$/);
  });
  it('points under panels that are on are told from those within reach', () => {
    const b = twoPeople();
    const { model } = b.sheets;
    const panel = model.panels.find((p) => p.hides.length)!;
    expect(hiddenPlaces(model, new Set()).has(panel.hides[0]!)).toBe(true);
    expect(hiddenPlaces(model, new Set(model.panels.map((p) => p.id))).size).toBe(0);
    const { steps } = b.look();
    const first = steps.findIndex((s) => s.stage === 'open');
    for (const s of steps.slice(0, first + 1)) {
      for (const r of s.readings) b.ask({ type: 'reading.taken', step: s.id, reading: r.id, value: r.expected.unit === 'yes' ? 1 : 12.6 });
      b.ask({ type: 'step.done', step: s.id });
    }
    expect([...panelsOff(b.now(), steps)]).toEqual([steps[first]!.panel!.id]);
    b.ask({ type: 'step.reopened', step: steps[first]!.id });
    expect(panelsOff(b.now(), steps).size).toBe(0);
  });
});
