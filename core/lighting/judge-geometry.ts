import type { Verdict } from '#model/common';
import type { RuleItem } from '#model/rule-pack';
import { round } from '../sum';
import { bandWords, beyond, marginTo, type Answer, type Ask, type Given, type LampFigure } from './item';
import { lampFact, outside, type Lamp, type LampUnit } from './lamp';

type Rule<K extends RuleItem['kind']> = Extract<RuleItem, { kind: K }>;

/** No lamp of a unit like these lights over more than this, millimetres: between centres, so much more than called for is enough whatever the lamps' size. Common practice, no source. */
const WIDEST_MM = 200;

const mm = (x: number) => `${Math.round(x)} mm`;
const spot = (l: Lamp) => `${l.name}${l.at ? `, ${l.where}` : ''}`;

/** Lamps of some functions that can be measured, and what keeps the others from it. */
function measurable(
  fns: readonly string[],
  given: Given,
): { good: (Lamp & { at: NonNullable<Lamp['at']> })[]; bad: LampFigure[]; any: boolean } {
  const all = given.lamps.filter((l) => (fns as string[]).includes(l.function));
  const bad: LampFigure[] = [];
  const good: (Lamp & { at: NonNullable<Lamp['at']> })[] = [];
  for (const lamp of all) {
    const why = !lamp.known ? 'depends on how this unit was ordered' : unplaced(lamp, given.unit);
    if (why) bad.push({ lamp, value: null, verdict: 'unknown', says: why });
    else good.push(lamp as (typeof good)[number]);
  }
  return { good, bad, any: all.length > 0 };
}

/** Why a lamp's place cannot be judged; null when it can. */
export function unplaced(l: Lamp, unit: LampUnit): string | null {
  if (!l.at) return 'its place is not known: measure it';
  const out = outside(unit, l.at);
  return out ? `${out}: check the figure` : null;
}

const nothing = (what: string): Answer => ({ verdict: 'unknown', says: `nothing to measure: no ${what} with a known place` });
const missing = (bad: LampFigure[]): Answer => ({ verdict: 'unknown', says: `${bad[0]!.lamp.name}: ${bad[0]!.says}`, lamps: bad });

/** Ask for the width of what lights on a lamp. */
const askLit = (l: Lamp): Ask => ({
  key: lampFact('lit', l.id),
  question: `How wide is what lights on ${l.name}?`,
  kind: 'number',
  unit: 'mm',
});

type Placed = Lamp & { at: NonNullable<Lamp['at']> };

/** Distance of two lamps seen from the front or rear, between centres or between the edges of what lights; null where an edge is not known and it matters. */
function apart(a: Placed, b: Placed, edges: boolean, least: number): { d: number; sure: boolean } {
  const [dy, dz] = [Math.abs(a.at.y - b.at.y), Math.abs(a.at.z - b.at.z)];
  if (!edges) return { d: Math.hypot(dy, dz), sure: true };
  if (a.litMm && b.litMm)
    return { d: Math.hypot(Math.max(0, dy - (a.litMm.w + b.litMm.w) / 2), Math.max(0, dz - (a.litMm.h + b.litMm.h) / 2)), sure: true };
  const d = Math.hypot(dy, dz);
  return { d, sure: d < least || d >= least + WIDEST_MM };
}

/** The innermost left and right lamp, and how far apart they are. */
export function innerPair(lamps: readonly Placed[]): { left: Placed; right: Placed } | null {
  const inner = (side: 1 | -1) => lamps.filter((l) => l.at.y * side > 0).sort((a, b) => Math.abs(a.at.y) - Math.abs(b.at.y))[0];
  const [left, right] = [inner(1), inner(-1)];
  return left && right ? { left, right } : null;
}

