import type { Order } from '#model/order';
import type { OrderEvent } from '../events/record';
import { sayOrigin } from '#model/origin';
import type { Sheets } from '#model/sheet';
import { named } from '../people/named';
import { crimpPull } from '../wire/choose';
import { joinedWires } from '../wiring/box-work';
import { awgName } from '../wire/resistance';
import { LOCAL_CODE } from '../lighting/check';
import type { Assessment } from './assess';
import { FUSE_PLACE } from '../plan/wire-steps';
import { fuseWithinMm, sayFusePlace } from '../wire-rules/fuse-place';
import { closedShort } from '../plan/fasteners';
import { stepState } from './assess';
import { say } from '../events/registry';

const r3 = (x: number | null) => (x === null ? null : Number(x.toPrecision(4)));

/** The hand-over sheet as data: what paper, JSON and CSV are made from. SI units; times as ISO 8601. */
export function handoverSheet(order: Order, sheets: Sheets, a: Assessment, events: readonly OrderEvent[]) {
  const { model } = sheets;
  const build = model.builds.find((b) => b.id === order.unit.build);
  return {
    kadro: 'hand-over' as const,
    format: 1 as const,
    order: {
      number: order.number,
      status: order.status,
      trial: order.trial,
      openedAt: order.openedAt,
      promisedAt: order.promisedAt,
      sealedAt: order.sealedAt,
      owner: order.owner,
    },
    unit: {
      maker: model.maker,
      model: model.name,
      kind: model.kind,
      year: order.unit.year,
      build: build?.name ?? order.unit.build,
      identity: order.unit.identity,
      identityCheck: a.identity.says,
      meter: order.unit.meterValue,
      meterUnit: model.meter === 'hours' ? 'h' : 'km',
      systemV: model.electrical.systemV,
    },
    kits: a.sheets.kits.map((k) => ({
      maker: k.maker,
      name: k.name,
      // parts of this order alone are of no sheet
      sheetRevision: order.kits.find((o) => o.kit.id === k.id)?.kit.revision ?? 0,
    })),
    ...(order.jobs?.length
      ? {
          jobs: order.jobs.map((j) => ({
            title: j.title,
            place: model.places.find((p) => p.id === j.place)?.name ?? j.place,
            minutes: j.minutes,
            question: j.question,
          })),
        }
      : {}),
    ...(order.lots?.length ? { lots: order.lots.map((l) => ({ name: l.name, lot: l.lot, by: named(l.by), at: l.at })) } : {}),
    power: {
      verdict: a.power.verdict,
      says: a.power.says,
      checks: a.power.checks.map((c) => ({ title: c.title, verdict: c.verdict, says: c.says })),
      days: a.power.days.map((d) => ({ title: d.day.name, verdict: d.verdict, says: d.says })),
      agreed: order.changes.map((c) => ({ says: c.label, by: named(c.by), at: c.at })),
      measured: a.power.measured,
    },
    circuits: a.wiring.circuits.map((c) => ({
      kit: c.kit.name,
      circuit: c.circuit.name,
      feed: c.feed?.name ?? null,
      mode: c.mode,
      trigger: c.trigger?.name ?? null,
      awg: c.awg === null ? null : awgName(c.awg),
      oneWayM: r3(c.lengthM),
      fuseA: c.fuseA,
      fuseColour: c.fuseColour,
      fuseVolts: c.fuseKind?.ratedV ?? null,
      fusePlace: fusePlace(order, a, c),
      dropPct: r3(c.dropPct),
      byHand: c.overrides.map((o) => ({ field: o.field, value: o.value, reason: o.reason, by: o.by, at: o.at })),
    })),
    splices: [
      ...a.wiring.circuits
        .filter((c) => c.wireFrom !== 'box')
        .map((c) => ({
          circuit: c.circuit.name,
          kitColour: c.circuit.colour,
          unitColour: c.circuit.unitColour ?? null,
          joint: c.joint,
          place: c.feed?.name ?? null,
          pullN: r3(c.crimp?.newtons ?? null),
        })),
      // of a ready harness only what is really joined
      ...a.ends.flatMap((e) => {
        const c = a.wiring.circuits.find((x) => x.id === e.circuits[0]);
        if (e.how !== 'join' && e.how !== 'extend') return [];
        return joinedWires(e).map((w) => ({
          circuit: c?.circuit.name ?? e.kit.name,
          kitColour: w.colour,
          unitColour: w.meets,
          joint: c?.joint ?? 'crimp-shrink',
          place: w.goes,
          pullN: r3(crimpPull(w.thinner).newtons),
        }));
      }),
    ],
    lamps: a.lamps.packs.map(({ pack, items }) => ({
      pack: pack.name,
      edition: pack.edition,
      items: items.map((i) => ({
        title: i.title,
        verdict: i.verdict,
        says: i.says,
        figure: i.margin?.used === undefined || i.margin.used === null ? null : r3(i.margin.used),
        limit: r3(i.margin?.limit ?? null),
        unit: i.margin?.unit ?? null,
        source: i.source,
        basis: i.basis,
      })),
    })),
    steps: a.steps.map((s) => {
      const st = stepState(order, s.id);
      return {
        id: s.id,
        stage: s.stage,
        title: s.title,
        status: st.status,
        reason: st.reason ?? null,
        minutes: r3(st.seconds / 60)!,
        plannedMinutes: s.minutes,
        by: st.by ?? null,
        at: st.at ?? null,
        readings: s.readings.map((r) => {
          const t = st.readings[r.id];
          return {
            label: r.label,
            value: t?.value ?? null,
            unit: r.expected.unit,
            // the band that it was judged by; what is not read yet has the one that it will be
            low: (t ?? r).expected.low,
            high: (t ?? r).expected.high,
            verdict: t?.verdict ?? null,
            origin: t ? sayOrigin(t.origin) : '',
            by: t?.by ?? null,
            at: t?.at ?? null,
          };
        }),
      };
    }),
    proofs: a.proofs.map((p) => ({ title: p.step.title, state: p.state, says: p.says })),
    open: a.open,
    findings: order.findings,
    closedShort: closedShort(order, a.steps),
    cautions: [...new Set([...a.sheets.kits.flatMap((k) => k.cautions), ...a.steps.flatMap((s) => s.cautions), LOCAL_CODE])],
    /** of these, what its owner must know */
    ownerCautions: [...new Set(a.sheets.kits.flatMap((k) => k.cautions)), LOCAL_CODE],
    forTheOwner: a.sheets.kits.flatMap((k) => k.owner),
    signature: order.signature ? { name: order.signature.name, at: order.signature.at, strokes: order.signature.strokes } : null,
    minutes: { planned: r3(a.minutes.planned)!, spent: r3(a.minutes.spent)! },
    additions: order.additions,
    history: events.map((e) => ({ at: e.doneAt, by: named(e.by), says: say(e.body) })),
  };
}
export type HandoverSheet = ReturnType<typeof handoverSheet>;

