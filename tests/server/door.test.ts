import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';

/** Runs the calculation door of the built checkout. */
function door(args: string[], input = ''): { code: number | null; lines: string[]; ms: number } {
  const t = performance.now();
  const r = spawnSync(process.execPath, ['bin/kadro.mjs', ...args], { input, encoding: 'utf8', env: { PATH: process.env.PATH } });
  return { code: r.status, lines: r.stdout.trim().split('\n'), ms: performance.now() - t };
}
const json = (r: { lines: string[] }) => JSON.parse(r.lines.join('\n'));

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
  'vin.check',
  'hin.check',
];

describe('the calculation door on the command line', () => {
  it('lists every name with a line of description', () => {
    const r = door(['calc', '--list']);
    expect(r.code).toBe(0);
    for (const n of NAMES) expect(r.lines.some((l) => l.startsWith(n) && l.length > n.length + 20)).toBe(true);
  });
  it.each(NAMES)('%s prints its schemas', (name) => {
    const s = json(door(['calc', '--schema', name]));
    expect(Object.keys(s.input.properties).length).toBeGreaterThan(0);
    expect(Object.keys(s.result.properties)).toContain('sum');
  });
  it.each([
    ['wire.resistance', { awg: 12, lengthM: 304.8 }, { ohms: expect.closeTo(1.588, 2) }],
    ['wire.ampacity', { awg: 0, engineSpace: true, bundled: 3 }, { amps: expect.closeTo(242.3 * 0.7, 6) }],
    ['wire.choose', { amps: 10, oneWayM: 3.048, systemV: 12, maxDropPct: 3 }, { awg: 12, limitedBy: 'drop', ampacityA: 45 }],
    ['fuse.choose', { continuousA: 5, wireAmpacityA: 20 }, { ratingA: 7.5, colour: 'brown' }],
    ['crimp.pull', { awg: -1 }, { lbf: 85 }],
    ['battery.hours', { capacityAh: 100, exponent: 1.2, amps: 10 }, { hours: expect.closeTo(8.71, 2) }],
    [
      'battery.parked',
      { capacityAh: 30, socStart: 1, socReserve: 0.5, drawMa: 12, selfDischargePctPerMonth: 0 },
      { days: expect.closeTo(15 / 0.288, 6) },
    ],
    ['battery.socFromVolts', { chemistry: 'flooded', volts: 12.24 }, { soc: 0.5 }],
    [
      'winch.pull',
      { massKg: 1000, slopeDeg: 30, surface: 'hard', stuck: 'no' },
      { lineN: expect.closeTo(9806.65 * (0.5 + Math.cos(Math.PI / 6) / 25), 3) },
    ],
    [
      'winch.layers',
      { ratedN: 14000, drumDiameterMm: 50, drumWidthMm: 80, ropeDiameterMm: 5, ropeLengthM: 15 },
      { layers: expect.arrayContaining([expect.objectContaining({ layer: 1, pullN: 14000 })]) },
    ],
    [
      'audio.supply',
      { ratedW: 160, efficiency: 0.8, musicFactor: 0.125, systemV: 12.5 },
      { averageA: expect.closeTo(2, 9), peakA: expect.closeTo(16, 9) },
    ],
    ['audio.level', { sensitivityDb: 90, watts: 10, distanceM: 2 }, { db: expect.closeTo(93.98, 2) }],
    [
      'lamp.aim',
      { mountHeightM: 0.7, distanceM: 10, declinationPct: 1 },
      { wallHeightM: expect.closeTo(0.6, 9), reachM: expect.closeTo(70, 9) },
    ],
    ['flash.rate', { beatsS: [0, 0.75, 1.5, 2.25] }, { perMinute: expect.closeTo(80, 9), jitterPct: expect.closeTo(0, 9) }],
    [
      'lighting.check',
      {
        pack: 'motorcycle-lamps',
        unit: { kind: 'motorcycle' },
        lamps: [{ function: 'headlamp', colour: 'white', xMm: 1300, yMm: 0, zMm: 500 }],
      },
      { items: expect.arrayContaining([expect.objectContaining({ id: 'headlamp', verdict: 'fails', measured: 500, limit: 559 })]) },
    ],
    ['lamp.intensity', { rangeNm: 3 }, { candela: expect.closeTo(12.06, 1) }],
    ['lamp.range', { candela: 52.3 }, { rangeNm: expect.closeTo(5, 1) }],
    ['vin.check', { vin: '1M8GDM9AXKP042788' }, { valid: true, expected: 'X', found: 'X', problems: [] }],
    ['hin.check', { hin: 'ABC12345D404' }, { valid: true, problems: [] }],
  ])('%s of %j', (name, input, result) => {
    const r = door(['calc', name], JSON.stringify(input));
    expect(r.code).toBe(0);
    expect(json(r)).toMatchObject(result);
  });
  it('impossible input is an error object and exit 2, naming the field', () => {
    const r = door(['calc', 'fuse.choose'], '{"continuousA":30,"wireAmpacityA":20}');
    expect(r.code).toBe(2);
    expect(json(r).error).toMatchObject({
      type: 'impossible-input',
      path: 'wireAmpacityA',
      message: expect.stringMatching(/thicker wire/),
    });
    expect(door(['calc', 'fuse.choose'], 'nonsense')).toMatchObject({ code: 2 });
    expect(door(['calc', 'fuse.choose'], '')).toMatchObject({ code: 2 });
    expect(json(door(['calc', 'no.such'], '{}')).error.type).toBe('unknown-calculation');
    expect(door(['calc', '--schema', 'no.such']).code).toBe(2);
    expect(door([]).code).toBe(1);
  });
  it('takes one input a line and goes on past impossible ones', () => {
    const vins = ['{"vin":"1M8GDM9AXKP042788"}', 'broken', '{"vin":3}', '{"vin":"11111111111111111"}'];
    const r = door(['calc', '--lines', 'vin.check'], `${vins.join('\n')}\n`);
    const out = r.lines.map((l) => JSON.parse(l));
    expect(r.code).toBe(0);
    expect(out.map((o) => o.valid ?? o.error.type)).toEqual([true, 'not-json', 'impossible-input', true]);
  });
  it('a thousand lines answer as one run', () => {
    const lines = Array.from({ length: 1000 }, (_, i) =>
      JSON.stringify({ amps: 1 + (i % 40), oneWayM: 1 + (i % 7), systemV: 12, maxDropPct: 5 }),
    );
    const r = door(['calc', '--lines', 'wire.choose'], lines.join('\n'));
    expect(r.lines).toHaveLength(1000);
    expect(r.lines.every((l) => l.includes('"awg"') || l.includes('"error"'))).toBe(true);
  });
});
