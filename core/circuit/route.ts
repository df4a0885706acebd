import type { Hazard, UnitModel } from '#model/unit-model';

/** Straight lines are never what a harness does: added to a run whose length nobody measured. Common practice, no source. */
const UNMEASURED = 1.15;

export interface Route {
  lengthMm: number;
  places: string[];
  hazards: Hazard[];
}

type Edge = { to: string; lengthMm: number; hazards: Hazard[] };
const graphs = new WeakMap<UnitModel, Map<string, Edge[]>>();

function graphOf(model: UnitModel): Map<string, Edge[]> {
  let g = graphs.get(model);
  if (g) return g;
  g = new Map(model.places.map((p) => [p.id, []]));
  const at = new Map(model.places.map((p) => [p.id, p]));
  for (const run of model.runs) {
    const [a, b] = [at.get(run.from)!, at.get(run.to)!];
    const lengthMm = run.lengthMm ?? Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z) * UNMEASURED;
    g.get(run.from)!.push({ to: run.to, lengthMm, hazards: run.hazards });
    g.get(run.to)!.push({ to: run.from, lengthMm, hazards: run.hazards });
  }
  graphs.set(model, g);
  return g;
}

/**
 * The shortest way along the unit's runs between two places, millimetres (Dijkstra).
 * @returns null when no runs join them, or a place is not on the unit
 */
export function route(model: UnitModel, from: string, to: string): Route | null {
  const graph = graphOf(model);
  if (!graph.has(from) || !graph.has(to)) return null;
  const best = new Map<string, number>([[from, 0]]);
  const back = new Map<string, { place: string; edge: Edge }>();
  const open = new Set(graph.keys());
  while (open.size) {
    let here: string | null = null;
    for (const p of open) if (best.has(p) && (here === null || best.get(p)! < best.get(here)!)) here = p;
    if (here === null || here === to) break;
    open.delete(here);
    for (const edge of graph.get(here)!) {
      const d = best.get(here)! + edge.lengthMm;
      if (d < (best.get(edge.to) ?? Infinity)) {
        best.set(edge.to, d);
        back.set(edge.to, { place: here, edge });
      }
    }
  }
  const lengthMm = best.get(to);
  if (lengthMm === undefined) return null;
  const places = [to];
  const hazards = new Set<Hazard>();
  for (let p = to; p !== from;) {
    const step = back.get(p)!;
    step.edge.hazards.forEach((h) => hazards.add(h));
    p = step.place;
    places.unshift(p);
  }
  return { lengthMm, places, hazards: [...hazards] };
}
