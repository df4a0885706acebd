import { z } from 'zod';
import { Chemistry, nonNegative, positive } from '#model/common';
import type { SumLineInput } from '#model/common';
import { curveProblem, MOST_CHARGING } from '#model/unit-model';
import { CHARGE_LIMIT_V } from '../energy/battery';
import { noLoads, type Loads } from '../energy/bus';
import { cellAt, cellOf, PEUKERT } from '../energy/cell';
import { run, type Segment } from '../energy/simulate';
import { ImpossibleInput } from '../errors';
import { sum } from '../sum';
import type { Verdict } from '#model/common';
import { calculation, field } from './calculation';

const Battery = z.strictObject({
  capacityAh: z.number().gt(0, 'a battery of no capacity holds no charge'),
  chemistry: Chemistry,
  socStart: z.number().min(0, 'between 0 (empty) and 1 (full)').max(1, 'between 0 (empty) and 1 (full)'),
  tempC: z.number().min(-40).max(60).default(25),
  internalOhms: positive.optional(),
});
const DaySource = z.strictObject({
  curve: z.array(z.tuple([nonNegative, nonNegative])).min(1, 'a curve needs at least one point'),
  regulatedV: positive,
});
const DayLoad = z.strictObject({ id: z.string().min(1).max(60), watts: nonNegative });
const DayPhase = z.strictObject({
  name: z.string().max(80),
  minutes: z.number().gt(0, 'a phase must last longer than nothing').max(129_600),
  rpm: nonNegative,
  on: z.array(z.string()).max(200),
  duty: z.record(z.string(), z.number().min(0, 'a share is at least 0').max(1, 'a share of the time is at most 1')).optional(),
});

/** Amperes of the curve at a speed: straight between its points, none below the first, flat above the last. */
function curveAmps(curve: readonly (readonly [number, number])[], rpm: number): number {
  if (rpm <= 0 || rpm < curve[0]![0]) return 0;
  for (let i = 1; i < curve.length; i++) {
    const [r0, a0] = curve[i - 1]!;
    const [r1, a1] = curve[i]!;
    if (rpm <= r1) return a0 + ((rpm - r0) / (r1 - r0)) * (a1 - a0);
  }
  return curve.at(-1)![1];
}

