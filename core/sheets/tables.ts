import type { PowerPoint } from '#model/unit-model';
import { type UnitModel } from '#model/unit-model';
import { WireColour } from '#model/common';
import { ImpossibleInput } from '../errors';
import { parseQuantity, type QuantityKind, type UnitSystem } from '../quantity/quantity';
import { addPlace, movePlace, type Typed } from './edit-model';
import { addThing, changeThing } from './edit-things';
import type { TableKind } from './read-table';

/** A line of a box’s contents. */
export interface ContentLine {
  item: string;
  count: number;
  torqueNm?: number;
}

const MOST_TORQUE_NM = 1000;

/** What is in a box. */
export const CONTENTS: TableKind<'count' | 'torqueNm' | 'item', ContentLine> = {
  columns: {
    count: {
      name: 'how many',
      head: /^(count|qty|quantity|pcs|pieces|how many|number|no\.?|#|×|x)$/i,
      cells: /^\d{1,3}( ?[×x])?$/,
    },
    torqueNm: { name: 'torque, N·m', head: /(torque|n·?m)/i },
    item: { name: 'what it is', head: /(item|part|description|what|name|content)/i },
  },
  key: 'item',
  line: (cells, item) => {
    const said = (cells.count ?? '1').replace(/ ?[×x]$/, '');
    const count = Number(said);
    if (!/^\d+$/.test(said) || count < 1 || count > 999) throw new ImpossibleInput(`“${said}” is not a count`);
    if (!cells.torqueNm) return { item, count };
    const torqueNm = Number(/^[\d.]+/.exec(cells.torqueNm.replace(',', '.'))?.[0]);
    if (!(torqueNm > 0) || torqueNm > MOST_TORQUE_NM) throw new ImpossibleInput(`“${cells.torqueNm}” is not a torque in N·m`);
    return { item, count, torqueNm };
  },
};

/** A figure of a cell in its SI unit, a minus included; a bare one is in the shop’s unit. */
function figure(cell: string, kind: QuantityKind, units: UnitSystem): number {
  const back = /^[-−]/.test(cell);
  return parseQuantity(cell.replace(/^[-−]/, ''), kind, units) * (back ? -1 : 1);
}

/** A place by its name, as a table says where it is, mm. */
export type PlaceLine = { name: string } & Partial<Record<'x' | 'y' | 'z', number>>;

/** Where the places of a unit are. `m` says which there are. */
export const placeTable = (m: UnitModel, units: UnitSystem): TableKind<'place' | 'x' | 'y' | 'z', PlaceLine> => ({
  columns: {
    place: { name: 'which place', head: /(place|name|where|point|location)/i },
    x: { name: 'forward of the origin', head: /^(x|forward|length|fore)/i },
    y: { name: 'left of the middle', head: /^(y|left|side|across)/i },
    z: { name: 'above the ground', head: /^(z|height|up|above)/i },
  },
  key: 'place',
  line: (cells, name) => {
    const line: PlaceLine = { name };
    for (const axis of ['x', 'y', 'z'] as const) if (cells[axis]) line[axis] = Math.round(figure(cells[axis], 'smallLength', units));
    const figures = Object.keys(line).length - 1;
    if (!figures) throw new ImpossibleInput('no figure says where it is');
    if (figures < 3 && !m.places.some((p) => same(p.name, name))) throw new ImpossibleInput('it is new, and needs all three figures');
    return line;
  },
});

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** Puts places where a table says: one that is there is moved, another is new and needs all three figures. */
export const withPlaces = (m: UnitModel, lines: readonly PlaceLine[], typed: Typed): UnitModel =>
  lines.reduce((model, { name, ...to }) => {
    const there = model.places.find((p) => same(p.name, name));
    if (there) return movePlace(model, there.id, to, typed);
    const at = { x: 0, y: 0, z: 0, ...to };
    const made = addPlace(model, name, at);
    return movePlace(made.model, made.id, at, typed);
  }, m);

/** A feed as a fuse list says it. */
export interface FuseLine {
  name: string;
  fuseA?: number;
  switching?: PowerPoint['switching'];
  /** a place of the unit, by its id */
  place?: string;
  usedA?: number;
}

/** What of a fuse list says that it is live with the key off too. */
const ALWAYS = /^(always|constant|battery|bat|b\+|permanent|30|yes|on)$/i;
const KEYED = /^(key(ed)?|ignition|ign|acc(essory)?|switched|run|15|no|with the key)$/i;
const MOST_FUSE_A = 500;

/** Fuses of a unit and what each guards. `m` says which places there are. */
export const fuseTable = (m: UnitModel, units: UnitSystem): TableKind<'feed' | 'fuse' | 'live' | 'place' | 'used', FuseLine> => ({
  columns: {
    fuse: { name: 'its fuse, A', head: /(rating|amp|size|^a$|^fuse$|fuse,? ?\(?a\b)/i, cells: /^\d{1,3}(\.5)? ?A?$/i },
    live: {
      name: 'live always or with the key',
      head: /(live|switch|key|when|hot)/i,
      cells: /^(always|constant|keyed?|ignition|switched)$/i,
    },
    place: { name: 'where it is', head: /(where|place|location|box)/i },
    used: { name: 'drawn already, A', head: /(used|drawn|load|draw)/i },
    feed: { name: 'what it feeds', head: /(feed|circuit|name|function|protects|description|fuse)/i },
  },
  key: 'feed',
  line: (cells, name) => {
    const line: FuseLine = { name };
    const amps = (cell: string, what: string) => {
      const a = figure(cell, 'amps', units);
      if (a < 0 || a > MOST_FUSE_A) throw new ImpossibleInput(`“${cell}” is no ${what}`);
      return a;
    };
    if (cells.fuse) line.fuseA = amps(cells.fuse, 'fuse');
    if (line.fuseA === 0) throw new ImpossibleInput(`“${cells.fuse}” is no fuse`);
    if (cells.used) line.usedA = amps(cells.used, 'draw');
    if (cells.live) {
      line.switching = ALWAYS.test(cells.live) ? 'constant' : KEYED.test(cells.live) ? 'keyed' : undefined!;
      if (!line.switching) throw new ImpossibleInput(`“${cells.live}” says neither always nor with the key`);
    }
    if (cells.place) {
      const at = m.places.find((p) => same(p.name, cells.place!) || same(p.id, cells.place!));
      if (!at) throw new ImpossibleInput(`the unit has no place “${cells.place}”`);
      line.place = at.id;
    }
    const there = m.powerPoints.some((p) => same(p.name, name));
    if (!there && !line.place) throw new ImpossibleInput('it is new, and no column says where it is');
    return line;
  },
});

/** Puts feeds in as a fuse list says: one that is there is changed, another is new at its place. */
export const withFuses = (m: UnitModel, lines: readonly FuseLine[], typed: Typed): UnitModel =>
  lines.reduce((model, { name, ...change }) => {
    const there = model.powerPoints.find((p) => same(p.name, name));
    if (there) return changeThing(model, 'powerPoints', there.id, change, typed);
    const made = addThing(model, 'powerPoints', name, change.place!, typed);
    return changeThing(made.model, 'powerPoints', made.id, { ...change, kind: 'fuse-box-screw' }, typed);
  }, m);

/** Colours as they are written out, by their letters of IEC 60757. */
const COLOUR_WORD: Record<string, string> = {
  black: 'BK',
  brown: 'BN',
  red: 'RD',
  orange: 'OG',
  yellow: 'YE',
  green: 'GN',
  blue: 'BU',
  violet: 'VT',
  purple: 'VT',
  grey: 'GY',
  gray: 'GY',
  white: 'WH',
  pink: 'PK',
  turquoise: 'TQ',
};

/** Letters of a wire’s colour as a pinout writes it: `BN`, `brown`, `Green/Yellow`. */
function colourOf(cell: string): string {
  const letters = cell
    .split(/[\s/,-]+/)
    .map((w) => COLOUR_WORD[w.toLowerCase()] ?? w.toUpperCase())
    .join('/')
    // the one that is protective earth has letters of its own, others are written without a stroke too
    .replace(/^(?!GNYE$)([A-Z]{2})([A-Z]{2})$/, '$1/$2');
  const read = WireColour.safeParse(letters);
  if (!read.success) throw new ImpossibleInput(`“${cell}” is no colour of a wire`);
  return read.data;
}

export type PinLine = PowerPoint['pins'][number];
const MOST_PINS = 24;

/** The cavities of a plug. */
export const PINS: TableKind<'pin' | 'colour' | 'use', PinLine> = {
  columns: {
    pin: { name: 'which pin', head: /^(pin|cavity|position|no\.?|#|terminal)/i, cells: /^[A-Z]?\d{0,2}$/i },
    colour: { name: 'colour', head: /(colou?r|wire)/i, cells: /^[A-Z]{2}([/ ]?[A-Z]{2})?$/ },
    use: { name: 'what it is for', head: /(use|function|signal|circuit|description|name|what)/i },
  },
  key: 'pin',
  line: (cells, pin) => {
    if (pin.length > 8) throw new ImpossibleInput('a pin is called by a few letters or figures');
    const use = (cells.use ?? 'not said').slice(0, 60);
    const carries = /\b(ground|earth|gnd|minus|negative)\b/i.test(use)
      ? ('ground' as const)
      : /\b(feed|power|supply|12 ?v|plus|positive|battery|keyed)\b/i.test(use)
        ? ('feed' as const)
        : undefined;
    return { pin, use, ...(cells.colour && { colour: colourOf(cells.colour) }), ...(carries && { carries }) };
  },
};

/** A feed whose plug has these pins. @throws ImpossibleInput for a pin that is there twice, or more than any plug has */
export function withPins(m: UnitModel, feed: string, pins: readonly PinLine[], typed: Typed): UnitModel {
  const twice = pins.find((p, i) => pins.findIndex((q) => same(q.pin, p.pin)) !== i);
  if (twice) throw new ImpossibleInput(`pin ${twice.pin} is there twice`, 'pins');
  if (pins.length > MOST_PINS) throw new ImpossibleInput(`${pins.length} pins: no plug here has more than ${MOST_PINS}`, 'pins');
  return changeThing(m, 'powerPoints', feed, { pins: [...pins] }, typed);
}
