/** Law by which a load's amperes follow its volts: amperes ∝ volts^exponent from `minVolts` up, a plain resistor below. */
export const LOAD_EXPONENT = {
  /** keeps its watts, as an LED driver or a converter does */
  'constant-power': -1,
  /** keeps its amperes, as a motor under a given pull does */
  'constant-current': 0,
  /** a filament: watts ∝ volts^1.6. Source: IES Lighting Handbook, from memory */
  filament: 0.6,
  resistor: 1,
} as const;
export type LoadLaw = keyof typeof LOAD_EXPONENT;

interface Between {
  id: string;
  from: string;
  to: string;
}
/** A source whose plus is `from`: it holds `from` above `to` by `volts`, behind `ohms` of its own. Amperes count from → to through it, so a source that supplies shows them below zero. */
export interface VoltageSource extends Between {
  kind: 'V';
  volts: number;
  ohms: number;
}
export interface Resistor extends Between {
  kind: 'R';
  ohms: number;
}
/** Drives `amps` from → to through itself. */
export interface CurrentSource extends Between {
  kind: 'I';
  amps: number;
}
/** Draws `watts` at `volts` by its law; below `minVolts` it is the resistor that meets the law there. */
export interface Load extends Between {
  kind: 'load';
  law: LoadLaw;
  watts: number;
  volts: number;
  minVolts: number;
  /** blocks when fed backwards, as an LED driver does; otherwise it draws the same either way round */
  oneWay?: boolean;
}
export interface Switch extends Between {
  kind: 'switch';
  closed: boolean;
}
/** Blocks below its forward `volts`, `from` above `to`; conducts at that drop. */
export interface Diode extends Between {
  kind: 'diode';
  volts: number;
}
export type Element = VoltageSource | Resistor | CurrentSource | Load | Switch | Diode;

/** Amperes of a load at `v` volts, and their slope. */
export function loadAt(e: Load, v: number): { amps: number; slope: number } {
  const n = LOAD_EXPONENT[e.law];
  const rated = e.watts / e.volts;
  if (rated === 0) return { amps: 0, slope: 0 };
  if (v < 0 && e.oneWay) return { amps: 0, slope: 0 };
  if (v < 0) {
    const turned = loadAt(e, -v);
    return { amps: -turned.amps, slope: turned.slope };
  }
  const knee = e.minVolts > 0 ? e.minVolts : e.volts * 1e-3;
  if (v < knee && n !== 1) {
    const g = (rated * (knee / e.volts) ** n) / knee;
    return { amps: g * v, slope: g };
  }
  const amps = n === 1 ? (rated * v) / e.volts : rated * (v / e.volts) ** n;
  return { amps, slope: n === 1 ? rated / e.volts : (n * amps) / v };
}
