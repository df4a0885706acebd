import type { Known } from '#model/known';
import type { SheetBegun } from '#model/sheet-begun';
import type { UnitModel } from '#model/unit-model';
import { sourceAmps } from '../energy/source';
import { FUSE_SIZES } from '../wire/fuse';
import { runLength } from '../circuit/route';
import { otherSide, ownIdleW } from '../known/values';

/**
 * How far units of one body differ, as shares of what is assumed: the band holds 8 of 10. Common practice, no source.
 */
const SPREAD = {
  size: [0.93, 1.07],
  capacity: [0.75, 1.35],
  cca: [0.75, 1.3],
  source: [0.75, 1.3],
  own: [0.75, 1.3],
  parked: [0.3, 3],
  mass: [0.85, 1.2],
  run: [0.85, 1.3],
} as const;
/** A run differs by so much besides, and a place by so much, millimetres. Common practice, no source. */
const RUN_MM = 80;
const PLACE_SHARE = 0.06;
/** No band reaches further down than this share: what is there has a size. */
const LEAST = 0.3;

const round = (x: number): number => Number(x.toPrecision(3));

/**
 * How the values of a sheet made from a body are known: those that were given as they were said, all others assumed, with the band
 * that holds most units of the kind.
 */
export function assumed(model: UnitModel, given: SheetBegun['figures'], said: Known): UnitModel['known'] {
  const known: UnitModel['known'] = { '': { how: 'assumed', note: 'as units of this body commonly are' } };
  const band = (pointer: string, value: number | undefined, [low, high]: readonly [number, number], beyond = 0) => {
    if (value)
      known[pointer] = { how: 'assumed', spread: [round(Math.max(value * LEAST, value * low - beyond)), round(value * high + beyond)] };
  };
  for (const p of ['/maker', '/name', '/years', '/kind']) known[p] = said;
  const { dims, electrical } = model;
  for (const key of ['lengthMm', 'widthMm', 'heightMm', 'wheelbaseMm'] as const)
    if (given[key] !== undefined) known[`/dims/${key}`] = said;
    else band(`/dims/${key}`, dims[key], SPREAD.size);
  band('/massKg', model.massKg, SPREAD.mass);
  if (given.capacityAh !== undefined) known['/electrical/battery/capacityAh'] = said;
  else band('/electrical/battery/capacityAh', electrical.battery.capacityAh, SPREAD.capacity);
  band('/electrical/battery/cca', electrical.battery.cca, SPREAD.cca);
  const { source } = electrical;
  if (source.kind !== 'none') {
    if (given.sourceA !== undefined) known['/electrical/source/curve'] = said;
    else band('/electrical/source/curve', sourceAmps(source, source.idleRpm), SPREAD.source);
  }
  band('/electrical/ownLoads', ownIdleW(model), SPREAD.own);
  band('/electrical/parkedMa', electrical.parkedMa, SPREAD.parked);
  for (const p of model.powerPoints)
    // a size down or up
    if (p.fuseA !== undefined && FUSE_SIZES.includes(p.fuseA)) {
      const i = FUSE_SIZES.indexOf(p.fuseA);
      known[`/powerPoints/${p.id}/fuseA`] = {
        how: 'assumed',
        spread: [FUSE_SIZES[Math.max(0, i - 1)]!, FUSE_SIZES[Math.min(FUSE_SIZES.length - 1, i + 1)]!],
      };
    }
  for (const r of model.runs) band(`/runs/${r.from}..${r.to}/lengthMm`, runLength(model, r), SPREAD.run, RUN_MM);
  const lit = new Set(model.equipment.flatMap((e) => (e.place ? [e.place] : [])));
  const pairs = new Set(model.places.flatMap((p) => otherSide(model, p.id) ?? []));
  for (const p of model.places)
    // a pair is one question
    if (lit.has(p.id) && !pairs.has(p.id)) {
      const off = PLACE_SHARE * dims.heightMm;
      known[`/places/${p.id}/z`] = { how: 'assumed', spread: [Math.round(p.z - off), Math.round(p.z + off)] };
    }
  return known;
}
