import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { ImpossibleInput } from '../errors';
import { jsonSchema } from './door';
import { CALCULATIONS, findCalculation, runCalculation } from './registry';

const NAMES = [
  'wire.resistance',
  'wire.ampacity',
  'wire.choose',
  'fuse.choose',
  'crimp.pull',
  'network.solve',
  'harness.bundle',
  'harness.cut',
  'energy.day',
  'winch.layers',
  'winch.pull',
  'audio.supply',
  'audio.level',
  'battery.hours',
  'battery.parked',
  'battery.socFromVolts',
  'lamp.intensity',
  'lamp.range',
  'vin.check',
  'hin.check',
];

describe('the calculation door', () => {
  it('holds the fixed names, each once', () => {
    expect(CALCULATIONS.map((c) => c.name).sort()).toEqual([...NAMES].sort());
  });
  it.each(NAMES)('%s answers its example by its own schema, with a sum that ends in a result', (name) => {
    const calc = findCalculation(name)!;
    const result = runCalculation(name, calc.example);
    expect(calc.result.safeParse(result).error).toBeUndefined();
    expect((result.sum as { kind: string }[]).some((l) => l.kind === 'result')).toBe(true);
    expect(jsonSchema(calc).input).toMatchObject({ type: 'object' });
  });
  it.each([
    ['wire.choose', { amps: -1, oneWayM: 1, systemV: 12, maxDropPct: 3 }, 'amps'],
    ['wire.choose', { amps: 1, oneWayM: 1, systemV: 12 }, 'maxDropPct'],
    ['wire.resistance', { awg: 12.5, lengthM: 1 }, 'awg'],
    ['wire.resistance', { awg: 12, lengthM: 1, tempC: -400 }, 'tempC'],
    ['wire.ampacity', { awg: 13 }, 'awg'],
    ['battery.hours', { capacityAh: 0, exponent: 1.2, amps: 1 }, 'capacityAh'],
    ['battery.parked', { capacityAh: 30, socStart: 0.4, socReserve: 0.5, drawMa: 3, selfDischargePctPerMonth: 4 }, 'socReserve'],
    ['battery.socFromVolts', { chemistry: 'wet', volts: 12 }, 'chemistry'],
    ['lamp.range', { candela: 0 }, 'candela'],
    ['vin.check', { vin: 5 }, 'vin'],
    ['crimp.pull', { awg: 14, gauge: 3 }, 'gauge'],
  ])('%s refuses %j and names the field', (name, input, path) => {
    let thrown: unknown;
    try {
      runCalculation(name, input);
    } catch (e) {
      thrown = e;
    }
    expect(thrown).toBeInstanceOf(ImpossibleInput);
    expect((thrown as ImpossibleInput).path).toBe(path);
    expect((thrown as ImpossibleInput).message).not.toMatch(/expected number, received|invalid_type/);
  });
  it('refuses what is not an object, and an unknown name', () => {
    expect(() => runCalculation('wire.choose', null)).toThrow(ImpossibleInput);
    expect(() => runCalculation('wire.choose', [1])).toThrow(ImpossibleInput);
    expect(() => runCalculation('nope', {})).toThrow(/no calculation/);
  });
  it('takes an invalid VIN as an answer, not as an error', () => {
    expect(runCalculation('vin.check', { vin: 'abc' })).toMatchObject({ valid: false, expected: null });
  });
  it('writes defaults into its schemas', () => {
    const s = z.toJSONSchema(findCalculation('wire.choose')!.input, { io: 'input' }) as {
      properties: Record<string, { default?: unknown }>;
    };
    expect(s.properties.awgMin!.default).toBe(18);
  });
});
