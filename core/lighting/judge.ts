import type { Verdict } from '#model/common';
import type { RuleItem, RulePack } from '#model/rule-pack';
import { round, sum } from '../sum';
import { judgeApplies } from './applies';
import { bandWords, beyond, itemOf, marginTo, type Answer, type Given, type LampItem } from './item';
import { factKey, judgeEquipment } from './judge-equipment';
import { judgeAbove, judgeClearance, judgeEdge, judgeSeparation, judgeSymmetry, unplaced } from './judge-geometry';
import { lampFact, UNIT_FACT, type Lamp } from './lamp';
import { hasSwitch, proveLogic } from './logic';
import { bearing, gapsIn, inArc, RAYS, sightOf, STEP_DEG, wholeGaps, type Sight } from './occlusion';
import { intensityForRange, rangeOfIntensity } from './range';

type Rule<K extends RuleItem['kind']> = Extract<RuleItem, { kind: K }>;

/** A gap in an arc no wider than one ray is the reckoning's own. */
const RAY_DEG = 0.5;
/** Numbers of a flasher that a person measured, by key. */
export const FLASH_FACT = { perMinute: 'flash:per-minute', onSharePct: 'flash:on-share', jitterPct: 'flash:jitter' } as const;

const lampsWith = (fns: readonly string[], given: Given): Lamp[] => given.lamps.filter((l) => fns.includes(l.function));
const none = (fns: readonly string[]): Answer => ({ verdict: 'unknown', says: `nothing to judge: no ${fns.join(' or ')}` });

/** A light's sight, kept while neither it nor what is around it changes. */
const sights = new WeakMap<object, Map<string, Sight>>();
export function sightFor(l: Lamp, given: Pick<Given, 'unit'>): Sight {
  const { obstacles } = given.unit;
  const known = sights.get(obstacles) ?? new Map<string, Sight>();
  sights.set(obstacles, known);
  const key = JSON.stringify([l.at, l.arcDeg]);
  let s = known.get(key);
  if (!s) {
    if (known.size > 200) known.clear();
    s = sightOf(l.at!, obstacles, l.arcDeg ?? null);
    known.set(key, s);
  }
  return s;
}

function judgeSector(rule: Rule<'sector'>, given: Given): Answer {
  const lamps = lampsWith(rule.of, given);
  if (!lamps.length) return none(rule.of);
  for (const l of lamps) {
    const why = !l.known ? 'depends on how this unit was ordered' : unplaced(l, given.unit);
    if (why) return { verdict: 'unknown', says: `${l.name}: ${why}` };
    if (!l.arcDeg)
      return {
        verdict: 'unknown',
        says: `over what arc ${l.name} shines is not known`,
        asks: { key: lampFact('arc', l.id), question: `Over how many degrees does ${l.name} shine?`, kind: 'number', unit: 'deg' },
      };
  }
  const [from, to] = rule.arcDeg;
  const pieces = gapsIn(
    rule.arcDeg,
    lamps.map((l) => sightFor(l, given)),
    given.unit.obstacles,
  );
  const whole = wholeGaps(rule.arcDeg, pieces);
  const hidden = pieces.reduce((s, p) => s + p.to - p.from, 0);
  const widest = whole.reduce<(typeof whole)[0] | null>((a, b) => (a && a.to - a.from >= b.to - b.from ? a : b), null);
  const worst = widest ? widest.to - widest.from : 0;
  const ok = worst <= Math.max(rule.hiddenMostDeg, RAY_DEG) + 1e-9;
  const asked = to - from;
  const lines = [
    { label: 'Needed', value: round(asked, 4), unit: '°' },
    ...whole.map((g) => ({
      label: `Hidden by ${g.by.join(', ')}`,
      value: `${round(g.to - g.from)}° at ${Math.round(((((g.from + g.to) / 2) % 360) + 360) % 360)}°`,
      source: 'rays at 0.5° from the lamp, level at its height',
    })),
    { label: 'Seen', value: round(asked - hidden, 4), unit: '°' },
    { label: 'Most that may be hidden in one piece', value: rule.hiddenMostDeg, unit: '°', kind: 'limit' as const },
  ];
  const spill = rule.spillMostDeg ? spills(rule.arcDeg, rule.spillMostDeg, lamps) : null;
  if (spill) {
    const { lamp, deg, where, most } = spill;
    const says = `${lamp.name} shows over ${round(deg)}° too much ${where}: at most ${most}° outside its sector`;
    return {
      verdict: 'fails',
      says,
      margin: { used: deg, limit: most, unit: 'degrees outside', atLeast: false },
      gaps: pieces,
      lines: [...lines, { label: `${lamp.name}, outside its sector ${where}`, value: round(deg), unit: '°' }],
      lamps: [{ lamp, value: deg, verdict: 'fails', says }],
    };
  }
  const by = widest?.by.join(', ') ?? '';
  const hides = widest && widest.by.length > 1 ? 'hide' : 'hides';
  const says = !worst
    ? `seen over all of ${round(asked, 4)}°`
    : ok
      ? `seen over ${round(asked - hidden, 4)}°; ${by} ${hides} ${round(worst)}°, allowed`
      : `${by} ${hides} ${round(worst)}° in one piece${rule.hiddenMostDeg ? `, ${rule.hiddenMostDeg}° allowed` : ''}`;
  return {
    verdict: ok ? 'holds' : 'fails',
    says: widest && widest.by[0] === 'no lamp shines there' ? `no light over ${round(worst)}° of ${round(asked, 4)}°` : says,
    margin: { used: worst, limit: rule.hiddenMostDeg, unit: 'degrees hidden', atLeast: false },
    gaps: pieces,
    lines,
    lamps: lamps.map((lamp) => ({ lamp, value: worst, verdict: ok ? 'holds' : 'fails', says: `${round(worst)}° hidden` })),
  };
}

