// The simulated day against the same equations written again in Python and integrated by Radau's implicit method (scipy,
// Hairer and Wanner): another language, another solver of the bus, another integrator.
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { describe, expect, it } from 'vitest';
import { cellAt, cellOf } from '#core/energy/cell';
import { run, type Segment } from '#core/energy/simulate';

const SEED = Number(process.env.KADRO_SEED ?? 20260304);
const DAYS = 36;

describe(`random days, seed ${SEED}`, () => {
  it(`${DAYS} days end within 0.1 % of capacity of a stiff reference integrator`, () => {
    const random = xoroshiro128plus(SEED);
    const between = (a: number, b: number) => a + (b - a) * uniformFloat64(random);
    const days = Array.from({ length: DAYS }, () => {
      const chemistry = (['flooded', 'agm', 'lfp'] as const)[Math.floor(between(0, 3))]!;
      const cell = cellOf(
        { chemistry, count: 1, voltsEach: 12, capacityAh: between(8, 110), ratedHours: 20, peukert: between(1, 1.25) },
        between(0, 6),
        between(0, 4),
      );
      const segments = Array.from({ length: 3 + Math.floor(between(0, 10)) }, (): Segment => ({
        phase: 0,
        hours: between(0.02, 5),
        sourceA: between(0, 1) < 0.4 ? 0 : between(3, 45),
        regulatedV: 14.2,
        loads: [
          {
            power: between(0, 0.7) * cell.capacityAh,
            amps: between(0, 0.02) * cell.capacityAh,
            siemens: between(0, 0.002) * cell.capacityAh,
            filament: between(0, 0.006) * cell.capacityAh,
            burst: 0,
            leastV: 8,
          },
        ],
        cells: [cellAt(cell, between(-15, 38))],
      }));
      return { capacityAh: cell.capacityAh, charge: between(0.5, 1) * cell.capacityAh, segments };
    });
    const mine = days.map((d) => run(d.segments, [d.charge], null, { detail: true }));
    // a day that runs flat has an event that the reference does not look for
    const lasting = days.flatMap((d, i) =>
      mine[i]!.flatAt[0] === null && mine[i]!.leastVolts[0]! > 9 ? [{ d, mine: mine[i]!.charge[0]! }] : [],
    );
    expect(lasting.length).toBeGreaterThan(DAYS / 3);
    const input = lasting.map(({ d }) => ({
      charge: d.charge,
      segments: d.segments.map((s) => {
        const c = s.cells[0]!;
        return { ...s, ...s.loads[0]!, cell: { ...c, shares: [...c.shares], volts: Array.from(c.volts, (v) => v + c.coldV) } };
      }),
    }));
    const py = spawnSync('/usr/bin/python3', [fileURLToPath(new URL('./day.py', import.meta.url))], {
      input: JSON.stringify(input),
      encoding: 'utf8',
      maxBuffer: 1e8,
    });
    expect(py.stderr).toBe('');
    const theirs = JSON.parse(py.stdout) as number[];
    lasting.forEach(({ d, mine: q }, i) => expect(Math.abs(q - theirs[i]!) / d.capacityAh, `day ${i}`).toBeLessThan(1e-3));
    const worst = Math.max(...lasting.map(({ d, mine: q }, i) => Math.abs(q - theirs[i]!) / d.capacityAh));
    console.log(`${lasting.length} days, worst difference ${(worst * 100).toFixed(4)} % of capacity`);
  });
});
