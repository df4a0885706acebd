import type { EquipmentFunction, LightColour } from '#model/common';
import type { Point } from '#model/lamp';
import type { Order } from '#model/order';
import type { Sheets } from '#model/sheet';
import type { UnitModel } from '#model/unit-model';

/** A piece of equipment the unit will have: from the factory, already fitted, brought by a kit, or added to the order. */
export interface Lamp {
  /** `factory/ID`, `fitted/ID`, `KIT/DEVICE` or `added/ID` */
  id: string;
  name: string;
  function: EquipmentFunction;
  colour?: LightColour;
  /** centre of what lights; null while nobody said where it is */
  at: Point | null;
  /** the words for where it is */
  where: string;
  litMm?: { w: number; h: number };
  candela?: number;
  arcDeg?: readonly [number, number];
  watts?: number;
  /** pieces that it stands for; left out, one */
  pieces?: number;
  /** facts by which a person, or a meter, gave what its sheet does not */
  told?: { candela?: string; arcDeg?: string; litMm?: string };
  from: 'factory' | 'fitted' | 'kit' | 'added';
  /** the kit's name, for one that a kit brings */
  kit?: string;
  /** it is the unit's own lamp of another function, put to this use besides */
  shared?: boolean;
  /** false: it depends on how the unit was ordered, nobody has looked yet */
  known: boolean;
  /** put elsewhere than its sheet says, or measured there */
  moved: boolean;
}

/** What the rules ask about a unit as a whole. */
export interface LampUnit {
  name: string;
  kind: UnitModel['kind'];
  electric: boolean;
  lengthMm?: number;
  widthMm?: number;
  heightMm?: number;
  /** from the rear end of the body to the frame's origin */
  rearOverhangMm: number;
  wheelbaseMm: number;
  seats: number;
  massKg?: number;
  rearShare?: number;
  gvwrKg?: number;
  topSpeedKmh?: number;
  obstacles: UnitModel['obstacles'];
  /** keys of its figures that are on no sheet but were given for it */
  told?: readonly string[];
}

/** Facts that a person told where the sheet does not say: numbers, by key. */
export type Facts = Readonly<Record<string, number | boolean>>;
const number = (facts: Facts, key: string): number | undefined => {
  const v = facts[key];
  return typeof v === 'number' ? v : undefined;
};

/** Keys of the unit's own figures, where its sheet lacks them. */
export const UNIT_FACT = { topSpeedKmh: 'unit:top-speed-kmh', gvwrKg: 'unit:gvwr-kg', lengthM: 'unit:length-m' } as const;
/** Keys of a lamp's figures, where its maker does not give them. */
export const lampFact = (what: 'candela' | 'arc' | 'lit', lamp: string): string => `${what}:${lamp}`;

export function unitOf(model: UnitModel, facts: Facts): LampUnit {
  return {
    name: `${model.maker} ${model.name}`,
    kind: model.kind,
    electric: model.electrical.source.kind === 'none',
    lengthMm: model.dims.lengthMm,
    widthMm: model.dims.widthMm,
    heightMm: model.dims.heightMm,
    rearOverhangMm: model.dims.rearOverhangMm,
    wheelbaseMm: model.dims.wheelbaseMm,
    seats: model.dims.seats,
    massKg: model.massKg,
    rearShare: model.rearShare,
    gvwrKg: model.gvwrKg ?? number(facts, UNIT_FACT.gvwrKg),
    topSpeedKmh: model.topSpeedKmh ?? number(facts, UNIT_FACT.topSpeedKmh),
    obstacles: model.obstacles,
    told: [
      ...(model.gvwrKg === undefined && number(facts, UNIT_FACT.gvwrKg) !== undefined ? [UNIT_FACT.gvwrKg] : []),
      ...(model.topSpeedKmh === undefined && number(facts, UNIT_FACT.topSpeedKmh) !== undefined ? [UNIT_FACT.topSpeedKmh] : []),
    ],
  };
}

/** The arc of a light of which a person gave the width: from where its own sector begins, degrees clockwise from dead ahead. */
export function toldArc(f: EquipmentFunction, deg: number): readonly [number, number] {
  if (f === 'sidelight-port') return [-deg, 0];
  if (f === 'sidelight-starboard') return [0, deg];
  if (f === 'stern') return [180 - deg / 2, 180 + deg / 2];
  return [-deg / 2, deg / 2];
}

/**
 * All equipment of an order's unit, with where it is.
 * @param sheets as agreed for the order: lamps put elsewhere already stand there
 */
