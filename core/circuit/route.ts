import type { Hazard, Run, UnitModel } from '#model/unit-model';

/** Straight lines are never what a harness does: added to a run whose length nobody measured. Common practice, no source. */
const UNMEASURED = 1.15;
/** What a detour is worth to keep clear of a hazard, millimetres of wire. Common practice, no source. */
const DETOUR_MM: Record<Hazard, number> = { heat: 800, moving: 800, steering: 1500, pinch: 700, wet: 400, sharp: 300 };
/** What a hazard on the way asks for. Common practice, no source. */
export const PROTECTION: Record<Hazard, string> = {
  heat: 'heat sleeve, a hand’s breadth from exhaust and engine',
  moving: 'a free loop, tied at both ends of what moves',
  steering: 'slack lock to lock, never across the stops',
  pinch: 'loom, and a look at it with the part closed',
  wet: 'sealed joints, a drip loop before each',
  sharp: 'grommet or edge trim',
};
/** Left over where a bar turns or a hood opens, millimetres. Common practice, no source. */
const MOVING_SLACK_MM = 150;

export interface Route {
  lengthMm: number;
  places: string[];
  hazards: Hazard[];
  /** slack that turning and opening parts need, millimetres, beside the length */
  slackMm: number;
}

type Edge = { to: string; lengthMm: number; hazards: Hazard[] };
const graphs = new WeakMap<UnitModel, Map<string, Edge[]>>();

/** Whether a run lies between two places, whichever of them it is told from. */
export const isRun = (r: { from: string; to: string }, a: string, b: string): boolean =>
  (r.from === a && r.to === b) || (r.from === b && r.to === a);

/** Length of a run, measured or from its places, millimetres. */
export function runLength(model: UnitModel, run: Run): number {
  if (run.lengthMm !== undefined) return run.lengthMm;
  const a = model.places.find((p) => p.id === run.from)!;
  const b = model.places.find((p) => p.id === run.to)!;
  return Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z) * UNMEASURED;
}

function graphOf(model: UnitModel): Map<string, Edge[]> {
  let g = graphs.get(model);
  if (g) return g;
  g = new Map(model.places.map((p) => [p.id, []]));
  for (const run of model.runs) {
    const lengthMm = runLength(model, run);
    g.get(run.from)!.push({ to: run.to, lengthMm, hazards: run.hazards });
    g.get(run.to)!.push({ to: run.from, lengthMm, hazards: run.hazards });
  }
  graphs.set(model, g);
  return g;
}

const costOf = (e: Edge): number => e.lengthMm + e.hazards.reduce((s, h) => s + DETOUR_MM[h], 0);

type Back = Map<string, { place: string; edge: Edge }>;
const searched = new WeakMap<UnitModel, Map<string, { best: Map<string, number>; back: Back }>>();

/** Dijkstra from one place over lengths with hazards weighed in. One tree for all targets, so that wires share their way. */
function search(model: UnitModel, from: string): { best: Map<string, number>; back: Back } {
  let kept = searched.get(model);
  if (!kept) searched.set(model, (kept = new Map()));
  const known = kept.get(from);
  if (known) return known;
  const graph = graphOf(model);
  const best = new Map<string, number>([[from, 0]]);
  const back: Back = new Map();
  const open = new Set(graph.keys());
  while (open.size) {
    let here: string | null = null;
    for (const p of open) if (best.has(p) && (here === null || best.get(p)! < best.get(here)!)) here = p;
    if (here === null) break;
    open.delete(here);
    for (const edge of graph.get(here)!) {
      const d = best.get(here)! + costOf(edge);
      if (d < (best.get(edge.to) ?? Infinity)) {
        best.set(edge.to, d);
        back.set(edge.to, { place: here, edge });
      }
    }
  }
  const out = { best, back };
  kept.set(from, out);
  return out;
}

function along(back: Back, from: string, to: string): Route {
  const places = [to];
  const hazards = new Set<Hazard>();
  let lengthMm = 0;
  let slackMm = 0;
  for (let p = to; p !== from;) {
    const step = back.get(p)!;
    step.edge.hazards.forEach((h) => hazards.add(h));
    lengthMm += step.edge.lengthMm;
    if (step.edge.hazards.some((h) => h === 'steering' || h === 'moving')) slackMm += MOVING_SLACK_MM;
    p = step.place;
    places.unshift(p);
  }
  return { lengthMm, places, hazards: [...hazards], slackMm };
}

/** A run as it is named in an override: its two places. */
export const runKey = (run: Pick<Run, 'from' | 'to'>): string => `${run.from}>${run.to}`;
export const findRun = (model: UnitModel, key: string): Run | undefined => model.runs.find((r) => runKey(r) === key);

/**
 * The best way along the unit's runs between two places: short, and round hazards where a detour is worth it.
 * @param via a run (`from>to`) that it must take, set by hand
 * @returns null when no runs join them, or a place is not on the unit
 */
export function route(model: UnitModel, from: string, to: string, via?: string): Route | null {
  const graph = graphOf(model);
  if (!graph.has(from) || !graph.has(to)) return null;
  const direct = search(model, from);
  const run = via === undefined ? undefined : findRun(model, via);
  if (run) {
    const plain = direct.best.has(to) ? along(direct.back, from, to) : null;
    const steps = (places: string[]) =>
      places.some((p, i) => i > 0 && [run.from, run.to].includes(p) && [run.from, run.to].includes(places[i - 1]!));
    if (plain && steps(plain.places)) return plain;
    let best: { cost: number; route: Route } | null = null;
    for (const [near, far] of [
      [run.from, run.to],
      [run.to, run.from],
    ] as const) {
      const onward = search(model, far);
      if (!direct.best.has(near) || !onward.best.has(to)) continue;
      const cost = direct.best.get(near)! + onward.best.get(to)!;
      if (best && cost >= best.cost) continue;
      const [first, last] = [along(direct.back, from, near), along(onward.back, far, to)];
      best = {
        cost,
        route: {
          lengthMm: first.lengthMm + runLength(model, run) + last.lengthMm,
          places: [...first.places, ...last.places],
          hazards: [...new Set([...first.hazards, ...run.hazards, ...last.hazards])],
          slackMm: first.slackMm + last.slackMm + (run.hazards.some((h) => h === 'steering' || h === 'moving') ? MOVING_SLACK_MM : 0),
        },
      };
    }
    return best?.route ?? null;
  }
  return direct.best.has(to) ? along(direct.back, from, to) : null;
}

/** The hazards of the piece of way through these places in turn. */
export function hazardsAlong(model: UnitModel, places: readonly string[]): Hazard[] {
  const graph = graphOf(model);
  const out = new Set<Hazard>();
  for (let i = 1; i < places.length; i++)
    graph
      .get(places[i - 1]!)
      ?.find((e) => e.to === places[i])
      ?.hazards.forEach((h) => out.add(h));
  return [...out];
}

/** Length and slack of the way through these places in turn, millimetres. */
export function lengthAlong(model: UnitModel, places: readonly string[]): { lengthMm: number; slackMm: number } {
  const graph = graphOf(model);
  let lengthMm = 0;
  let slackMm = 0;
  for (let i = 1; i < places.length; i++) {
    const e = graph.get(places[i - 1]!)?.find((x) => x.to === places[i]);
    if (!e) continue;
    lengthMm += e.lengthMm;
    if (e.hazards.some((h) => h === 'steering' || h === 'moving')) slackMm += MOVING_SLACK_MM;
  }
  return { lengthMm, slackMm };
}
