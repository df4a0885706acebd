import type { Known } from '#model/known';
import type { UnitModel } from '#model/unit-model';
import { Z90 } from '../random';
import { openValue, withBuildValue, withValue, type OpenValue } from './values';

/** What one order found a value of its unit to be. */
export interface Evidence {
  pointer: string;
  value: number;
  how: 'read' | 'measured';
  at: string;
  by: string;
  order: string;
  number: number;
  build: string;
}

/** What orders found a value to be, together: what the sheet might say instead. */
export interface Proposal {
  of: OpenValue;
  evidence: (Evidence & { contradicts: boolean })[];
  /** all that agree, by their spreads; null where they contradict each other and nobody can say which is right */
  value: number | null;
  spread: [number, number] | null;
  /** what the units of one build came to, for every build that has any and whose units agree */
  builds: { build: string; value: number; spread: [number, number] }[];
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
export function combined(v: OpenValue, evidence: readonly Evidence[]): Omit<Proposal, 'of' | 'builds'> {
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

/**
 * What orders on a model found that its sheet does not say yet, by value; what is newer than what the sheet, or what it says of the
 * unit's build, knows.
 */
export function proposals(model: UnitModel, evidence: readonly Evidence[]): Proposal[] {
  const pointers = [...new Set(evidence.map((e) => e.pointer))].sort();
  return pointers.flatMap((pointer) => {
    const of = openValue(model, pointer);
    if (!of) return [];
    const since = (k: Known | undefined) => (k && (k.how === 'measured' || k.how === 'read') ? (k.at ?? '') : '');
    const ofAll = since(model.known[pointer]);
    const news = evidence.filter((e) => {
      const own = since(model.builds.find((b) => b.id === e.build)?.values?.[pointer]?.known);
      return e.pointer === pointer && e.at > ofAll && e.at > own;
    });
    if (!news.length) return [];
    const builds = model.builds.flatMap(({ id }) => {
      const { value, spread } = combined(of, ofBuild(news, id));
      return value === null || !spread ? [] : [{ build: id, value, spread }];
    });
    return [{ of, ...combined(of, news), builds }];
  });
}

const ofBuild = (evidence: readonly Evidence[], build: string): Evidence[] => evidence.filter((e) => e.build === build);

/** How a value is known that those orders found. */
function knownFrom(evidence: readonly (Evidence & { contradicts: boolean })[], spread: [number, number], by: { at: string; by: string }) {
  const agreeing = evidence.filter((e) => !e.contradicts);
  const how = agreeing.every((e) => e.how === 'read') ? ('read' as const) : ('measured' as const);
  const orders = [...new Set(agreeing.map((e) => e.number))].join(', ');
  return { how, spread, ...by, note: `orders ${orders}`.slice(0, 200) };
}

/**
 * A sheet with a proposal taken: its value, how it is known, and from which orders. With a build it is taken for that one only, from
 * what its own units came to, and the model keeps what it says of the others.
 */
export function withProposal(model: UnitModel, p: Proposal, by: { at: string; by: string }, build: string | null = null): UnitModel {
  const { pointer } = p.of;
  if (build !== null) {
    const { evidence, value, spread } = combined(p.of, ofBuild(p.evidence, build));
    return value === null || !spread ? model : withBuildValue(model, build, pointer, { value, known: knownFrom(evidence, spread, by) });
  }
  if (p.value === null || !p.spread) return model;
  const changed = withValue(model, pointer, p.value);
  return { ...changed, known: { ...changed.known, [pointer]: knownFrom(p.evidence, p.spread, by) } };
}
