import type { Harness } from '#model/harness';
import { canonical } from '../canonical';
import { AT_REST, NO_FAULTS, type Faults, type SwitchState } from '../harness/simulate';
import { alikeOf, type Shown } from './alike';
import { singleFaults, type Cause, type CauseKind } from './causes';
import { liveModel, type Predictor } from './predict';
import type { Evidence, Look, Probes, Sight } from './sight';
import { slips, type Slip } from './slips';

export interface RankedCause {
  cause: Cause;
  /** in words: the likeliest of its forms */
  says: string;
  /** how likely it is, of 1, beside the others */
  share: number;
  /** the evidence it does not explain, by id */
  against: string[];
  /** seen without taking anything off: a fuse, the battery, the unit's own feed */
  easy: boolean;
  /** the first of those that no measurement tells apart from it; its own id where it is the first */
  alike: string;
}
/** What a measurement may show, and what would then be wrong. */
export interface Outcome {
  low: number;
  high: number;
  share: number;
  causes: string[];
}
export interface Measurement {
  sight: Sight & { look: Probes };
  /** how much it is expected to tell, bits */
  bits: number;
  outcomes: Outcome[];
}
export type LookFirst = Pick<Slip, 'id' | 'says' | 'look'>;
export interface Diagnosis {
  causes: RankedCause[];
  /** switches that would explain it if they were left off, to be looked at before anything is measured */
  left: LookFirst[];
  /** how likely it is that the wiring is sound and a reading was wrong */
  sound: number;
  /** how likely it is that it is something else than all that is known of here */
  none: number;
  /** the measurements that tell most for their trouble, best first; none when a meter cannot tell any more */
  next: Measurement[];
}

interface Hypothesis {
  cause: Cause | null;
  says: string;
  faults: Faults;
  logPrior: number;
  /** it comes and goes */
  loose: boolean;
}

/** A reading misread, or taken at the wrong point. Common practice, no source. */
const MISREAD = 0.02;
/** As likely as this beside one cause: that the wiring is sound and the reading wrong. Common practice, no source. */
const SOUND_PRIOR = 1;
/** As likely as this beside one cause: something that nothing here describes. Common practice, no source. */
const NONE_PRIOR = 0.5;
/** How well something unknown explains any figure at all. */
const NONE_EXPLAINS = Math.log(0.03);
/** Two faults at once beside one. Common practice, no source. */
const TWO_TIMES = 0.05;
/** How many single faults are taken in pairs, and how many with each, where none alone explains it all. */
const MOST_PAIRED = 6;
/** Hypotheses this much less likely than the best are dropped, logarithm. */
const DROP = Math.log(1e-5);
/** Under so many bits a measurement is not worth its trouble. */
const LEAST_BITS = 0.03;
/** States of the switches in which measurements are considered: those that were seen already, failing ones first. */
const MOST_STATES = 6;
/** Points at which ohms to ground are considered. */
const MOST_OHMS = 12;
/** How many hypotheses a measurement is weighed against. */
const MOST_WEIGHED = 48;

const clampOhms = (x: number) => Math.log10(Math.min(2e7, Math.max(0, x)) + 0.3);

/** How near a reading is to what was foretold, in standard deviations; their sizes are common practice, no source. */
function away(look: Look, value: number, foretold: number): number {
  switch (look.kind) {
    case 'volts':
      // a battery is known to some per cent; what little is dropped on a lead, to some hundredths
      return (value - foretold) / Math.hypot(0.03, 0.03 * foretold);
    case 'ohms':
      return (clampOhms(value) - clampOhms(foretold)) / 0.2;
    case 'amps':
      return (value - foretold) / Math.hypot(0.006, 0.15 * foretold);
    case 'works':
      return value === foretold ? 0 : 6;
  }
}
/** Logarithm of how well a foretold value explains a reading. */
function explains(look: Look, value: number, foretold: number | null): number {
  if (foretold === null) return Math.log(MISREAD);
  const d = away(look, value, foretold);
  return Math.log(MISREAD * 0.2 + (1 - MISREAD) * Math.exp(-0.5 * d * d));
}
/** A cause that moves a reading by less of how far it went has nothing to do with it. Common practice, no source. */
const LEAST_PUSH = 0.05;
/** Beyond this a way is open. */
const FAR = 2e7;
/** What is looked at before a meter is. */
const EASY: ReadonlySet<CauseKind> = new Set(['blown', 'unit']);
const AGAINST = 3;
/** Figures so many standard deviations apart are told as two outcomes. */
const APART = 2.5;

