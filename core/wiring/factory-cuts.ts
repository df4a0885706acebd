import { pairsOf } from '#model/box';
import type { FactoryCut, Kit } from '#model/kit';
import type { WireFunction } from '#model/parts';
import type { FactoryWire, UnitModel } from '#model/unit-model';
import { findTap } from '../harness/tap';
import { slugOf } from '../slug';
import { joinedEnds, sayTarget } from './target';

/** A wire of the unit that a kit is joined to or cuts, and where. */
export interface Sought {
  wire: FactoryWire;
  place: string;
}
/** The wires of the unit that a kit asks for: each where it is cut, else where it is found. */
export function soughtBy(kit: Kit, kits: readonly Kit[], model: UnitModel): Sought[] {
  const others = kits.filter((k) => k.id !== kit.id);
  const wireOf = (f: WireFunction) => findTap(model, others, f)?.wire ?? null;
  const ends = [...kit.leads.flatMap((l) => [l.from, l.to]), ...kit.joins.flatMap((j) => pairsOf(j).map(([, t]) => t))];
  const asked = [...new Set(ends)].flatMap((e) => (e.startsWith('wire:') ? [e.slice(5) as WireFunction] : []));
  const cut = kit.cuts.flatMap((c) => {
    const wire = wireOf(c.wire);
    return wire && model.places.some((p) => p.id === c.place) ? [{ wire, place: c.place }] : [];
  });
  const joined = asked.flatMap((f) => {
    const wire = wireOf(f);
    // its own plug shows which it is; where it is cut it is looked for there
    const there = !wire || wire.connector || kit.cuts.some((c) => c.wire === f && c.unitSide === 'joined');
    return there ? [] : [{ wire, place: wire.place }];
  });
  return [...joined, ...cut];
}

/** The cuts of a kit that this unit has a wire for, by an id within the kit. */
export function cutsOf(kit: Kit, kits: readonly Kit[], model: UnitModel): { id: string; cut: FactoryCut; sought: Sought }[] {
  const found = soughtBy(kit, kits, model);
  return kit.cuts.flatMap((cut) => {
    const sought = found.find((s) => s.wire.function === cut.wire && s.place === cut.place);
    return sought ? [{ id: slugOf(`${cut.wire} ${cut.place}`), cut, sought }] : [];
  });
}

/** What becomes of the two sides of a cut wire. */
export interface CutSides {
  id: string;
  kit: Kit;
  wire: FactoryWire;
  place: string;
  /** ends of the box that take each side, in words; null: capped and tied back */
  unit: string | null;
  other: string | null;
  minutes: number;
}

/** Both sides of every wire that these kits cut. */
export function cutSides(kits: readonly Kit[], model: UnitModel): CutSides[] {
  return kits.flatMap((kit) =>
    cutsOf(kit, kits, model).map(({ id, cut, sought }): CutSides => {
      /** the ends of the box whose wire goes to a target */
      const taken = (want: (t: string) => boolean) => {
        const ends = kit.joins.flatMap((j) =>
          pairsOf(j).some(([, t]) => want(t))
            ? joinedEnds(kit)
                .filter((e) => e.harness.id === j.harness && e.end.id === j.end)
                .map((e) => e.end.name)
            : [],
        );
        return [...new Set(ends)].join(' and ');
      };
      const terminal = cut.otherSide.split('.') as [string, string];
      return {
        id,
        kit,
        wire: sought.wire,
        place: sought.place,
        minutes: cut.minutes,
        unit: cut.unitSide === 'capped' ? null : taken((t) => t === `wire:${cut.wire}`) || 'the lead for it',
        other:
          cut.otherSide === 'capped'
            ? null
            : taken((t) => t === cut.otherSide) || sayTarget(kit, { to: 'terminal', device: terminal[0], terminal: terminal[1] }),
      };
    }),
  );
}
