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
  'lamp.aim',
  'flash.rate',
  'flash.forecast',
  'lighting.check',
  'plan.sequence',
  'order.assess',
  'sheet.check',
  'vin.check',
  'hin.check',
  'photo.plane',
  'quote.price',
  'shop.promise',
  'shop.schedule',
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
    ['winch.pull', { massKg: 500, slopeDeg: 75, surface: 'hard', stuck: 'no' }, 'slopeDeg'],
    ['winch.pull', { massKg: 500, slopeDeg: 5, surface: 'ice', stuck: 'no' }, 'surface'],
    ['winch.layers', { ratedN: 1, drumDiameterMm: 50, drumWidthMm: 2, ropeDiameterMm: 5, ropeLengthM: 15 }, 'drumWidthMm'],
    ['audio.supply', { ratedW: 100, efficiency: 1.2, musicFactor: 0.1, systemV: 12 }, 'efficiency'],
    ['lamp.range', { candela: 0 }, 'candela'],
    ['lamp.aim', { mountHeightM: 0.7, distanceM: 10, declinationPct: -1 }, 'declinationPct'],
    ['flash.rate', { beatsS: [0] }, 'beatsS'],
    ['flash.rate', { beatsS: [0, 1, 0.5] }, 'beatsS.2'],
    ['lighting.check', { pack: 'nowhere', unit: { kind: 'boat' }, lamps: [] }, 'pack'],
    ['lighting.check', { pack: 'motorcycle-lamps', unit: { kind: 'plane' }, lamps: [] }, 'unit.kind'],
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

describe('energy.day', () => {
  const source = {
    curve: [
      [900, 12],
      [1200, 24],
      [3500, 50],
    ],
    regulatedV: 14.2,
  };
  const battery = { capacityAh: 100, chemistry: 'agm', socStart: 0.8 };
  const day = (over: object) =>
    runCalculation('energy.day', {
      batteries: [battery],
      source,
      loads: [{ id: 'a', watts: 60 }],
      phases: [{ name: 'off', minutes: 120, rpm: 0, on: ['a'] }],
      ...over,
    }) as {
      endSoc: number;
      minSoc: number;
      minVolts: number;
      verdict: string;
      flatAtMinute: number | null;
      phases: { sourceA: number; loadA: number; marginA: number; deltaAh: number; deliveredAh: number }[];
    };
  it('keeps its books: phases add up to the change of charge, margins are source less load', () => {
    const r = day({
      batteries: [battery, { capacityAh: 40, chemistry: 'flooded', socStart: 0.6, internalOhms: 0.02, tempC: 5 }],
      phases: [
        { name: 'off', minutes: 90, rpm: 0, on: ['a'] },
        { name: 'idle', minutes: 30, rpm: 1200, on: ['a'], duty: { a: 0.5 } },
        { name: 'ride', minutes: 200, rpm: 3500, on: [] },
      ],
    });
    const start = (80 + 24) / 140;
    expect((r.endSoc - start) * 140).toBeCloseTo(
      r.phases.reduce((s, p) => s + p.deltaAh, 0),
      6,
    );
    for (const p of r.phases) expect(p.marginA).toBeCloseTo(p.sourceA - p.loadA, 9);
    expect(r.phases.map((p) => p.sourceA)).toEqual([0, 24, 50]);
    // the batteries take all that is left at idle, so the bus stands between theirs and the regulator's volts
    expect(r.phases[1]!.loadA).toBeGreaterThan(30 / 14.2);
    expect(r.phases[1]!.loadA).toBeLessThan(30 / 12.5);
    expect(r.verdict).toBe('holds');
  });
  it('with the engine off takes watts over volts times hours, near rated current', () => {
    const r = day({});
    // 60 W at some 12.6 V is under the rated 5 A, so nothing is given up to Peukert
    expect(r.phases[0]!.deltaAh).toBeCloseTo(-2 * (60 / 12.6), 1);
    expect(r.phases[0]!.loadA * 2).toBeCloseTo(-r.phases[0]!.deltaAh, 6);
    expect(r.verdict).toBe('tight');
  });
  it('is flat when all is given, and says when', () => {
    const r = day({ loads: [{ id: 'a', watts: 600 }], phases: [{ name: 'off', minutes: 600, rpm: 0, on: ['a'] }] });
    expect(r.verdict).toBe('fails');
    expect(r.minSoc).toBeCloseTo(0, 6);
    expect(r.flatAtMinute!).toBeGreaterThan(60);
    expect(r.flatAtMinute!).toBeLessThan(110);
    expect(r.minVolts).toBeGreaterThan(10);
  });
  it.each([
    [{ batteries: [{ ...battery, capacityAh: 0 }] }, 'batteries.0.capacityAh', /no capacity/],
    [{ batteries: [] }, 'batteries', /at least one/],
    [
      {
        source: {
          ...source,
          curve: [
            [900, 12],
            [800, 14],
          ],
        },
      },
      'source.curve.1',
      /must rise/,
    ],
    [
      {
        source: {
          ...source,
          curve: [
            [900, 12],
            [1200, 10],
          ],
        },
      },
      'source.curve.1',
      /falls back/,
    ],
    [{ phases: [{ name: 'x', minutes: 0, rpm: 0, on: [] }] }, 'phases.0.minutes', /longer than nothing/],
    [{ phases: [{ name: 'x', minutes: 5, rpm: 0, on: ['b'] }] }, 'phases.0.on', /no load “b”/],
    [{ phases: [{ name: 'x', minutes: 5, rpm: 0, on: ['a'], duty: { a: 1.01 } }] }, 'phases.0.duty.a', /at most 1/],
    [{ loads: [{ id: 'a', watts: null }] }, 'loads.0.watts', /./],
    [
      {
        loads: [
          { id: 'a', watts: 1 },
          { id: 'a', watts: 2 },
        ],
      },
      'loads.1.id',
      /twice/,
    ],
  ])('%j is refused at %s', (over, path, message) => {
    let thrown: ImpossibleInput | null = null;
    try {
      day(over);
    } catch (e) {
      thrown = e as ImpossibleInput;
    }
    expect(thrown).toBeInstanceOf(ImpossibleInput);
    expect(thrown!.path).toBe(path);
    expect(thrown!.message).toMatch(message);
  });
});
