// Wire tables. ABYC E-11 (allowable amperes, bundling, drop, tensile test); ASTM B258 (AWG); IEC 60028 (copper). All typed from memory: to be confirmed against a copy.

export const SOURCE = {
  awg: 'ASTM B258',
  copper: 'IEC 60028',
  ampacity: 'ABYC E-11, 105 °C insulation, under 50 V',
  bundling: 'ABYC E-11 bundling factors',
  drop: 'ABYC E-11',
  tensile: 'ABYC E-11 tensile test',
  fuseColour: 'ISO 8820-3',
  fuseRule: 'shop rule: 1.25 × continuous, next size up; common practice, no source',
} as const;

/** Gauges a shop stocks, thin to thick. */
export const GAUGES = [18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0, -1] as const;

/** Allowable amperes by gauge: [outside engine space, inside], up to two bundled. */
export const AMPACITY: Readonly<Record<number, readonly [number, number]>> = {
  18: [20, 17.0],
  16: [25, 21.3],
  14: [35, 29.8],
  12: [45, 38.3],
  10: [60, 51.0],
  8: [80, 68.0],
  6: [120, 102],
  4: [160, 136],
  2: [210, 178.5],
  1: [245, 208.3],
  0: [285, 242.3],
  [-1]: [330, 280.5],
};

/** Factor on allowable amperes by the number of current-carrying wires bundled: [at least, factor]. */
export const BUNDLING: readonly (readonly [number, number])[] = [
  [25, 0.4],
  [7, 0.5],
  [4, 0.6],
  [3, 0.7],
  [1, 1],
];

/** Pull a crimp must hold for a minute, lbf by gauge. */
export const TENSILE_LBF: Readonly<Record<number, number>> = {
  18: 10,
  16: 15,
  14: 30,
  12: 35,
  10: 40,
  8: 45,
  6: 50,
  4: 60,
  2: 70,
  1: 75,
  0: 80,
  [-1]: 85,
};

/** Newtons in one pound-force (exact, by definition of the pound and of standard gravity). */
export const NEWTONS_PER_LBF = 4.4482216152605;