/**
 * The fault finder of one harness: ranks every single fault by how well the live model, solved with it, explains all that was
 * read, and says which measurement would tell most. One instance keeps what it has solved.
 */
export class FaultFinder {
  readonly causes: readonly Cause[];
  private readonly predictor: Predictor;
  private readonly hypotheses: readonly Hypothesis[];
  private readonly nonePrior: number;

  constructor(private readonly harness: Harness) {
    this.causes = singleFaults(harness);
    this.predictor = liveModel(harness);
    const total = this.causes.reduce((s, c) => s + c.prior, SOUND_PRIOR + NONE_PRIOR);
    this.nonePrior = Math.log(NONE_PRIOR / total);
    this.hypotheses = [
      { cause: null, says: '', faults: NO_FAULTS, logPrior: Math.log(SOUND_PRIOR / total), loose: false },
      ...this.causes.flatMap((cause) =>
        cause.variants.map((v) => ({
          cause,
          says: v.says ?? cause.says,
          faults: v.faults,
          logPrior: Math.log(cause.prior / total / cause.variants.length),
          loose: v.loose ?? false,
        })),
      ),
    ];
  }

  /** What a sight shows as the wiring should be. */
  healthy(sight: Sight): number | null {
    return this.predictor.value(sight, NO_FAULTS);
  }
  /** What a sight shows with this wrong. */
  foretell(sight: Sight, faults: Faults): number | null {
    return this.predictor.value(sight, faults);
  }

  /**
   * @param evidence every reading so far, right and wrong
   * @param effort how much trouble it is to touch a point, 1 for one within reach
   * @returns causes by likelihood, those under 0.1 % left out
   */
  find(evidence: readonly Evidence[], effort: (node: string) => number = () => 1): Diagnosis {
    // what is not as it should be comes first: it leaves the fewest to solve again
    const ordered = [...evidence].sort((a, b) => Number(b.failing) - Number(a.failing));
    let alive = this.hypotheses.map((h) => ({ h, log: h.logPrior }));
    for (const e of ordered) {
      let best = -Infinity;
      for (const a of alive) {
        a.log += this.explained(e, a.h);
        best = Math.max(best, a.log);
      }
      alive = alive.filter((a) => a.log > best + DROP);
    }
    alive.push(...this.pairs(alive, ordered));
    // what cannot even push a failing reading the way it went is no answer to it
    alive = alive.filter((a) => a.h.cause === null || this.pushes(a.h, evidence));
    const unknown = ordered.reduce(
      (s, e) => s + Math.max(NONE_EXPLAINS, explains(e.sight.look, e.value, this.predictor.value(e.sight, NO_FAULTS))),
      this.nonePrior,
    );
    const top = Math.max(unknown, ...alive.map((a) => a.log));
    const none = Math.exp(unknown - top);
    const sum = alive.reduce((s, a) => s + Math.exp(a.log - top), none);
    const weighed = alive.map((a) => ({ h: a.h, p: Math.exp(a.log - top) / sum })).sort((a, b) => b.p - a.p);
    const shares = new Map<Cause | null, { share: number; best: { h: Hypothesis; p: number } }>();
    for (const w of weighed) {
      const s = shares.get(w.h.cause);
      if (s) s.share += w.p;
      else shares.set(w.h.cause, { share: w.p, best: w });
    }
    const causes = [...shares]
      .flatMap(([cause, { share, best }]) =>
        cause && share >= 0.001
          ? [
              {
                cause,
                // one of several forms only where it is the likelier by far
                says: best.p > 0.7 * share ? best.h.says : cause.says,
                share,
                against: evidence
                  .filter((e) => {
                    const v = this.predictor.value(e.sight, best.h.faults);
                    return v === null || Math.abs(away(e.sight.look, e.value, v)) > AGAINST;
                  })
                  .map((e) => e.id),
                easy: EASY.has(cause.kind),
                alike: cause.id,
              },
            ]
          : [],
      )
      .sort((a, b) => b.share - a.share);
    const states = distinct(ordered.map((e) => e.sight.state)).slice(0, MOST_STATES);
    const measured = this.next(weighed.slice(0, MOST_WEIGHED), states, evidence, effort);
    return {
      causes: causes.map((c) => ({ ...c, alike: measured.alike.get(c.cause.id) ?? c.cause.id })),
      left: this.left(evidence),
      sound: shares.get(null)?.share ?? 0,
      none: none / sum,
      next: measured.best,
    };
  }

