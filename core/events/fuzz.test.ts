import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { OrderCommand } from './registry';
import type { Happened } from './apply';
import { EventBody } from './registry';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { Role } from '#model/person';
import { assessed, demoKit, demoModel, demoOrder } from '../../tests/demo-sheets';
import { emptyOwn } from '../order/own';
import { addPart } from '../shelf/add-part';
import { SHELF } from '../shelf/parts';
import { removeDevice } from '../sheets/edit-kit';
import { quoteOptions } from '../money/order-quote';
import { decide, Refused } from './decide';
import { applyEvent } from './apply';
import { say } from './registry';
import { lastOf } from './undo';
import { summarise } from '../order/summary';

const OWN = addPart(
  emptyOwn(),
  SHELF.find((p) => p.id === 'lamp')!,
  demoModel('drover-4'),
).kit;
const PRICED = {
  ...DEFAULT_SETTINGS,
  priceBook: { ...DEFAULT_SETTINGS.priceBook, parts: ['wire', 'fuse', 'relay', 'end'].map((id) => ({ id, cost: '1' })) },
};
const KITS = ['front-harness', 'road-kit', 'winch-32', 'roof-bar', 'usb-socket'];
const STEPS = [
  'safe/rest',
  'safe/off',
  'open/hood',
  'road-kit/left',
  'wire/roof-bar/bar',
  'prove/parked',
  'shut/hood',
  'roof-bar/aim',
  'nonsense',
];
const CIRCUITS = ['roof-bar/bar', 'winch-32/power', 'usb-socket/usb', 'road-kit/horn', 'none/none'];
const LAMPS = ['road-kit/front-left', 'road-kit/rear-right', 'factory/tail-left', 'added/one', 'none/none'];
const spot = fc.record({
  x: fc.integer({ min: -3000, max: 6000 }),
  y: fc.integer({ min: -1500, max: 1500 }),
  z: fc.integer({ min: -200, max: 4500 }),
});
const kit = fc.constantFrom(...KITS);
const step = fc.constantFrom(...STEPS);

