import type { SumLine, Verdict } from '#model/common';
import type { Circuit, Kit } from '#model/kit';
import type { Order, WireOverride } from '#model/order';
import type { Settings } from '#model/settings';
import type { Sheets } from '#model/sheet';
import type { PowerPoint, UnitModel } from '#model/unit-model';
import { round, sum } from '../sum';
import { judgeUse, worst } from '../verdict';
import { chooseWire, crimpPull, pairDropV, wireAmpacity } from '../wire/choose';
import { chooseFuse, FUSE_FACTOR, FUSE_SIZES, fuseColour } from '../wire/fuse';
import { awgName, wireResistance } from '../wire/resistance';
import { GAUGES, SOURCE } from '../wire/tables';
import { judgePoint, type Candidate, type Mode } from './feed';
import { BURST_SHARE, circuitLoad, type CircuitLoad } from './load';
import { route, type Route } from './route';

/** Left at each end to make a neat joint, and for a bend that must still move. Common practice, no source. */
const END_M = 0.15;
const SLACK = 1.1;

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
  route: Route | null;
  /** one way, with slack */
  lengthM: number | null;
  awg: number | null;
  dropV: number | null;
  dropPct: number | null;
  ampacityA: number | null;
  limitedBy: string;
  fuseA: number | null;
  fuseColour: string | null;
  crimp: { newtons: number; lbf: number } | null;
  verdict: Verdict;
  problems: string[];
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
  verdict: Verdict;
}

export const circuitId = (kit: string, circuit: string): string => `${kit}/${circuit}`;

function farthest(model: UnitModel, from: string, kit: Kit, circuit: Circuit): Route | null {
  let far: Route | null = null;
  for (const id of circuit.devices) {
    const r = route(model, from, kit.devices.find((d) => d.id === id)!.place);
    if (!r) return null;
    if (!far || r.lengthMm > far.lengthMm) far = r;
  }
  return far;
}

const withSlack = (r: Route): number => (r.lengthMm / 1000) * SLACK + 2 * END_M;

/** Points that the kits' own supplies add, such as a reducer's output. */
function madePoints(sheets: Sheets): PowerPoint[] {
  return sheets.kits.flatMap((k) =>
    k.circuits.flatMap((c) =>
      c.makes && sheets.model.places.some((p) => p.id === c.makes!.place)
        ? [
            {
              id: c.makes.id,
              name: c.makes.name,
              place: c.makes.place,
              kind: 'reducer-output' as const,
              switching: c.switching === 'constant' ? ('constant' as const) : ('keyed' as const),
              volts: c.makes.volts,
              limitA: c.makes.ratedA,
              usedA: 0,
            },
          ]
        : [],
    ),
  );
}

/**
 * Plans every circuit of the order's kits on this unit: feed, mode, length along the runs, gauge, fuse, crimp pull.
 * Supplies are placed first, then the heaviest circuits, each on the best point that still has room.
 * Overrides are applied after, each with its effect on the verdict.
 */
export function planWiring(order: Order, sheets: Sheets, settings: Settings): Wiring {
  const { model } = sheets;
  const points = [...model.powerPoints, ...madePoints(sheets)];
  const taken = new Map<string, number>();
  const all = sheets.kits.flatMap((kit) =>
    kit.circuits.map((circuit) => ({ kit, circuit, load: circuitLoad(order, kit, circuit, circuit.volts) })),
  );
  const byWeight = [...all].sort(
    (a, b) => Number(!!b.circuit.makes) - Number(!!a.circuit.makes) || (b.load.continuousA ?? 0) - (a.load.continuousA ?? 0),
  );
  const done = new Map<Circuit, PlannedCircuit>();
  for (const { kit, circuit, load } of byWeight) {
    const overrides = order.overrides.filter((o) => o.circuit === circuitId(kit.id, circuit.id));
    done.set(circuit, planOne(model, points, taken, kit, circuit, load, overrides, settings));
  }
  const circuits = all.map(({ circuit }) => done.get(circuit)!);
  return { circuits, points, taken, verdict: worst(circuits.map((c) => c.verdict)) };
}

