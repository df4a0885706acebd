import { describe, expect, it } from 'vitest';
import { OrderCommand, type EventBody } from './registry';
import type { Order } from '#model/order';
import type { Role } from '#model/person';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { Sheets } from '#model/sheet';
import { after, assessed, demoKit, demoOrder, looseOrder } from '../../tests/demo-sheets';
import { lotItems } from '../order/lots';
import { dangerOf } from '../circuit/unsafe';
import { assess, stepState } from '../order/assess';
import { decide, Refused } from './decide';
import { handoverRows, handoverSheet } from '../order/handover-sheet';
import { say } from './registry';
import { clashes, touches } from './registry';

const ask = (order: Order, sheets: Sheets, command: OrderCommand, role: Role = 'installer'): EventBody =>
  decide(command, order, {
    role,
    sheets,
    settings: DEFAULT_SETTINGS,
    assessment: assessed(order, sheets),
    by: 'tor',
    known: {
      kit: (id) => (id === 'none' ? null : { ref: { id, revision: 2 }, kit: demoKit('roof-bar') }),
      people: ['tor', 'maud'],
      hasPhoto: (id) => id.startsWith('a'),
      seal: () => 'f'.repeat(64),
    },
  });
const refusal = (f: () => unknown): Refused => {
  try {
    f();
  } catch (e) {
    if (e instanceof Refused) return e;
    throw e;
  }
  throw new Error('was not refused');
};
/** Does every step with readings inside their bands. */
function workThrough(order: Order, sheets: Sheets, upTo = Infinity): Order {
  for (let i = 0; i < upTo; i++) {
    const a = assessed(order, sheets);
    const step = a.steps.find((s) => stepState(order, s.id).status === 'todo');
    if (!step) break;
    for (const r of step.readings) {
      const { low, high, unit } = r.expected;
      order = after(
        order,
        ask(order, sheets, {
          type: 'reading.taken',
          step: step.id,
          reading: r.id,
          value: unit === 'yes' ? 1 : low !== null && high !== null ? (low + high) / 2 : (low ?? 0) * 1.2,
        }),
      );
    }
    if (step.panel?.fasteners.length && step.stage === 'close')
      order = after(
        order,
        ask(order, sheets, { type: 'fasteners.counted', step: step.id, counts: step.panel.fasteners.map((f) => f.count) }),
      );
    order = after(order, ask(order, sheets, { type: 'step.done', step: step.id }));
  }
  return order;
}

