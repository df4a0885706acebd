import { targetsOf, type BoxEnd, type BoxHarness, type BoxJoin } from '#model/box';
import type { Kit } from '#model/kit';
import type { WireFunction } from '#model/parts';
import { functionWord } from '../harness/tap';

/** Where a wire of a box goes, read once from its sheet. */
export type Target =
  | { to: 'feed' | 'trigger'; circuit: string }
  | { to: 'ground' | 'capped' | 'spare' }
  | { to: 'wire'; function: WireFunction }
  | { to: 'terminal'; device: string; terminal: string };

/** A target as its sheet writes it; the schema has seen to it that it is one. */
export function readTarget(text: string): Target {
  if (text === 'ground' || text === 'capped' || text === 'spare') return { to: text };
  const at = /^(feed|trigger|wire):(.+)$/.exec(text);
  if (at?.[1] === 'wire') return { to: 'wire', function: at[2] as WireFunction };
  if (at) return { to: at[1] as 'feed' | 'trigger', circuit: at[2]! };
  const [device, terminal] = text.split('.') as [string, string];
  return { to: 'terminal', device, terminal };
}

/** A target as its sheet means it, in words; what is not in the sheet, as it is written. */
export function sayTarget(kit: Pick<Kit, 'circuits' | 'devices'>, t: Target): string {
  switch (t.to) {
    case 'feed':
    case 'trigger':
      return `${t.to} of ${kit.circuits.find((c) => c.id === t.circuit)?.name ?? t.circuit}`;
    case 'wire':
      return `the unit’s ${functionWord(t.function)} ${t.function === 'data' ? 'plug' : 'wire'}`;
    case 'terminal': {
      const d = kit.devices.find((x) => x.id === t.device);
      return `${d?.name ?? t.device}, ${d?.terminals.find((x) => x.id === t.terminal)?.name ?? t.terminal}`;
    }
    default:
      return t.to;
  }
}

/** An end of a harness with where each of its wires goes; a wire that its sheet joins nowhere is capped. */
export interface JoinedEnd {
  harness: BoxHarness;
  end: BoxEnd;
  wires: { wire: string; cavity: number | undefined; target: Target }[];
}

/** Ends by the harnesses of a sheet, which no one changes. */
const known = new WeakMap<Kit['harnesses'], { joins: Kit['joins']; ends: readonly JoinedEnd[] }>();

/** Every end of a kit’s harnesses, joined or not. */
export function joinedEnds(kit: Pick<Kit, 'harnesses' | 'joins'>): readonly JoinedEnd[] {
  const kept = known.get(kit.harnesses);
  if (kept && kept.joins === kit.joins) return kept.ends;
  const ends = kit.harnesses.flatMap((harness) =>
    harness.ends.map((end): JoinedEnd => {
      const join: BoxJoin | undefined = kit.joins.find((j) => j.harness === harness.id && j.end === end.id);
      return {
        harness,
        end,
        wires: end.wires.flatMap((w) => {
          const targets = join ? targetsOf(join, w.wire) : [];
          return (targets.length ? targets : ['capped']).map((t) => ({ wire: w.wire, cavity: w.cavity, target: readTarget(t) }));
        }),
      };
    }),
  );
  known.set(kit.harnesses, { joins: kit.joins, ends });
  return ends;
}

/** How a circuit takes its current through what its box brings; null: its box brings nothing for it. */
export interface BoxFeed {
  end: JoinedEnd;
  wire: string;
  /** the fuse that the maker put into its feed */
  fuse: (BoxHarness['inline'][number] & { kind: 'fuse' }) | null;
  /** the relay whose contact its feed goes to */
  relay: BoxHarness['relays'][number] | null;
  /** wires that carry its load, thinnest first */
  wires: BoxHarness['wires'];
}

/** What a kit’s box brings for a circuit’s feed. */
export function boxFeedOf(kit: Pick<Kit, 'harnesses' | 'joins'>, circuit: string): BoxFeed | null {
  for (const end of joinedEnds(kit))
    for (const w of end.wires) {
      if (w.target.to !== 'feed' || w.target.circuit !== circuit) continue;
      const { harness } = end;
      const fuse = harness.inline.find((x) => x.kind === 'fuse' && x.wire === w.wire) as BoxFeed['fuse'] | undefined;
      return {
        end,
        wire: w.wire,
        fuse: fuse ?? null,
        relay: harness.relays.find((r) => r.wires['30'] === w.wire) ?? null,
        wires: harness.wires.filter((x) => !x.signal).sort((a, b) => b.awg - a.awg),
      };
    }
  return null;
}