function planOne(
  model: UnitModel,
  points: PowerPoint[],
  taken: Map<string, number>,
  kit: Kit,
  circuit: Circuit,
  load: CircuitLoad,
  overrides: WireOverride[],
  settings: Settings,
): PlannedCircuit {
  const unaided = overrides.length ? planOne(model, points, new Map(taken), kit, circuit, load, [], settings) : null;
  const problems: string[] = [];
  const over = (field: WireOverride['field']) => overrides.find((o) => o.field === field)?.value;
  const amps = load.continuousA ?? 0;
  const missingPlace = circuit.devices
    .map((d) => kit.devices.find((x) => x.id === d)!)
    .find((d) => !model.places.some((p) => p.id === d.place));
  if (missingPlace) problems.push(`this unit has no place “${missingPlace.place}” for the ${missingPlace.name}`);

  const trigger =
    points.find((p) => p.switching === 'keyed' && p.kind === 'key-wire') ??
    points.find((p) => p.switching === 'keyed' && p.kind !== 'reducer-output') ??
    null;
  const usable = points.filter((p) => p.id !== circuit.makes?.id);
  const measured = typeof over('lengthM') === 'number';
  const candidates = usable
    .map((p) => {
      const r = missingPlace ? null : farthest(model, p.place, kit, circuit);
      return judgePoint(
        model,
        circuit,
        p,
        amps,
        taken.get(p.id) ?? 0,
        r ? withSlack(r) : measured ? (over('lengthM') as number) : null,
        trigger !== null,
      );
    })
    .sort((a, b) => Number(b.accepted) - Number(a.accepted) || a.cost - b.cost);
  const first = candidates.find((c) => c.accepted);

  const feedId = (over('feed') as string | undefined) ?? first?.point.id;
  const picked = candidates.find((c) => c.point.id === feedId) ?? null;
  const feed = picked?.point ?? null;
  const overMode = over('mode') as Mode | undefined;
  const mode: Mode = overMode ?? picked?.mode ?? 'direct';
  if (!feed)
    problems.push(candidates.length ? 'no feed on this unit will do: see why each was refused' : 'this unit lists no power points');
  else if (!picked!.accepted) problems.push(`${feed.name}: ${picked!.reason}`);
  if (feed && circuit.switching === 'keyed' && mode === 'direct' && feed.switching === 'constant')
    problems.push('a keyed circuit on a constant feed without a relay stays live with the key off');
  if (feed) taken.set(feed.id, (taken.get(feed.id) ?? 0) + amps);

  const way = feed && !missingPlace ? farthest(model, feed.place, kit, circuit) : null;
  const ownLength = way ? withSlack(way) : null;
  const lengthM = measured ? (over('lengthM') as number) : ownLength;

  let own: ReturnType<typeof size> = { awg: null, limitedBy: '', fuseA: null, problem: null };
  if (load.peakA !== null && lengthM !== null) own = size(circuit, load, lengthM);
  if (own.problem) problems.push(own.problem);
  const awg = (over('awg') as number | undefined) ?? own.awg;
  const fuseA = (over('fuseA') as number | undefined) ?? own.fuseA;
  const ampacityA = awg === null ? null : wireAmpacity(awg);
  const dropV = awg === null || load.peakA === null || lengthM === null ? null : pairDropV(awg, load.peakA, lengthM);
  const dropPct = dropV === null ? null : (dropV / circuit.volts) * 100;

  const verdicts: Verdict[] = [];
  if (load.missing.length) verdicts.push('unknown');
  if (lengthM === null && feed && !missingPlace) {
    verdicts.push('unknown');
    problems.push('no run leads there: type the measured length');
  }
  if (!feed || missingPlace || own.problem || (picked && !picked.accepted)) verdicts.push('fails');
  if (dropPct !== null) {
    verdicts.push(judgeUse(dropPct, circuit.dropPct, 1));
    if (dropPct > circuit.dropPct) problems.push(`drops ${round(dropPct)} %, ${circuit.dropPct} % allowed`);
  }
  if (ampacityA !== null && load.continuousA !== null && load.continuousA > ampacityA) {
    verdicts.push('fails');
    problems.push(`carries ${round(load.continuousA)} A, the wire may carry ${round(ampacityA)} A`);
  }
  const fuseLimit = ampacityA === null ? null : ampacityA * (settings.fuse150 ? 1.5 : 1);
  if (fuseA !== null && fuseLimit !== null && fuseA > fuseLimit) {
    verdicts.push('fails');
    problems.push(`the ${fuseA} A fuse is above what the wire may carry (${round(fuseLimit)} A): the wire would burn first`);
  }
  if (fuseA !== null && circuit.fuseMaxA !== undefined && fuseA > circuit.fuseMaxA) {
    verdicts.push('fails');
    problems.push(`the ${fuseA} A fuse is above the ${circuit.fuseMaxA} A that the kit’s maker allows`);
  }
  if (fuseA !== null && load.continuousA !== null && fuseA < load.continuousA * FUSE_FACTOR - 1e-9) {
    const blows = fuseA < load.continuousA;
    verdicts.push(blows ? 'fails' : 'tight');
    problems.push(
      blows
        ? `a ${fuseA} A fuse blows: ${round(load.continuousA)} A flow`
        : `a ${fuseA} A fuse is under 1.25 × ${round(load.continuousA)} A: it may blow when warm`,
    );
  }
  if (feed && circuit.switching === 'keyed' && mode === 'direct' && feed.switching === 'constant') verdicts.push('tight');
  if (overMode === 'relay' && !trigger) verdicts.push('fails');

  const verdict = worst(verdicts);
  return {
    id: circuitId(kit.id, circuit.id),
    kit,
    circuit,
    load,
    candidates,
    feed,
    trigger: mode === 'relay' ? trigger : null,
    mode,
    route: way,
    lengthM,
    awg,
    dropV,
    dropPct,
    ampacityA,
    limitedBy: over('awg') === undefined ? own.limitedBy : 'override',
    fuseA,
    fuseColour: fuseA === null ? null : fuseColour(fuseA),
    crimp: awg === null ? null : crimpPull(awg),
    verdict,
    problems,
    sum: circuitSum(circuit, load, way, lengthM, measured, awg, dropV, dropPct, ampacityA, fuseA),
    chosen: unaided?.chosen ?? {
      feed: first?.point.id ?? null,
      mode: first?.mode ?? 'direct',
      awg: own.awg,
      fuseA: own.fuseA,
      lengthM: ownLength,
      dropPct,
      verdict,
    },
    overrides,
  };
}

