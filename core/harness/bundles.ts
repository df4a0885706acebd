import type { Harness, HarnessWire } from '#model/harness';
import type { Hazard, UnitModel } from '#model/unit-model';
import { PROTECTION, runLength } from '../circuit/route';
import { allowable } from '../wire-rules/allowable';
import { SUPPORT_MM } from '../wire-rules/fuse-place';
import { bundle, WIRE_OD_MM } from './bundle';
import { byRun, counts, inRun } from './together';

/** Wall of split loom, both sides together, millimetres. From memory: common practice, no source. */
const LOOM_WALL_MM = 2.6;
/** Drills a shop has, millimetres: 1/4 to 1 1/2 in. Common practice, no source. */
const HOLES_MM = [6.4, 7.9, 9.5, 11.1, 12.7, 14.3, 15.9, 19.1, 22.2, 25.4, 31.8, 38.1];
/** A grommet's groove takes this much more than what goes through it. Common practice, no source. */
const GROMMET_MM = 4;

/** What lies in one run of the unit. */
export interface BundleRow {
  run: string;
  from: string;
  to: string;
  lengthMm: number;
  hazards: Hazard[];
  protect: string[];
  wires: string[];
  bundleMm: number;
  /** inside diameter of the loom; null: nothing to bind, or too thick for one */
  loomMm: number | null;
  ties: number;
  /** hole to drill or find where an edge is passed, with its grommet; null where none is */
  holeMm: number | null;
  /** wires that carry too much for so many together */
  warm: { wire: string; name: string; amps: number; mayA: number }[];
}

/**
 * The bundle in each run of the unit: its diameter, loom, ties, and grommet; and whether any wire carries more than ABYC's
 * bundling factor allows so many together.
 * @param amps the most that each wire carries
 */
export function bundleRows(h: Harness, model: UnitModel, amps: ReadonlyMap<string, number>): BundleRow[] {
  const runs = byRun(h.elements.filter((e): e is HarnessWire => e.kind === 'wire'));
  const name = (id: string) => model.places.find((p) => p.id === id)?.name ?? id;
  return model.runs.flatMap((run) => {
    const key = `${run.from}>${run.to}`;
    const wires = inRun(runs, run.from, run.to);
    if (!wires.length) return [];
    const { bundleMm, loomMm } = bundle(wires.map((w) => WIRE_OD_MM[w.awg ?? 18] ?? 2.2));
    const lengthMm = runLength(model, run);
    const carrying = wires.filter((w) => counts(w, amps.get(w.id) ?? 0));
    const outside = (loomMm ?? bundleMm) + (loomMm ? LOOM_WALL_MM : 0);
    return [
      {
        run: key,
        from: name(run.from),
        to: name(run.to),
        lengthMm,
        hazards: run.hazards,
        protect: run.hazards.map((z) => PROTECTION[z]),
        wires: wires.map((w) => w.id),
        bundleMm,
        loomMm: wires.length > 1 || run.hazards.length ? loomMm : null,
        ties: Math.floor(lengthMm / SUPPORT_MM) + 1,
        holeMm: run.hazards.includes('sharp') ? (HOLES_MM.find((x) => x >= outside + GROMMET_MM) ?? null) : null,
        warm: carrying.flatMap((w) => {
          const mayA = allowable({ ...w, awg: w.awg! }, { hot: run.hazards.includes('heat'), bundled: carrying.length });
          const a = amps.get(w.id)!;
          return a > mayA ? [{ wire: w.id, name: w.name, amps: a, mayA }] : [];
        }),
      },
    ];
  });
}
