import type { SumLine } from '#model/common';
import type { Circuit } from '#model/kit';
import { SLACK } from '../harness/builder';
import { round, sum } from '../sum';
import { crimpPull } from '../wire/choose';
import { FUSE_FACTOR, fuseColour } from '../wire/fuse';
import { FUSE_TIME_SOURCE, fuseFamily, fuseOpens } from '../wire/fuse-time';
import { awgName } from '../wire/resistance';
import { STALL_TIMES } from '../winch/stall';
import { SOURCE } from '../wire/tables';
import { SOURCE as RULES } from '../wire-rules/tables';
import { bundlingFactor, type Surroundings } from '../wire-rules/allowable';
import type { FuseFamily } from '../wire-rules/fuse-volts';
import type { FlowDrop } from './flows';
import { BURST_SHARE, type CircuitLoad } from './load';
import { PROTECTION, type Route } from './route';
import type { Burst } from './size';

/** The arithmetic behind a circuit's gauge and fuse, line by line. */
export function circuitSum(q: {
  circuit: Circuit;
  load: CircuitLoad;
  way: Route | null;
  lengthM: number | null;
  measured: boolean;
  awg: number | null;
  worstDrop: FlowDrop | null;
  dropV: number | null;
  dropPct: number | null;
  ampacityA: number | null;
  fuseA: number | null;
  bursts: readonly Burst[];
  around: Required<Surroundings>;
  highestV: number;
  fuseKind: FuseFamily | null;
  joined: readonly { name: string; load: CircuitLoad }[];
  /** its wire comes ready out of the box */
  ready: boolean;
  fuseFrom: 'box' | 'shelf' | 'unit' | null;
  /** circuits that come home on a wire with it, and the amperes of all of them */
  homeWith: readonly { names: string; amps: number }[];
}): SumLine[] {
  const { circuit, load, way, lengthM, measured, awg, worstDrop, dropV, dropPct, ampacityA, fuseA, bursts } = q;
  const lines: Parameters<typeof sum> = [];
  lines.push(
    load.peakA === null
      ? { label: `Load: watts of ${load.missing.map((m) => m.device.name).join(', ')} not known`, value: '?' }
      : { label: circuit.makes ? 'Input at full rating' : 'Load, all on', value: load.peakA, unit: 'A' },
  );
  for (const j of q.joined) lines.push({ label: `Of it, joined: ${j.name}`, value: j.load.peakA ?? '?', unit: 'A', kind: 'note' });
  if (load.hasBurst && load.continuousA !== null)
    lines.push({
      label: `Heating, burst taken at ${BURST_SHARE * 100} %`,
      value: load.continuousA,
      unit: 'A',
      source: 'common practice, no source',
    });
  if (load.heatsA !== null && load.continuousA !== null && load.heatsA > load.continuousA)
    lines.push({
      label: `Heating when it stalls, ${STALL_TIMES} × rated, ${BURST_SHARE * 100} %`,
      value: load.heatsA,
      unit: 'A',
      source: 'common practice, no source',
    });
  if (way && !measured) lines.push({ label: `Along the runs, ${way.places.length - 1} of them`, value: way.lengthMm / 1000, unit: 'm' });
  if (lengthM !== null)
    lines.push({
      label: measured
        ? 'Measured, one way'
        : q.ready
          ? 'As the box’s leads are long'
          : `With ${Math.round((SLACK - 1) * 100)} % slack, ends and joints`,
      value: lengthM,
      unit: 'm',
      source: measured || q.ready ? undefined : 'common practice, no source',
    });
  if (worstDrop && worstDrop.backM !== null && lengthM !== null) lines.push({ label: 'Back to ground', value: worstDrop.backM, unit: 'm' });
  for (const h of q.homeWith) lines.push({ label: `Home on one wire with ${h.names}, together`, value: h.amps, unit: 'A', kind: 'note' });
  if (awg !== null && dropV !== null && worstDrop) {
    lines.push({
      label: `Lost in its own ${awgName(awg)} AWG, there and back`,
      value: worstDrop.ownV,
      unit: 'V',
      source: `${SOURCE.awg}, ${SOURCE.copper}`,
    });
    if (worstDrop.partsV > 0.0005)
      lines.push({
        label: 'Lost in its fuse and contacts',
        value: worstDrop.partsV,
        unit: 'V',
        source: 'makers’ sheets, from memory; common practice, no source',
      });
    if (worstDrop.sharedV > 0.0005) lines.push({ label: 'Lost where others’ current flows too', value: worstDrop.sharedV, unit: 'V' });
    lines.push({ label: `Drop of ${circuit.volts} V`, value: dropPct!, unit: '%', kind: 'result' });
    lines.push({ label: 'Allowed drop', value: circuit.dropPct, unit: '%', source: SOURCE.drop, kind: 'limit' });
  }
  if (ampacityA !== null)
    lines.push({
      label: `Wire may carry${q.around.hot ? ', past hot parts' : ''}${q.around.bundled > 2 ? `, ${q.around.bundled} bundled (× ${bundlingFactor(q.around.bundled)})` : ''}`,
      value: ampacityA,
      unit: 'A',
      source: RULES.ampacity,
      kind: 'limit',
    });
  if (load.continuousA !== null)
    lines.push({ label: `${FUSE_FACTOR} × continuous`, value: load.continuousA * FUSE_FACTOR, unit: 'A', source: SOURCE.fuseRule });
  if (fuseA !== null)
    lines.push({
      label: `Fuse${q.fuseFrom === 'box' ? ' in the box' : ''} (${fuseColour(fuseA)})`,
      value: fuseA,
      unit: 'A',
      source: SOURCE.fuseColour,
      kind: 'result',
    });
  if (q.fuseKind)
    lines.push({
      label: `Its kind, for the ${round(q.highestV)} V that stand here while charging: ${q.fuseKind.name}`,
      value: q.fuseKind.ratedV,
      unit: 'V',
      source: q.fuseKind.source,
      kind: 'limit',
    });
  for (const burst of fuseA === null ? [] : bursts) {
    const t = fuseOpens(fuseFamily(fuseA!), fuseA!, burst.amps).soonestS;
    lines.push({
      label: `Fuse stands ${round(burst.amps)} A (${burst.what})`,
      value: Number.isFinite(t) ? t : 'for good',
      unit: Number.isFinite(t) ? 's' : undefined,
      source: FUSE_TIME_SOURCE,
    });
    lines.push({ label: 'It must stand', value: burst.seconds, unit: 's', kind: 'limit' });
  }
  if (circuit.fuseMaxA !== undefined) lines.push({ label: 'Kit maker’s maximum fuse', value: circuit.fuseMaxA, unit: 'A', kind: 'limit' });
  if (awg !== null) lines.push({ label: 'Crimp must hold for a minute', value: crimpPull(awg).lbf, unit: 'lbf', source: SOURCE.tensile });
  for (const h of way?.hazards ?? []) lines.push({ label: `On its way, ${h}: ${PROTECTION[h]}`, value: ' ', kind: 'note' });
  return sum(...lines);
}
