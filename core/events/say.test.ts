import { describe, expect, it } from 'vitest';
import { OwnerDay } from '#model/day';
import type { QuoteBody } from '#model/money';
import { DEFINITIONS, EventBody, say } from './registry';

const opening = {
  model: { id: 'drover-4', revision: 1 },
  build: 'a',
  year: 2025,
  identity: 'X1',
  meterValue: null,
  owner: 'Lio',
  promisedAt: '2026-03-03T16:00:00.000Z',
  wishes: [],
  restVolts: null,
  condition: '',
  fitted: [],
};
const band = (low: number | null, high: number | null, unit: 'V' | 'N' | 'yes') => ({ low, high, unit, why: '' });

const sums = {
  lines: [
    {
      id: 'l',
      class: 'labour' as const,
      name: 'Wiring',
      quantity: '1.00',
      unit: 'h' as const,
      unitPrice: '100',
      net: '100.00',
      tax: '10.00',
      gross: '110.00',
      says: 'x',
    },
  ],
  taxes: [{ name: 'Tax', rate: '10 %', included: false, base: '100.00', tax: '10.00' }],
  totals: { net: '100.00', tax: '10.00', gross: '110.00', discount: '0.00' },
};
const judged = { verdict: 'holds' as const, says: '' };
const quote: QuoteBody = {
  revision: 2,
  basis: 'fixed',
  currency: 'USD',
  until: '2026-03-16',
  overrun: '10 %',
  rounding: 'line',
  taxes: [],
  discount: null,
  note: '',
  options: [
    { id: 'a', name: 'As planned', changes: [], kits: [], jobs: [], minutes: 60, power: judged, wire: judged, lamps: judged, ...sums },
  ],
};