/** What was fitted and done, kit by kit and job by job. */
export const sayFitted = (sheet: Pick<HandoverSheet, 'kits' | 'jobs'>): string =>
  [...sheet.kits.map((k) => `${k.maker} ${k.name}`), ...(sheet.jobs ?? []).map((j) => j.title)].join(' · ') || 'None.';

/**
 * Where a circuit's fuse stands: in the lead that its box brought, or in the unit; one off the shelf only where its step asked for
 * it and somebody confirmed it.
 */
function fusePlace(order: Order, a: Assessment, c: Assessment['wiring']['circuits'][number]): string | null {
  if (c.guardedBy) return `guarded by the fuse of ${c.guardedBy}`;
  if (c.fuseFrom === 'box') return c.feed ? `in its own lead, at ${c.feed.name}` : null;
  const asked = a.steps.find((s) => s.circuit === c.id && s.readings.some((r) => r.id === FUSE_PLACE));
  const read = asked && stepState(order, asked.id).readings[FUSE_PLACE];
  return read?.value === 1 && c.feed ? sayFusePlace(c.feed.name, fuseWithinMm(c.feed.kind)) : null;
}

type Row = Record<string, string | number | null>;

/** The readings of a sheet as rows for a spreadsheet: one a reading, one for a step without any. */
export function handoverRows(sheet: HandoverSheet): Row[] {
  const head = { order: sheet.order.number, unit: `${sheet.unit.maker} ${sheet.unit.model}`, identity: sheet.unit.identity };
  return sheet.steps.flatMap((s): Row[] => {
    const base = { ...head, stage: s.stage, step: s.title, status: s.status, reason: s.reason, minutes: s.minutes };
    const rows = s.readings.map((r) => ({
      ...base,
      reading: r.label,
      value: r.value,
      readingUnit: r.unit,
      low: r.low,
      high: r.high,
      verdict: r.verdict,
      origin: r.origin ?? '',
      by: r.by ?? s.by,
      at: r.at ?? s.at,
    }));
    return rows.length
      ? rows
      : [
          {
            ...base,
            reading: null,
            value: null,
            readingUnit: null,
            low: null,
            high: null,
            verdict: null,
            origin: null,
            by: s.by,
            at: s.at,
          },
        ];
  });
}
