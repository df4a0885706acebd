import { z } from 'zod';
import { Awg, positive } from '#model/common';
import { sum } from '../sum';
import { allowable } from '../wire-rules/allowable';
import { CHARGING_FACTOR, fuseFamilyFor } from '../wire-rules/fuse-volts';
import { LEAST_ON_BOATS } from '../wire-rules/least-gauge';
import { INSULATIONS, SOURCE as RULES, TABLE_GAUGES, USUAL_INSULATION } from '../wire-rules/tables';
import { chooseWire, crimpPull } from '../wire/choose';
import { chooseFuse, FUSE_FACTOR } from '../wire/fuse';
import { awgName, wireResistance } from '../wire/resistance';
import { SOURCE } from '../wire/tables';
import { calculation, field } from './calculation';

const awg = field(Awg, 'Gauge', 'AWG');
const engineSpace = field(z.boolean().default(false), 'Runs through an engine space');
const insulationC = field(
  z.literal(INSULATIONS, `${INSULATIONS.slice(0, -1).join(', ')} or ${INSULATIONS.at(-1)} °C`).default(USUAL_INSULATION),
  'Insulation',
  '°C',
);
const standard = field(z.enum(['awg', 'sae']).default('awg'), 'Conductor');
const bundled = field(z.number().int().min(1, 'at least the wire itself').max(500).default(1), 'Current-carrying wires in the bundle');

