import type { Sees } from '#model/kit';
import type { Expected } from '#model/reading';
import type { Panel } from '#model/unit-model';

export type BenchStage =
  'make-safe' | 'unpack' | 'find' | 'bench-test' | 'open' | 'mount' | 'wire' | 'power-up' | 'prove' | 'tie' | 'close';
export const BENCH_STAGES: Record<BenchStage, string> = {
  'make-safe': 'Make safe',
  unpack: 'Unpack',
  find: 'Find',
  'bench-test': 'Bench-test',
  open: 'Open',
  mount: 'Mount',
  wire: 'Wire',
  'power-up': 'Power up',
  prove: 'Prove',
  tie: 'Tie down',
  close: 'Close',
};

/** Said wherever a battery is worked on. */
export const BATTERY_CAUTION = 'Batteries short-circuit, burn and give off hydrogen: no rings, no flame, eyes covered';

export interface PlannedReading {
  id: string;
  label: string;
  expected: Expected;
  /** done may be said without it, such as where it needs a meter that not every bench has */
  optional?: boolean;
  /** what of its kit's devices it sees */
  sees?: Sees;
}

/** One step of the order at the bench, whoever it comes from: the unit, a kit, or a circuit as planned. */
export interface PlannedStep {
  id: string;
  stage: BenchStage;
  title: string;
  text: string;
  /** why it is done, as its sheet says; empty: see `whyOf` */
  why: string;
  /** a picture of what it comes to, as its sheet has it */
  picture: string | null;
  place: string | null;
  /** other places that must be reached for it */
  reach: string[];
  tool: string | null;
  slideOnFirst: string[];
  cautions: string[];
  minutes: number;
  hands: 1 | 2;
  readings: PlannedReading[];
  /** closing and hand-over wait for it */
  proof: boolean;
  kit: string | null;
  circuit: string | null;
  panel: Panel | null;
  /** steps that come before it, whatever their kit */
  after: string[];
  /** places that something is led past under panels that may stay on */
  way: string[];
  /** how long it is left to itself, such as while glue cures, minutes */
  waitMinutes: number;
  /** what it is left to, such as `grip glue cures`; and the steps that are not begun before */
  waitsFor: string;
  holds: string[];
  /** what it waits for that is not here yet, such as a part; empty when nothing */
  waits: string;
}

/** A step with what most steps have not. */
export const step = (s: Pick<PlannedStep, 'id' | 'stage' | 'title' | 'text' | 'minutes'> & Partial<PlannedStep>): PlannedStep => ({
  why: '',
  picture: null,
  place: null,
  reach: [],
  tool: null,
  slideOnFirst: [],
  cautions: [],
  hands: 1,
  readings: [],
  proof: false,
  kit: null,
  circuit: null,
  panel: null,
  after: [],
  way: [],
  waitMinutes: 0,
  waitsFor: '',
  holds: [],
  waits: '',
  ...s,
});
/** Why a question is asked that says it itself. */
export const MUST = 'must be so';
/** A reading that is yes or no. */
export const yes = (id: string, label: string, why = MUST): PlannedReading => ({
  id,
  label,
  expected: { low: null, high: null, unit: 'yes', why },
});
