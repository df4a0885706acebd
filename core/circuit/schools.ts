import type { PlannedCircuit, Wiring } from '../wiring/planned';
import type { Candidate } from './feed';

export const SCHOOLS = ['plug', 'keyed', 'relay', 'manager'] as const;
export type School = (typeof SCHOOLS)[number];
export const SCHOOL_WORD: Record<School, string> = {
  plug: 'constant, with a plug to pull',
  keyed: 'keyed feed',
  relay: 'relay, triggered by a keyed wire',
  manager: 'power manager',
};
/** What each asks for at the bench: pieces, minutes. Common practice, no source. */
const COST: Record<School, { parts: string[]; minutes: number }> = {
  plug: { parts: ['fuse holder', 'two-pin sealed plug'], minutes: 8 },
  keyed: { parts: ['fuse holder'], minutes: 6 },
  relay: { parts: ['fuse holder', 'relay', 'relay base', 'trigger wire'], minutes: 18 },
  manager: { parts: ['channel lead'], minutes: 9 },
};
/** Volts drop and standing draw of a relay's coil while it is on, amperes. */
const COIL_A = 12 / 90;

/** One way of feeding a circuit, as installers argue about it. */
export interface SchoolRow {
  school: School;
  /** best point for it; null when none will do */
  point: Candidate['point'] | null;
  possible: boolean;
  reason: string;
  /** drawn with the key off, milliamperes */
  parkedMa: number;
  /** drawn for itself while on, amperes */
  ownA: number;
  freeA: number | null;
  parts: string[];
  minutes: number;
  chosen: boolean;
}

/** The schools side by side for one circuit: what each takes parked, uses up, asks for, and whether it can be had here. */
export function compareSchools(c: PlannedCircuit, w: Wiring): SchoolRow[] {
  const standbyMa = c.circuit.devices.reduce((s, d) => s + (c.kit.devices.find((x) => x.id === d)?.standbyMa ?? 0), 0);
  const trigger = w.points.some((p) => p.switching === 'keyed' && p.kind !== 'reducer-output' && p.kind !== 'manager-channel');
  return SCHOOLS.map((school) => {
    const fits = (k: Candidate): boolean => {
      const { point } = k;
      if (Math.abs(point.volts - c.circuit.volts) > 2 || point.kind === 'pack-tap') return false;
      if (school === 'manager') return point.kind === 'manager-channel';
      if (point.kind === 'manager-channel') return false;
      return school === 'keyed' ? point.switching === 'keyed' : point.switching === 'constant';
    };
    const list = c.candidates.filter(fits);
    const roomy = list
      .filter((k) => k.freeA === null || (c.load.continuousA ?? 0) <= k.freeA + 1e-9)
      .sort((a, b) => (a.distanceM ?? 99) - (b.distanceM ?? 99));
    const best = list.find((k) => k.accepted && (school === 'relay') === (k.mode === 'relay')) ?? roomy[0] ?? list[0] ?? null;
    let reason = '';
    if (!best)
      reason =
        school === 'manager'
          ? 'no power manager on this order: choose its kit at Fit'
          : `no ${school === 'keyed' ? 'keyed' : 'constant'} point of ${c.circuit.volts} V here`;
    else if (!roomy.includes(best)) reason = best.reason;
    else if (school === 'keyed' && c.circuit.switching === 'constant') reason = 'dead with the key off, and it must not be';
    else if (school === 'keyed' && c.circuit.relay === 'required') reason = 'its maker calls for a relay';
    else if (school === 'relay' && c.circuit.relay === 'never') reason = 'its maker forbids a relay';
    else if (school === 'relay' && !trigger) reason = 'no keyed wire to trigger it';
    else if (school === 'relay' && c.circuit.switching === 'constant') reason = 'dead with the key off, and it must not be';
    else if (school === 'plug' && c.circuit.switching === 'keyed') reason = 'live with the key off until somebody pulls it';
    const possible = best !== null && (reason === '' || (school === 'plug' && reason.startsWith('live')));
    const now =
      c.feed !== null &&
      (c.feed.kind === 'manager-channel' ? 'manager' : c.mode === 'relay' ? 'relay' : c.feed.switching === 'keyed' ? 'keyed' : 'plug') ===
        school;
    return {
      school,
      point: best?.point ?? null,
      possible,
      reason: reason || best!.reason,
      parkedMa: school === 'plug' ? standbyMa : school === 'manager' ? 0.2 : 0,
      ownA: school === 'relay' ? COIL_A : 0,
      freeA: best?.freeA ?? null,
      parts: c.joint === 'factory-plug' && school === 'keyed' ? [] : COST[school].parts,
      minutes: COST[school].minutes,
      chosen: now,
    };
  });
}

/** The factory plug kept, or cut off for a joint. */
export function comparePlug(c: PlannedCircuit): { way: string; minutes: number; parts: string[]; says: string; chosen: boolean }[] | null {
  if (c.circuit.joint !== 'factory-plug' && !c.feed?.plug) return null;
  const kept = c.joint === 'factory-plug';
  return [
    {
      way: 'factory plug kept',
      minutes: 2,
      parts: c.circuit.joint === 'factory-plug' ? [] : ['mating plug'],
      says: 'nothing cut, comes off again in seconds, the unit’s warranty untouched',
      chosen: kept,
    },
    {
      way: 'cut, and joined',
      minutes: 7,
      parts: ['two crimps', 'adhesive shrink'],
      says: 'no plug to corrode or shake loose; every crimp is tugged; cannot be undone',
      chosen: !kept,
    },
  ];
}
