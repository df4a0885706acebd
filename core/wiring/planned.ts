import type { SumLine, Verdict } from '#model/common';
import type { Harness } from '#model/harness';
import type { Circuit, Joint, Kit } from '#model/kit';
import type { WireOverride } from '#model/order';
import type { PowerPoint } from '#model/unit-model';
import type { Candidate, Mode } from '../circuit/feed';
import type { CircuitLoad } from '../circuit/load';
import type { Route } from '../circuit/route';
import type { Contactor } from '../wire-rules/contacts';
import type { FuseFamily } from '../wire-rules/fuse-volts';
import type { Surroundings } from '../wire-rules/allowable';
import type { LaidBox } from './box-network';

export interface Choice {
  feed: string | null;
  mode: Mode;
  awg: number | null;
  fuseA: number | null;
  lengthM: number | null;
}

/** One added circuit, sized: what Kadro chose, what stands after overrides, and the arithmetic. */
export interface PlannedCircuit {
  id: string;
  kit: Kit;
  circuit: Circuit;
  load: CircuitLoad;
  candidates: Candidate[];
  feed: PowerPoint | null;
  trigger: PowerPoint | null;
  mode: Mode;
  /** what lies round its wires: hot parts or an engine space, and how many current-carrying wires lie together at the most */
  around: Required<Surroundings>;
  /** the highest volts that stand on it: charging, not nominal */
  highestV: number;
  /** what its relay is; null where it has none */
  contactor: Contactor | null;
  /** to the farthest device */
  route: Route | null;
  /** the run that it was made to take by hand, as `from>to` */
  via: string | null;
  /** one way to the farthest device, with slack */
  lengthM: number | null;
  awg: number | null;
  dropV: number | null;
  dropPct: number | null;
  ampacityA: number | null;
  limitedBy: string;
  /** null where it is not known, or where another fuse guards the circuit */
  fuseA: number | null;
  /** where its fuse comes from; null: it has none yet */
  fuseFrom: 'box' | 'shelf' | 'unit' | null;
  /** where its wire comes from */
  wireFrom: 'box' | 'shelf' | 'both';
  /** what its plug or ring needs besides, where it does not go into its feed as it comes */
  adapted: { why: string; buy: string[] } | null;
  fuseColour: string | null;
  /** the kind of fuse, by the volts of the circuit; null where none is made, or it has none of its own */
  fuseKind: FuseFamily | null;
  /** the fuse that guards it, when it has none of its own */
  guardedBy: string | null;
  joint: Joint;
  crimp: { newtons: number; lbf: number } | null;
  verdict: Verdict;
  problems: string[];
  /** which of them could hurt somebody; null: none */
  unsafe: string | null;
  sum: SumLine[];
  /** what Kadro chose; where something is set by hand, also what that would have given */
  chosen: Choice & { dropPct: number | null; verdict: Verdict };
  overrides: WireOverride[];
}

export interface Wiring {
  circuits: PlannedCircuit[];
  /** the unit's power points and those the kits make */
  points: PowerPoint[];
  /** amperes newly taken at each point */
  taken: Map<string, number>;
  /** all feeds were chosen together: whether that is proved best, at what cost, and the least that any could cost */
  assignment: { optimal: boolean; cost: number; bound: number };
  /** the most that each element of the harness carries, everything on at once, amperes */
  amps: ReadonlyMap<string, number>;
  /** everything joined, as a network that can be switched on; nothing of it is changed once it is built */
  harness: Harness;
  /** the boxes' own harnesses as they lie on the unit */
  boxes: readonly LaidBox[];
  verdict: Verdict;
}

export const circuitId = (kit: string, circuit: string): string => `${kit}/${circuit}`;
