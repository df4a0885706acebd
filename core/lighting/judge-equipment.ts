import type { RuleItem } from '#model/rule-pack';
import { round } from '../sum';
import { bandWords, beyond, marginTo, type Answer, type Ask, type Given, type LampFigure } from './item';
import { unplaced } from './judge-geometry';
import type { Lamp } from './lamp';

type EquipmentRule = Extract<RuleItem, { kind: 'equipment' }>;

/** The key of a person's word on an item. */
export const factKey = (pack: string, item: string): string => `lamp:${pack}/${item}`;
/** The key of the height a person measured for an item whose lamp is on no sheet. */
export const heightKey = (pack: string, item: string): string => `height:${pack}/${item}`;

/** Nearer the centre line than this a lamp is on neither side, millimetres. Common practice, no source. */
const CENTRE_MM = 20;
const sideOf = (l: Lamp) => (!l.at || l.at.y === 0 ? null : l.at.y > 0 ? 'left' : 'right');
const pieces = (list: readonly LampFigure[]) => list.reduce((n, f) => n + (f.lamp.pieces ?? 1), 0);

/**
 * Judges that equipment is there, in number, colour and height. A lamp whose place, presence or colour is not known counts
 * as met by nobody: it makes the item *not known* where it could matter, with the question that settles it.
 */
