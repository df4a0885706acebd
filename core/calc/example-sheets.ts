/** A small unit and a kit, invented, for the examples of calculations that take sheets. */
export const EXAMPLE_MODEL = {
  id: 'example-runner',
  maker: 'Example',
  name: 'Runner',
  kind: 'side-by-side',
  years: { from: 2020, to: 2030 },
  builds: [{ id: 'standard', name: 'Standard' }],
  identity: 'maker',
  meter: 'hours',
  dims: { lengthMm: 3000, widthMm: 1600, heightMm: 1900, wheelbaseMm: 2100, wheelMm: 660, rearOverhangMm: 450, seats: 2, cab: 'roof' },
  massKg: 600,
  electrical: {
    systemV: 12,
    source: {
      kind: 'stator',
      regulatedV: 14.2,
      idleRpm: 1200,
      workingRpm: 3200,
      curve: [
        [900, 12],
        [1200, 24],
        [3200, 46],
      ],
    },
    battery: { name: 'Battery', chemistry: 'agm', count: 1, voltsEach: 12, capacityAh: 30, peukert: 1.1, place: 'battery' },
    ownLoads: [{ id: 'engine', name: 'Engine and pump', idleW: 150, workingW: 180 }],
    parkedMa: 2,
  },
  places: [
    { id: 'battery', name: 'battery, under the seat', x: 900, y: 200, z: 500 },
    { id: 'dash', name: 'dash', x: 1900, y: 0, z: 900 },
    { id: 'roof', name: 'roof, front edge', x: 1500, y: 0, z: 1880 },
  ],
  runs: [
    { from: 'battery', to: 'dash' },
    { from: 'dash', to: 'roof', hazards: ['sharp'] },
  ],
  powerPoints: [
    { id: 'battery-plus', name: 'battery positive post', place: 'battery', kind: 'battery-post', switching: 'constant', volts: 12 },
    { id: 'key-stud', name: 'keyed stud', place: 'dash', kind: 'bus-bar-stud', switching: 'keyed', volts: 12, limitA: 30 },
  ],
  grounds: [{ id: 'frame', name: 'frame stud', place: 'dash' }],
  panels: [{ id: 'seat', name: 'Seat', hides: ['battery'], offMinutes: 1, onMinutes: 1 }],
  equipment: [],
  rulePacks: [],
} as const;

export const EXAMPLE_KIT = {
  id: 'example-lamp',
  maker: 'Example',
  name: 'Work lamp',
  summary: 'One lamp on the roof edge, lit with the key.',
  fits: [{ models: ['example-runner'] }],
  box: [{ item: 'lamp', count: 1 }],
  devices: [{ id: 'lamp', name: 'Work lamp', place: 'roof', load: { watts: 40, kind: 'continuous', leastVolts: 9 } }],
  circuits: [{ id: 'lamp', name: 'Work lamp', devices: ['lamp'], switching: 'keyed', fuseMaxA: 10, colour: 'RD' }],
  steps: [{ id: 'bolt', stage: 'mount', title: 'Lamp on', text: 'One bolt, loose until aimed.', place: 'roof', minutes: 5 }],
} as const;
