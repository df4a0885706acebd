import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { EIGHTY, type Pace } from './pace';

/** One kit’s share of one finished job: what its steps were planned to take and what they took. Empty kit: the unit’s own steps. */
export interface Worked {
  order: number;
  kit: string;
  model: string;
  by: string;
  /** minutes of the steps that were done, as planned and as spent */
  planned: number;
  spent: number;
  /** which of its kind this was for that person, from 1 */
  nth: number;
  /** what came between: steps skipped, findings written, faults put right */
  skipped: number;
  findings: number;
  mended: number;
  at: string;
}

/** A job far from what is likely for it, and what would explain it. */
export interface Outlier {
  worked: Worked;
  /** times as long as likely */
  times: number;
  why: string;
}

// Spreads of what is learned, as logarithms of times. Common practice, no source, but for the slope.
/** what a shop takes beside its sheets */
const SHOP = 0.3;
/** a kit beside the shop, a kit on one model beside the kit, a person beside the shop */
const KIT = 0.25;
const MODEL = 0.15;
const PERSON = 0.2;
/** assembly work learns at 0.8 to 0.9 a doubling (industry handbooks): the middle, as log2, and its spread */
const SLOPE = -Math.log2(0.85);
const SLOPE_SPREAD = 0.08;
/** how far one kit’s slope may lie from the shop’s: panels and power are old hat, a new kit is not */
const KIT_SLOPE = 0.12;
/** one job beside another of the same kind, as it is thought before any is seen, and how many jobs that thought weighs */
const JOB = 0.3;
const JOB_WEIGHT = 6;
/** A job is told as an outlier beyond so many. */
const FAR = 2;
/** Faults and findings make a job tell less about the next one. */
const LESS = 0.4;
/** A job further off than so many spreads pulls no harder than one that far (Huber 1964, 1.345: 95 % as good where none is). */
const HUBER = 1.345;
const ROUNDS = 12;
/** What moves by less from one round to the next does not move any more. */
const STILL = 1e-9;

/**
 * What a shop has learned of its times: a linear model of the logarithm of spent over planned, with what is common to the shop,
 * the kit, the kit on its model and the person, and the experience curve, of the shop and of the kit, each drawn towards its prior as far as jobs are few.
 * The spread of single jobs is learned with them, and a job far off pulls less. The jobs themselves are not kept: what many shops
 * have learned is remembered in little room.
 */
export class Learned {
  private readonly columns = new Map<string, number>();
  private readonly priors: { mean: number; spread: number }[] = [];
  private readonly chol: CholeskyDecomposition;
  private readonly beta: Float64Array;
  /** standard deviation of one job, as a logarithm */
  readonly spread: number;
  private readonly jobs = new Map<string, number>();
  /** who has done a kit; under no name, any */
  private readonly people = new Map<string | null, Set<string>>([[null, new Set()]]);

  constructor(worked: readonly Worked[]) {
    const list = worked.filter((w) => w.planned > 0 && w.spent > 0);
    for (const { kit, by } of worked)
      for (const key of [kit, null]) {
        if (!this.people.has(key)) this.people.set(key, new Set());
        this.people.get(key)!.add(by);
      }
    this.column('shop', 0, SHOP);
    this.column('slope', SLOPE, SLOPE_SPREAD);
    for (const w of list) {
      this.column(`kit ${w.kit}`, 0, KIT);
      this.column(`slope ${w.kit}`, 0, KIT_SLOPE);
      this.column(`model ${w.kit} ${w.model}`, 0, MODEL);
      this.column(`by ${w.by}`, 0, PERSON);
      for (const key of [w.kit, `${w.kit} ${w.by}`]) this.jobs.set(key, (this.jobs.get(key) ?? 0) + 1);
    }
    const rows = list.map((w) => ({ x: this.row(w), y: Math.log(w.spent / w.planned), weight: w.mended || w.findings ? LESS : 1 }));
    const k = this.priors.length;
    let variance = JOB ** 2;
    let chol!: CholeskyDecomposition;
    let beta = new Float64Array(k);
    for (let round = 0; round < ROUNDS; round++) {
      const pulls = (known: boolean) =>
        rows.map(({ x, y, weight }) => weight * (known ? Math.min(1, (HUBER * Math.sqrt(variance)) / Math.abs(y - dot(x, beta))) : 1));
      const a = Array.from({ length: k }, () => new Float64Array(k));
      const b = new Float64Array(k);
      this.priors.forEach((p, i) => {
        a[i]![i] = 1 / p.spread ** 2;
        b[i] = p.mean / p.spread ** 2;
      });
      pulls(round > 0).forEach((pull, n) => {
        const { x, y } = rows[n]!;
        for (let i = 0; i < x.length; i++) {
          const p = (pull / variance) * x[i]![1];
          const at = x[i]![0];
          b[at]! += p * y;
          const into = a[at]!;
          for (let j = 0; j < x.length; j++) into[x[j]![0]]! += p * x[j]![1];
        }
      });
      chol = new CholeskyDecomposition(new Matrix(a as unknown as number[][]));
      const was = beta;
      beta = Float64Array.from(chol.solve(Matrix.columnVector(b as unknown as number[])).to1DArray());
      let off = JOB_WEIGHT * JOB ** 2;
      let all = JOB_WEIGHT;
      pulls(true).forEach((pull, n) => {
        off += pull * (rows[n]!.y - dot(rows[n]!.x, beta)) ** 2;
        all += pull;
      });
      const before = variance;
      variance = off / all;
      if (Math.abs(variance / before - 1) < STILL && beta.every((x, i) => Math.abs(x - was[i]!) < STILL)) break;
    }
    this.chol = chol;
    this.beta = beta;
    this.spread = Math.sqrt(variance);
  }

