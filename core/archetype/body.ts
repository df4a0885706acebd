import type { UnitModel } from '#model/unit-model';

type Electrical = UnitModel['electrical'];
type Dims = UnitModel['dims'];

/** Which frame a body’s places, runs, panels and feeds come from. */
export type FrameId = 'side-by-side' | 'golf-cart' | 'motorcycle' | 'quad' | 'boat' | 'hull' | 'snow-machine';

/** A body as units of a kind come in: what a unit nobody has a sheet for is taken to be until more is known. */
export interface Body {
  id: string;
  name: string;
  kind: UnitModel['kind'];
  body?: UnitModel['body'];
  frame: FrameId;
  dims: Dims;
  massKg: number;
  rearShare?: number;
  topSpeedKmh: number;
  systemV: number;
  battery: Pick<Electrical['battery'], 'chemistry' | 'count' | 'voltsEach' | 'capacityAh'> & Partial<Electrical['battery']>;
  source: Electrical['source'];
  parkedMa: number;
  crank?: Electrical['crank'];
  idleMaxRpm?: number;
  drive?: Electrical['drive'];
  wall?: Electrical['wall'];
}

const dims = (
  lengthMm: number,
  widthMm: number,
  heightMm: number,
  wheelbaseMm: number,
  wheelMm: number,
  rearOverhangMm: number,
  seats: number,
  cab: Dims['cab'],
): Dims => ({ lengthMm, widthMm, heightMm, wheelbaseMm, wheelMm, rearOverhangMm, seats, cab });

const stator = (regulatedV: number, idleRpm: number, workingRpm: number, ...curve: [number, number][]): Electrical['source'] => ({
  kind: 'stator',
  regulatedV,
  idleRpm,
  workingRpm,
  curve,
  lossPerC: 0.001,
});
const outboard = (idleRpm: number, workingRpm: number, ...curve: [number, number][]): Electrical['source'] => ({
  kind: 'outboard',
  regulatedV: 14.1,
  idleRpm,
  workingRpm,
  curve,
  lossPerC: 0.001,
});

const SIDE_BY_SIDE = {
  kind: 'side-by-side',
  frame: 'side-by-side',
  rearShare: 0.57,
  topSpeedKmh: 90,
  systemV: 12,
  battery: { chemistry: 'agm', count: 1, voltsEach: 12, capacityAh: 30, cca: 380 },
  source: stator(14.2, 1200, 3200, [900, 12], [1200, 23], [2000, 35], [3200, 45], [6000, 50]),
  parkedMa: 5,
  crank: { amps: 150, seconds: 2, leastVolts: 9.6 },
  idleMaxRpm: 1350,
} as const;
const CART = { kind: 'golf-cart', frame: 'golf-cart', rearShare: 0.6, source: { kind: 'none' }, parkedMa: 6 } as const;
const MOTORCYCLE = { kind: 'motorcycle', frame: 'motorcycle', rearShare: 0.52, systemV: 12, parkedMa: 1.5 } as const;
const BOAT = {
  kind: 'boat',
  systemV: 12,
  topSpeedKmh: 45,
  battery: { chemistry: 'flooded', count: 1, voltsEach: 12, capacityAh: 90, cca: 650 },
  source: outboard(800, 3000, [600, 7], [800, 12], [1500, 18], [3000, 26], [5500, 32]),
  parkedMa: 6,
  crank: { amps: 200, seconds: 2, leastVolts: 9.6 },
  idleMaxRpm: 900,
} as const;

/** A lead pack of so many batteries, and a lithium one of so many cells. */
const lead = (count: number, voltsEach: number, capacityAh: number) =>
  ({ chemistry: 'flooded', count, voltsEach, capacityAh, peukert: 1.2, deepCycle: true }) as const;
const lithium = (cells: number, capacityAh: number) =>
  ({ chemistry: 'lfp', count: cells, voltsEach: 3.2, capacityAh, peukert: 1.02 }) as const;

/**
 * The bodies that a unit may be taken in as. Sizes, weights, sources and batteries are what units of the kind commonly have:
 * common practice, no source; every value made from them is marked as assumed.
 */