  /** Switches that explain what fails if they were left off: nothing is measured before somebody looked. */
  private left(evidence: readonly Evidence[]): LookFirst[] {
    const failing = evidence.filter((e) => e.failing);
    return slips(this.harness, failing)
      .filter((s) =>
        failing.every((e) => {
          const v = this.predictor.value({ ...e.sight, state: s.as(e.sight.state) }, NO_FAULTS);
          return v !== null && Math.abs(away(e.sight.look, e.value, v)) <= AGAINST;
        }),
      )
      .map(({ id, says, look }) => ({ id, says, look }));
  }

  /** Whether a hypothesis moves any of the readings that fail the way in which it failed. */
  private pushes(h: Hypothesis, evidence: readonly Evidence[]): boolean {
    const failing = evidence.filter((e) => e.failing);
    if (!failing.length) return true;
    return failing.some((e) => {
      const sound = this.predictor.value(e.sight, NO_FAULTS);
      const so = this.predictor.value(e.sight, h.faults);
      if (sound === null || so === null) return true;
      const went = Math.min(FAR, e.value) - Math.min(FAR, sound);
      return (Math.min(FAR, so) - Math.min(FAR, sound)) * Math.sign(went) > LEAST_PUSH * Math.abs(went);
    });
  }

  /** Logarithm of how well a hypothesis explains a reading; what comes and goes may have been away. */
  private explained(e: Evidence, h: Hypothesis): number {
    const there = explains(e.sight.look, e.value, this.predictor.value(e.sight, h.faults));
    if (!h.loose) return there;
    const away = explains(e.sight.look, e.value, this.predictor.value(e.sight, NO_FAULTS));
    return Math.log((Math.exp(there) + Math.exp(away)) / 2);
  }

  /** Two faults at once, as a last resort: only where no single one explains all that was read. */
  private pairs(alive: readonly { h: Hypothesis; log: number }[], evidence: readonly Evidence[]): { h: Hypothesis; log: number }[] {
    const ranked = alive.filter((a) => a.h.cause !== null && !a.h.loose).sort((a, b) => b.log - a.log);
    const unexplained = (h: Hypothesis) =>
      evidence.some((e) => {
        const v = this.predictor.value(e.sight, h.faults);
        return v === null || Math.abs(away(e.sight.look, e.value, v)) > AGAINST;
      });
    if (!ranked.length || ranked.slice(0, 3).some((a) => !unexplained(a.h))) return [];
    const firsts = new Map<Cause, Hypothesis>();
    for (const a of ranked) if (firsts.size < MOST_PAIRED && !firsts.has(a.h.cause!)) firsts.set(a.h.cause!, a.h);
    const singles = this.hypotheses.filter((h) => h.cause !== null && !h.loose);
    const seen = new Set<string>();
    return [...firsts.values()].flatMap((a) => {
      // what explains best that the first leaves open goes with it
      const left = evidence.filter((e) => {
        const v = this.predictor.value(e.sight, a.faults);
        return v === null || Math.abs(away(e.sight.look, e.value, v)) > AGAINST;
      });
      const seconds = new Map<Cause, { h: Hypothesis; log: number }>();
      for (const h of singles) {
        const log = left.reduce((s, e) => s + this.explained(e, h), h.logPrior);
        const had = seconds.get(h.cause!);
        if (h.cause !== a.cause && (!had || log > had.log)) seconds.set(h.cause!, { h, log });
      }
      const best = [...seconds.values()].sort((x, y) => y.log - x.log).slice(0, MOST_PAIRED);
      return best.flatMap(({ h: b }) => {
        const pair = [a.cause!.id, b.cause!.id].sort().join('+');
        if (seen.has(pair)) return [];
        seen.add(pair);
        const faults = together(a.faults, b.faults);
        const cause: Cause = {
          ...a.cause!,
          id: `two:${pair}`,
          kind: 'two',
          says: `Two at once: ${a.says}; and ${b.says}`,
          look: `${a.cause!.look} Then: ${b.cause!.look}`,
          variants: [{ faults, says: null }],
        };
        const h: Hypothesis = { cause, says: cause.says, faults, logPrior: a.logPrior + b.logPrior + Math.log(TWO_TIMES), loose: false };
        let log = h.logPrior;
        for (const e of evidence) log += this.explained(e, h);
        return [{ h, log }];
      });
    });
  }

