// Wire tables. ABYC E-11 (drop, tensile test; what a wire may carry stands in core/wire-rules); ASTM B258 (AWG); IEC 60028 (copper). All typed from memory: to be confirmed against a copy.

export const SOURCE = {
  awg: 'ASTM B258',
  copper: 'IEC 60028',
  drop: 'ABYC E-11',
  tensile: 'ABYC E-11 tensile test',
  fuseColour: 'ISO 8820-3',
  fuseRule: 'shop rule: 1.25 × continuous, next size up; common practice, no source',
} as const;

/** Gauges a shop stocks, thin to thick. */
export const GAUGES = [18, 16, 14, 12, 10, 8, 6, 4, 2, 1, 0, -1] as const;

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
/** Thinner ones, as lamps and mirrors have them. Source: UL 486A pull-out test, from memory: to be confirmed against a copy. */
export const THIN_LBF: Readonly<Record<number, number>> = { 20: 13, 22: 8, 24: 5, 26: 3, 28: 2, 30: 1.5 };

/** Newtons in one pound-force (exact, by definition of the pound and of standard gravity). */
export const NEWTONS_PER_LBF = 4.4482216152605;
