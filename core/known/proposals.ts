import type { UnitModel } from '#model/unit-model';
import { Z90 } from './draw';
import { howKnown } from './pointer';
import { openValue, withValue, type OpenValue } from './values';

/** What one order found a value of its unit to be. */
export interface Evidence {
  pointer: string;
  value: number;
  how: 'read' | 'measured';
  at: string;
  by: string;
  order: string;
  number: number;
}

/** What orders found a value to be, together: what the sheet might say instead. */
export interface Proposal {
  of: OpenValue;
  evidence: (Evidence & { contradicts: boolean })[];
  /** all that agree, by their spreads; null where they contradict each other and nobody can say which is right */
  value: number | null;
  spread: [number, number] | null;
}

/** A reading off a label may be misread by so much of it; a figure nobody can read better than this. Common practice, no source. */
const LEAST_WITHIN = 0.01;
/** Further apart than so many standard deviations of their difference, two measurements are not of the same thing. */
const APART = 3;

const sigmaOf = (v: OpenValue, value: number): number => (Math.max(v.within, LEAST_WITHIN) * Math.abs(value)) / Z90;

/**
 * Measurements of one value together: each weighed by the inverse of its variance. One that lies further from all others than
 * their spreads allow is set apart; where that leaves no majority, nothing is combined.
 * Source: the weighted mean and its variance, and the scatter of few measurements by their range (Dixon and Massey, from memory).
 */
export function combined(v: OpenValue, evidence: readonly Evidence[]): Omit<Proposal, 'of'> {
  const agree = (a: Evidence, b: Evidence) => Math.abs(a.value - b.value) <= APART * Math.hypot(sigmaOf(v, a.value), sigmaOf(v, b.value));
  // the largest group that agrees with one of them
  const groups = evidence.map((a) => evidence.filter((b) => agree(a, b)));
  const best = groups.reduce<Evidence[]>((most, g) => (g.length > most.length ? g : most), []);
  const settled = best.length > evidence.length / 2;
  const list = evidence.map((e) => ({ ...e, contradicts: evidence.length > 1 && (!settled || !best.includes(e)) }));
  if (!settled) return { evidence: list, value: null, spread: null };
  const weights = best.map((e) => 1 / sigmaOf(v, e.value) ** 2);
  const total = weights.reduce((a, b) => a + b, 0);
  const value = best.reduce((s, e, i) => s + e.value * weights[i]!, 0) / total;
  // units differ among themselves, however well each was measured
  const scatter = best.length > 1 ? Math.sqrt(best.reduce((s, e) => s + (e.value - value) ** 2, 0) / (best.length - 1)) : 0;
  const sigma = Math.max(Math.sqrt(1 / total), scatter);
  const round = (x: number) => Number(x.toPrecision(4));
  return { evidence: list, value: round(value), spread: [round(value - Z90 * sigma), round(value + Z90 * sigma)] };
}

/** What orders on a model found that its sheet does not say yet, by value; what is newer than what the sheet knows. */
export function proposals(model: UnitModel, evidence: readonly Evidence[]): Proposal[] {
  const pointers = [...new Set(evidence.map((e) => e.pointer))].sort();
  return pointers.flatMap((pointer) => {
    const of = openValue(model, pointer);
    if (!of) return [];
    const { how, at } = howKnown(model, pointer);
    const since = (how === 'measured' || how === 'read') && model.known[pointer] ? (at ?? '') : '';
    const news = evidence.filter((e) => e.pointer === pointer && e.at > since);
    return news.length ? [{ of, ...combined(of, news) }] : [];
  });
}

/** A sheet with a proposal taken: its value, how it is known, and from which orders. */
export function withProposal(model: UnitModel, p: Proposal, by: { at: string; by: string }): UnitModel {
  if (p.value === null || !p.spread) return model;
  const agreeing = p.evidence.filter((e) => !e.contradicts);
  const changed = withValue(model, p.of.pointer, p.value);
  const how = agreeing.every((e) => e.how === 'read') ? ('read' as const) : ('measured' as const);
  const orders = [...new Set(agreeing.map((e) => e.number))].join(', ');
  return {
    ...changed,
    known: { ...changed.known, [p.of.pointer]: { how, spread: p.spread, ...by, note: `orders ${orders}`.slice(0, 200) } },
  };
}
