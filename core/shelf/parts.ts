import type { z } from 'zod';
import type { Circuit, Device } from '#model/kit';
import type { Control, Part, Terminal } from '#model/parts';

type Given<T extends z.ZodType> = z.input<T>;

/** How parts lie on the shelf. */
export const SHELF_GROUPS = ['Lamps', 'Signals', 'Switches', 'Sound', 'Supply', 'Others'] as const;
export type ShelfGroup = (typeof SHELF_GROUPS)[number];

/**
 * A generic part that many boxes hold: what a device of a new sheet is begun as. Its watts, masses and holes are those that such
 * parts commonly have: common practice, no source; the maker’s figures are typed over them.
 */
export interface ShelfPart {
  id: string;
  name: string;
  group: ShelfGroup;
  /** one on each side: the places of the left one; the right one’s are their other sides */
  pair?: boolean;
  /** places where it usually stands, by id, the likeliest first */
  at: readonly string[];
  device: Omit<Given<typeof Device>, 'id' | 'name' | 'place'>;
  /** it draws from a circuit: its own, or one that it shares with parts of the same `shares` */
  circuit?: Omit<Given<typeof Circuit>, 'id' | 'name' | 'devices' | 'colour'> & { colour?: string; shares?: string };
  /** it works a circuit: between these terminals */
  switches?: { in: string; out: string };
  /** what its watts are asked as; left out, they are not asked */
  asks?: string;
}

const OFF_ON: Given<typeof Control>['positions'] = [
  { id: 'off', name: 'off' },
  { id: 'on', name: 'on' },
];
const ROCKER = {
  cut: { kind: 'rect' as const, w: 37, h: 21, r: 1.5 },
  bezel: { w: 50, h: 25 },
  note: 'Rocker switch: snap-in, panel 1 to 4 mm thick',
};
const contact = (from: string, to: string, ...when: string[]): Given<typeof Part> => ({ kind: 'contact', from, to, when });
const blade = (id: string, n: number, more: Partial<Given<typeof Terminal>> = {}): Given<typeof Terminal> => ({
  id,
  end: `female blade, ${n}`,
  ...more,
});
const DASH = ['dash', 'dash-driver', 'helm', 'pod', 'bars'];
const lamp = (watts: number, more: Partial<Given<typeof Device>['load'] & object> = {}) => ({
  watts,
  kind: 'continuous' as const,
  leastVolts: 10,
  use: 'lamp' as const,
  ...more,
});
const signal = (fn: 'turn-front' | 'turn-rear', colour: 'amber' | 'red'): ShelfPart['device'] => ({
  equipment: { function: fn, colour, litMm: { w: 80, h: 50 } },
  load: { watts: 6, kind: 'intermittent', leastVolts: 9.5, use: 'signal' },
  massKg: 0.2,
});
const SIGNALS = { switching: 'keyed', fuseMaxA: 10, shares: 'Signals' } as const;

const SIDES: Given<typeof Control>['positions'] = [
  { id: 'one', name: 'one side' },
  { id: 'other', name: 'other side' },
];
/** A switch that leads what comes in to one of two sides. */
const twoSided = (id: string, name: string, positions: typeof SIDES): ShelfPart => ({
  id,
  name,
  group: 'Switches',
  at: DASH,
  device: {
    mount: ROCKER,
    terminals: [blade('in', 2, { name: 'in' }), blade('out', 1, { name: 'one side' }), blade('other', 3, { name: 'other side' })],
    controls: [{ id: 'way', name: name.split(',')[0]!, positions }],
    inside: [contact('in', 'out', 'way:one'), contact('in', 'other', 'way:other')],
  },
  switches: { in: 'in', out: 'out' },
});

