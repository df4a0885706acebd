import { z } from 'zod';
import { Awg, positive } from '#model/common';
import { bundle, THICKEST_MM } from '../harness/bundle';
import { planCuts } from '../harness/cut';
import type { Element } from '../network/element';
import { Network } from '../network/solve';
import { sum } from '../sum';
import { calculation, field } from './calculation';

const name = z.string().min(1, 'must not be empty').max(80);
const between = { id: name, from: name, to: name };
const finite = z.number().min(-1e6, 'beyond what any unit has').max(1e6, 'beyond what any unit has');
const NetworkElement = z.discriminatedUnion('kind', [
  z.strictObject({ ...between, kind: z.literal('V'), volts: finite, ohms: finite.min(0, 'ohms cannot be below zero').default(0) }),
  z.strictObject({ ...between, kind: z.literal('R'), ohms: z.number().max(1e12).min(0, 'ohms cannot be below zero') }),
  z.strictObject({ ...between, kind: z.literal('I'), amps: finite }),
  z.strictObject({
    ...between,
    kind: z.literal('P'),
    watts: finite.min(0, 'watts cannot be below zero'),
    minVolts: finite.min(0, 'volts cannot be below zero'),
  }),
  z.strictObject({ ...between, kind: z.literal('switch'), closed: z.boolean() }),
  z.strictObject({ ...between, kind: z.literal('diode'), volts: finite.min(0, 'volts cannot be below zero') }),
]);

const length = z.strictObject({
  id: name,
  awg: Awg,
  colour: z.string().max(40),
  lengthM: z.number().gt(0, 'a length must be above zero').max(10_000, 'at most 10 km'),
});

export const harnessCalcs = [
  calculation({
    name: 'network.solve',
    title: 'Direct-current network',
    description:
      'Volts at every point and amperes through every element of a network: sources (from is the plus), resistors, current sources, constant-power loads, switches and diodes.',
    input: {
      elements: field(z.array(NetworkElement).min(1, 'a network needs at least one element').max(2000), 'Elements'),
      ground: field(name, 'The point that volts are counted from'),
    },
    result: {
      nodeVolts: z.record(z.string(), z.number()),
      elementAmps: z.record(z.string(), z.number()),
      iterations: z.number(),
      residualA: z.number(),
    },
    example: {
      ground: 'ground',
      elements: [
        { id: 'battery', kind: 'V', from: 'post', to: 'ground', volts: 12.6, ohms: 0.01 },
        { id: 'wire', kind: 'R', from: 'post', to: 'lamp', ohms: 0.05 },
        { id: 'lamp', kind: 'P', from: 'lamp', to: 'ground', watts: 36, minVolts: 8 },
      ],
    },
    run: (q) => {
      const elements = q.elements.map((e): Element =>
        e.kind === 'P'
          ? { id: e.id, from: e.from, to: e.to, kind: 'load', law: 'constant-power', watts: e.watts, volts: 1, minVolts: e.minVolts }
          : e,
      );
      const s = new Network(elements, q.ground).solve();
      const worst = [...s.amps].reduce((w, x) => (Math.abs(x[1]) > Math.abs(w[1]) ? x : w));
      return {
        nodeVolts: Object.fromEntries(s.volts),
        elementAmps: Object.fromEntries(s.amps),
        iterations: s.iterations,
        residualA: s.residualA,
        sum: sum(
          { label: 'Points', value: s.volts.size },
          { label: `Most amperes, in ${worst[0]}`, value: Math.abs(worst[1]), unit: 'A', kind: 'result' },
          { label: 'Left over by Kirchhoff’s law at the worst point', value: s.residualA, unit: 'A', kind: 'note' },
        ),
      };
    },
  }),
  calculation({
    name: 'harness.bundle',
    title: 'Bundle and loom',
    description: 'Diameter of the round bundle that wires make, and the next standard loom.',
    input: {
      wireDiametersMm: field(
        z
          .array(positive.max(THICKEST_MM, `a wire is at most ${THICKEST_MM} mm thick`))
          .min(1, 'at least one wire')
          .max(400),
        'Outside diameters of the wires',
        'mm',
      ),
    },
    result: { bundleMm: z.number(), loomMm: z.number().nullable() },
    example: { wireDiametersMm: [2.9, 2.9, 2.5, 2.2] },
    run: (q) => {
      const r = bundle(q.wireDiametersMm);
      return {
        ...r,
        sum: sum(
          { label: 'Wires', value: q.wireDiametersMm.length },
          { label: 'Bundle', value: r.bundleMm, unit: 'mm', source: 'hexagonal packing (geometry)', kind: 'result' },
          r.loomMm === null
            ? { label: 'No standard loom is wide enough: split the bundle', value: '–', kind: 'note' }
            : { label: 'Next standard loom', value: r.loomMm, unit: 'mm', source: 'common practice, no source', kind: 'result' },
        ),
      };
    },
  }),
  calculation({
    name: 'harness.cut',
    title: 'Cutting wire from spools and offcuts',
    description: 'Which piece on hand each length is cut from, so that the fewest go unmet and the least is left over.',
    input: {
      stock: field(z.array(length).max(200), 'On hand'),
      cuts: field(z.array(length).min(1, 'at least one cut').max(500), 'To cut'),
    },
    result: {
      assignments: z.array(z.object({ cut: z.string(), stock: z.string() })),
      offcuts: z.array(z.object({ stock: z.string(), lengthM: z.number() })),
      unmet: z.array(z.string()),
      wasteM: z.number(),
      optimal: z.boolean(),
      boundM: z.number(),
    },
    example: {
      stock: [
        { id: 'spool', awg: 16, colour: 'RD', lengthM: 10 },
        { id: 'offcut', awg: 16, colour: 'RD', lengthM: 3.1 },
      ],
      cuts: [
        { id: 'lamp', awg: 16, colour: 'RD', lengthM: 2.9 },
        { id: 'horn', awg: 16, colour: 'RD', lengthM: 4 },
      ],
    },
    run: (q, stop) => {
      const r = planCuts(q.stock, q.cuts, stop);
      return {
        ...r,
        sum: sum(
          { label: 'Cuts met', value: r.assignments.length },
          { label: 'Cuts that nothing on hand is long enough for', value: r.unmet.length },
          { label: 'Left over on pieces cut from', value: r.wasteM, unit: 'm', kind: 'result' },
          {
            label: r.optimal ? 'Proved least' : 'Best found; not proved least',
            value: r.boundM,
            unit: 'm',
            kind: 'note',
          },
        ),
      };
    },
  }),
];