export function lampsOf(order: Order, sheets: Sheets): Lamp[] {
  const at = new Map(sheets.model.places.map((p) => [p.id, p]));
  const point = (id: string | undefined): Pick<Lamp, 'at' | 'where'> => {
    const p = id === undefined ? undefined : at.get(id);
    return p ? { at: { x: p.x, y: p.y, z: p.z }, where: p.name } : { at: null, where: 'place not known' };
  };
  const { placed, added } = order.lamps;
  const fill = (lamp: Lamp): Lamp => {
    const given = (what: 'candela' | 'arc' | 'lit') => number(order.facts, lampFact(what, lamp.id));
    const [candela, arc, lit] = [given('candela'), given('arc'), given('lit')];
    const from = {
      ...(lamp.candela === undefined && candela !== undefined && { candela: lampFact('candela', lamp.id) }),
      ...(lamp.arcDeg === undefined && arc !== undefined && { arcDeg: lampFact('arc', lamp.id) }),
      ...(lamp.litMm === undefined && lit !== undefined && { litMm: lampFact('lit', lamp.id) }),
    };
    return {
      ...lamp,
      litMm: lamp.litMm ?? (lit === undefined ? undefined : { w: lit, h: lit }),
      candela: lamp.candela ?? candela,
      arcDeg: lamp.arcDeg ?? (arc === undefined ? undefined : toldArc(lamp.function, arc)),
      ...(Object.keys(from).length && { told: from }),
    };
  };
  const factory = sheets.model.equipment.map((e): Lamp => ({
    id: `factory/${e.id}`,
    name: e.name,
    function: e.function,
    colour: e.colour,
    ...point(e.place),
    litMm: e.litMm,
    candela: e.candela,
    arcDeg: e.arcDeg,
    watts: e.lampW,
    pieces: e.pieces,
    from: 'factory',
    known: e.present === 'yes',
    moved: `factory/${e.id}` in placed,
  }));
  const fitted = order.fitted
    .filter((f) => f.function)
    .map((f): Lamp => {
      const id = `fitted/${f.id}`;
      const spot = placed[id] ?? null;
      return {
        id,
        name: f.name,
        function: f.function!,
        colour: f.colour,
        at: spot,
        where: spot ? 'measured' : 'place not known',
        watts: f.watts ?? undefined,
        from: 'fitted',
        known: true,
        moved: false,
      };
    });
  const twin = new Map(added.flatMap((a) => (a.like ? [[`${a.like.split('/')[0]}/${a.id}`, a.id]] : [])));
  const kits = sheets.kits.flatMap((k) =>
    k.devices
      .filter((d) => d.equipment)
      .map((d): Lamp => {
        const id = `${k.id}/${d.id}`;
        const mine = twin.get(id);
        return {
          id: mine ? `added/${mine}` : id,
          name: d.name,
          function: d.equipment!.function,
          colour: d.equipment!.colour,
          ...point(d.place),
          litMm: d.equipment!.litMm,
          candela: d.equipment!.candela,
          arcDeg: d.equipment!.arcDeg,
          watts: d.equipment!.lampW ?? d.load?.watts ?? undefined,
          pieces: d.equipment!.pieces,
          shared: d.uses !== undefined && d.uses !== d.equipment!.function,
          from: mine ? 'added' : 'kit',
          kit: k.name,
          known: true,
          moved: id in placed,
        };
      }),
  );
  const plain = added
    .filter((a) => !a.like)
    .map((a): Lamp => ({
      id: `added/${a.id}`,
      name: a.name,
      function: a.function,
      colour: a.colour,
      at: a.at,
      where: 'added',
      from: 'added',
      known: true,
      moved: false,
    }));
  // a lamp that a kit puts in the place of the unit's own is all that is left there
  const instead = sheets.kits.flatMap((k) =>
    k.devices.flatMap((d) => (d.equipment?.replaces ? [{ function: d.equipment.function, y: at.get(d.place)?.y ?? 0 }] : [])),
  );
  const kept = factory.filter((l) => !instead.some((r) => r.function === l.function && (!l.at || Math.sign(l.at.y) === Math.sign(r.y))));
  return [...kept, ...fitted, ...kits, ...plain].map(fill);
}

// How far beyond the body a lamp on a bracket, a pole or a strut may stand before its figure is doubted, millimetres. Common practice, no source.
const BESIDE = 300;
const BEYOND = 400;
const OVER = 2000;
const UNDER_WATER = 300;

/** Why a point cannot be on the unit: by how much it is outside; null when it can. */
export function outside(unit: LampUnit, p: Point): string | null {
  const mm = (x: number) => `${Math.round(x)} mm`;
  if (unit.kind !== 'boat' && p.z < 0) return `${mm(-p.z)} under the ground`;
  if (p.z < -UNDER_WATER) return `${mm(-p.z)} under the water`;
  if (unit.heightMm !== undefined && p.z > unit.heightMm + OVER) return `${mm(p.z - unit.heightMm)} over the unit’s top`;
  if (unit.widthMm !== undefined && Math.abs(p.y) > unit.widthMm / 2 + BESIDE)
    return `${mm(Math.abs(p.y) - unit.widthMm / 2)} beyond the unit’s ${p.y > 0 ? 'left' : 'right'} side`;
  if (unit.lengthMm === undefined) return null;
  const [rear, front] = [-unit.rearOverhangMm, unit.lengthMm - unit.rearOverhangMm];
  if (p.x > front + BEYOND) return `${mm(p.x - front)} ahead of the unit`;
  if (p.x < rear - BEYOND) return `${mm(rear - p.x)} behind the unit`;
  return null;
}