/** Anything a person or a broken screen might ask, in any order. */
const command: fc.Arbitrary<OrderCommand> = fc.oneof(
  fc.record({ type: fc.constant('kit.added' as const), kit }),
  fc.record({ type: fc.constant('kit.removed' as const), kit }),
  fc.record({
    type: fc.constantFrom('lot.recorded' as const, 'lot.dropped' as const),
    item: fc.constantFrom('winch-32-winch', 'relay-12', 'fuse-ato-30', '14 RD'),
    lot: fc.constantFrom('A-1', 'A-2'),
  }),
  fc.record({
    type: fc.constant('variant.chosen' as const),
    kit,
    variant: fc.constantFrom('running', 'feed', 'none'),
    option: fc.constantFrom('on', 'off', 'plug', 'none'),
  }),
  fc.record({
    type: fc.constant('device.placed' as const),
    kit,
    device: fc.constantFrom('contactor', 'bar', 'none'),
    place: fc.constantFrom('battery', 'dash', 'none', null),
  }),
  fc.record({
    type: fc.constant('own.changed' as const),
    own: fc.constantFrom(OWN, removeDevice(OWN, OWN.devices[0]!.id), { ...OWN, id: 'else' }, null),
  }),
  fc.record({
    type: fc.constant('device.leftOut' as const),
    kit,
    device: fc.constantFrom('mirror-left', 'bar', 'usb', 'none'),
    reason: fc.constant('has one'),
  }),
  fc.record({ type: fc.constant('device.putBack' as const), kit, device: fc.constantFrom('mirror-left', 'bar', 'none') }),
  fc.record({
    type: fc.constant('switch.swapped' as const),
    kit,
    device: fc.constantFrom('switch', 'bar', 'none'),
    name: fc.constantFrom('Red rocker', 'Lit one'),
    part: fc.constantFrom('rocker', 'lit-rocker', 'button', 'none'),
    reason: fc.constant('to be felt'),
  }),
  fc.record({ type: fc.constant('switch.restored' as const), kit, device: fc.constantFrom('switch', 'none') }),
  fc.record({
    type: fc.constant('way.added' as const),
    from: fc.constantFrom('dash', 'battery', 'none'),
    to: fc.constantFrom('rear-frame', 'dash', 'tail-left'),
    lengthMm: fc.integer({ min: 1, max: 9000 }),
  }),
  fc.record({
    type: fc.constant('way.removed' as const),
    from: fc.constantFrom('dash', 'battery'),
    to: fc.constantFrom('rear-frame', 'dash'),
  }),
  fc.record({
    type: fc.constant('place.added' as const),
    name: fc.constantFrom('shelf', 'Dash, centre', 'bin'),
    at: spot,
    from: fc.constantFrom('dash', 'shelf', 'none'),
    lengthMm: fc.integer({ min: 1, max: 9000 }),
  }),
  fc.record({ type: fc.constant('place.removed' as const), id: fc.constantFrom('shelf', 'bin', 'dash') }),
  fc.record({ type: fc.constant('box.counted' as const), kit, item: fc.nat(12), count: fc.nat(20) }),
  fc.record({ type: fc.constant('step.started' as const), step }),
  fc.record({ type: fc.constant('timer.stopped' as const) }),
  fc.record({ type: fc.constant('fasteners.counted' as const), step, counts: fc.array(fc.nat(9), { minLength: 1, maxLength: 3 }) }),
  fc.record({ type: fc.constant('time.corrected' as const), step, seconds: fc.nat(86_400), reason: fc.constant('lunch') }),
  fc.record({ type: fc.constant('fasteners.excused' as const), step, reason: fc.constant('worn out') }),
  fc.record({
    type: fc.constant('plan.chosen' as const),
    choice: fc.record({ runs: fc.constantFrom('fish' as const, 'off' as const, null), benchTest: fc.boolean() }),
  }),
  fc.record({ type: fc.constant('plan.pinned' as const), pin: fc.record({ step, after: fc.option(step), before: fc.option(step) }) }),
  fc.record({ type: fc.constant('plan.freed' as const), step, label: fc.constant('x') }),
  fc.record({ type: fc.constant('step.done' as const), step }),
  fc.record({ type: fc.constant('step.done' as const), step, counts: fc.array(fc.nat(9), { minLength: 1, maxLength: 3 }) }),
  // whatever was done last, or something else
  fc.record({ type: fc.constant('action.undone' as const), says: fc.constantFrom('last', 'last', 'Done: Hood off') }),
  fc.record({ type: fc.constant('order.reopened' as const) }),
  fc.record({ type: fc.constant('step.skipped' as const), step, reason: fc.constant('because') }),
  fc.record({ type: fc.constant('step.reopened' as const), step }),
  fc.record({
    type: fc.constant('reading.taken' as const),
    step,
    reading: fc.constantFrom('rest', 'tug', 'amps', 'front', 'rear', 'count', 'on'),
    value: fc.double({ min: -5, max: 300, noNaN: true }),
  }),
  fc.record({
    type: fc.constant('wire.overridden' as const),
    circuit: fc.constantFrom(...CIRCUITS),
    field: fc.constantFrom('awg' as const, 'fuseA' as const, 'lengthM' as const, 'feed' as const, 'mode' as const),
    value: fc.oneof(
      fc.constantFrom<number | string>(18, 14, 8, 2, 0, 5, 10, 20, 40, 'battery-plus', 'bus-keyed', 'relay', 'direct', 'moon'),
      fc.double({ min: -2, max: 80, noNaN: true }),
    ),
    reason: fc.constantFrom('', 'known to be right'),
  }),
  fc.record({
    type: fc.constant('wire.override-cleared' as const),
    circuit: fc.constantFrom(...CIRCUITS),
    field: fc.constantFrom('awg' as const, 'fuseA' as const),
  }),
  fc.record({ type: fc.constant('lamp.placed' as const), lamp: fc.constantFrom(...LAMPS), at: spot, label: fc.constant('lamp') }),
  fc.record({ type: fc.constant('lamp.freed' as const), lamp: fc.constantFrom(...LAMPS), label: fc.constant('lamp') }),
  fc.record({
    type: fc.constant('lamp.added' as const),
    lamp: fc.record({
      id: fc.constantFrom('one', 'two'),
      name: fc.constant('One more'),
      function: fc.constantFrom('tail' as const, 'turn-front' as const, 'reflector-rear' as const),
      at: spot,
      like: fc.constantFrom(null, 'road-kit/front-left', 'road-kit/moon'),
    }),
  }),
  fc.record({ type: fc.constant('lamp.dropped' as const), id: fc.constantFrom('one', 'two'), label: fc.constant('lamp') }),
  fc.record({
    type: fc.constant('packs.chosen' as const),
    packs: fc.constantFrom<string[] | null>(
      null,
      [],
      ['road-general'],
      ['road-general', 'low-speed-vehicle', 'motorcycle-r53'],
      ['nowhere'],
    ),
    label: fc.constant('packs'),
  }),
  fc.record({
    type: fc.constant('probe.taken' as const),
    step,
    probe: fc.record({
      look: fc.record({
        kind: fc.constantFrom('volts' as const, 'ohms' as const),
        plus: fc.constantFrom('bat+', 'roof-bar/bar.plus', 'moon'),
        minus: fc.constantFrom('bat-', 'bat+'),
      }),
      state: fc.constantFrom<{ controls: Record<string, string>; beat: boolean }>(
        { controls: {}, beat: true },
        { controls: { 'unit#key': 'run', 'no/such#switch': 'on' }, beat: false },
      ),
    }),
    value: fc.option(fc.double({ min: -20, max: 2000, noNaN: true })),
  }),
  fc.record({ type: fc.constant('fault.mended' as const), step, cause: fc.option(fc.constant('open:a>b')), says: fc.constant('crimp') }),
  fc.record({
    type: fc.constant('photo.taken' as const),
    photo: fc.constantFrom('a'.repeat(64), 'b'.repeat(64)),
    step,
    note: fc.constant(''),
  }),
  fc.record({ type: fc.constant('step.given' as const), step, to: fc.constantFrom('tor', 'nobody', null) }),
  fc.record({ type: fc.constant('proof.overridden' as const), proof: step, reason: fc.constant('passed') }),
  fc.record({
    type: fc.constant('quote.made' as const),
    basis: fc.constantFrom('fixed' as const, 'time' as const),
    options: fc.array(
      fc.record({
        name: fc.constant('one'),
        changes: fc.array(fc.record({ kind: fc.constant('without' as const), kit, label: fc.constant('less') }), { maxLength: 2 }),
      }),
      { minLength: 1, maxLength: 2 },
    ),
    discount: fc.constantFrom(null, { rate: '5 %' }, { amount: '99999' }),
    note: fc.constant(''),
    prices: fc.constantFrom({}, Object.fromEntries([...KITS, 'wire', 'fuse'].map((k) => [k, '10.00']))),
  }),
  fc.record({
    type: fc.constant('quote.agreed' as const),
    revision: fc.integer({ min: 1, max: 3 }),
    option: fc.constantFrom('a', 'b'),
    how: fc.constantFrom('told' as const, 'page' as const),
    name: fc.constant('Lio'),
    strokes: fc.constant(null),
  }),
  fc.record({ type: fc.constant('quote.withdrawn' as const), revision: fc.integer({ min: 1, max: 3 }), reason: fc.constant('slip') }),
  fc.record({
    type: fc.constant('extra.asked' as const),
    title: fc.constantFrom('Posts', 'Brakes'),
    why: fc.constant('worn'),
    place: fc.constantFrom('battery', 'moon'),
    minutes: fc.constantFrom(0, 20),
    labour: fc.constantFrom('wire' as const, 'mount' as const),
    powerOff: fc.boolean(),
    question: fc.constant('Good'),
    parts: fc.constant<{ name: string; quantity: number; price: string }[]>([]),
    photo: fc.constant(null),
    step: fc.constant(null),
  }),
  fc.record({
    type: fc.constant('extra.answered' as const),
    id: fc.constantFrom('posts', 'brakes', 'posts-2'),
    yes: fc.boolean(),
    how: fc.constant('told' as const),
    name: fc.constant('Lio'),
    reason: fc.constant(''),
    strokes: fc.constant(null),
  }),
  fc.record({ type: fc.constant('extra.withdrawn' as const), id: fc.constantFrom('posts', 'brakes') }),
  fc.record({ type: fc.constant('bill.made' as const) }),
  fc.record({ type: fc.constant('bill.marked' as const), paid: fc.boolean() }),
  fc.record({ type: fc.constant('question.asked' as const), text: fc.constantFrom('When?', 'Where?') }),
  fc.record({
    type: fc.constant('question.answered' as const),
    id: fc.constantFrom('q1', 'q2'),
    text: fc.constant('Soon'),
    photo: fc.constant(null),
  }),
  fc.record({ type: fc.constant('order.sealed' as const) }),
  fc.record({ type: fc.constant('addition.made' as const), text: fc.constant('later') }),
);

