import type { Band, RuleItem, StateClause } from '#model/rule-pack';

/** The kinds of rule, in words for a list. */
export const KIND_WORD: Record<RuleItem['kind'], string> = {
  equipment: 'equipment there, its count, colour and height',
  separation: 'left and right apart',
  clearance: 'clear of other lamps',
  edge: 'near the unit’s edge',
  symmetry: 'left and right alike',
  above: 'one above another',
  sector: 'seen over an arc',
  intensity: 'bright enough',
  flash: 'flash rate',
  logic: 'switching',
  reading: 'a figure that is read',
  proof: 'a proof, yes or no',
  limit: 'a limit of the class',
  weight: 'laden mass',
};

const list = (x: readonly string[]) => x.map((f) => f.replaceAll('-', ' ')).join(' or ');
const clause = (c: StateClause): string =>
  'control' in c
    ? `${c.control} ${c.in.join(' or ')}`
    : 'lit' in c
      ? `${c.which === 'any' ? 'any ' : ''}${c.side ? `${c.side} ` : ''}${list(c.lit)} lit`
      : `${c.side ? `${c.side} ` : ''}${list(c.dark)} dark`;

/**
 * What a rule asks for, in a phrase.
 * @param mm how a length in millimetres is shown
 */
export function sayRule(r: RuleItem, mm: (x: number) => string): string {
  const band = (b: Band, show: (x: number) => string) =>
    b.min !== undefined && b.max !== undefined
      ? `${show(b.min)} to ${show(b.max)}`
      : b.min !== undefined
        ? `at least ${show(b.min)}`
        : `at most ${show(b.max!)}`;
  const plain = (x: number) => String(x);
  switch (r.kind) {
    case 'equipment':
      return [
        `${r.perSeat ? 'for each seat' : `${r.count} ×`} ${list(r.anyOf)}`,
        r.most !== undefined && `at most ${r.most}`,
        r.eachSide && 'on each side',
        r.side && `on the ${r.side}`,
        r.end && `at the ${r.end}`,
        r.colour && r.colour.join(' or '),
        r.heightMm && `centre ${band(r.heightMm, mm)} up`,
      ]
        .filter(Boolean)
        .join(', ');
    case 'separation':
      return `${list(r.of)} ${band(r.apartMm, mm)} apart, between ${r.measure}`;
    case 'clearance':
      return `${r.colour ? `${r.colour.join(' or ')} ` : ''}${list(r.of)} at least ${mm(r.leastMm)} from ${r.single ? 'a single ' : ''}${list(r.from)}, between ${r.measure}`;
    case 'edge':
      return `${list(r.of)} at most ${mm(r.mostMm)} in from the edge`;
    case 'symmetry':
      return `${list(r.of)} alike within ${mm(r.withinMm)}`;
    case 'above':
      return `${list(r.of)} at least ${mm(r.leastMm)} above ${r.over ? list(r.over) : r.overFact!.name}`;
    case 'sector':
      return `${list(r.of)} seen from ${r.arcDeg[0]}° to ${r.arcDeg[1]}°${r.hiddenMostDeg ? `, at most ${r.hiddenMostDeg}° hidden in one piece` : ''}${r.spillMostDeg ? `, at most ${r.spillMostDeg.ahead}° outside ahead and ${r.spillMostDeg.other}° elsewhere` : ''}`;
    case 'intensity':
      return `${list(r.of)} ${r.rangeNm !== undefined ? `seen at ${r.rangeNm} nm` : `at least ${r.candela} cd`}`;
    case 'flash':
      return `${band(r.perMinute, plain)} a minute${r.onSharePct ? `, lit ${band(r.onSharePct, plain)} % of each beat` : ''}`;
    case 'logic':
      return `${r.some ? 'some position with' : `with ${r.given.map(clause).join(' and ')}:`} ${(r.some ? [...r.given, ...r.then] : r.then).map(clause).join(' and ')}${r.flashing ? ', flashing' : ''}`;
    case 'reading':
      return `${r.question} ${band(r.band, plain)} ${r.unit}`;
    case 'proof':
      return r.question;
    case 'limit':
      return `${r.of} ${[r.above !== undefined && `above ${r.above}`, r.atMost !== undefined && `at most ${r.atMost}`, r.below !== undefined && `under ${r.below}`].filter(Boolean).join(', ')}`;
    case 'weight':
      return r.atMostKg === undefined
        ? 'with people on every seat, within its gross rating'
        : `with people on every seat, at most ${r.atMostKg} kg`;
  }
}