export function judgeEquipment(rule: EquipmentRule, pack: string, given: Given): Answer {
  const key = factKey(pack, rule.id);
  const told = given.facts[key];
  const band = rule.heightMm;
  const functions = rule.anyOf as readonly string[];
  const count = rule.perSeat ? given.unit.seats : rule.count;
  const asks: Ask = rule.perSeat
    ? { key, question: `${rule.title}: how many are there?`, kind: 'number', unit: '' }
    : { key, question: `${rule.title}: is it on this unit?`, kind: 'boolean' };
  if (rule.perSeat && typeof told === 'number')
    return {
      verdict: told >= count ? 'holds' : 'fails',
      says: `${round(told)} for ${count} ${count === 1 ? 'seat' : 'seats'}`,
      margin: { used: told, limit: count, unit: 'pieces', atLeast: true },
      asks,
    };
  const figures = given.lamps
    .filter((l) => functions.includes(l.function))
    .map((lamp): LampFigure => {
      if (rule.colour && lamp.colour && !rule.colour.includes(lamp.colour))
        return { lamp, value: null, verdict: 'fails', says: `is ${lamp.colour}: ${rule.colour.join(' or ')} is called for` };
      if (!lamp.known && told !== true) return { lamp, value: null, verdict: 'unknown', says: 'depends on how this unit was ordered' };
      if (rule.colour && !lamp.colour && told !== true) return { lamp, value: null, verdict: 'unknown', says: 'its colour is not known' };
      if (!band && !rule.eachSide && !rule.side && !rule.end) return { lamp, value: null, verdict: 'holds', says: 'there' };
      const why = unplaced(lamp, given.unit);
      if (why) return { lamp, value: null, verdict: 'unknown', says: why };
      if (rule.side && Math.abs(lamp.at!.y) > CENTRE_MM && sideOf(lamp) !== rule.side)
        return { lamp, value: null, verdict: 'fails', says: `stands on the ${sideOf(lamp)}: it belongs on the ${rule.side}` };
      const mid = middleOf(given.unit);
      if (rule.end && mid === null) return { lamp, value: null, verdict: 'unknown', says: 'how long the unit is, is not known' };
      if (rule.end && lamp.at!.x > mid! !== (rule.end === 'front'))
        return { lamp, value: null, verdict: 'fails', says: `stands at the other end than the ${rule.end}` };
      if (!band) return { lamp, value: null, verdict: 'holds', says: 'there' };
      const z = lamp.at!.z;
      const off = beyond(z, band);
      if (off === 0) return { lamp, value: z, verdict: 'holds', says: `${Math.round(z)} mm up` };
      return { lamp, value: z, verdict: 'fails', says: off < 0 ? `${Math.round(-off)} mm too low` : `${Math.round(off)} mm too high` };
    });
  const enough = (list: LampFigure[]) => {
    if (pieces(list) < count) return false;
    if (!rule.eachSide) return true;
    const free = list.filter((f) => !f.lamp.at).length;
    const lacks = (side: string) => Math.max(0, count / 2 - list.filter((f) => sideOf(f.lamp) === side).length);
    return lacks('left') + lacks('right') <= free;
  };
  const met = figures.filter((f) => f.verdict === 'holds');
  const open = figures.filter((f) => f.verdict === 'unknown');
  const bad = figures.filter((f) => f.verdict === 'fails');
  const measured = [...met, ...bad].filter((f) => f.value !== null);
  const nearest =
    band && measured.length ? measured.reduce((a, b) => (closeness(b.value!, band) < closeness(a.value!, band) ? b : a)) : null;
  const margin = nearest ? marginTo(nearest.value!, band!, 'mm') : null;
  const lines = [
    ...figures.map((f) => ({
      label: `${f.lamp.name}${f.lamp.at ? `, ${f.lamp.where}` : ''}`,
      value: f.value === null ? f.says : round(f.value, 5),
      unit: f.value === null ? undefined : 'mm up',
      source:
        f.lamp.kit ??
        (f.lamp.from === 'factory' ? `${given.unit.name} sheet` : f.lamp.from === 'fitted' ? 'seen at arrival' : 'added to this order'),
    })),
    ...(band ? [{ label: 'Height of its centre', value: bandWords(band, 'mm'), kind: 'limit' as const }] : []),
  ];
  const more = { lamps: figures, margin, lines };

  if (rule.most !== undefined && met.length > rule.most)
    return { verdict: 'fails', says: `${met.length} there, at most ${rule.most} allowed`, ...more };
  if (enough(met)) {
    const names = met.map((f) => f.lamp.name);
    return {
      verdict: 'holds',
      says: `met by ${names.slice(0, 2).join(', ')}${names.length > 2 ? ` and ${names.length - 2} more` : ''}`,
      asks: told === undefined ? null : asks,
      ...more,
    };
  }
  if (told === false) return { verdict: 'fails', says: 'looked for and not there', asks, ...more };
  // a person who saw it on the unit settles that it is there, but not how high
  if (told === true && rule.perSeat && !bad.length)
    return { verdict: 'unknown', says: `seen on the unit, not counted: ${count} are called for`, ...more, asks };
  if (told === true && !bad.length && !open.length) {
    if (!band) return { verdict: 'holds', says: 'seen on the unit', asks, ...more };
    const z = given.facts[heightKey(pack, rule.id)];
    const ask: Ask = { key: heightKey(pack, rule.id), question: `How high is its centre above the ground?`, kind: 'number', unit: 'mm' };
    if (typeof z !== 'number') return { verdict: 'unknown', says: 'seen on the unit; its height is not measured', ...more, asks: ask };
    const off = beyond(z, band);
    const says =
      off === 0
        ? `seen on the unit, ${Math.round(z)} mm up`
        : off < 0
          ? `${Math.round(-off)} mm too low`
          : `${Math.round(off)} mm too high`;
    return { verdict: off === 0 ? 'holds' : 'fails', says, ...more, asks: ask, margin: marginTo(z, band, 'mm') };
  }
  if (enough([...met, ...open])) {
    const f = open[0]!;
    const presence = !f.lamp.known || /colour/.test(f.says);
    return { verdict: 'unknown', says: presence ? f.says : `${f.lamp.name}: ${f.says}`, asks: presence ? asks : null, ...more };
  }
  const wrong = bad[0];
  if (wrong && enough([...met, ...open, ...bad])) {
    const colour = /called for$/.exec(wrong.says);
    return {
      verdict: 'fails',
      says: colour
        ? `${wrong.lamp.name} has the wrong colour: ${rule.colour!.join(' or ')} is called for`
        : `${wrong.lamp.name} is ${wrong.says}`,
      asks: null,
      ...more,
    };
  }
  if (figures.length && figures.every((f) => /called for$/.test(f.says)))
    return {
      verdict: 'fails',
      says: `${wrong!.lamp.name} has the wrong colour: ${rule.colour!.join(' or ')} is called for`,
      asks,
      ...more,
    };
  const astray = bad.find((f) => /^stands /.test(f.says));
  if (astray && figures.length - bad.length < count) return { verdict: 'fails', says: `${astray.lamp.name} ${astray.says}`, asks, ...more };
  const short = count - pieces(figures);
  const says = !figures.length
    ? 'missing'
    : short > 0
      ? `${short} more needed${rule.eachSide ? ', one on each side' : ''}`
      : 'not one on each side';
  return { verdict: 'fails', says, asks, ...more };
}

/** Where the front half of a unit begins, millimetres from its frame's origin; null while its length is not known. */
const middleOf = (u: Given['unit']): number | null => (u.lengthMm === undefined ? null : u.lengthMm / 2 - u.rearOverhangMm);

const closeness = (x: number, b: { min?: number; max?: number }) =>
  Math.min(b.min === undefined ? Infinity : x - b.min, b.max === undefined ? Infinity : b.max - x);