const LINES: [EventBody, string][] = [
  [{ type: 'order.opened', number: 7, opening }, 'Taken in for Lio, number X1'],
  [{ type: 'arrive.changed', patch: { owner: 'Leo', restVolts: null } }, 'owner Leo; volts at rest taken off'],
  [{ type: 'arrive.changed', patch: { promisedAt: '2026-03-04T09:30:00.000Z' } }, 'promise 2026-03-04T09:30Z'],
  [{ type: 'fitted.added', item: { id: 'b', name: 'Beacon', watts: null, standbyMa: 0 } }, 'Already fitted: Beacon, watts not known'],
  [{ type: 'fitted.added', item: { id: 'b', name: 'Beacon', watts: 18, standbyMa: 0 } }, 'Already fitted: Beacon, 18 W'],
  [{ type: 'fitted.removed', id: 'b', name: 'Roof beacon' }, 'Not fitted after all: Roof beacon'],
  [{ type: 'kit.added', kit: { id: 'roof-bar', revision: 2 }, name: 'Roof bar' }, 'Kit chosen: Roof bar (sheet revision 2)'],
  [{ type: 'kit.removed', kit: 'roof-bar' }, 'Kit taken off: roof-bar'],
  [
    {
      type: 'job.added',
      job: { id: 'horn', title: 'Mend the horn’s lead', place: 'horn-place', minutes: 15, text: '', powerOff: true, question: 'Sounds' },
    },
    'Job added: Mend the horn’s lead, 15 min',
  ],
  [{ type: 'job.removed', id: 'horn', title: 'Mend the horn’s lead' }, 'Job taken off: Mend the horn’s lead'],
  [{ type: 'own.changed', own: null, label: 'all of it taken off' }, 'Of this order alone: all of it taken off'],
  [
    { type: 'device.leftOut', kit: 'road-kit', device: 'mirror-left', name: 'Left mirror', reason: 'has one' },
    'Left out: Left mirror, because has one',
  ],
  [{ type: 'device.putBack', kit: 'road-kit', device: 'mirror-left', name: 'Left mirror' }, 'Not left out after all: Left mirror'],
  [
    {
      type: 'switch.swapped',
      kit: 'roof-bar',
      device: 'switch',
      was: 'Bar switch',
      name: 'Red rocker',
      part: 'rocker',
      reason: 'to be felt',
    },
    'Red rocker fitted in the place of Bar switch, because to be felt',
  ],
  [{ type: 'switch.restored', kit: 'roof-bar', device: 'switch', was: 'Bar switch' }, 'Bar switch as its box has it, after all'],
  [
    { type: 'way.added', from: 'dash', to: 'rear-frame', lengthMm: 2400, label: 'dash to rear frame' },
    'A way for wires: dash to rear frame, 2400 mm',
  ],
  [
    { type: 'place.added', id: 'shelf', name: 'shelf', at: { x: 1, y: 2, z: 3 }, from: 'dash', lengthMm: 400 },
    'A place of this order: shelf, 400 mm from dash',
  ],
  [{ type: 'place.removed', id: 'shelf', name: 'shelf' }, 'No such place after all: shelf'],
  [{ type: 'way.removed', from: 'dash', to: 'rear-frame', label: 'dash to rear frame' }, 'No way for wires after all: dash to rear frame'],
  [{ type: 'box.counted', kit: 'roof-bar', item: 0, count: 1, label: 'clamp', took: [] }, 'Box of roof-bar: 1 × clamp'],
  [
    { type: 'variant.chosen', kit: 'aux-lamps', variant: 'feed', option: 'plug', label: 'How the lamps are fed: ready harness' },
    'Chosen of aux-lamps: How the lamps are fed: ready harness',
  ],
  [
    {
      type: 'device.placed',
      kit: 'winch-32',
      device: 'contactor',
      place: 'battery',
      label: 'Contactor at battery, under the driver’s seat',
    },
    'Contactor at battery, under the driver’s seat',
  ],
  [{ type: 'wire.overridden', circuit: 'a/b', field: 'fuseA', value: 20, reason: '' }, 'a/b: fuse 20 A by hand'],
  [
    { type: 'wire.overridden', circuit: 'a/b', field: 'lengthM', value: 2.5, reason: 'round the tank' },
    'a/b: length 2.5 m by hand: round the tank',
  ],
  [{ type: 'wire.overridden', circuit: 'a/b', field: 'mode', value: 'relay', reason: '' }, 'a/b: mode relay by hand'],
  [{ type: 'wire.override-cleared', circuit: 'a/b', field: 'awg' }, 'a/b: awg back to what Kadro chose'],
  [{ type: 'fact.told', key: 'lamp:p/i', value: true, label: 'Horn' }, 'Told: Horn yes'],
  [{ type: 'fact.told', key: 'watts:p/i', value: 12, label: 'watts of the box' }, 'Told: watts of the box 12'],
  [
    { type: 'value.taken', pointer: '/electrical/parkedMa', value: 4, how: 'measured', unit: 'mA', label: 'Parked draw' },
    'Measured: Parked draw, 4 mA',
  ],
  [{ type: 'value.taken', pointer: '/massKg', value: 700, how: 'read', unit: 'kg', label: 'Weight, dry' }, 'Read off: Weight, dry, 700 kg'],
  [{ type: 'model.renewed', model: { id: 'drover-2', revision: 3 } }, 'Judged by revision 3 of its model’s sheet from here on'],
  [{ type: 'value.dropped', pointer: '/massKg', label: 'Weight, dry' }, 'Not so after all: Weight, dry'],
  [
    { type: 'day.described', day: OwnerDay.parse({ id: 'd', name: 'Mail round', phases: [{ id: 'p', name: 'Out', minutes: 9, rpm: 0 }] }) },
    'Owner’s day: Mail round, 1 phase',
  ],
  [{ type: 'day.dropped', id: 'd' }, 'Owner’s day taken off: d'],
  [{ type: 'lot.recorded', item: 'relay-12', name: 'relay, 12 V', lot: 'R-7' }, 'Serial or lot number of relay, 12 V: R-7'],
  [{ type: 'lot.dropped', item: 'relay-12', name: 'relay, 12 V', lot: 'R-7' }, 'Serial or lot number of relay, 12 V taken off: R-7'],
  [
    { type: 'power.changed', change: { kind: 'idle', rpm: 1350 }, label: 'Idle raised to 1350 rpm' },
    'Agreed so that it holds: Idle raised to 1350 rpm',
  ],
  [{ type: 'power.restored', key: 'idle', label: 'Idle raised' }, 'No longer agreed: Idle raised'],
  [{ type: 'packs.chosen', packs: ['road-general'], label: 'General road equipment' }, 'Rule packs: General road equipment'],
  [{ type: 'packs.chosen', packs: null, label: 'as proposed' }, 'Rule packs as Kadro proposes'],
  [
    { type: 'lamp.placed', lamp: 'k/d', at: { x: 1, y: -401.6, z: 570 }, label: 'Right headlamp' },
    'Right headlamp: 402 mm right of the centre line, 570 mm up',
  ],
  [{ type: 'lamp.freed', lamp: 'k/d', label: 'Right headlamp' }, 'Right headlamp back at its sheet’s place'],
  [
    {
      type: 'lamp.added',
      lamp: { id: 'r', name: 'Rear reflector', function: 'reflector-rear', colour: 'red', at: { x: 1, y: 0, z: 600 }, like: null },
    },
    'Added: Rear reflector, on the centre line, 600 mm up',
  ],
  [{ type: 'lamp.dropped', id: 'r', label: 'Rear reflector' }, 'Not added after all: Rear reflector'],
  [{ type: 'plan.chosen', choice: { runs: 'fish', benchTest: false } }, 'Plan: wires pulled through, harnesses not tried at the bench'],
  [{ type: 'plan.pinned', pin: { step: 's', after: 'a', before: null }, label: '“Horn” after “Bar”' }, 'Plan: “Horn” after “Bar”'],
  [{ type: 'plan.freed', step: 's', label: 'Horn' }, 'Plan: Horn where Kadro puts it'],
  [
    { type: 'finding.judged', finding: '0b9d3c52-6f0e-4a53-9f6a-0c8f4a1c2d3e:7', still: false, text: 'Bolt is 8 mm' },
    'Finding outdated: Bolt is 8 mm',
  ],
  [
    { type: 'time.corrected', step: 's', seconds: 300, reason: 'lunch', label: 'Hood off: 5:00 instead of 45:00' },
    'Hood off: 5:00 instead of 45:00, because lunch',
  ],
  [{ type: 'fasteners.counted', step: 'shut/hood', counts: [4], label: 'Hood: 4 of 4 clips back' }, 'Hood: 4 of 4 clips back'],
  [
    { type: 'fasteners.excused', step: 'shut/hood', reason: 'one was missing', label: 'Hood: 1 × clip not back' },
    'Hood: 1 × clip not back, closed all the same, because one was missing',
  ],
  [{ type: 'bench.assigned', to: 'tor' }, 'On the bench of tor'],
  [{ type: 'step.started', step: 'safe/rest', title: 'Read the battery' }, 'Clock started: Read the battery'],
  [{ type: 'timer.stopped' }, 'Clock stopped'],
  [{ type: 'step.done', step: 's', title: 'Hood off', next: null, counts: null, affirmed: [], took: [] }, 'Done: Hood off'],
  [{ type: 'step.skipped', step: 's', title: 'Hood off', reason: 'no hood', next: null }, 'Skipped: Hood off, because no hood'],
  [{ type: 'step.reopened', step: 's', title: 'Hood off' }, 'Reopened: Hood off'],
  [
    {
      type: 'reading.taken',
      step: 's',
      reading: 'r',
      label: 'Feed: key on',
      value: 12.4,
      expected: band(12, 13, 'V'),
      verdict: 'holds',
      origin: { how: 'typed' },
      settles: null,
    },
    'Feed: key on: 12.4 V, expected 12 to 13 V: holds',
  ],
  [
    {
      type: 'reading.taken',
      step: 's',
      reading: 'r',
      label: 'Tug',
      value: 180,
      expected: band(155.7, null, 'N'),
      verdict: 'holds',
      origin: { how: 'typed' },
      settles: null,
    },
    'Tug: 180 N, expected at least 156 N: holds',
  ],
  [
    {
      type: 'reading.taken',
      step: 's',
      reading: 'r',
      label: 'Left',
      value: 0,
      expected: band(null, null, 'yes'),
      verdict: 'fails',
      origin: { how: 'typed' },
      settles: null,
    },
    'Left: no: fails',
  ],
  [
    {
      type: 'probe.taken',
      step: 's',
      probe: { look: { kind: 'volts', plus: 'a', minus: 'bat-' }, state: { controls: {}, beat: true } },
      value: 0.02,
      origin: { how: 'simulated', meter: 'bench meter' },
      foretold: 12.63,
      label: 'Volts, Horn, plus to Battery, everything off',
    },
    'Volts, Horn, plus to Battery, everything off: 0.02 V, simulated by bench meter, should be 12.63',
  ],
  [
    {
      type: 'probe.taken',
      step: 's',
      probe: { look: { kind: 'ohms', plus: 'a', minus: 'bat-' }, state: { controls: {}, beat: true } },
      value: null,
      origin: { how: 'typed' },
      foretold: null,
      label: 'Ohms, Horn',
    },
    'Ohms, Horn: open',
  ],
  [{ type: 'fault.mended', step: 's', cause: 'open:a>b', says: 'Open: a to b' }, 'Put right: Open: a to b'],
  [{ type: 'photo.taken', photo: 'a'.repeat(64), step: 's', note: 'fuse box' }, 'Picture: fuse box'],
  [{ type: 'step.given', step: 's', to: 'maud', title: 'Mount it' }, 'For maud: Mount it'],
  [{ type: 'step.given', step: 's', to: null, title: 'Mount it' }, 'For anyone: Mount it'],
  [{ type: 'finding.added', text: 'bolt is 8 mm' }, 'Finding: bolt is 8 mm'],
  [{ type: 'proof.overridden', proof: 'p', title: 'Parked draw', reason: 'later' }, 'Passed without proof: Parked draw, because later'],
  [{ type: 'handover.signed', name: 'Lio', strokes: 'M0 0L10 10' }, 'Signed by Lio'],
  [{ type: 'order.sealed', sheetHash: 'a'.repeat(64) }, 'Handed over and sealed'],
  [{ type: 'action.undone', seq: 7, says: 'Done: Hood off' }, 'Taken back: Done: Hood off'],
  [{ type: 'order.cancelled', reason: 'taken in twice' }, 'Cancelled, because taken in twice'],
  [{ type: 'order.reopened' }, 'Reopened'],
  [{ type: 'addition.made', text: 'fuse changed' }, 'Addition: fuse changed'],
  [{ type: 'quote.made', quote }, 'Quote 2, until 2026-03-16: As planned 110.00 USD'],
  [{ type: 'quote.withdrawn', revision: 2, reason: 'a slip' }, 'Quote 2 withdrawn, because a slip'],
  [
    { type: 'quote.agreed', revision: 2, option: 'a', how: 'page', name: 'Lio', strokes: null, title: 'As planned, 110.00 USD' },
    'Agreed: quote 2, As planned, 110.00 USD (Lio, on their page)',
  ],
  [{ type: 'quote.declined', revision: 2, name: 'Lio', reason: '' }, 'Declined: quote 2, by Lio'],
  [
    {
      type: 'extra.asked',
      extra: {
        id: 'posts',
        title: 'Clean the posts',
        why: 'they are green',
        place: 'battery',
        minutes: 20,
        labour: 'wire',
        powerOff: true,
        question: 'Clean',
        parts: [],
        photo: null,
        step: null,
        currency: 'USD',
        ...sums,
      },
    },
    'Turned up: Clean the posts, 110.00 USD, because they are green',
  ],
  [
    { type: 'extra.answered', id: 'posts', yes: false, how: 'told', name: 'Lio', reason: 'later', strokes: null, title: 'Clean the posts' },
    'Declined: Clean the posts (Lio, told), because later',
  ],
  [{ type: 'extra.withdrawn', id: 'posts', title: 'Clean the posts' }, 'Not asked for after all: Clean the posts'],
  [{ type: 'bill.made', bill: { revision: 1, currency: 'USD', ...sums, left: [] } }, 'Bill 1: 110.00 USD'],
  [{ type: 'bill.marked', paid: true }, 'Bill marked as paid'],
  [{ type: 'bill.marked', paid: false }, 'Bill marked as owing again'],
  [{ type: 'question.asked', id: 'q1', text: 'When?' }, 'The owner asks: When?'],
  [{ type: 'question.answered', id: 'q1', text: 'Soon', photo: null }, 'Answered: Soon'],
  [{ type: 'calc.kept', name: 'wire.choose', input: {}, answer: '12 AWG' }, 'Calculation wire.choose: 12 AWG'],
];

describe('the log', () => {
  it.each(LINES)('%j', (body, line) => {
    expect(EventBody.safeParse(body).error).toBeUndefined();
    expect(say(body)).toBe(line);
  });
  it('has a line for every kind of event', () => {
    const said = new Set(LINES.map(([b]) => b.type));
    for (const d of DEFINITIONS) expect(said).toContain(d.type);
  });
});