describe('what may be recorded', () => {
  const { order, sheets } = demoOrder('drover-4', ['roof-bar']);
  it('a serial or lot number stands once, on a thing of the order, and is taken off again', () => {
    const { order, sheets } = demoOrder('drover-4', ['winch-32']);
    const [thing] = lotItems(order, assessed(order, sheets));
    const number = { item: thing!.item, lot: ' W-7 ' };
    const told = ask(order, sheets, OrderCommand.parse({ type: 'lot.recorded', ...number }));
    expect(told).toEqual({ type: 'lot.recorded', item: thing!.item, name: thing!.name, lot: 'W-7' });
    const after1 = after(order, told);
    expect(handoverSheet(after1, sheets, assessed(after1, sheets), []).lots).toMatchObject([{ name: thing!.name, lot: 'W-7' }]);
    expect(refusal(() => ask(after1, sheets, { type: 'lot.recorded', item: thing!.item, lot: 'W-7' })).message).toMatch(/already/);
    expect(refusal(() => ask(order, sheets, { type: 'lot.recorded', item: 'no-such', lot: 'W-7' }))).toMatchObject({
      why: 'input',
      path: 'item',
    });
    expect(refusal(() => ask(order, sheets, { type: 'lot.dropped', item: thing!.item, lot: 'W-7' })).why).toBe('input');
    expect(after(after1, ask(after1, sheets, { type: 'lot.dropped', item: thing!.item, lot: 'W-7' })).lots).toEqual([]);
  });
  it('a step waits for its readings, and a failing one stops it', () => {
    expect(refusal(() => ask(order, sheets, { type: 'step.done', step: 'safe/rest' })).message).toMatch(/Read “Battery under.*” first/);
    const bad = after(order, ask(order, sheets, { type: 'reading.taken', step: 'safe/rest', reading: 'rest', value: 9 }));
    expect(refusal(() => ask(bad, sheets, { type: 'step.done', step: 'safe/rest' })).message).toMatch(/out of its band/);
    // one tap says yes to all that is asked; what is no question, or not asked there, is refused
    const yes = (ids: string[]) => ask(order, sheets, { type: 'step.done', step: 'safe/negative', yes: ids });
    expect(yes(['off'])).toMatchObject({ affirmed: [{ reading: 'off' }] });
    expect(refusal(() => yes([])).message).toMatch(/first/);
    expect(refusal(() => yes(['rest'])).message).toMatch(/does not ask “rest”/);
    const sure = after(order, yes(['off']));
    expect(sure.steps['safe/negative']).toMatchObject({ status: 'done', readings: { off: { value: 1, verdict: 'holds' } } });
    expect(refusal(() => ask(bad, sheets, { type: 'step.skipped', step: 'safe/rest', reason: 'no time' })).path).toBe('step');
    expect(ask(bad, sheets, { type: 'step.skipped', step: 'safe/rest', reason: 'battery is being changed' }, 'lead')).toMatchObject({
      title: 'Read the battery at rest',
      next: expect.any(String),
    });
  });
  it('the server says what a reading should have been and judges it, whoever sent it', () => {
    expect(ask(order, sheets, { type: 'reading.taken', step: 'safe/rest', reading: 'rest', value: 12.7 })).toMatchObject({
      verdict: 'holds',
      expected: { unit: 'V' },
      label: expect.stringMatching(/at rest/),
    });
  });
  const hood = sheets.model.panels.find((p) => p.id === 'hood')!;
  it('nothing closes before what it hides is proved', () => {
    expect(
      refusal(() =>
        ask(
          after(order, ask(order, sheets, { type: 'fasteners.counted', step: 'shut/hood', counts: hood.fasteners.map((f) => f.count) })),
          sheets,
          {
            type: 'step.done',
            step: 'shut/hood',
          },
        ),
      ).message,
    ).toMatch(/Prove before closing/);
  });
  it('roles: the desk does not do steps, only a lead passes a proof', () => {
    expect(refusal(() => ask(order, sheets, { type: 'step.started', step: 'safe/rest' }, 'desk'))).toMatchObject({
      why: 'role',
      message: 'This is for an installer or a lead or the owner.',
    });
    expect(refusal(() => ask(order, sheets, { type: 'proof.overridden', proof: 'prove/parked', reason: 'x' })).why).toBe('role');
    expect(ask(order, sheets, { type: 'proof.overridden', proof: 'prove/parked', reason: 'meter is away' }, 'lead')).toMatchObject({
      title: 'Parked draw',
    });
  });
  it('a way past hot parts that leaves a wire too thin for its fuse needs a lead, though nobody touched wire or fuse', () => {
    const { order, sheets } = looseOrder('drover-4', ['roof-bar']);
    const hand = (field: 'awg' | 'fuseA' | 'route', value: number | string): OrderCommand & { type: 'wire.overridden' } => ({
      type: 'wire.overridden',
      circuit: 'roof-bar/bar',
      field,
      value,
      reason: '',
    });
    const hot = sheets.model.runs.find((r) => r.hazards.includes('heat'))!;
    const cool = sheets.model.runs.find((r) => !r.hazards.length)!;
    // 20 A on 18 AWG is just right where it is cool
    const thin = after(order, hand('fuseA', 20), hand('awg', 18));
    expect(refusal(() => ask(thin, sheets, hand('route', `${hot.from}>${hot.to}`)))).toMatchObject({
      why: 'role',
      message: expect.stringMatching(/fuse is above what the wire may carry/),
    });
    expect(ask(thin, sheets, hand('route', `${cool.from}>${cool.to}`))).toMatchObject({ field: 'route' });
    // a lead may, with a reason; the screens ask for it by the same answer
    const change = { circuit: 'roof-bar/bar', field: 'route' as const, value: `${hot.from}>${hot.to}` };
    const a = assessed(thin, sheets);
    expect(dangerOf(change, thin, a, DEFAULT_SETTINGS)).toMatch(/fuse is above what the wire may carry/);
    expect(refusal(() => ask(thin, sheets, hand('route', change.value), 'lead')).path).toBe('reason');
    expect(ask(thin, sheets, { ...hand('route', change.value), reason: 'sleeved there' }, 'lead')).toMatchObject({ field: 'route' });
  });
  it('an unsafe override needs a lead and a reason; a safe one anybody at the bench', () => {
    const { order, sheets } = looseOrder('drover-4', ['roof-bar']);
    const over = (value: number, reason = ''): OrderCommand => ({
      type: 'wire.overridden',
      circuit: 'roof-bar/bar',
      field: 'fuseA',
      value,
      reason,
    });
    expect(ask(order, sheets, over(20))).toMatchObject({ value: 20 });
    expect(refusal(() => ask(order, sheets, over(40))).why).toBe('role');
    expect(refusal(() => ask(order, sheets, over(40), 'lead')).path).toBe('reason');
    expect(ask(order, sheets, over(40, 'wire is 8 AWG'), 'lead')).toMatchObject({ value: 40 });
    // a wire too thin under its fuse is the same danger from the other side
    expect(
      refusal(() =>
        ask(after(order, { type: 'wire.overridden', circuit: 'roof-bar/bar', field: 'fuseA', value: 25, reason: '' }), sheets, {
          type: 'wire.overridden',
          circuit: 'roof-bar/bar',
          field: 'awg',
          value: 18,
          reason: '',
        }),
      ).why,
    ).toBe('role');
    expect(refusal(() => ask(order, sheets, over(13))).message).toMatch(/no 13 A fuse/);
    expect(
      refusal(() => ask(order, sheets, { type: 'wire.overridden', circuit: 'roof-bar/bar', field: 'feed', value: 'moon', reason: '' }))
        .message,
    ).toMatch(/not on this unit/);
  });
  it('unknown kits, steps, people and a kit twice are named', () => {
    expect(refusal(() => ask(order, sheets, { type: 'kit.added', kit: 'none' })).message).toMatch(/no kit “none”/);
    expect(refusal(() => ask(order, sheets, { type: 'kit.added', kit: 'roof-bar' })).message).toMatch(/already chosen/);
    expect(refusal(() => ask(order, sheets, { type: 'step.done', step: 'none' })).why).toBe('input');
    expect(refusal(() => ask(order, sheets, { type: 'bench.assigned', to: 'zeb' })).message).toMatch(/Nobody here/);
    expect(refusal(() => ask(order, sheets, { type: 'arrive.changed', patch: { year: 1999 } })).message).toMatch(/2022 to 2027/);
    expect(refusal(() => ask(order, sheets, { type: 'box.counted', kit: 'roof-bar', item: 44, count: 1 })).path).toBe('item');
  });
});