export const BODIES: readonly Body[] = [
  {
    ...SIDE_BY_SIDE,
    id: 'side-by-side-2-open',
    name: 'Two seats, open',
    dims: dims(2950, 1580, 1900, 2050, 660, 500, 2, 'none'),
    massKg: 680,
  },
  {
    ...SIDE_BY_SIDE,
    id: 'side-by-side-2-cab',
    name: 'Two seats, closed cab',
    dims: dims(3050, 1600, 1980, 2100, 680, 520, 2, 'full'),
    massKg: 780,
  },
  { ...SIDE_BY_SIDE, id: 'side-by-side-4', name: 'Four seats, roof', dims: dims(3700, 1625, 1930, 2900, 710, 450, 4, 'roof'), massKg: 800 },
  { ...SIDE_BY_SIDE, id: 'side-by-side-6', name: 'Six seats, roof', dims: dims(4000, 1620, 1980, 3000, 680, 560, 6, 'roof'), massKg: 880 },
  {
    ...CART,
    id: 'cart-36-2',
    name: '36 V, two seats',
    dims: dims(2400, 1200, 1760, 1640, 460, 400, 2, 'roof'),
    massKg: 480,
    topSpeedKmh: 24,
    systemV: 36,
    battery: lead(6, 6, 210),
    drive: { whPerKm: 95, kmh: 20 },
    wall: { amps: 18, volts: 43.8 },
  },
  {
    ...CART,
    id: 'cart-48-2',
    name: '48 V, two seats',
    dims: dims(2400, 1200, 1780, 1660, 460, 400, 2, 'roof'),
    massKg: 490,
    topSpeedKmh: 31,
    systemV: 48,
    battery: lead(6, 8, 150),
    drive: { whPerKm: 98, kmh: 25 },
    wall: { amps: 15, volts: 58 },
  },
  {
    ...CART,
    id: 'cart-48-4',
    name: '48 V, four seats',
    dims: dims(2700, 1240, 1820, 1660, 460, 490, 4, 'roof'),
    massKg: 560,
    topSpeedKmh: 31,
    systemV: 48,
    battery: lead(6, 8, 150),
    drive: { whPerKm: 108, kmh: 25 },
    wall: { amps: 15, volts: 58 },
  },
  {
    ...CART,
    id: 'cart-48-lithium-4',
    name: '48 V lithium, four seats',
    dims: dims(2750, 1250, 1880, 1700, 480, 490, 4, 'roof'),
    massKg: 500,
    topSpeedKmh: 39,
    systemV: 48,
    battery: lithium(16, 105),
    drive: { whPerKm: 100, kmh: 28 },
    wall: { amps: 18, volts: 58.4 },
  },
  {
    ...CART,
    id: 'cart-72-lithium-6',
    name: '72 V lithium, six seats',
    dims: dims(3350, 1280, 1950, 2400, 520, 480, 6, 'roof'),
    massKg: 640,
    topSpeedKmh: 40,
    systemV: 72,
    battery: lithium(24, 105),
    drive: { whPerKm: 125, kmh: 30 },
    wall: { amps: 15, volts: 87.6 },
  },
  {
    ...MOTORCYCLE,
    id: 'motorcycle-road',
    name: 'Road',
    body: 'road',
    dims: dims(2100, 800, 1200, 1420, 630, 330, 2, 'none'),
    massKg: 195,
    topSpeedKmh: 190,
    battery: { chemistry: 'agm', count: 1, voltsEach: 12, capacityAh: 8.6, ratedHours: 10, cca: 140 },
    source: stator(14.2, 1300, 4000, [1000, 10], [1300, 15], [2500, 20], [4000, 25], [8000, 28]),
    crank: { amps: 80, seconds: 1.5, leastVolts: 9.6 },
    idleMaxRpm: 1450,
  },
  {
    ...MOTORCYCLE,
    id: 'motorcycle-touring',
    name: 'Touring',
    body: 'touring',
    dims: dims(2350, 960, 1420, 1560, 650, 400, 2, 'none'),
    massKg: 290,
    topSpeedKmh: 200,
    battery: { chemistry: 'agm', count: 1, voltsEach: 12, capacityAh: 14, ratedHours: 10, cca: 220 },
    source: stator(14.2, 1100, 3200, [900, 18], [1100, 24], [2200, 33], [3200, 39], [6000, 42]),
    crank: { amps: 110, seconds: 1.5, leastVolts: 9.6 },
    idleMaxRpm: 1250,
  },
  {
    ...MOTORCYCLE,
    id: 'motorcycle-scooter',
    name: 'Scooter',
    body: 'scooter',
    dims: dims(1920, 720, 1150, 1330, 480, 300, 2, 'none'),
    massKg: 130,
    topSpeedKmh: 95,
    battery: { chemistry: 'agm', count: 1, voltsEach: 12, capacityAh: 6, ratedHours: 10, cca: 90 },
    source: stator(14.2, 1700, 5000, [1400, 7], [1700, 9], [3000, 13], [5000, 16], [8000, 17]),
    crank: { amps: 50, seconds: 1.5, leastVolts: 9.6 },
    idleMaxRpm: 1900,
  },
  {
    ...MOTORCYCLE,
    id: 'motorcycle-trail',
    name: 'Trail',
    body: 'trail',
    dims: dims(2180, 840, 1260, 1450, 660, 320, 1, 'none'),
    massKg: 145,
    topSpeedKmh: 135,
    battery: { chemistry: 'agm', count: 1, voltsEach: 12, capacityAh: 6, ratedHours: 10, cca: 95 },
    source: stator(14.2, 1500, 4000, [1200, 8], [1500, 11], [2500, 15], [4000, 18], [8000, 20]),
    crank: { amps: 55, seconds: 1.5, leastVolts: 9.6 },
    idleMaxRpm: 1650,
  },
  {
    id: 'quad-1',
    name: 'One seat',
    kind: 'quad',
    frame: 'quad',
    dims: dims(2110, 1200, 1200, 1290, 630, 420, 1, 'none'),
    massKg: 320,
    rearShare: 0.52,
    topSpeedKmh: 95,
    systemV: 12,
    battery: { chemistry: 'agm', count: 1, voltsEach: 12, capacityAh: 14, ratedHours: 10, cca: 210 },
    source: stator(14.2, 1300, 3500, [1000, 11], [1300, 17], [2200, 24], [3500, 30], [6000, 33]),
    parkedMa: 2,
    crank: { amps: 100, seconds: 2, leastVolts: 9.6 },
    idleMaxRpm: 1450,
  },
  {
    id: 'quad-2',
    name: 'Two seats',
    kind: 'quad',
    frame: 'quad',
    dims: dims(2340, 1220, 1300, 1470, 650, 470, 2, 'none'),
    massKg: 370,
    rearShare: 0.54,
    topSpeedKmh: 95,
    systemV: 12,
    battery: { chemistry: 'agm', count: 1, voltsEach: 12, capacityAh: 18, ratedHours: 10, cca: 270 },
    source: stator(14.2, 1300, 3500, [1000, 13], [1300, 20], [2200, 29], [3500, 36], [6000, 39]),
    parkedMa: 2,
    crank: { amps: 110, seconds: 2, leastVolts: 9.6 },
    idleMaxRpm: 1450,
  },
  {
    ...BOAT,
    id: 'boat-pontoon',
    name: 'Pontoon',
    body: 'pontoon',
    frame: 'boat',
    dims: dims(6700, 2590, 2750, 0, 640, 0, 10, 'roof'),
    massKg: 1050,
  },
  {
    ...BOAT,
    id: 'boat-open',
    name: 'Open hull',
    body: 'open-hull',
    frame: 'hull',
    dims: dims(5000, 2000, 1500, 0, 640, 0, 5, 'none'),
    massKg: 520,
  },
  {
    ...BOAT,
    id: 'boat-console',
    name: 'Console amidships',
    body: 'console',
    frame: 'hull',
    dims: dims(6300, 2440, 2350, 0, 720, 0, 8, 'roof'),
    massKg: 1100,
  },
  {
    id: 'snow-machine',
    name: 'Snow machine',
    kind: 'snow-machine',
    frame: 'snow-machine',
    dims: dims(3050, 1180, 1280, 2050, 420, 560, 1, 'none'),
    massKg: 230,
    topSpeedKmh: 140,
    systemV: 12,
    battery: { chemistry: 'agm', count: 1, voltsEach: 12, capacityAh: 18, cca: 270 },
    source: stator(14, 1500, 4500, [1200, 11], [1500, 15], [3000, 23], [4500, 28], [8000, 30]),
    parkedMa: 1,
    crank: { amps: 100, seconds: 2, leastVolts: 9.6 },
    idleMaxRpm: 1700,
  },
];

/** Bodies of one kind, in the order in which they are shown. */
export const bodiesOf = (kind: Body['kind']): Body[] => BODIES.filter((b) => b.kind === kind);