/** The light that shows most outside of an arc, beyond what it may at a limit dead ahead and at another; null where none does. */
function spills(
  arc: readonly [number, number],
  most: { ahead: number; other: number },
  lamps: readonly Lamp[],
): { lamp: Lamp; deg: number; where: string; most: number } | null {
  let worst: ReturnType<typeof spills> = null;
  const note = (lamp: Lamp, deg: number, where: string, allowed: number) => {
    if (deg > allowed + RAY_DEG / 2 && (!worst || deg - allowed > worst.deg - worst.most)) worst = { lamp, deg, where, most: allowed };
  };
  for (const lamp of lamps) {
    const shows = (ray: number) => inArc(bearing(((ray % RAYS) + RAYS) % RAYS), lamp.arcDeg!);
    const outside = Array.from({ length: RAYS }, (_, i) => i).filter((i) => shows(i) && !inArc(bearing(i), arc));
    if (!outside.length) continue;
    // what goes on from either limit, and what lies elsewhere
    const from = (limit: number, way: 1 | -1) => {
      let n = 0;
      for (let ray = Math.round(limit / STEP_DEG) + (way < 0 ? -1 : 0); n < outside.length && shows(ray); ray += way) n++;
      return n;
    };
    const [before, after] = [from(arc[0], -1), from(arc[1], 1)];
    const isAhead = (limit: number) => ((limit % 360) + 360) % 360 === 0;
    for (const [n, limit] of [
      [before, arc[0]],
      [after, arc[1]],
    ] as const)
      note(lamp, n * STEP_DEG, isAhead(limit) ? 'ahead' : 'at its other limit', isAhead(limit) ? most.ahead : most.other);
    note(lamp, (outside.length - Math.min(outside.length, before + after)) * STEP_DEG, 'elsewhere', 0);
  }
  return worst;
}

function judgeIntensity(rule: Rule<'intensity'>, given: Given): Answer {
  const lamps = lampsWith(rule.of, given);
  if (!lamps.length) return none(rule.of);
  const need = rule.candela ?? intensityForRange(rule.rangeNm!, rule.transmissivity);
  const dim = lamps.find((l) => l.candela === undefined);
  const lines = [
    ...lamps
      .filter((l) => l.candela !== undefined)
      .map((l) => ({
        label: l.name,
        value: l.candela!,
        unit: 'cd',
        source: `seen at ${round(rangeOfIntensity(l.candela!, rule.transmissivity))} nm`,
      })),
    {
      label: rule.rangeNm ? `Needed for ${rule.rangeNm} nm` : 'Needed',
      value: round(need),
      unit: 'cd',
      source: rule.rangeNm ? `33 CFR 84, K ${rule.transmissivity}` : undefined,
      kind: 'limit' as const,
    },
  ];
  // the published table rounds to two figures, so a lamp sold for the range is enough for it
  const least = Number(need.toPrecision(2)) < need ? Number(need.toPrecision(2)) : need;
  const weak = lamps.find((l) => l.candela !== undefined && l.candela < least - 1e-9);
  if (weak)
    return {
      verdict: 'fails',
      says: `${weak.name}: ${round(weak.candela!)} cd, ${round(need)} cd needed`,
      margin: { used: weak.candela!, limit: round(need), unit: 'cd', atLeast: true },
      lines,
      lamps: [{ lamp: weak, value: weak.candela!, verdict: 'fails', says: 'too weak' }],
    };
  if (dim)
    return {
      verdict: 'unknown',
      says: `how bright ${dim.name} is, its maker does not say`,
      lines,
      asks: { key: lampFact('candela', dim.id), question: `How many candela has ${dim.name}?`, kind: 'number', unit: 'cd' },
    };
  const least2 = Math.min(...lamps.map((l) => l.candela!));
  const used = { used: least2, limit: round(need), unit: 'cd', atLeast: true };
  return {
    verdict: 'holds',
    says: rule.rangeNm ? `seen at ${round(rangeOfIntensity(least2, rule.transmissivity))} nm` : `${round(least2)} cd`,
    margin: used,
    lines,
  };
}