  private next(
    weighed: readonly { h: Hypothesis; p: number }[],
    states: readonly SwitchState[],
    evidence: readonly Evidence[],
    effort: (node: string) => number,
  ): { best: Measurement[]; alike: ReadonlyMap<string, string> } {
    const total = weighed.reduce((s, w) => s + w.p, 0);
    const ps = weighed.map((w) => w.p / total);
    const groupIds = [...new Set(weighed.map((w) => w.h.cause))];
    const group = weighed.map((w) => groupIds.indexOf(w.h.cause));
    if (groupIds.length < 2) return { best: [], alike: new Map() };
    const taken = new Set(evidence.map((e) => canonical(e.sight)));
    const shown: Shown[] = [];
    const found: (Omit<Measurement, 'outcomes'> & { worth: number; values: (number | null)[] })[] = [];
    const consider = (look: Probes, state: SwitchState) => {
      const sight = { state, look };
      if (taken.has(canonical(sight))) return;
      const values = weighed.map((w) => this.predictor.value(sight, w.h.faults));
      shown.push({ look, values });
      const bits = gain(look, values, ps, group, groupIds.length);
      if (bits < LEAST_BITS) return;
      const trouble = Math.max(effort(look.plus), effort(look.minus)) * (look.kind === 'ohms' ? 1.2 : 1);
      found.push({ sight, bits, worth: bits / trouble, values });
    };
    const touchable = new Set(this.harness.nodes.filter((n) => n.kind !== 'inner').map((n) => n.id));
    // only points where the hypotheses have anything at stake
    const near = new Set<string>();
    const involved = new Set(weighed.flatMap((w) => w.h.cause?.circuit ?? []));
    for (const e of this.harness.elements)
      if (e.circuit !== null && involved.has(e.circuit)) for (const n of [e.from, e.to]) if (touchable.has(n)) near.add(n);
    for (const w of weighed) {
      const id = w.h.cause?.id ?? '';
      for (const e of this.harness.elements) if (id.endsWith(e.id)) for (const n of [e.from, e.to]) if (touchable.has(n)) near.add(n);
    }
    for (const state of states) {
      for (const n of near) if (n !== 'bat-') consider({ kind: 'volts', plus: n, minus: 'bat-' }, state);
      for (const e of this.harness.elements)
        if ((e.kind === 'wire' || e.kind === 'fuse' || e.kind === 'load') && near.has(e.from) && near.has(e.to))
          consider({ kind: 'volts', plus: e.from, minus: e.to }, state);
    }
    // with the fuse out: is there a way to ground that should not be?
    const suspects = weighed.flatMap(({ h }) =>
      h.cause?.kind === 'shorted'
        ? h.faults.shorted
        : h.cause?.kind === 'blown'
          ? this.harness.elements.flatMap((e) => (h.faults.blown.includes(e.id) ? [e.to] : []))
          : [],
    );
    for (const n of [...new Set(suspects)].filter((x) => touchable.has(x)).slice(0, MOST_OHMS))
      for (const state of distinct([...states.map(keyOff), AT_REST])) consider({ kind: 'ohms', plus: n, minus: 'bat-' }, state);
    const best = found
      .sort((a, b) => b.worth - a.worth)
      .slice(0, 4)
      .map(({ sight, bits, values }) => ({ sight, bits, outcomes: outcomes(sight.look, values, ps, weighed) }));
    return {
      best,
      alike: alikeOf(
        weighed.map((w) => w.h.cause?.id ?? null),
        shown,
        differ,
      ),
    };
  }
}