describe('whatever is asked, in whatever order', () => {
  it('each command becomes a sound event or a refusal in words, and the order can always be computed', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(command, fc.constantFrom<Role>('installer', 'desk', 'lead', 'owner')), { maxLength: 25 }), (list) => {
        const made = demoOrder('drover-4', []);
        let order = made.order;
        const { sheets } = made;
        const history: Happened[] = [];
        for (const [c, role] of list) {
          const kits = order.kits.map((k) => demoKit(k.kit.id));
          const now = { ...sheets, kits };
          const assessment = assessed(order, now);
          let body: EventBody;
          const says = lastOf(order, 'tor')?.says ?? 'nothing';
          const asked = c.type === 'action.undone' && c.says === 'last' ? { ...c, says } : c;
          try {
            body = decide(asked, order, {
              role,
              sheets: now,
              settings: DEFAULT_SETTINGS,
              assessment,
              by: 'tor',
              known: {
                kit: (id) => ({ ref: { id, revision: 1 }, kit: demoKit(id) }),
                people: [],
                hasPhoto: () => true,
                seal: () => 'b'.repeat(64),
                today: '2026-03-02',
                quote: ({ options, prices, discount }) => quoteOptions(order, now, PRICED, options, { byHand: prices, discount }),
              },
            });
          } catch (e) {
            expect(e).toBeInstanceOf(Refused);
            expect((e as Refused).message).toMatch(/\S/);
            continue;
          }
          expect(EventBody.safeParse(body).error?.issues, JSON.stringify(body)).toBeUndefined();
          expect(say(body)).toMatch(/\S/);
          const event = {
            seq: order.version + 1,
            doneAt: new Date(Date.UTC(2026, 2, 2, 8, order.version)).toISOString(),
            by: 'tor',
            body,
          };
          history.push(event);
          order = applyEvent(order, order.id, event);
          const after = { ...sheets, kits: order.kits.map((k) => demoKit(k.kit.id)) };
          const a = assessed(order, after);
          expect(() => summarise(order, after, a)).not.toThrow();
          for (const circuit of a.wiring.circuits) {
            if (circuit.dropPct !== null) expect(Number.isFinite(circuit.dropPct)).toBe(true);
            // nothing unsafe is ever called good
            if (circuit.fuseA !== null && circuit.ampacityA !== null && circuit.fuseA > circuit.ampacityA)
              expect(circuit.verdict).toBe('fails');
          }
          if (order.status === 'sealed') expect(a.blocks.filter((b) => !/signed/.test(b))).toEqual([]);
        }
        expect(history.reduce((o, e) => applyEvent(o, o.id, e), made.order)).toEqual(order);
      }),
      { numRuns: 120 },
    );
  });
});