function judgeFlash(rule: Rule<'flash'>, given: Given): Answer {
  const { measured, forecast } = given.flash;
  const asks = { key: FLASH_FACT.perMinute, question: 'How many flashes a minute?', kind: 'number' as const, unit: 'perMin' as const };
  const limit = { label: 'Called for', value: bandWords(rule.perMinute, 'a minute'), kind: 'limit' as const };
  if (measured) {
    const off = beyond(measured.perMinute, rule.perMinute);
    const lines = [{ label: 'Measured', value: round(measured.perMinute), unit: 'a minute', source: measured.from }, limit];
    const margin = marginTo(measured.perMinute, rule.perMinute, 'a minute');
    const remedies = off > 0 ? (forecast?.remedies.map((r) => r.says) ?? []) : [];
    if (off !== 0)
      return {
        verdict: 'fails',
        says: off > 0 ? `${round(off)} a minute too fast` : `${round(-off)} a minute too slow`,
        margin,
        lines,
        asks,
        remedies,
      };
    if (!rule.onSharePct) return { verdict: 'holds', says: `${round(measured.perMinute)} a minute`, margin, lines, asks };
    if (measured.onSharePct === null)
      return {
        verdict: 'unknown',
        says: `${round(measured.perMinute)} a minute; how long it is lit of each beat is not read`,
        margin,
        lines,
        asks: { key: FLASH_FACT.onSharePct, question: 'Lit for how much of each beat, per cent?', kind: 'number', unit: '' },
      };
    const share = beyond(measured.onSharePct, rule.onSharePct);
    lines.push({ label: 'Lit', value: round(measured.onSharePct), unit: '% of each beat', source: measured.from });
    if (share !== 0)
      return {
        verdict: 'fails',
        says: `lit ${round(measured.onSharePct)} % of each beat, ${bandWords(rule.onSharePct, '%')} called for`,
        margin: marginTo(measured.onSharePct, rule.onSharePct, '% lit'),
        lines,
        asks,
      };
    return {
      verdict: 'holds',
      says: `${round(measured.perMinute)} a minute, lit ${round(measured.onSharePct)} % of each`,
      margin,
      lines,
      asks,
    };
  }
  if (!forecast) return { verdict: 'unknown', says: 'not counted yet, and the flasher is on no sheet', asks, lines: [limit] };
  const off = beyond(forecast.perMinute, rule.perMinute);
  const lines = [...forecast.sum, limit];
  if (off !== 0)
    return {
      verdict: 'fails',
      says: forecast.perMinute === 0 ? forecast.says : `will flash ${round(forecast.perMinute)} a minute: ${forecast.says}`,
      margin: marginTo(forecast.perMinute, rule.perMinute, 'a minute'),
      lines,
      asks,
      remedies: forecast.remedies.map((r) => r.says),
    };
  if (forecast.tight)
    return { verdict: 'tight', says: `about ${round(forecast.perMinute)} a minute to be expected: ${forecast.says}`, lines, asks };
  return {
    verdict: 'unknown',
    says: `about ${round(forecast.perMinute)} a minute to be expected; count it when it is fitted`,
    lines,
    asks,
  };
}

