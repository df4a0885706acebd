import type { z } from 'zod';
import type { Known } from '#model/known';
import { UnitModel } from '#model/unit-model';
import type { SheetBegun } from '#model/sheet-begun';
import { sourceAmps } from '../energy/source';
import { ImpossibleInput } from '../errors';
import { slugOf } from '../slug';
import { BODIES, type Body } from './body';
import { FRAMES, type Frame } from './frame';
import { assumed } from './assumed';

type Sheet = z.input<typeof UnitModel>;
type Dims = UnitModel['dims'];

/** How far a figure may be from its body’s: beyond, another body is nearer. Common practice, no source. */
const NEAREST = 0.4;

const SIZES = ['lengthMm', 'widthMm', 'heightMm', 'wheelbaseMm'] as const;
const SIZE_NAMES: Record<(typeof SIZES)[number], string> = {
  lengthMm: 'length',
  widthMm: 'width',
  heightMm: 'height',
  wheelbaseMm: 'wheelbase',
};

/** Sizes as given; a unit that is longer by so much stands on a wheelbase that is longer too, unless that was given. */
function sizes(body: Body, figures: SheetBegun['figures']): Dims {
  for (const key of SIZES) {
    const [is, usual] = [figures[key], body.dims[key]];
    if (is === undefined) continue;
    if (!usual) throw new ImpossibleInput(`a ${body.name.toLowerCase()} has no ${SIZE_NAMES[key]}`, key);
    if (Math.abs(is / usual - 1) > NEAREST)
      throw new ImpossibleInput(
        `a ${SIZE_NAMES[key]} of ${Math.round(is)} mm, and this body’s is some ${usual} mm: another body is nearer`,
        key,
      );
  }
  const d = body.dims;
  const lengthMm = figures.lengthMm ?? (figures.wheelbaseMm ? (d.lengthMm * figures.wheelbaseMm) / d.wheelbaseMm : d.lengthMm);
  const stretch = lengthMm / d.lengthMm;
  const wheelbaseMm = figures.wheelbaseMm ?? d.wheelbaseMm * stretch;
  const over = lengthMm - wheelbaseMm;
  if (d.wheelbaseMm && over < d.wheelMm * 0.5)
    throw new ImpossibleInput(
      `a wheelbase of ${Math.round(wheelbaseMm)} mm leaves no room for wheels in ${Math.round(lengthMm)} mm`,
      'wheelbaseMm',
    );
  const whole = (x: number) => Math.round(x / 5) * 5;
  return {
    ...d,
    lengthMm: whole(lengthMm),
    widthMm: figures.widthMm ?? d.widthMm,
    heightMm: figures.heightMm ?? d.heightMm,
    wheelbaseMm: whole(wheelbaseMm),
    rearOverhangMm: d.wheelbaseMm ? whole((over * d.rearOverhangMm) / (d.lengthMm - d.wheelbaseMm)) : 0,
  };
}

/** Where a frame’s spot is on a unit of these sizes, millimetres. */
function placed({ x, y, z, ...spot }: Frame['spots'][number], d: Dims, high: number): Sheet['places'][number] {
  const front = d.lengthMm - d.rearOverhangMm - d.wheelbaseMm;
  const along = !d.wheelbaseMm
    ? x * d.lengthMm
    : x < 0
      ? x * d.rearOverhangMm
      : x <= 1
        ? x * d.wheelbaseMm
        : d.wheelbaseMm + (x - 1) * front;
  return { ...spot, x: Math.round(along), y: Math.round((y * d.widthMm) / 2), z: Math.round(z * high) };
}

/** A pack is joined at so many of its batteries: 12 V of 6 V ones, or what of 8 V ones is nearest under and over. Common practice, no source. */
function taps(body: Body): Sheet['powerPoints'] {
  const { count, voltsEach, chemistry } = body.battery;
  if (body.kind !== 'golf-cart' || chemistry === 'lfp') return [];
  return [1, 2]
    .filter((n) => n < count && n * voltsEach >= 8 && n * voltsEach <= 16)
    .map((n) => ({
      id: `tap-${n * voltsEach}`,
      name: `tap of ${n === 1 ? 'one' : 'two'} ${voltsEach} V ${n === 1 ? 'battery' : 'batteries'}`,
      place: 'pack-minus',
      kind: 'pack-tap',
      switching: 'constant',
      volts: n * voltsEach,
    }));
}

