import type { Margin, SumLine, SumLineInput, Verdict } from '#model/common';
import type { Band, RuleItem } from '#model/rule-pack';
import type { SwitchState } from '../harness/simulate';
import { sum } from '../sum';
import type { FlashForecast } from './flash';
import type { Facts, Lamp, LampUnit } from './lamp';
import type { ArcPiece } from './occlusion';
import type { SwitchTable } from './switching';
import type { WeightCheck } from './weight';

/** One lamp's part in an item: its figure, and how it stands to the limit. */
export interface LampFigure {
  lamp: Lamp;
  value: number | null;
  verdict: Verdict;
  says: string;
}

/** The fact that would settle a *not known*, and how to ask for it. */
export interface Ask {
  key: string;
  question: string;
  kind: 'boolean' | 'number';
  /** the unit a number is kept in */
  unit?: 'mm' | 'm' | 'cd' | 'deg' | 'kg' | 'km/h' | 'dB' | 'N' | 'perMin' | '';
}

export interface LampItem {
  id: string;
  pack: string;
  title: string;
  source: string;
  note?: string;
  /** null for an item that could not be read */
  rule: RuleItem | null;
  /** null: it does not apply to this unit */
  verdict: Verdict | null;
  /** met, missing, short by how much, not known, or why it does not apply */
  says: string;
  lamps: LampFigure[];
  /** the figure nearest to its limit; `atLeast` when it must reach it */
  margin: (Margin & { atLeast: boolean }) | null;
  asks: Ask | null;
  sum: SumLine[];
  /** a state of the switches in which it fails */
  failing: SwitchState | null;
  /** what of a required arc is hidden */
  gaps: ArcPiece[];
  /** what would put it right, sized */
  remedies: string[];
  /** what it rests on beside the sheets: a person's word, or what was measured; told where both; null: neither */
  basis: Basis | null;
}
export type Basis = 'told' | 'measured';

/** Everything that items are judged against. */
export interface Given {
  unit: LampUnit;
  lamps: readonly Lamp[];
  facts: Facts;
  /** keys of the facts that were measured; the others were told */
  measured?: ReadonlySet<string>;
  /** what the owner wants of the unit */
  uses: readonly string[];
  /** lamps in every state of the switches; null where no wiring is known */
  table: SwitchTable | null;
  flash: {
    measured: { perMinute: number; onSharePct: number | null; from: string; basis: Basis } | null;
    forecast: FlashForecast | null;
  };
  weight: WeightCheck | null;
}

export type Answer = Pick<LampItem, 'verdict' | 'says'> & Partial<Omit<LampItem, 'sum'>> & { lines?: SumLineInput[] };

/** Builds an item of an answer, with the sum's last line naming the rule's source and edition. */
export function itemOf(rule: RuleItem, pack: { id: string; edition: string }, a: Answer): LampItem {
  const { lines = [], ...rest } = a;
  return {
    id: rule.id,
    pack: pack.id,
    title: rule.title,
    source: rule.source,
    note: rule.note,
    rule,
    lamps: [],
    margin: null,
    asks: null,
    failing: null,
    gaps: [],
    remedies: [],
    basis: null,
    ...rest,
    sum: sum(...lines, { label: rule.title, value: a.says, source: `${rule.source}; ${pack.edition}`, kind: 'result' }),
  };
}

/** By how much a figure is under or over a band: negative under, positive over, 0 within. */
export const beyond = (x: number, b: Band): number =>
  b.min !== undefined && x < b.min - 1e-9 ? x - b.min : b.max !== undefined && x > b.max + 1e-9 ? x - b.max : 0;

/** A figure beside the nearer end of its band. */
export function marginTo(x: number, b: Band, unit: string): NonNullable<LampItem['margin']> {
  const [toMin, toMax] = [b.min === undefined ? Infinity : x - b.min, b.max === undefined ? Infinity : b.max - x];
  const low = toMin < toMax;
  return { used: x, limit: (low ? b.min : b.max) ?? null, unit, atLeast: low };
}

export const bandWords = (b: Band, unit: string): string =>
  b.min !== undefined && b.max !== undefined
    ? `${b.min} to ${b.max} ${unit}`
    : b.min !== undefined
      ? `at least ${b.min} ${unit}`
      : `at most ${b.max} ${unit}`;