describe('time put right', () => {
  const { order, sheets } = demoOrder('drover-4', ['roof-bar']);
  const fix: OrderCommand = { type: 'time.corrected', step: 'open/hood', seconds: 300, reason: 'clock ran over lunch' };
  it('is what counts from then on, and the log says what stood before', () => {
    let o = after(order, { type: 'step.started', step: 'open/hood', title: 'x' }, { type: 'timer.stopped' });
    const event = ask(o, sheets, fix);
    expect(event).toMatchObject({ label: expect.stringMatching(/^Hood off: 5:00 instead of \d+:\d\d$/) });
    o = after(o, event);
    expect(o.steps['open/hood']!.seconds).toBe(300);
    expect(assessed(o, sheets).minutes.spent).toBe(5);
    expect(say(event)).toMatch(/because clock ran over lunch$/);
  });
  it('waits for a clock that still runs on it', () => {
    const running = after(order, { type: 'step.started', step: 'open/hood', title: 'x' });
    expect(refusal(() => ask(running, sheets, fix)).message).toMatch(/stop it first/);
    expect(ask(running, sheets, { ...fix, step: 'wire/roof-bar/bar' })).toMatchObject({ seconds: 300 });
  });
});

describe('fasteners out and back', () => {
  const { order, sheets } = demoOrder('drover-4', ['roof-bar']);
  const next = (o: Order) => assessed(o, sheets).steps.find((s) => stepState(o, s.id).status === 'todo')!;
  let proved = order;
  while (!(next(proved).stage === 'close' && next(proved).panel?.fasteners.length)) proved = workThrough(proved, sheets, 1);
  const shut = next(proved);
  const all = shut.panel!.fasteners.map((f) => f.count);
  const count = (o: Order, step: string, counts: number[]) => after(o, ask(o, sheets, { type: 'fasteners.counted', step, counts }));
  const done = { type: 'step.done' as const, step: shut.id, yes: shut.readings.map((r) => r.id) };

  it('a panel is not closed until what came out is counted back', () => {
    expect(refusal(() => ask(proved, sheets, done)).message).toMatch(/Count what goes back/);
    const back = count(proved, shut.id, all);
    expect(ask(back, sheets, done)).toMatchObject({ type: 'step.done' });
    expect(ask(proved, sheets, { type: 'fasteners.counted', step: shut.id, counts: all })).toMatchObject({
      label: expect.stringMatching(new RegExp(`^${shut.panel!.name}: ${all[0]} of ${all[0]} × .* back$`)),
    });
  });
  it('a short count refuses the close-out, unless a reason is given, and the hand-over says so', () => {
    const short = count(proved, shut.id, [all[0]! - 1, ...all.slice(1)]);
    expect(refusal(() => ask(short, sheets, done)).message).toMatch(/^1 × .* not back: look on the bench/);
    const excused = after(short, ask(short, sheets, { type: 'fasteners.excused', step: shut.id, reason: 'hole is worn out' }));
    expect(ask(excused, sheets, done)).toMatchObject({ type: 'step.done' });
    const sheet = handoverSheet(excused, sheets, assessed(excused, sheets), []);
    expect(sheet.closedShort).toMatchObject([
      { panel: shut.panel!.name, short: expect.stringMatching(/^1 × /), reason: 'hole is worn out' },
    ]);
    // counted again, the reason is no longer needed
    expect(count(excused, shut.id, all).fasteners[shut.id]).toMatchObject({ reason: null });
  });
  it('what was missing as the unit came is not asked for', () => {
    const fewer = count(proved, shut.id.replace('shut/', 'open/'), [all[0]! - 1, ...all.slice(1)]);
    expect(refusal(() => ask(fewer, sheets, { type: 'fasteners.counted', step: shut.id, counts: all })).message).toMatch(
      /more cannot go back/,
    );
    expect(ask(count(fewer, shut.id, [all[0]! - 1, ...all.slice(1)]), sheets, done)).toMatchObject({ type: 'step.done' });
  });
  it.each<[string, OrderCommand, RegExp]>([
    ['kinds left out', { type: 'fasteners.counted', step: shut.id, counts: [...all, 1] }, /count each/],
    ['a step without any', { type: 'fasteners.counted', step: 'safe/rest', counts: [1] }, /no fasteners/],
    ['a reason for nothing', { type: 'fasteners.excused', step: shut.id, reason: 'x' }, /Nothing is counted short/],
  ])('refuses %s', (_, command, why) => {
    expect(refusal(() => ask(proved, sheets, command)).message).toMatch(why);
  });
});

