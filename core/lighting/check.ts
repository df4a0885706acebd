import type { LightColour, Margin, SumLine, Verdict } from '#model/common';
import type { Order } from '#model/order';
import type { RuleItem, RulePack } from '#model/rule-pack';
import type { Sheets } from '#model/sheet';
import type { Place } from '#model/unit-model';
import { sum } from '../sum';
import { worst } from '../verdict';

/** A piece of equipment the unit will have: from the factory, already fitted, or brought by a kit. */
export interface Have {
  name: string;
  function: string;
  colour?: LightColour;
  place?: Place;
  from: 'factory' | 'fitted' | 'kit';
  /** false: it depends on how the unit was ordered, nobody has looked yet */
  known: boolean;
  kit?: string;
}

export interface LampItem {
  id: string;
  pack: string;
  rule: RuleItem;
  verdict: Verdict;
  /** met, missing, not known: in words, with what is short */
  says: string;
  have: Have[];
  margin: Margin | null;
  /** the fact that would settle a *not known* */
  asks: { key: string; question: string; kind: 'boolean' | 'number' } | null;
  sum: SumLine[];
}

export interface LampCheck {
  packs: { pack: RulePack; items: LampItem[] }[];
  met: number;
  required: number;
  verdict: Verdict;
}

const factKey = (pack: string, item: string) => `lamp:${pack}/${item}`;

/** All equipment of the order's unit, with where it is. */
export function equipmentOf(order: Order, sheets: Sheets): Have[] {
  const at = new Map(sheets.model.places.map((p) => [p.id, p]));
  return [
    ...sheets.model.equipment.map((e): Have => ({
      name: e.name,
      function: e.function,
      colour: e.colour,
      place: e.place ? at.get(e.place) : undefined,
      from: 'factory',
      known: e.present === 'yes',
    })),
    ...order.fitted
      .filter((f) => f.function)
      .map((f): Have => ({ name: f.name, function: f.function!, colour: f.colour, from: 'fitted', known: true })),
    ...sheets.kits.flatMap((k) =>
      k.devices
        .filter((d) => d.equipment)
        .map((d): Have => ({
          name: d.name,
          function: d.equipment!.function,
          colour: d.equipment!.colour,
          place: at.get(d.place),
          from: 'kit',
          known: true,
          kit: k.name,
        })),
    ),
  ];
}