export const energyDay = calculation({
  name: 'energy.day',
  title: 'A day’s energy',
  description:
    'Charge and volts of batteries in parallel over a day of phases: source by engine speed, constant-power loads, Peukert, acceptance, inner resistance.',
  input: {
    batteries: field(z.array(Battery).min(1, 'at least one battery').max(6), 'Batteries of 12 V, in parallel'),
    source: field(DaySource, 'Source'),
    loads: field(z.array(DayLoad).max(100), 'Loads'),
    phases: field(z.array(DayPhase).min(1, 'at least one phase').max(60), 'Phases'),
    reserveSoc: field(z.number().min(0).max(1).default(0.5), 'Reserve to keep', '0 to 1'),
  },
  result: {
    endSoc: z.number(),
    minSoc: z.number(),
    minVolts: z.number(),
    phases: z.array(
      z.object({
        name: z.string(),
        sourceA: z.number(),
        loadA: z.number(),
        marginA: z.number(),
        deltaAh: z.number(),
        deliveredAh: z.number(),
      }),
    ),
    series: z.array(z.object({ minute: z.number(), soc: z.number(), volts: z.number() })),
    flatAtMinute: z.number().nullable(),
    verdict: z.enum(['holds', 'tight', 'fails', 'unknown']),
  },
  example: {
    batteries: [{ capacityAh: 30, chemistry: 'agm', socStart: 0.9 }],
    source: {
      curve: [
        [900, 12],
        [1200, 24],
        [3500, 50],
      ],
      regulatedV: 14.2,
    },
    loads: [
      { id: 'unit', watts: 195 },
      { id: 'lamps', watts: 120 },
    ],
    phases: [
      { name: 'idle', minutes: 20, rpm: 1200, on: ['unit', 'lamps'] },
      { name: 'ride', minutes: 60, rpm: 3200, on: ['unit', 'lamps'], duty: { lamps: 0.5 } },
      { name: 'stop', minutes: 45, rpm: 0, on: ['lamps'] },
    ],
  },
  run: (q) => {
    if (q.source.regulatedV > 12 * MOST_CHARGING)
      throw new ImpossibleInput(
        `${q.source.regulatedV} V on batteries of 12 V would boil or burn them: batteries here are of 12 V, in parallel`,
        'source.regulatedV',
      );
    const wrong = curveProblem(q.source.curve);
    if (wrong) throw new ImpossibleInput(`source.curve.${wrong.at}: ${wrong.message}`, `source.curve.${wrong.at}`);
    q.loads.forEach((l, i) => {
      if (q.loads.findIndex((x) => x.id === l.id) !== i) throw new ImpossibleInput(`loads.${i}: “${l.id}” is there twice`, `loads.${i}.id`);
    });
    q.phases.forEach((p, i) => {
      for (const id of [...p.on, ...Object.keys(p.duty ?? {})])
        if (!q.loads.some((l) => l.id === id)) throw new ImpossibleInput(`phases.${i}: there is no load “${id}”`, `phases.${i}.on`);
    });
    // batteries in parallel share one bus: one after the other on it, as posts of the same node
    const cells = q.batteries.map((b) =>
      cellOf(
        {
          chemistry: b.chemistry,
          count: 1,
          voltsEach: 12,
          capacityAh: b.capacityAh,
          ratedHours: 20,
          peukert: PEUKERT[b.chemistry],
          ...(b.internalOhms !== undefined && { innerOhms: b.internalOhms }),
        },
        0,
      ),
    );
    const at = q.batteries.map((b, i) => cellAt(cells[i]!, b.tempC));
    const loadsOf = (p: (typeof q.phases)[number]): Loads => ({
      ...noLoads(),
      power: [...new Set(p.on)].reduce((s, id) => s + q.loads.find((l) => l.id === id)!.watts * (p.duty?.[id] ?? 1), 0),
    });
    const segments = q.phases.map((p, phase): Segment => ({
      phase,
      hours: p.minutes / 60,
      sourceA: curveAmps(q.source.curve, p.rpm),
      regulatedV: q.source.regulatedV,
      loads: [loadsOf(p)],
      cells: at,
    }));
    const total = q.batteries.reduce((s, b) => s + b.capacityAh, 0);
    const start = q.batteries.map((b) => b.capacityAh * b.socStart);
    const r = run(segments, start, 'parallel', { detail: true });
    const socOf = (charge: readonly number[]) => charge.reduce((s, x) => s + x, 0) / total;
    const endSoc = socOf(r.charge);
    const minSoc = Math.min(...r.moments.map((m) => socOf(m.charge)));
    const minVolts = Math.min(...r.leastVolts);
    const flat = r.flatAt.find((x) => x !== null) ?? null;
    const phases = q.phases.map((p, i) => {
      const flow = r.flows[i]!;
      // on average: a constant-power load draws more from a battery than at the regulator's volts
      const loadA = flow.loadAh[0]!.reduce((s, x) => s + x, 0) / segments[i]!.hours;
      const { sourceA } = segments[i]!;
      return {
        name: p.name,
        sourceA,
        loadA,
        marginA: sourceA - loadA,
        deltaAh: flow.deltaAh.reduce((s, x) => s + x, 0),
        deliveredAh: flow.sourceAh,
      };
    });
    const stands = Math.min(...q.batteries.map((b) => CHARGE_LIMIT_V[b.chemistry]));
    const over = q.source.regulatedV > stands + 1e-9 && segments.some((x) => x.sourceA > 0);
    const verdict: Verdict = over || flat !== null || minSoc < q.reserveSoc ? 'fails' : endSoc < socOf(start) - 0.005 ? 'tight' : 'holds';
    const lines: SumLineInput[] = [
      { label: 'Charge at the start', value: total * socOf(start), unit: 'Ah' },
      ...phases.map((p) => ({ label: p.name, value: Number(p.deltaAh.toFixed(4)), unit: 'Ah' })),
      { label: 'Charge at the end', value: total * endSoc, unit: 'Ah', source: 'Peukert 1897; acceptance and efficiency from memory' },
      { label: 'Charge at the end', value: endSoc * 100, unit: '%', kind: 'result' },
      { label: 'Lowest', value: minSoc * 100, unit: '%', kind: 'result' },
      {
        label: over ? 'Charging volts are above what the batteries stand' : 'Charging volts stood',
        value: stands,
        unit: 'V',
        source: 'makers’ sheets, from memory',
        kind: 'limit',
      },
      {
        label: 'Reserve',
        value: q.reserveSoc * 100,
        unit: '%',
        source: 'under it fails; less at the end than at the start is tight',
        kind: 'limit',
      },
    ];
    return {
      endSoc,
      minSoc,
      minVolts,
      phases,
      series: r.moments.map((m) => ({ minute: m.hour * 60, soc: socOf(m.charge), volts: m.volts[0]! })),
      flatAtMinute: flat === null ? null : flat * 60,
      verdict,
      sum: sum(...lines),
    };
  },
});