/** Volts of a traction pack stand in the names and figures of a frame as 48: here they are this body’s. */
const atVolts = <T extends { name: string; volts: number }>(x: T, body: Body): T =>
  body.kind === 'golf-cart' ? { ...x, name: x.name.replace('48 V', `${body.systemV} V`), volts: body.systemV } : x;

/** A curve through the same speeds that gives so much at working speed. */
function sourceGiving(source: Body['source'], amps: number | undefined): Body['source'] {
  if (source.kind === 'none') {
    if (amps !== undefined) throw new ImpossibleInput('an electric unit has no source that gives amperes while it runs', 'sourceA');
    return source;
  }
  if (amps === undefined) return source;
  const factor = amps / sourceAmps(source, source.workingRpm);
  return { ...source, curve: source.curve.map(([rpm, a]) => [rpm, Number((a * factor).toFixed(1))]) };
}

/**
 * The sheet of a unit that nobody has one for, as units of its body commonly are. Every value in it that was not given is marked
 * as assumed, with a spread.
 * @param at when it was begun, and by whom
 * @throws ImpossibleInput with the field, where a figure cannot be of this body
 */
export function makeSheet(begun: SheetBegun, at: { at: string; by: string }): UnitModel {
  const body = BODIES.find((b) => b.id === begun.body);
  if (!body) throw new ImpossibleInput(`there is no body “${begun.body}”`, 'body');
  const { figures } = begun;
  const frame = FRAMES[body.frame];
  const dims = sizes(body, figures);
  const places = frame.spots.map((s) => placed(s, dims, dims[frame.zOf ?? 'heightMm']));
  const spot = (id: string) => places.find((p) => p.id === id)!;
  const straight = (a: string, b: string) => Math.hypot(spot(a).x - spot(b).x, spot(a).y - spot(b).y, spot(a).z - spot(b).z);
  const batteryPlace = places.some((p) => p.id === 'pack') ? 'pack' : 'battery';
  const { battery } = body;
  const sheet: Sheet = {
    // names may be long; the year tells apart what is left of them
    id: `${slugOf(begun.maker).slice(0, 20)}-${slugOf(begun.name).slice(0, 30)}-${begun.year}`.replace(/-{2,}/g, '-'),
    maker: begun.maker,
    name: begun.name,
    kind: body.kind,
    ...(body.body && { body: body.body }),
    years: { from: begun.year, to: begun.year },
    builds: [{ id: 'as-it-stands', name: 'As it stands' }],
    identity: frame.identity,
    meter: frame.meter,
    dims,
    massKg: body.massKg,
    ...(body.rearShare && { rearShare: body.rearShare }),
    topSpeedKmh: body.topSpeedKmh,
    electrical: {
      systemV: body.systemV,
      source: sourceGiving(body.source, figures.sourceA),
      battery: {
        peukert: 1.1,
        ...battery,
        name: spot(batteryPlace).name.replace(/^./, (c) => c.toUpperCase()),
        place: batteryPlace,
        ...(figures.capacityAh && { capacityAh: figures.capacityAh }),
        // a larger battery cranks with more
        ...(figures.capacityAh && battery.cca && { cca: Math.round((battery.cca * figures.capacityAh) / battery.capacityAh / 5) * 5 }),
      },
      ownLoads: frame.ownLoads,
      parkedMa: body.parkedMa,
      ...(body.crank && { crank: body.crank }),
      ...(body.drive && { drive: body.drive }),
      ...(body.wall && { wall: body.wall }),
      ...(body.idleMaxRpm && { idleMaxRpm: body.idleMaxRpm }),
    },
    places,
    runs: frame.runs.map(({ slack, ...r }) => ({
      ...r,
      ...(slack && { lengthMm: Math.round((straight(r.from, r.to) * slack) / 10) * 10 }),
    })),
    powerPoints: [...frame.powerPoints.map((p) => atVolts(p, body)), ...taps(body)],
    grounds: frame.grounds,
    factoryWires: (frame.factoryWires ?? []).map((w) => atVolts(w, body)),
    panels: frame.panels,
    equipment: frame.equipment,
    ...(frame.flasher && { flasher: frame.flasher }),
    rulePacks: frame.rulePacks,
  };
  const model = UnitModel.parse(sheet);
  // read as it will be read again, so that a file of it is the same sheet
  return UnitModel.parse({ ...model, known: assumed(model, figures, { how: 'read', ...at } satisfies Known) });
}