export const SHELF: readonly ShelfPart[] = [
  {
    id: 'lamp',
    name: 'Lamp',
    group: 'Lamps',
    at: ['hood', 'front-bumper', 'headlamp', 'headlamp-area', 'cowl', 'bow-cross', 'rear-frame'],
    device: { equipment: { function: 'work-lamp', colour: 'white', litMm: { w: 80, h: 80 } }, load: lamp(20), massKg: 0.5 },
    circuit: { switching: 'keyed', dropPct: 5 },
    asks: 'Watts of the lamp',
  },
  {
    id: 'lamps',
    name: 'Pair of lamps',
    group: 'Lamps',
    pair: true,
    at: ['fork-left', 'head-left', 'dock-port', 'bow-port', 'front-left-signal'],
    device: { equipment: { function: 'auxiliary-lamp', colour: 'white', litMm: { w: 90, h: 90 } }, load: lamp(20), massKg: 0.5 },
    circuit: { switching: 'keyed', dropPct: 5 },
    asks: 'Watts of each lamp',
  },
  {
    id: 'bar',
    name: 'Lamp bar',
    group: 'Lamps',
    at: ['roof-front', 'front-rack', 'front-bumper', 'hood', 'cowl', 'headlamp', 'bow-cross'],
    device: { equipment: { function: 'work-lamp', colour: 'white', litMm: { w: 900, h: 60 } }, load: lamp(120), massKg: 3 },
    circuit: { switching: 'keyed', dropPct: 5 },
    asks: 'Watts of the bar',
  },
  {
    id: 'dome',
    name: 'Inside lamp',
    group: 'Lamps',
    at: ['roof-centre', 'helm', 'dash', 'under-deck'],
    device: { equipment: { function: 'dome', colour: 'white' }, load: lamp(6, { engineOff: true }), massKg: 0.1 },
    circuit: { switching: 'either' },
    asks: 'Watts of the lamp',
  },
  {
    id: 'plate-lamp',
    name: 'Plate lamp',
    group: 'Lamps',
    at: ['rear-plate', 'tail'],
    device: { equipment: { function: 'plate', colour: 'white', litMm: { w: 50, h: 15 } }, load: lamp(3), massKg: 0.1 },
    circuit: { switching: 'keyed', fuseMaxA: 5, taps: ['tail'], colour: 'BN', unitColour: 'BN/WH', terminal: 'butt splice' },
    asks: 'Watts of the lamp',
  },
  {
    id: 'front-signals',
    name: 'Front signals',
    group: 'Signals',
    pair: true,
    at: ['front-left-signal', 'fork-left', 'head-left'],
    device: signal('turn-front', 'amber'),
    circuit: SIGNALS,
    asks: 'Watts of each signal',
  },
  {
    id: 'rear-signals',
    name: 'Rear signals',
    group: 'Signals',
    pair: true,
    at: ['rear-left-signal', 'tail-left', 'tail'],
    device: signal('turn-rear', 'red'),
    circuit: SIGNALS,
    asks: 'Watts of each signal',
  },
  {
    id: 'signal-module',
    name: 'Signal module',
    group: 'Signals',
    at: ['dash', 'headlamp-area', 'fuse-box', 'pod', 'cowl'],
    device: {
      massKg: 0.2,
      flasher: { name: 'Signal module', kind: 'fixed' },
      load: { watts: 1, kind: 'continuous', leastVolts: 10, use: 'electronics' },
      standbyMa: 3,
      terminals: [
        { id: 'power', name: 'power', colour: 'RD' },
        { id: 'ground', name: 'ground', colour: 'BK' },
        { id: 'left', name: 'left lamps', colour: 'GN', gives: 'turn-left' },
        { id: 'right', name: 'right lamps', colour: 'GY', gives: 'turn-right' },
        { id: 'ask-left', name: 'left, from the switch', colour: 'GN/WH' },
        { id: 'ask-right', name: 'right, from the switch', colour: 'GY/WH' },
        { id: 'ask-hazard', name: 'hazard, from the switch', colour: 'OG/WH' },
      ],
      inside: [
        { kind: 'load', from: 'power', to: 'ground' },
        ...['left', 'right', 'hazard'].map((id) => ({
          kind: 'coil' as const,
          id,
          from: `ask-${id}`,
          to: 'ground',
          ohms: 4700,
          pullInV: 6,
          dropOutV: 3,
        })),
        contact('power', 'left', '@left', 'beat'),
        contact('power', 'right', '@right', 'beat'),
        contact('power', 'left', '@hazard', 'beat'),
        contact('power', 'right', '@hazard', 'beat'),
      ],
    },
    circuit: SIGNALS,
  },
  {
    id: 'signal-switch',
    name: 'Signal and hazard switch',
    group: 'Signals',
    at: ['dash-driver', 'dash', 'bars', 'pod'],
    device: {
      equipment: { function: 'hazard-switch' },
      mount: ROCKER,
      terminals: [
        blade('common', 1, { name: 'common', colour: 'RD' }),
        blade('ask-left', 2, { name: 'left', colour: 'GN/WH' }),
        blade('ask-right', 3, { name: 'right', colour: 'GY/WH' }),
        blade('ask-hazard', 4, { name: 'hazard', colour: 'OG/WH' }),
      ],
      controls: [
        {
          id: 'turn',
          name: 'Signal switch',
          positions: [
            { id: 'off', name: 'off' },
            { id: 'left', name: 'left' },
            { id: 'right', name: 'right' },
          ],
        },
        { id: 'hazard', name: 'Hazard switch', positions: OFF_ON },
      ],
      inside: [
        contact('common', 'ask-left', 'turn:left'),
        contact('common', 'ask-right', 'turn:right'),
        contact('common', 'ask-hazard', 'hazard:on'),
      ],
    },
  },
  {
    id: 'mirrors',
    name: 'Pair of mirrors',
    group: 'Signals',
    pair: true,
    at: ['mirror-left', 'grip-left', 'bars'],
    device: { equipment: { function: 'mirror-driver' }, massKg: 0.7 },
  },
  {
    id: 'rocker',
    name: 'Rocker switch',
    group: 'Switches',
    at: DASH,
    device: {
      mount: ROCKER,
      terminals: [blade('in', 2, { name: 'in' }), blade('out', 3, { name: 'out' })],
      controls: [{ id: 'on', name: 'Rocker switch', positions: OFF_ON }],
      inside: [contact('in', 'out', 'on:on')],
    },
    switches: { in: 'in', out: 'out' },
  },
  {
    id: 'lit-rocker',
    name: 'Lit rocker switch',
    group: 'Switches',
    at: DASH,
    device: {
      mount: ROCKER,
      terminals: [
        blade('in', 2, { name: 'in' }),
        blade('out', 3, { name: 'out' }),
        blade('minus', 1, { name: 'pilot lamp ground', colour: 'BK' }),
      ],
      controls: [{ id: 'on', name: 'Rocker switch', positions: OFF_ON }],
      inside: [contact('in', 'out', 'on:on'), { kind: 'resistor', from: 'out', to: 'minus', ohms: 2200 }],
    },
    switches: { in: 'in', out: 'out' },
  },
  twoSided('two-way', 'Two-way switch', SIDES),
  twoSided('three-way', 'Three-way switch, off in the middle', [OFF_ON[0]!, ...SIDES]),
  {
    id: 'button',
    name: 'Push button',
    group: 'Switches',
    at: ['dash-driver', ...DASH],
    device: {
      terminals: [blade('in', 1, { name: 'in' }), blade('out', 2, { name: 'out' })],
      controls: [
        {
          id: 'press',
          name: 'Push button',
          positions: [
            { id: 'up', name: 'up' },
            { id: 'down', name: 'pressed' },
          ],
          momentary: true,
        },
      ],
      inside: [contact('in', 'out', 'press:down')],
    },
    switches: { in: 'in', out: 'out' },
  },
  {
    id: 'horn',
    name: 'Horn',
    group: 'Sound',
    at: ['horn-place', 'headlamp-area', 'steering-head', 'hood-centre'],
    device: {
      equipment: { function: 'horn' },
      load: { watts: 60, kind: 'intermittent', leastVolts: 9.5, law: 'resistor', use: 'signal' },
      massKg: 0.5,
    },
    circuit: { switching: 'keyed', awgMin: 16, fuseMaxA: 15, colour: 'YE' },
    asks: 'Watts of the horn',
  },
  {
    id: 'amplifier',
    name: 'Amplifier',
    group: 'Sound',
    at: ['speaker-fore', 'dash', 'roof-centre', 'reducer-place', 'pod'],
    device: {
      load: { watts: 200, kind: 'continuous', share: 0.15, engineOff: true, leastVolts: 10, use: 'audio' },
      audio: { ratedW: 170, efficiency: 0.85 },
      standbyMa: 4,
      massKg: 2,
    },
    circuit: { switching: 'constant', dropPct: 3, awgMin: 12, fuseMaxA: 25 },
    asks: 'Watts that it takes at most',
  },
  {
    id: 'speakers',
    name: 'Pair of speakers',
    group: 'Sound',
    pair: true,
    at: ['mirror-left', 'speaker-fore', 'roof-centre', 'dash'],
    device: { massKg: 1.2 },
  },
  {
    id: 'reducer',
    name: 'Reducer to 12 V',
    group: 'Supply',
    at: ['reducer-place', 'pack'],
    device: { standbyMa: 2, massKg: 0.9 },
    circuit: {
      switching: 'keyed',
      relay: 'required',
      only: ['battery-post'],
      volts: 48,
      dropPct: 3,
      awgMin: 14,
      fuseMaxA: 15,
      makes: { id: 'out', name: 'reducer, 12 V output', place: 'reducer-place', volts: 12, ratedA: 20, efficiency: 0.9 },
    },
  },
  {
    id: 'socket',
    name: 'Socket',
    group: 'Supply',
    at: DASH,
    device: {
      mount: { cut: { kind: 'round', mm: 30 }, bezel: { w: 40, h: 40 } },
      load: { watts: 24, kind: 'continuous', share: 0.5, leastVolts: 10, use: 'electronics' },
      standbyMa: 8,
    },
    circuit: { switching: 'keyed', fuseMaxA: 15 },
    asks: 'Watts that it gives at most',
  },
  {
    id: 'panel',
    name: 'Panel of six switches',
    group: 'Supply',
    at: ['helm', 'dash', 'pod'],
    device: {
      mount: { cut: { kind: 'rect', w: 165, h: 110, r: 4 }, bezel: { w: 185, h: 130 } },
      load: { watts: 2, kind: 'continuous', leastVolts: 10, use: 'electronics' },
      massKg: 0.6,
      terminals: [
        { id: 'in', name: 'feed, jumper bar' },
        { id: 'ground', name: 'indicator ground' },
        ...[1, 2, 3, 4, 5, 6].map((n) => ({ id: `p${n}`, name: `position ${n}` })),
      ],
      controls: [1, 2, 3, 4, 5, 6].map((n) => ({ id: `s${n}`, name: `Panel position ${n}`, positions: OFF_ON })),
      inside: [1, 2, 3, 4, 5, 6].flatMap((n) => [
        contact('in', `p${n}`, `s${n}:on`),
        { kind: 'load' as const, from: `p${n}`, to: 'ground', watts: 0.3 },
      ]),
    },
    circuit: { switching: 'constant', relay: 'never', dropPct: 3, fuseMaxA: 30, awgMin: 10 },
  },
  {
    id: 'winch',
    name: 'Winch with contactor',
    group: 'Others',
    at: ['winch-mount', 'front-bumper'],
    device: {
      load: { watts: 1800, kind: 'burst', law: 'constant-current', burstSeconds: 20, leastVolts: 8, use: 'winch' },
      winch: {
        ratedN: 14234,
        noLoadA: 38,
        ratedA: 150,
        noLoadMPerMin: 8.5,
        ratedMPerMin: 2.1,
        drumDiameterMm: 54,
        drumWidthMm: 74,
        ropeDiameterMm: 4.8,
        ropeLengthM: 15,
      },
      massKg: 15,
    },
    circuit: { switching: 'constant', relay: 'never', only: ['battery-post'], awgMin: 6, fuseMaxA: 150 },
    asks: 'Watts at its rated pull',
  },
  {
    id: 'grips',
    name: 'Heated grips',
    group: 'Others',
    pair: true,
    at: ['grip-left', 'bars'],
    device: { load: { watts: 30, kind: 'continuous', leastVolts: 10, law: 'resistor', use: 'heat' } },
    circuit: { switching: 'keyed', relay: 'never', fuseMaxA: 10 },
    asks: 'Watts of each grip',
  },
  {
    id: 'screen',
    name: 'Navigator or sender',
    group: 'Others',
    at: ['dash', 'bars', 'helm', 'pod'],
    device: { load: { watts: 15, kind: 'continuous', leastVolts: 10, use: 'electronics' }, standbyMa: 2, massKg: 0.4 },
    circuit: { switching: 'keyed', fuseMaxA: 5 },
    asks: 'Watts that it takes',
  },
  {
    id: 'pump',
    name: 'Pump',
    group: 'Others',
    at: ['under-deck-aft', 'under-deck', 'rear-frame'],
    device: { load: { watts: 40, kind: 'intermittent', leastVolts: 9.5, use: 'pump' }, massKg: 0.6 },
    circuit: { switching: 'constant', awgMin: 16, fuseMaxA: 10 },
    asks: 'Watts of the pump',
  },
];
