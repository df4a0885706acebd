import { z } from 'zod';
import { positive } from '#model/common';
import { audioLevel, audioSupply } from '../audio/audio';
import { sum } from '../sum';
import { winchLayers } from '../winch/layers';
import { SHEAVE_LOSS, STUCK, SURFACES, winchPull, type Stuck, type Surface } from '../winch/pull';
import { calculation, field } from './calculation';

const LBF = 4.4482216152605;

export const winchCalcs = [
  calculation({
    name: 'winch.pull',
    title: 'Pull needed',
    description: 'The pull that moves a unit up a slope, over a surface, or out of where it is stuck, and what the winch’s line carries.',
    input: {
      massKg: field(positive.max(100_000), 'Loaded mass', 'kg'),
      slopeDeg: field(z.number().min(0, 'from 0 degrees').max(60, 'to 60 degrees'), 'Slope', 'degrees'),
      surface: field(z.enum(Object.keys(SURFACES) as [Surface, ...Surface[]]), 'Surface'),
      stuck: field(z.enum(Object.keys(STUCK) as [Stuck, ...Stuck[]]), 'Stuck to'),
      sheaves: field(z.number().int('sheaves are counted whole').min(0).max(4).default(0), 'Sheaves'),
    },
    result: { pullN: z.number(), lineN: z.number(), recommendedRatedN: z.number(), anchorN: z.number() },
    example: { massKg: 790, slopeDeg: 30, surface: 'grass', stuck: 'no', sheaves: 0 },
    run: (q) => {
      const p = winchPull(q.massKg, q.slopeDeg, q.surface, q.stuck, q.sheaves);
      return {
        ...p,
        sum: sum(
          { label: 'Weight', value: p.weightN, unit: 'N' },
          { label: `Slope of ${q.slopeDeg}°`, value: p.slopeN, unit: 'N', source: 'mechanics: W·sin θ' },
          { label: 'Surface', value: p.surfaceN, unit: 'N', source: 'recovery handbooks, from memory: a share of weight, times cos θ' },
          { label: 'Stuck', value: p.stuckN, unit: 'N', source: 'US Army FM 4-30.31, from memory' },
          { label: 'Pull on the load', value: p.pullN, unit: 'N', kind: 'result' },
          {
            label: 'On the winch’s line',
            value: p.lineN,
            unit: 'N',
            kind: 'result',
            source: `${q.sheaves} sheaves, each loses ${SHEAVE_LOSS * 100} % (US Army FM 4-30.31, from memory)`,
          },
          {
            label: 'Rated pull to choose',
            value: p.recommendedRatedN / LBF,
            unit: 'lbf',
            source: '1.5 × weight, and never less than its line carries; common practice, no source',
          },
          ...(p.anchorN > 0
            ? [
                {
                  label: 'On the anchor of a sheave: twice the line',
                  value: p.anchorN,
                  unit: 'N',
                  source: 'mechanics: both parts of the line pull there. Strap, shackle and tree must hold it',
                  kind: 'limit' as const,
                },
              ]
            : []),
          {
            label: 'Field rule for the slope',
            value: p.fieldSlopeN,
            unit: 'N',
            source: 'W/60 a degree: US Army FM 4-30.31, from memory',
            kind: 'note',
          },
        ),
      };
    },
  }),
  calculation({
    name: 'winch.layers',
    title: 'Pull by layer of rope',
    description: 'What a winch pulls on each layer of its drum; the rated pull is on the first.',
    input: {
      ratedN: field(positive, 'Rated pull', 'N'),
      drumDiameterMm: field(positive, 'Drum diameter', 'mm'),
      drumWidthMm: field(positive, 'Drum width', 'mm'),
      ropeDiameterMm: field(positive, 'Rope diameter', 'mm'),
      ropeLengthM: field(positive, 'Rope length', 'm'),
    },
    result: {
      layers: z.array(z.object({ layer: z.number(), pullN: z.number(), ropeFromM: z.number(), ropeToM: z.number() })),
    },
    example: { ratedN: 14234, drumDiameterMm: 54, drumWidthMm: 74, ropeDiameterMm: 4.8, ropeLengthM: 15 },
    run: (q) => {
      const layers = winchLayers(q);
      return {
        layers,
        sum: sum(
          ...layers.map((l) => ({
            label: `Layer ${l.layer}, rope ${l.ropeFromM.toFixed(1)} to ${l.ropeToM.toFixed(1)} m`,
            value: l.pullN,
            unit: 'N',
            ...(l.layer === 1 && { source: 'rated pull is on the first layer (SAE J706)' }),
          })),
          { label: 'On the last layer', value: layers.at(-1)!.pullN, unit: 'N', kind: 'result' },
        ),
      };
    },
  }),
  calculation({
    name: 'audio.supply',
    title: 'Amperes of an amplifier',
    description: 'What an amplifier draws on average for music, and at rated power.',
    input: {
      ratedW: field(positive.max(20_000), 'Rated power', 'W'),
      efficiency: field(z.number().gt(0, 'above 0').max(1, 'at most 1'), 'Efficiency', '0 to 1'),
      musicFactor: field(z.number().gt(0, 'above 0').max(1, 'at most 1'), 'Music’s share of rated power', '0 to 1'),
      systemV: field(positive, 'System volts', 'V'),
    },
    result: { averageA: z.number(), peakA: z.number() },
    example: { ratedW: 170, efficiency: 0.85, musicFactor: 0.125, systemV: 12 },
    run: (q) => {
      const a = audioSupply(q.ratedW, q.efficiency, q.musicFactor, q.systemV);
      return {
        ...a,
        sum: sum(
          { label: 'Rated power', value: q.ratedW, unit: 'W' },
          { label: 'Efficiency', value: q.efficiency, source: 'class D 0.8 to 0.9, from memory' },
          {
            label: 'Music’s share',
            value: q.musicFactor,
            source: '1/8: IEC 60065 test condition, from memory; 1/3 loud: common practice, no source',
          },
          { label: 'On average', value: a.averageA, unit: 'A', kind: 'result' },
          { label: 'At rated power', value: a.peakA, unit: 'A', kind: 'result' },
        ),
      };
    },
  }),
  calculation({
    name: 'audio.level',
    title: 'Sound level',
    description: 'Level of a loudspeaker at a distance in the open.',
    input: {
      sensitivityDb: field(z.number().min(20).max(130), 'Sensitivity at 1 W and 1 m', 'dB'),
      watts: field(positive, 'Power into it', 'W'),
      distanceM: field(positive, 'Distance', 'm'),
    },
    result: { db: z.number() },
    example: { sensitivityDb: 88, watts: 40, distanceM: 3 },
    run: (q) => {
      const db = audioLevel(q.sensitivityDb, q.watts, q.distanceM);
      return {
        db,
        sum: sum(
          { label: 'Sensitivity', value: q.sensitivityDb, unit: 'dB' },
          { label: 'Power, 10·log10(P)', value: 10 * Math.log10(q.watts), unit: 'dB' },
          { label: 'Distance, −20·log10(d)', value: -20 * Math.log10(q.distanceM), unit: 'dB', source: 'free field' },
          { label: 'Level', value: db, unit: 'dB', kind: 'result' },
        ),
      };
    },
  }),
];