export function judgeSeparation(rule: Rule<'separation'>, given: Given): Answer {
  const { good, bad, any } = measurable(rule.of, given);
  if (bad.length) return missing(bad);
  const pair = innerPair(good);
  if (!pair)
    return any
      ? {
          verdict: 'fails',
          says: 'there is no left and right lamp to make a pair',
          lamps: good.map((lamp) => ({ lamp, value: lamp.at.y, verdict: 'fails', says: 'alone on its side' })),
        }
      : nothing('pair');
  const { left, right } = pair;
  const centres = left.at.y - right.at.y;
  const edges = rule.measure === 'edges';
  const known = !edges || (left.litMm !== undefined && right.litMm !== undefined);
  const d = edges && known ? centres - (left.litMm!.w + right.litMm!.w) / 2 : centres;
  const off = beyond(d, rule.apartMm);
  const lines = [
    { label: spot(left), value: round(left.at.y, 5), unit: 'mm left', source: 'from the centre line' },
    { label: spot(right), value: round(-right.at.y, 5), unit: 'mm right', source: 'from the centre line' },
    { label: edges && known ? 'Between what lights' : 'Between centres', value: round(d, 5), unit: 'mm' },
    { label: 'Called for', value: bandWords(rule.apartMm, 'mm'), kind: 'limit' as const },
  ];
  const margin = marginTo(d, rule.apartMm, 'mm');
  const lamps = (verdict: Verdict, says: string): LampFigure[] => [left, right].map((lamp) => ({ lamp, value: d, verdict, says }));
  if (edges && !known) {
    // whatever their size, they are too close or far enough
    const surely = off < 0 ? 'fails' : rule.apartMm.max === undefined && d - (rule.apartMm.min ?? 0) >= WIDEST_MM ? 'holds' : null;
    if (!surely) {
      const lamp = left.litMm ? right : left;
      return {
        verdict: 'unknown',
        says: `how wide ${lamp.name} lights is not known`,
        asks: askLit(lamp),
        lines,
        lamps: lamps('unknown', 'size not known'),
      };
    }
    if (surely === 'holds')
      return {
        verdict: 'holds',
        says: `${mm(d)} between centres, enough whatever their size`,
        margin,
        lines,
        lamps: lamps('holds', 'far enough'),
      };
  }
  if (off === 0) return { verdict: 'holds', says: `${mm(d)} apart`, margin, lines, lamps: lamps('holds', `${mm(d)} apart`) };
  const says = off < 0 ? `${mm(-off)} too close together` : `${mm(off)} too far apart`;
  return { verdict: 'fails', says, margin, lines, lamps: lamps('fails', says) };
}

export function judgeClearance(rule: Rule<'clearance'>, given: Given): Answer {
  const shown = (l: Lamp) => !rule.colour || l.colour === undefined || rule.colour.includes(l.colour);
  const of = measurable(rule.of, { ...given, lamps: given.lamps.filter(shown) });
  const from = measurable(rule.from, given);
  if (rule.colour && !of.any && given.lamps.some((l) => (rule.of as string[]).includes(l.function)))
    return { verdict: null, says: `does not apply: none of them is ${rule.colour.join(' or ')}` };
  const grey = rule.colour && given.lamps.find((l) => (rule.of as string[]).includes(l.function) && l.colour === undefined);
  if (grey) return { verdict: 'unknown', says: `the colour of ${grey.name} is not known` };
  const bad = [...of.bad, ...from.bad];
  if (rule.single && from.good.length + from.bad.length > 1)
    return { verdict: null, says: `there is more than one ${rule.from.join(' or ')}` };
  if (bad.length) return missing(bad);
  if (!of.good.length || !from.good.length) return nothing(of.good.length ? rule.from.join(' or ') : rule.of.join(' or '));
  let worst: { a: Placed; b: Placed; d: number } | null = null;
  let doubt: Placed | null = null;
  for (const a of of.good)
    for (const b of from.good) {
      const { d, sure } = apart(a, b, rule.measure === 'edges', rule.leastMm);
      if (!sure) doubt ??= a.litMm ? b : a;
      if (!worst || d < worst.d) worst = { a, b, d };
    }
  const { a, b, d } = worst!;
  const lines = [
    {
      label: `${a.name} to ${b.name}`,
      value: round(d, 5),
      unit: 'mm',
      source: rule.measure === 'edges' ? 'between what lights, or centres where the size is not known' : 'between centres',
    },
    { label: 'At least', value: rule.leastMm, unit: 'mm', kind: 'limit' as const },
  ];
  const margin = { used: d, limit: rule.leastMm, unit: 'mm', atLeast: true };
  if (d < rule.leastMm - 1e-9) {
    const says = `${a.name} is ${mm(rule.leastMm - d)} too close to ${b.name}`;
    return { verdict: 'fails', says, margin, lines, lamps: [{ lamp: a, value: d, verdict: 'fails', says }] };
  }
  if (doubt) return { verdict: 'unknown', says: `how wide ${doubt.name} lights is not known`, asks: askLit(doubt), lines };
  return {
    verdict: 'holds',
    says: `${mm(d)} clear`,
    margin,
    lines,
    lamps: of.good.map((lamp) => ({ lamp, value: d, verdict: 'holds', says: `${mm(d)} clear` })),
  };
}

export function judgeEdge(rule: Rule<'edge'>, given: Given): Answer {
  const { good, bad } = measurable(rule.of, given);
  if (bad.length) return missing(bad);
  if (!good.length) return nothing(rule.of.join(' or '));
  if (given.unit.widthMm === undefined) return { verdict: 'unknown', says: 'how wide the unit is, is not on its sheet' };
  // a lamp on the centre line has no edge to be near
  const sided = good.filter((l) => Math.abs(l.at.y) > 20);
  if (!sided.length) return nothing('lamp off the centre line');
  const figures = sided.map((lamp) => {
    const value = given.unit.widthMm! / 2 - Math.abs(lamp.at.y) - (lamp.litMm?.w ?? 0) / 2;
    const ok = value <= rule.mostMm + 1e-9;
    return {
      lamp,
      value,
      verdict: ok ? ('holds' as const) : ('fails' as const),
      says: ok ? `${mm(value)} in from the edge` : `${mm(value - rule.mostMm)} too far in`,
    };
  });
  return worstOf(figures, (f) => f.value!, { max: rule.mostMm }, 'mm in from the edge');
}