describe('from the first step to the seal', () => {
  for (const [model, kits] of [
    ['drover-4', ['front-harness', 'road-kit', 'winch-32']],
    ['parkway-48', ['reducer-48', 'usb-socket']],
    ['lapwing-500', ['heated-grips']],
    ['sandbar-21', ['nav-lights', 'boat-horn']],
    ['skarn-600', ['navigator']],
  ] as [string, string[]][])
    it(`${model} goes all the way`, () => {
      const made = demoOrder(model, kits, { identity: model === 'sandbar-21' ? 'ABC12345D404' : '1M8GDM9AXKP042788' });
      let { order } = made;
      const { sheets } = made;
      expect(refusal(() => ask(order, sheets, { type: 'order.sealed' })).message).toMatch(/^Not yet/);
      // where a fuse stands is said only once somebody has confirmed it
      const before = handoverSheet(order, sheets, assessed(order, sheets), []);
      for (const c of before.circuits) if (!/^guarded|^in its own lead/.test(c.fusePlace ?? '')) expect(c.fusePlace).toBeNull();
      order = workThrough(order, sheets);
      const done = assessed(order, sheets);
      expect(done.blocks).toEqual(['the owner has not signed']);
      // what was remembered on the way is what comes of computing it from nothing
      expect(done).toEqual(assess(order, sheets, DEFAULT_SETTINGS));
      order = after(order, ask(order, sheets, { type: 'handover.signed', name: 'Lio', strokes: 'M0 0L100 100' }));
      // nobody seals what they have not seen
      if (done.open.length)
        expect(refusal(() => ask(order, sheets, { type: 'order.sealed' })).message).toMatch(/Look first at what is open/);
      expect(refusal(() => ask(order, sheets, { type: 'order.sealed', seen: done.open.length + 1 })).message).toMatch(
        /Look first|look again/,
      );
      order = after(order, ask(order, sheets, { type: 'order.sealed', seen: done.open.length }));
      expect(order.status).toBe('sealed');
      expect(refusal(() => ask(order, sheets, { type: 'kit.added', kit: 'other' })).message).toMatch(/sealed/);
      order = after(order, ask(order, sheets, { type: 'addition.made', text: 'came back for a fuse' }));
      const sheet = handoverSheet(order, sheets, assessed(order, sheets), []);
      expect(sheet.open).toEqual(done.open);
      expect(sheet.proofs.every((p) => p.state === 'proved')).toBe(true);
      expect(sheet.circuits.every((c) => (c.fuseA !== null || c.fusePlace?.startsWith('guarded')) && c.feed !== null)).toBe(true);
      for (const c of sheet.circuits) expect(c.fusePlace).toMatch(/^guarded|^in its own lead, at |^within 177.8 mm of /);
      expect(handoverRows(sheet).length).toBeGreaterThanOrEqual(sheet.steps.length);
      expect(sheet.cautions.at(-1)).toMatch(/local code/);
    }, 300_000);
  it('a skipped proof holds the hand-over until a lead passes it', () => {
    const made = demoOrder('skarn-600', ['navigator']);
    let order = made.order;
    const { sheets } = made;
    order = after(order, ask(order, sheets, { type: 'step.skipped', step: 'prove/parked', reason: 'no ammeter here' }));
    order = workThrough(order, sheets);
    expect(assessed(order, sheets).blocks.join()).toMatch(/Parked draw: skipped: no ammeter here/);
    order = after(order, ask(order, sheets, { type: 'proof.overridden', proof: 'prove/parked', reason: 'measured at delivery' }, 'lead'));
    expect(assessed(order, sheets).blocks).toEqual(['the owner has not signed']);
  });
});