function judgeItem(order: Order, sheets: Sheets, pack: RulePack, rule: RuleItem, all: Have[]): LampItem {
  const key = factKey(pack.id, rule.id);
  const told = order.facts[key];
  const base = { id: rule.id, pack: pack.id, rule, have: [] as Have[], margin: null, asks: null as LampItem['asks'] };
  const done = (verdict: Verdict, says: string, rest: Partial<LampItem> = {}, lines: Parameters<typeof sum> = []): LampItem => ({
    ...base,
    verdict,
    says,
    sum: sum(...lines, { label: rule.title, value: says, source: `${rule.source}; ${pack.edition}`, kind: 'result' }),
    ...rest,
  });
  if (rule.kind === 'proof') {
    const asks = { key, question: rule.question, kind: 'boolean' as const };
    if (told === undefined) return done('unknown', 'not proved yet', { asks });
    return told ? done('holds', 'proved by a person', { asks }) : done('fails', 'tried and failed', { asks });
  }
  if (rule.kind === 'limit') {
    const value = sheets.model[rule.of];
    const unit = rule.of === 'gvwrKg' ? 'kg' : 'km/h';
    if (value === undefined) return done('unknown', `${rule.of === 'gvwrKg' ? 'gross rating' : 'top speed'} not on the sheet`);
    const margin = { used: value, limit: rule.atMost, unit };
    const lines = [
      { label: 'This unit', value, unit, source: `${sheets.model.name} sheet` },
      { label: 'At most', value: rule.atMost, unit, kind: 'limit' as const },
    ];
    if (value > rule.atMost) return done('fails', `over by ${(value - rule.atMost).toFixed(0)} ${unit}`, { margin }, lines);
    if (rule.above !== undefined && value <= rule.above) return done('fails', `not above ${rule.above} ${unit}`, { margin }, lines);
    return done('holds', 'within the class', { margin }, lines);
  }
  const fits = (h: Have) => (rule.anyOf as string[]).includes(h.function) && (!rule.colour || !h.colour || rule.colour.includes(h.colour));
  const matching = all.filter(fits);
  const wrongColour = all.filter((h) => (rule.anyOf as string[]).includes(h.function) && !fits(h));
  const sure = matching.filter((h) => h.known || told === true);
  const inBand = (h: Have) => !rule.heightMm || !h.place || (h.place.z >= rule.heightMm.min && h.place.z <= rule.heightMm.max);
  const good = sure.filter(inBand);
  const sides = (list: Have[]) =>
    [list.filter((h) => !h.place || h.place.y > 0).length, list.filter((h) => !h.place || h.place.y < 0).length] as const;
  const enough = (list: Have[]) =>
    rule.eachSide ? list.length >= rule.count && sides(list).every((n) => n >= rule.count / 2) : list.length >= rule.count;
  const lines = matching.map((h) => ({
    label: `${h.name}${h.place ? `, ${h.place.name}` : ''}`,
    value: h.place && rule.heightMm ? h.place.z : h.known ? 'there' : 'depends on the unit',
    unit: h.place && rule.heightMm ? 'mm' : undefined,
    source: h.from === 'kit' ? h.kit : h.from === 'factory' ? `${sheets.model.name} sheet` : 'seen at arrival',
  }));
  if (rule.heightMm)
    lines.push({ label: 'Height band', value: `${rule.heightMm.min} to ${rule.heightMm.max}`, unit: 'mm', source: rule.source });
  const measured = rule.heightMm ? (sure.find((h) => h.place && !inBand(h))?.place?.z ?? good.find((h) => h.place)?.place?.z) : undefined;
  const margin = rule.heightMm && measured !== undefined ? { used: measured, limit: rule.heightMm.max, unit: 'mm' } : null;
  const asks = { key, question: `${rule.title}: is it on this unit?`, kind: 'boolean' as const };
  if (told === false && !enough(good.filter((h) => h.known)))
    return done('fails', 'looked for and not there', { have: matching, asks, margin }, lines);
  // a person who saw it on the unit settles what the sheets do not list
  if (enough(good) || (told === true && !wrongColour.length && !sure.some((h) => !inBand(h))))
    return done(
      'holds',
      told === true && !enough(good)
        ? 'seen on the unit'
        : `met by ${good
            .map((h) => h.name)
            .slice(0, 2)
            .join(', ')}${good.length > 2 ? ` and ${good.length - 2} more` : ''}`,
      { have: good, margin, asks: told === undefined ? null : asks },
      lines,
    );
  if (enough(matching)) {
    const high = sure.find((h) => h.place && h.place.z > (rule.heightMm?.max ?? Infinity));
    const low = sure.find((h) => h.place && h.place.z < (rule.heightMm?.min ?? -Infinity));
    if (high)
      return done(
        'fails',
        `${high.name} is ${Math.round(high.place!.z - rule.heightMm!.max)} mm too high`,
        { have: matching, margin },
        lines,
      );
    if (low)
      return done('fails', `${low.name} is ${Math.round(rule.heightMm!.min - low.place!.z)} mm too low`, { have: matching, margin }, lines);
    return done('unknown', 'depends on how this unit was ordered', { have: matching, asks }, lines);
  }
  if (wrongColour.length)
    return done(
      'fails',
      `${wrongColour[0]!.name} has the wrong colour: ${rule.colour!.join(' or ')} is called for`,
      { have: wrongColour, asks },
      lines,
    );
  const short = rule.count - matching.length;
  return done(
    'fails',
    matching.length ? `${short} more needed${rule.eachSide ? ', one on each side' : ''}` : 'missing',
    { have: matching, asks },
    lines,
  );
}

/** The rule packs of the unit's model against what the unit has and what the kits bring, every item judged by itself. */
export function checkLamps(order: Order, sheets: Sheets): LampCheck {
  const all = equipmentOf(order, sheets);
  const packs = sheets.packs.map((pack) => ({ pack, items: pack.items.map((r) => judgeItem(order, sheets, pack, r, all)) }));
  const items = packs.flatMap((p) => p.items);
  return {
    packs,
    met: items.filter((i) => i.verdict === 'holds').length,
    required: items.length,
    verdict: worst(items.map((i) => i.verdict)),
  };
}

/** The line that always stands under a pack's verdicts. */
export const LOCAL_CODE = 'The local code and a licensed or certified person decide. Kadro checks against the named edition only.';