/** Gauge and fuse that Kadro chooses: a thicker wire where the fuse the load calls for would be above a thinner one. */
function size(
  circuit: Circuit,
  load: CircuitLoad,
  lengthM: number,
): { awg: number | null; limitedBy: string; fuseA: number | null; problem: string | null } {
  try {
    const byDrop = chooseWire({
      amps: load.peakA!,
      oneWayM: lengthM,
      systemV: circuit.volts,
      maxDropPct: circuit.dropPct,
      awgMin: load.hasBurst ? -1 : circuit.awgMin,
    });
    let { awg, limitedBy } = byDrop as { awg: number; limitedBy: string };
    if (load.hasBurst) {
      // a burst is judged by drop at its full amperes but by heat at its share, so the gauge is sought again
      const g = GAUGES.filter((x) => x <= circuit.awgMin).find(
        (x) => wireAmpacity(x) >= load.continuousA! && (pairDropV(x, load.peakA!, lengthM) / circuit.volts) * 100 <= circuit.dropPct,
      );
      if (g === undefined) return { awg: null, limitedBy: '', fuseA: null, problem: 'no stocked gauge up to 2/0 carries this burst' };
      awg = g;
      limitedBy = g === circuit.awgMin ? 'smallest' : 'drop';
    }
    const fuseA = FUSE_SIZES.find((f) => f >= load.continuousA! * FUSE_FACTOR - 1e-9);
    const thicker = GAUGES.find((g) => g <= awg && wireAmpacity(g) >= (fuseA ?? Infinity));
    if (thicker !== undefined && thicker !== awg) {
      awg = thicker;
      limitedBy = 'fuse';
    }
    return { awg, limitedBy, fuseA: chooseFuse(load.continuousA!, wireAmpacity(awg), circuit.fuseMaxA).ratingA, problem: null };
  } catch (e) {
    return { awg: null, limitedBy: '', fuseA: null, problem: (e as Error).message };
  }
}