function judgeLogic(rule: Rule<'logic'>, pack: string, given: Given): Answer {
  const key = factKey(pack, rule.id);
  const told = given.facts[key];
  const asks = { key, question: rule.question, kind: 'boolean' as const };
  if (told === false) return { verdict: 'fails', says: 'tried and failed', asks };
  if (rule.ifSwitch && given.table && given.lamps.length && !hasSwitch(given.table, rule.ifSwitch))
    return { verdict: null, says: `does not apply: no switch is marked so; judged in every position of what there is` };
  const proof = given.table ? proveLogic(rule, given.table) : null;
  const lines = proof
    ? [
        { label: 'States tried', value: proof.tried },
        { label: 'Called for in', value: proof.called, unit: 'states' },
      ]
    : [];
  if (proof?.outcome === 'fails') {
    const off = proof.failing?.controls['unit#key'] === 'off';
    const remedies = off && / dark$/.test(proof.says) ? ['feed its circuit from a point that is live with the key off, at Wire'] : [];
    return { verdict: 'fails', says: proof.says, failing: proof.failing, lines, asks: null, remedies };
  }
  if (proof?.outcome === 'holds') return { verdict: 'holds', says: proof.says, lines, asks: told === undefined ? null : asks };
  if (told === true) return { verdict: 'holds', says: 'tried on the unit, told by a person', lines, asks };
  return { verdict: 'unknown', says: proof?.says ?? 'the wiring is not known: try it on the unit', lines, asks };
}

function judgeLimit(rule: Rule<'limit'>, given: Given): Answer {
  const { unit: u } = given;
  const value = rule.of === 'lengthM' ? (u.lengthMm === undefined ? undefined : u.lengthMm / 1000) : u[rule.of];
  const [word, unit] = ({ gvwrKg: ['gross rating', 'kg'], topSpeedKmh: ['top speed', 'km/h'], lengthM: ['length', 'm'] } as const)[rule.of];
  if (value === undefined)
    return {
      verdict: 'unknown',
      says: `${word} not on the sheet`,
      asks: { key: UNIT_FACT[rule.of], question: `What is its ${word}?`, kind: 'number', unit },
    };
  const top = rule.atMost ?? rule.below;
  const lines = [
    { label: 'This unit', value: round(value, 5), unit, source: `${u.name} sheet` },
    ...(rule.above !== undefined ? [{ label: 'More than', value: rule.above, unit, kind: 'limit' as const }] : []),
    ...(top !== undefined ? [{ label: rule.below === undefined ? 'At most' : 'Under', value: top, unit, kind: 'limit' as const }] : []),
  ];
  const margin = { used: value, limit: top ?? rule.above!, unit, atLeast: top === undefined };
  if (top !== undefined && (rule.below !== undefined ? value >= top : value > top))
    return { verdict: 'fails', says: value === top ? `not under ${top} ${unit}` : `over by ${round(value - top)} ${unit}`, margin, lines };
  if (rule.above !== undefined && value <= rule.above)
    return {
      verdict: 'fails',
      says: `not above ${rule.above} ${unit}`,
      margin: { used: value, limit: rule.above, unit, atLeast: true },
      lines,
    };
  return { verdict: 'holds', says: 'within the class', margin, lines };
}

function judgeWeight(rule: Rule<'weight'>, given: Given): Answer {
  const w = given.weight;
  const most = rule.atMostKg ?? given.unit.gvwrKg;
  if (most === undefined)
    return {
      verdict: 'unknown',
      says: 'gross rating not on the sheet',
      lines: w?.sum,
      asks: { key: UNIT_FACT.gvwrKg, question: 'What is its gross rating?', kind: 'number', unit: 'kg' },
    };
  if (!w || w.ladenKg === null) return { verdict: 'unknown', says: 'the unit’s mass is not on the sheet', lines: w?.sum };
  const left = most - w.ladenKg;
  return {
    verdict: left < 0 ? 'fails' : left < most * 0.02 ? 'tight' : 'holds',
    says: left < 0 ? `over by ${round(-left)} kg with people on every seat` : `${round(left)} kg left, people on every seat`,
    margin: { used: w.ladenKg, limit: most, unit: 'kg', atLeast: false },
    lines: w.sum,
  };
}

function judgeReading(rule: Rule<'reading'>, pack: string, given: Given): Answer {
  const key = factKey(pack, rule.id);
  const asks = { key, question: rule.question, kind: 'number' as const, unit: rule.unit === 'count' ? ('' as const) : rule.unit };
  const x = given.facts[key];
  const limit = { label: 'Called for', value: bandWords(rule.band, rule.unit), kind: 'limit' as const };
  // a yes from before figures were asked for is a proof without one
  if (typeof x === 'boolean')
    return x
      ? { verdict: 'holds', says: 'proved by a person, no figure given', asks, lines: [limit] }
      : { verdict: 'fails', says: 'tried and failed', asks, lines: [limit] };
  if (x === undefined) return { verdict: 'unknown', says: 'not proved yet', asks, lines: [limit] };
  const off = beyond(x, rule.band);
  return {
    verdict: off === 0 ? 'holds' : 'fails',
    says: off === 0 ? `${round(x)} ${rule.unit}` : off < 0 ? `${round(-off)} ${rule.unit} short` : `${round(off)} ${rule.unit} too much`,
    margin: marginTo(x, rule.band, rule.unit),
    asks,
    lines: [{ label: 'Read', value: round(x), unit: rule.unit }, limit],
  };
}