describe('state from events', () => {
  const { order, sheets } = demoOrder('drover-4', ['roof-bar']);
  it('keeps time per step and lets the clock go on with the next', () => {
    let o = after(order, { type: 'step.started', step: 'safe/rest', title: 'x' });
    o = after(o, { type: 'step.done', step: 'safe/rest', title: 't', next: 'safe/off', counts: null, affirmed: [], took: [] });
    expect(o.steps['safe/rest']).toMatchObject({ status: 'done', seconds: 60 });
    expect(o.clocks[0]!.step).toBe('safe/off');
    o = after(o, { type: 'timer.stopped' });
    expect(o.steps['safe/off']!.seconds).toBe(60);
    o = after(o, { type: 'step.reopened', step: 'safe/rest', title: 't' });
    expect(o.steps['safe/rest']).toMatchObject({ status: 'todo', seconds: 60 });
  });
  it('taking a kit off takes its overrides off; telling a fact keeps it', () => {
    let o = after(
      order,
      { type: 'wire.overridden', circuit: 'roof-bar/bar', field: 'awg', value: 8, reason: '' },
      { type: 'fact.told', key: 'watts:a/b', value: 4, label: 'x' },
    );
    o = after(o, { type: 'kit.removed', kit: 'roof-bar' });
    expect([o.kits, o.overrides, o.facts]).toEqual([[], [], { 'watts:a/b': 4 }]);
  });
  it('two changes clash only where they touch the same', () => {
    const reading = (r: string): OrderCommand => ({ type: 'reading.taken', step: 's', reading: r, value: 1 });
    const taken = (r: string) =>
      ({
        type: 'reading.taken',
        step: 's',
        reading: r,
        value: 1,
        label: 'l',
        verdict: 'holds',
        expected: { low: 0, high: 2, unit: 'V', why: '' },
      }) as EventBody;
    expect(clashes(reading('a'), [taken('b')])).toEqual([]);
    expect(clashes(reading('a'), [taken('a')])).toHaveLength(1);
    expect(clashes({ type: 'arrive.changed', patch: { owner: 'A' } }, [{ type: 'arrive.changed', patch: { condition: 'b' } }])).toEqual([]);
    expect(clashes({ type: 'arrive.changed', patch: { owner: 'A' } }, [{ type: 'arrive.changed', patch: { owner: 'B' } }])).toHaveLength(1);
    expect(clashes(reading('a'), [{ type: 'order.sealed', sheetHash: '' }])).toHaveLength(1);
    expect(touches({ type: 'finding.added', text: 'x' })).toEqual([]);
  });
  it('says every event as a line a person reads', () => {
    const bodies: EventBody[] = [
      { type: 'arrive.changed', patch: { restVolts: 12.4, wishes: ['road'] } },
      { type: 'wire.overridden', circuit: 'roof-bar/bar', field: 'awg', value: 0, reason: 'on the shelf' },
      ask(order, sheets, { type: 'reading.taken', step: 'safe/rest', reading: 'rest', value: 12.7 }),
      { type: 'bench.assigned', to: null },
    ];
    expect(bodies.map(say)).toEqual([
      'volts at rest 12.4 V; wishes Be legal on the road',
      'roof-bar/bar: gauge 1/0 by hand: on the shelf',
      expect.stringMatching(/^Read the battery at rest: .* 12.7 V, expected .* V: holds$/),
      'On nobody’s bench',
    ]);
  });
});