  private column(name: string, mean: number, spread: number): void {
    if (this.columns.has(name)) return;
    this.columns.set(name, this.priors.length);
    this.priors.push({ mean, spread });
  }
  /** Who has done a kit; nobody: everyone who has done any. */
  private who(kit: string): string[] {
    return [...(this.people.get(kit) ?? this.people.get(null)!)];
  }
  /** What of a job has a column, with its figure; what was never seen has none. */
  private row(w: { kit: string; model: string; by: string | null; nth: number }): [number, number][] {
    const at = (name: string, figure = 1): [number, number][] => {
      const i = this.columns.get(name);
      return i === undefined ? [] : [[i, figure]];
    };
    const practice = -Math.log(Math.max(1, w.nth));
    return [
      ...at('shop'),
      ...at('slope', practice),
      ...at(`slope ${w.kit}`, practice),
      ...at(`kit ${w.kit}`),
      ...at(`model ${w.kit} ${w.model}`),
      // anybody is the mean of those who do it here, not somebody without a pace
      ...(w.by === null ? this.who(w.kit).flatMap((by, _, all) => at(`by ${by}`, 1 / all.length)) : at(`by ${w.by}`)),
    ];
  }

  /** The next job of a kit on a model by a person, or by anybody. */
  pace(kit: string, model: string, by: string | null): Pace {
    const own = by === null ? 0 : (this.jobs.get(`${kit} ${by}`) ?? 0);
    const jobs = this.jobs.get(kit) ?? 0;
    // whoever it is has done it as often as those who did, on the whole
    const people = this.who(kit).length || 1;
    const nth = by === null ? jobs / people + 1 : own + 1;
    const { mean, sd } = this.about({ kit, model, by, nth });
    return { factor: Math.exp(mean), low: Math.exp(mean - EIGHTY * sd), high: Math.exp(mean + EIGHTY * sd), jobs, own };
  }

  private about(w: { kit: string; model: string; by: string | null; nth: number }): { mean: number; sd: number } {
    const x = this.row(w);
    const column = Matrix.zeros(this.priors.length, 1);
    for (const [i, v] of x) column.set(i, 0, v);
    const unsure = column.transpose().mmul(this.chol.solve(column)).get(0, 0);
    // what was never met may be anywhere that its prior has it
    const new_ =
      (this.columns.has(`kit ${w.kit}`) ? 0 : KIT ** 2) +
      (this.columns.has(`model ${w.kit} ${w.model}`) ? 0 : MODEL ** 2) +
      (w.by !== null && this.columns.has(`by ${w.by}`) ? 0 : PERSON ** 2);
    return { mean: dot(x, this.beta), sd: Math.sqrt(unsure + new_ + this.spread ** 2) };
  }

  /** The share of its time that each doubling of jobs still takes. */
  get slope(): number {
    return 2 ** -this.beta[this.columns.get('slope')!]!;
  }

  /** Of these jobs, those far from what is likely for them, the farthest first, with what came between. */
  outliers(list: readonly Worked[]): Outlier[] {
    return list
      .filter((w) => w.planned > 0 && w.spent > 0)
      .flatMap((w) => {
        const likely = dot(this.row(w), this.beta);
        const off = Math.log(w.spent / w.planned) - likely;
        return Math.abs(off) < FAR * this.spread ? [] : [{ worked: w, times: Math.exp(off), why: explain(w, off > 0) }];
      })
      .sort((a, b) => Math.abs(Math.log(b.times)) - Math.abs(Math.log(a.times)));
  }
}

function dot(x: readonly (readonly [number, number])[], beta: Float64Array): number {
  let sum = 0;
  // by index: this is asked millions of times
  for (let n = 0; n < x.length; n++) sum += x[n]![1] * beta[x[n]![0]]!;
  return sum;
}

const count = (n: number, one: string, many: string) => (n === 0 ? [] : [`${n} ${n === 1 ? one : many}`]);
function explain(w: Worked, longer: boolean): string {
  const between = longer
    ? [...count(w.mended, 'fault put right', 'faults put right'), ...count(w.findings, 'finding', 'findings')]
    : count(w.skipped, 'step skipped', 'steps skipped');
  return between.length ? between.join(', ') : 'nothing recorded explains it';
}
