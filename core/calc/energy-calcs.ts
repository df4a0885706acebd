import { z } from 'zod';
import { Chemistry, nonNegative, positive } from '#model/common';
import { freezesAt, ocvSourceOf, parkedDays, peukertHours, restedCharge } from '../energy/battery';
import { ImpossibleInput } from '../errors';
import { sum } from '../sum';
import { calculation, field } from './calculation';

const capacityAh = field(positive, 'Capacity', 'Ah');
const share = (title: string) =>
  field(z.number().min(0, 'between 0 (empty) and 1 (full)').max(1, 'between 0 (empty) and 1 (full)'), title, '0 to 1');

export const energyCalcs = [
  calculation({
    name: 'battery.hours',
    title: 'Battery hours',
    description: 'Hours a battery gives a steady current for, by Peukert’s law.',
    input: {
      capacityAh,
      ratedHours: field(positive.default(20), 'Capacity rated over', 'h'),
      exponent: field(z.number().min(1, 'Peukert’s exponent is at least 1').max(2), 'Peukert exponent'),
      amps: field(positive, 'Load', 'A'),
    },
    result: { hours: z.number() },
    example: { capacityAh: 100, ratedHours: 20, exponent: 1.2, amps: 10 },
    run: (q) => {
      const hours = peukertHours(q.capacityAh, q.ratedHours, q.exponent, q.amps);
      return {
        hours,
        sum: sum(
          { label: 'Rated current', value: q.capacityAh / q.ratedHours, unit: 'A' },
          { label: 'Load over rated current', value: (q.amps * q.ratedHours) / q.capacityAh },
          { label: 'Exponent', value: q.exponent, source: 'Peukert 1897; LFP 1.05, AGM 1.10, flooded 1.20 from memory' },
          { label: 'Hours', value: hours, unit: 'h', kind: 'result' },
        ),
      };
    },
  }),
  calculation({
    name: 'battery.parked',
    title: 'Days parked',
    description: 'Days a unit can stand before its battery falls to a reserve, from its parked draw and self-discharge.',
    input: {
      capacityAh,
      socStart: share('Charge at the start'),
      socReserve: share('Reserve to keep'),
      drawMa: field(nonNegative, 'Parked draw', 'mA'),
      selfDischargePctPerMonth: field(nonNegative.max(100), 'Self-discharge in 30 days', '%'),
    },
    result: { days: z.number() },
    example: { capacityAh: 30, socStart: 1, socReserve: 0.5, drawMa: 12, selfDischargePctPerMonth: 4 },
    run: (q) => {
      if (q.socReserve > q.socStart) throw new ImpossibleInput('the reserve is above the charge at the start', 'socReserve');
      if (q.drawMa === 0 && q.selfDischargePctPerMonth === 0)
        throw new ImpossibleInput('nothing draws, so the battery never runs down: give a draw or a self-discharge', 'drawMa');
      const days = parkedDays(q.capacityAh, q.socStart, q.socReserve, q.drawMa, q.selfDischargePctPerMonth);
      return {
        days,
        sum: sum(
          { label: 'To spend', value: (q.socStart - q.socReserve) * q.capacityAh, unit: 'Ah' },
          { label: 'Draw in a day', value: (q.drawMa * 24) / 1000, unit: 'Ah' },
          {
            label: 'Self-discharge in a day',
            value: (q.capacityAh * q.selfDischargePctPerMonth) / 3000,
            unit: 'Ah',
            source: 'steady share of full capacity, 30 days a month',
          },
          { label: 'Days', value: days, unit: 'd', kind: 'result' },
        ),
      };
    },
  }),
  calculation({
    name: 'battery.socFromVolts',
    title: 'Charge from rested volts',
    description: 'Charge of a rested 12 V battery from its open-circuit volts and chemistry.',
    input: {
      chemistry: field(Chemistry, 'Chemistry'),
      volts: field(z.number(), 'Rested volts', 'V'),
      tempC: field(z.number().min(-40).max(70).default(25), 'Battery temperature', '°C'),
      deepCycle: field(z.boolean().default(false), 'Deep-cycle, as in a cart’s pack'),
    },
    result: { soc: z.number(), low: z.number(), high: z.number(), freezesAtC: z.number().nullable() },
    example: { chemistry: 'flooded', volts: 12.45 },
    run: (q) => {
      const { soc, low, high } = restedCharge(q, q.volts, q.tempC);
      const freezesAtC = freezesAt(q.chemistry, low);
      return {
        soc,
        low,
        high,
        freezesAtC,
        sum: sum(
          { label: 'Rested volts', value: q.volts, unit: 'V' },
          { label: 'Charge', value: soc * 100, unit: '%', source: ocvSourceOf(q), kind: 'result' },
          { label: 'At the least', value: low * 100, unit: '%', source: 'how well volts tell it: common practice, no source' },
          { label: 'At the most', value: high * 100, unit: '%' },
          ...(freezesAtC === null
            ? []
            : [
                {
                  label: 'At the least charge it freezes at',
                  value: freezesAtC,
                  unit: '°C',
                  source: 'battery handbooks, from memory',
                  kind: 'note' as const,
                },
              ]),
        ),
      };
    },
  }),
];