export function judgeSymmetry(rule: Rule<'symmetry'>, given: Given): Answer {
  const { good, bad } = measurable(rule.of, given);
  if (bad.length) return missing(bad);
  const by = (side: 1 | -1) => good.filter((l) => l.at.y * side > 20).sort((a, b) => Math.abs(a.at.y) - Math.abs(b.at.y));
  const [left, right] = [by(1), by(-1)];
  if (!left.length && !right.length) return nothing('pair');
  if (left.length !== right.length) return { verdict: 'fails', says: `${left.length} on the left, ${right.length} on the right` };
  const figures = left.map((l, i) => {
    const r = right[i]!;
    const off = Math.max(Math.abs(l.at.y + r.at.y), Math.abs(l.at.z - r.at.z), Math.abs(l.at.x - r.at.x));
    return {
      lamp: l,
      value: off,
      verdict: off <= rule.withinMm ? ('holds' as const) : ('fails' as const),
      says: `${mm(off)} off its other side`,
    };
  });
  return worstOf(figures, (f) => f.value!, { max: rule.withinMm }, 'mm out of true');
}

/** Height over lamps, or over what a person measured: of the functions asked for, the first that the unit has is meant. */
export function judgeAbove(rule: Rule<'above'>, given: Given): Answer {
  const meant = rule.of.find((f) => given.lamps.some((l) => l.function === f));
  const of = measurable(meant ? [meant] : rule.of, given);
  if (of.bad.length) return missing(of.bad);
  if (!of.good.length) return nothing(rule.of.join(' or '));
  // every one of them must stand so high, and over the highest of the others
  const high = of.good.reduce((a, b) => (b.at.z < a.at.z ? b : a));
  let base: { z: number; label: string };
  if (rule.overFact) {
    const key = `unit:${rule.overFact.key}`;
    const z = given.facts[key];
    if (typeof z !== 'number')
      return {
        verdict: 'unknown',
        says: `how high ${rule.overFact.name} is, is not known`,
        asks: { key, question: rule.overFact.question, kind: 'number', unit: 'mm' },
      };
    base = { z, label: rule.overFact.name };
  } else {
    const over = measurable(rule.over!, given);
    if (over.bad.length) return missing(over.bad);
    if (!over.good.length) return nothing(rule.over!.join(' or '));
    const low = over.good.reduce((a, b) => (b.at.z > a.at.z ? b : a));
    base = { z: low.at.z, label: spot(low) };
  }
  const d = high.at.z - base.z;
  const lines = [
    { label: spot(high), value: high.at.z, unit: 'mm up' },
    { label: base.label, value: base.z, unit: 'mm up' },
    { label: 'Above', value: round(d, 5), unit: 'mm' },
    { label: 'At least', value: rule.leastMm, unit: 'mm', kind: 'limit' as const },
  ];
  const ok = d >= rule.leastMm - 1e-9;
  const says = ok ? `${mm(d)} above` : d < 0 ? `${mm(-d)} under ${base.label}` : `${mm(rule.leastMm - d)} too low`;
  return {
    verdict: ok ? 'holds' : 'fails',
    says,
    margin: { used: d, limit: rule.leastMm, unit: 'mm', atLeast: true },
    lines,
    lamps: [{ lamp: high, value: d, verdict: ok ? 'holds' : 'fails', says }],
  };
}

/** An answer from several lamps' figures against one band: the worst of them speaks. */
export function worstOf(
  figures: LampFigure[],
  value: (f: LampFigure) => number,
  band: { min?: number; max?: number },
  unit: string,
): Answer {
  const worst = figures.reduce((a, b) =>
    Math.abs(beyond(value(b), band)) > Math.abs(beyond(value(a), band)) || marginOf(value(b), band) < marginOf(value(a), band) ? b : a,
  );
  const fails = figures.filter((f) => f.verdict === 'fails');
  return {
    verdict: fails.length ? 'fails' : 'holds',
    says: fails.length ? `${fails[0]!.lamp.name}: ${fails[0]!.says}` : worst.says,
    margin: marginTo(value(worst), band, unit),
    lamps: figures,
    lines: [
      ...figures.map((f) => ({ label: spot(f.lamp), value: round(value(f), 5), unit })),
      { label: 'Called for', value: bandWords(band, unit), kind: 'limit' as const },
    ],
  };
}
const marginOf = (x: number, b: { min?: number; max?: number }) =>
  Math.min(b.min === undefined ? Infinity : x - b.min, b.max === undefined ? Infinity : b.max - x);