export const wireCalcs = [
  calculation({
    name: 'wire.resistance',
    title: 'Wire resistance',
    description: 'Ohms, cross-section and circular mils of a copper wire from its gauge, length and temperature.',
    input: {
      awg,
      lengthM: field(z.number().min(0, 'a wire cannot be shorter than nothing'), 'Length of wire', 'm'),
      tempC: field(z.number().default(20), 'Conductor temperature', '°C'),
    },
    result: { ohms: z.number(), ohmsPerM: z.number(), areaMm2: z.number(), circularMils: z.number() },
    example: { awg: 12, lengthM: 6, tempC: 20 },
    run: (q) => {
      const r = wireResistance(q.awg, q.lengthM, q.tempC);
      return {
        ...r,
        sum: sum(
          { label: `Cross-section of ${awgName(q.awg)} AWG`, value: r.areaMm2, unit: 'mm²', source: SOURCE.awg },
          { label: `Copper at ${q.tempC} °C`, value: r.ohmsPerM * 1000, unit: 'mΩ/m', source: SOURCE.copper },
          { label: 'Length of wire', value: q.lengthM, unit: 'm' },
          { label: 'Resistance', value: r.ohms, unit: 'Ω', kind: 'result' },
        ),
      };
    },
  }),
  calculation({
    name: 'wire.ampacity',
    title: 'Allowable amperes',
    description: 'Amperes a wire may carry, by gauge, engine space and bundling.',
    input: { awg, engineSpace, bundled, insulationC, standard },
    result: { amps: z.number() },
    example: { awg: 14, engineSpace: false, bundled: 1 },
    run: (q) => {
      const amps = allowable(q, { hot: q.engineSpace, bundled: q.bundled });
      const alone = allowable(q, { hot: q.engineSpace });
      return {
        amps,
        sum: sum(
          {
            label: `${awgName(q.awg)} AWG ${q.engineSpace ? 'inside' : 'outside'} engine space`,
            value: alone,
            unit: 'A',
            source: (TABLE_GAUGES as readonly number[]).includes(q.awg) ? `${RULES.ampacity}, ${q.insulationC} °C insulation` : RULES.thin,
          },
          ...(q.standard === 'sae' ? [{ label: 'SAE conductor: less copper', value: '–', source: RULES.sae, kind: 'note' as const }] : []),
          { label: `Factor for ${q.bundled} bundled`, value: amps / alone, source: RULES.bundling },
          { label: 'Allowable', value: amps, unit: 'A', kind: 'result' },
        ),
      };
    },
  }),
  calculation({
    name: 'wire.choose',
    title: 'Wire gauge',
    description: 'The thinnest stocked gauge that carries the load and keeps the voltage drop there and back within its limit.',
    input: {
      amps: field(positive, 'Load', 'A'),
      oneWayM: field(z.number().min(0, 'a wire cannot be shorter than nothing'), 'Length one way', 'm'),
      systemV: field(positive, 'System volts', 'V'),
      maxDropPct: field(z.number().gt(0, 'some drop must be allowed').max(50), 'Allowed drop', '%'),
      engineSpace,
      bundled,
      conductorTempC: field(z.number().min(-40).max(125).default(20), 'Conductor temperature', '°C'),
      insulationC,
      standard,
      awgMin: field(Awg.default(18), 'Thinnest gauge to use', 'AWG'),
    },
    result: {
      awg: z.number(),
      dropV: z.number(),
      dropPct: z.number(),
      ampacityA: z.number(),
      limitedBy: z.enum(['drop', 'ampacity', 'smallest']),
    },
    example: { amps: 10, oneWayM: 3.048, systemV: 12, maxDropPct: 3 },
    run: (q) => {
      const r = chooseWire(q);
      return {
        ...r,
        sum: sum(
          { label: 'Load', value: q.amps, unit: 'A' },
          { label: 'Length there and back', value: 2 * q.oneWayM, unit: 'm' },
          {
            label: `Ohms of ${awgName(r.awg)} AWG`,
            value: wireResistance(r.awg, 2 * q.oneWayM, q.conductorTempC).ohms,
            unit: 'Ω',
            source: `${SOURCE.awg}, ${SOURCE.copper}`,
          },
          { label: 'Drop', value: r.dropV, unit: 'V' },
          { label: 'Gauge', value: `${awgName(r.awg)} AWG`, kind: 'result' },
          {
            label: `On boats at least ${LEAST_ON_BOATS.plain} AWG, ${LEAST_ON_BOATS.sheathedOrShort} inside a sheathed bundle or up to 30 in`,
            value: r.awg > LEAST_ON_BOATS.plain ? 'mind it' : 'met',
            source: 'ABYC E-11, from memory',
            kind: 'note',
          },
          { label: `Drop of ${q.systemV} V`, value: r.dropPct, unit: '%', kind: 'result' },
          { label: 'Allowed drop', value: q.maxDropPct, unit: '%', kind: 'limit' },
          {
            label: 'Wire may carry',
            value: r.ampacityA,
            unit: 'A',
            source: `${RULES.ampacity}, ${q.insulationC} °C insulation`,
            kind: 'limit',
          },
        ),
      };
    },
  }),
  calculation({
    name: 'fuse.choose',
    title: 'Fuse',
    description: 'The standard fuse for a continuous load, not above the wire’s allowable amperes nor the device maker’s maximum.',
    input: {
      continuousA: field(z.number().min(0, 'must not be below zero'), 'Continuous load', 'A'),
      wireAmpacityA: field(positive, 'Wire may carry', 'A'),
      deviceMaxA: field(positive.optional(), 'Device maker’s maximum', 'A'),
      systemV: field(positive.max(1000).default(12), 'System volts', 'V'),
      highestV: field(positive.max(1000).optional(), 'Highest volts, charging', 'V'),
      faultA: field(positive.optional(), 'Most that a short draws', 'A'),
    },
    result: { ratingA: z.number(), colour: z.string(), family: z.string(), ratedV: z.number() },
    example: { continuousA: 11, wireAmpacityA: 35 },
    run: (q) => {
      const r = chooseFuse(q.continuousA, q.wireAmpacityA, q.deviceMaxA);
      const highestV = q.highestV ?? q.systemV * CHARGING_FACTOR;
      const family = fuseFamilyFor(r.ratingA, highestV, q.faultA);
      return {
        ...r,
        family: family.name,
        ratedV: family.ratedV,
        sum: sum(
          { label: 'Continuous load', value: q.continuousA, unit: 'A' },
          { label: 'Factor', value: FUSE_FACTOR, source: SOURCE.fuseRule },
          { label: 'At least', value: q.continuousA * FUSE_FACTOR, unit: 'A' },
          { label: `Next standard size (${r.colour})`, value: r.ratingA, unit: 'A', source: SOURCE.fuseColour, kind: 'result' },
          { label: 'Highest volts of the circuit', value: highestV, unit: 'V' },
          { label: `Kind: ${family.name}`, value: family.ratedV, unit: 'V', source: family.source, kind: 'limit' },
          { label: 'Wire may carry', value: q.wireAmpacityA, unit: 'A', kind: 'limit' },
          ...(q.deviceMaxA === undefined
            ? []
            : [{ label: 'Device maker’s maximum', value: q.deviceMaxA, unit: 'A', kind: 'limit' as const }]),
        ),
      };
    },
  }),
  calculation({
    name: 'crimp.pull',
    title: 'Crimp pull test',
    description: 'The pull a crimped terminal must hold for one minute, by gauge.',
    input: { awg },
    result: { newtons: z.number(), lbf: z.number() },
    example: { awg: 14 },
    run: (q) => {
      const r = crimpPull(q.awg);
      return {
        ...r,
        sum: sum(
          { label: `${awgName(q.awg)} AWG, held for a minute`, value: r.lbf, unit: 'lbf', source: SOURCE.tensile },
          { label: 'Pull', value: r.newtons, unit: 'N', kind: 'result' },
        ),
      };
    },
  }),
];