/** How a unit stands to a rule that applies to it. */
export function judgeRule(rule: RuleItem, pack: string, given: Given): Answer {
  switch (rule.kind) {
    case 'equipment':
      return judgeEquipment(rule, pack, given);
    case 'separation':
      return judgeSeparation(rule, given);
    case 'clearance':
      return judgeClearance(rule, given);
    case 'edge':
      return judgeEdge(rule, given);
    case 'symmetry':
      return judgeSymmetry(rule, given);
    case 'above':
      return judgeAbove(rule, given);
    case 'sector':
      return judgeSector(rule, given);
    case 'intensity':
      return judgeIntensity(rule, given);
    case 'flash':
      return judgeFlash(rule, given);
    case 'logic':
      return judgeLogic(rule, pack, given);
    case 'limit':
      return judgeLimit(rule, given);
    case 'weight':
      return judgeWeight(rule, given);
    case 'reading':
      return judgeReading(rule, pack, given);
    case 'proof': {
      const key = factKey(pack, rule.id);
      const told = given.facts[key];
      const asks = { key, question: rule.question, kind: 'boolean' as const };
      if (told === undefined) return { verdict: 'unknown', says: 'not proved yet', asks };
      return told ? { verdict: 'holds', says: 'proved by a person', asks } : { verdict: 'fails', says: 'tried and failed', asks };
    }
  }
}

/** The functions that a rule is about. */
const about = (r: RuleItem): readonly string[] => ('of' in r && Array.isArray(r.of) ? r.of : 'anyOf' in r ? r.anyOf : []);
/** Which figure of a lamp a kind of rule goes by. */
const GOES_BY: Partial<Record<RuleItem['kind'], keyof NonNullable<Lamp['told']>>> = {
  sector: 'arcDeg',
  intensity: 'candela',
  separation: 'litMm',
  clearance: 'litMm',
  edge: 'litMm',
};

/** Judges one item: whether it applies at all, how the unit stands to it, and what of that was told or measured. */
export function judgeItem(rule: RuleItem, pack: Pick<RulePack, 'id' | 'edition'>, given: Given): LampItem {
  const used = new Set<string>();
  const facts = new Proxy(given.facts, {
    get: (all, key: string) => {
      if (key in all) used.add(key);
      return all[key];
    },
  });
  const judged = { ...given, facts };
  const when = judgeApplies(rule.when, given.unit, facts, given.uses, given.lamps);
  if (when.applies === false) return itemOf(rule, pack, { verdict: null, says: `does not apply: ${when.why}` });
  if (when.applies === 'ask') return itemOf(rule, pack, { verdict: 'unknown', says: `whether it applies: ${when.why}`, asks: when.ask });
  const answer = judgeRule(rule, pack.id, judged);
  const by = GOES_BY[rule.kind];
  if (by) for (const l of given.lamps) if (about(rule).includes(l.function) && l.told?.[by]) used.add(l.told[by]);
  if (rule.kind === 'limit' && given.unit.told?.includes(UNIT_FACT[rule.of])) used.add(UNIT_FACT[rule.of]);
  const counted = rule.kind === 'flash' ? given.flash.measured?.basis : undefined;
  const basis = counted ?? (used.size === 0 ? null : [...used].every((k) => given.measured?.has(k)) ? 'measured' : 'told');
  return itemOf(rule, pack, { basis, ...answer });
}

/** Judges every item of a pack in its own order; what could not be read stands among them, named, as not known. */
export function judgePack(pack: RulePack, given: Given): LampItem[] {
  const out = pack.items.map((r) => judgeItem(r, pack, given));
  for (const b of [...(pack.bad ?? [])].sort((x, y) => x.index - y.index)) {
    const says = `cannot be judged: item ${b.index + 1}, “${b.id}”: ${b.message}`;
    out.splice(b.index, 0, {
      id: b.id,
      pack: pack.id,
      title: b.title,
      source: pack.name,
      rule: null,
      verdict: 'unknown',
      says,
      lamps: [],
      margin: null,
      asks: null,
      sum: sum({ label: b.title, value: says, source: pack.edition, kind: 'result' }),
      failing: null,
      gaps: [],
      remedies: [],
      basis: null,
    });
  }
  return out;
}

export interface PackCheck {
  pack: RulePack;
  items: LampItem[];
}
export interface LampCheck {
  packs: PackCheck[];
  met: number;
  required: number;
  verdict: Verdict;
}