function circuitSum(
  circuit: Circuit,
  load: CircuitLoad,
  way: Route | null,
  lengthM: number | null,
  measured: boolean,
  awg: number | null,
  dropV: number | null,
  dropPct: number | null,
  ampacityA: number | null,
  fuseA: number | null,
): SumLine[] {
  const lines: Parameters<typeof sum> = [];
  lines.push(
    load.peakA === null
      ? { label: `Load: watts of ${load.missing.map((m) => m.device.name).join(', ')} not known`, value: '?' }
      : { label: circuit.makes ? 'Input at full rating' : 'Load, all on', value: load.peakA, unit: 'A' },
  );
  if (load.hasBurst && load.continuousA !== null)
    lines.push({
      label: `Heating, burst taken at ${BURST_SHARE * 100} %`,
      value: load.continuousA,
      unit: 'A',
      source: 'common practice, no source',
    });
  if (way && !measured) lines.push({ label: `Along the runs, ${way.places.length - 1} of them`, value: way.lengthMm / 1000, unit: 'm' });
  if (lengthM !== null) {
    lines.push({
      label: measured ? 'Measured, one way' : `With ${Math.round((SLACK - 1) * 100)} % slack and ${END_M} m at each end`,
      value: lengthM,
      unit: 'm',
      source: measured ? undefined : 'common practice, no source',
    });
    lines.push({ label: 'There and back', value: 2 * lengthM, unit: 'm' });
  }
  if (awg !== null && lengthM !== null)
    lines.push({
      label: `Ohms of ${awgName(awg)} AWG`,
      value: wireResistance(awg, 2 * lengthM).ohms,
      unit: 'Ω',
      source: `${SOURCE.awg}, ${SOURCE.copper}`,
    });
  if (dropV !== null && dropPct !== null) {
    lines.push(
      { label: 'Drop', value: dropV, unit: 'V' },
      { label: `Drop of ${circuit.volts} V`, value: dropPct, unit: '%', kind: 'result' },
    );
    lines.push({ label: 'Allowed drop', value: circuit.dropPct, unit: '%', source: SOURCE.drop, kind: 'limit' });
  }
  if (ampacityA !== null) lines.push({ label: 'Wire may carry', value: ampacityA, unit: 'A', source: SOURCE.ampacity, kind: 'limit' });
  if (load.continuousA !== null)
    lines.push({ label: `${FUSE_FACTOR} × continuous`, value: load.continuousA * FUSE_FACTOR, unit: 'A', source: SOURCE.fuseRule });
  if (fuseA !== null)
    lines.push({ label: `Fuse (${fuseColour(fuseA)})`, value: fuseA, unit: 'A', source: SOURCE.fuseColour, kind: 'result' });
  if (circuit.fuseMaxA !== undefined) lines.push({ label: 'Kit maker’s maximum fuse', value: circuit.fuseMaxA, unit: 'A', kind: 'limit' });
  if (awg !== null) lines.push({ label: 'Crimp must hold for a minute', value: crimpPull(awg).lbf, unit: 'lbf', source: SOURCE.tensile });
  return sum(...lines);
}
