import type { Harness, HarnessWire } from '#model/harness';
import type { Hazard, UnitModel } from '#model/unit-model';
import { findRun, PROTECTION, runLength } from '../circuit/route';
import { allowable } from '../wire-rules/allowable';
import { bundle, WIRE_OD_MM } from './bundle';

/** Support at most this far apart. Source: ABYC E-11, 18 in. */
const SUPPORT_MM = 457.2;
/** Wall of split loom, both sides together, millimetres. From memory: common practice, no source. */
const LOOM_WALL_MM = 2.6;
/** Drills a shop has, millimetres: 1/4 to 1 1/2 in. Common practice, no source. */
const HOLES_MM = [6.4, 7.9, 9.5, 11.1, 12.7, 14.3, 15.9, 19.1, 22.2, 25.4, 31.8, 38.1];
/** A grommet's groove takes this much more than what goes through it. Common practice, no source. */
const GROMMET_MM = 4;
/** A wire thicker than this is led on its own. Common practice, no source. */
const CABLE_AWG = 8;
/** From this many amperes a wire counts as carrying current. */
const CARRIES_A = 1;

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
  const inRun = new Map<string, HarnessWire[]>();
  for (const e of h.elements) {
    if (e.kind !== 'wire') continue;
    for (let i = 1; i < e.places.length; i++) {
      const run = findRun(model, `${e.places[i - 1]}>${e.places[i]}`) ?? findRun(model, `${e.places[i]}>${e.places[i - 1]}`);
      if (!run) continue;
      const key = `${run.from}>${run.to}`;
      inRun.set(key, [...(inRun.get(key) ?? []), e]);
    }
  }
  const name = (id: string) => model.places.find((p) => p.id === id)?.name ?? id;
  return model.runs.flatMap((run) => {
    const key = `${run.from}>${run.to}`;
    const wires = inRun.get(key);
    if (!wires) return [];
    const { bundleMm, loomMm } = bundle(wires.map((w) => WIRE_OD_MM[w.awg ?? 18] ?? 2.2));
    const lengthMm = runLength(model, run);
    const carrying = wires.filter((w) => !w.signal && (w.awg ?? 18) > CABLE_AWG && (amps.get(w.id) ?? 0) >= CARRIES_A);
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
          const mayA = allowable({ awg: w.awg! }, { hot: run.hazards.includes('heat'), bundled: carrying.length });
          const a = amps.get(w.id)!;
          return a > mayA ? [{ wire: w.id, name: w.name, amps: a, mayA }] : [];
        }),
      },
    ];
  });
}