/** Ohms are measured with the battery off: the key and the engine are, too; a kit's switches stay as they were. */
const keyOff = (s: SwitchState): SwitchState => ({
  ...s,
  controls: Object.fromEntries(Object.entries(s.controls).filter(([id]) => !id.startsWith('unit#'))),
});

const together = (a: Faults, b: Faults): Faults => ({
  blown: [...a.blown, ...b.blown],
  open: [...a.open, ...b.open],
  corroded: { ...a.corroded, ...b.corroded },
  swapped: [...a.swapped, ...b.swapped],
  stuck: [...a.stuck, ...b.stuck],
  shorted: [...a.shorted, ...b.shorted],
  fed: [...(a.fed ?? []), ...(b.fed ?? [])],
  leaky: [...(a.leaky ?? []), ...(b.leaky ?? [])],
  fuses: { ...a.fuses, ...b.fuses },
  weak: { ...a.weak, ...b.weak },
});

const distinct = (states: readonly SwitchState[]): SwitchState[] => [...new Map(states.map((s) => [canonical(s), s])).values()];

/** Whether a meter tells two values apart. */
const differ = (look: Look, a: number | null, b: number | null): boolean =>
  a === null || b === null ? a !== b : Math.abs(away(look, a, b)) >= APART;

const entropy = (ps: readonly number[]) => ps.reduce((s, p) => (p > 1e-12 ? s - p * Math.log2(p) : s), 0);

/** Bits that a measurement is expected to tell about which cause it is. */
function gain(look: Look, values: readonly (number | null)[], ps: readonly number[], group: readonly number[], groups: number): number {
  // hypotheses that foretell the same are one
  const at = new Map<number | null, { v: number | null; p: number; of: Map<number, number> }>();
  values.forEach((v, i) => {
    const key = v === null || !Number.isFinite(v) ? v : Number(v.toPrecision(4));
    const c = at.get(key) ?? { v, p: 0, of: new Map<number, number>() };
    c.p += ps[i]!;
    c.of.set(group[i]!, (c.of.get(group[i]!) ?? 0) + ps[i]!);
    at.set(key, c);
  });
  const classes = [...at.values()];
  if (
    classes.length < 2 ||
    classes.every((c) => c.v === null || (classes[0]!.v !== null && Math.abs(away(look, c.v, classes[0]!.v)) < 0.5))
  )
    return 0;
  const before = new Array<number>(groups).fill(0);
  for (const c of classes) for (const [g, p] of c.of) before[g]! += p;
  const start = entropy(before);
  let after = 0;
  const post = new Array<number>(groups);
  for (const t of classes) {
    if (t.v === null) {
      after += t.p * start;
      continue;
    }
    post.fill(0);
    let sum = 0;
    for (const k of classes) {
      const l = Math.exp(explains(look, t.v, k.v));
      for (const [g, p] of k.of) post[g]! += l * p;
      sum += l * k.p;
    }
    after += t.p * entropy(post.map((x) => x / sum));
  }
  return start - after;
}

/** What the meter may show, near values together, likeliest first, and in each the likeliest cause first. */
function outcomes(look: Look, values: readonly (number | null)[], ps: readonly number[], weighed: readonly { h: Hypothesis }[]): Outcome[] {
  const known = values
    .flatMap((v, i) => (v === null ? [] : [{ v, p: ps[i]!, cause: weighed[i]!.h.cause?.id ?? null }]))
    .sort((a, b) => a.v - b.v);
  const out: { low: number; high: number; share: number; of: Map<string, number> }[] = [];
  for (const k of known) {
    let here = out.at(-1);
    if (!here || Math.abs(away(look, k.v, here.high)) >= APART) out.push((here = { low: k.v, high: k.v, share: 0, of: new Map() }));
    here.high = k.v;
    here.share += k.p;
    if (k.cause) here.of.set(k.cause, (here.of.get(k.cause) ?? 0) + k.p);
  }
  return out
    .map(({ of, ...o }) => ({ ...o, causes: [...of].sort((a, b) => b[1] - a[1]).map(([id]) => id) }))
    .sort((a, b) => b.share - a.share);
}
