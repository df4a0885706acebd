import ELK from 'elkjs/lib/elk.bundled.js';
import Papa from 'papaparse';
import { JOINT_WORD } from '#core/circuit/joint';
import { capRows, cutPlan, cutRows, spliceRows } from '#core/harness/cut-list';
import { schematicSvg } from '#core/harness/draw';
import { layOut } from '#core/harness/layout';
import { schematicOf } from '#core/harness/schematic';
import { awgName } from '#core/wire/resistance';
import { Harness, type HarnessFuse } from '#model/harness';
import { cutListPdf, labelsPdf, schematicPdf, type Heading } from '../documents/wiring-pdf';
import type { Db } from '../store/db';
import { compute, readOrder } from '../store/orders';
import { Problem } from './problem';
import { route } from './route';

const elk = new ELK();

/** An order's wiring with everything its papers need. */
async function wiringOf(db: Db, id: string) {
  const order = await readOrder(db, id);
  if (!order) throw new Problem(404, 'Not here', 'There is no such order.');
  const { assessment, sheets, settings } = await compute(db, order);
  const { harness, circuits } = assessment.wiring;
  const rows = cutRows(harness, sheets.model);
  const plan = cutPlan(rows, settings.stock);
  const from = new Map(plan.assignments.map((a) => [a.cut, a.stock]));
  const place = (p: string | null) => sheets.model.places.find((x) => x.id === p)?.name ?? '–';
  const heading: Heading = {
    order: order.number,
    unit: `${sheets.model.maker} ${sheets.model.name}`,
    identity: order.unit.identity,
    owner: order.owner,
  };
  return {
    order,
    settings,
    harness,
    heading,
    rows: rows.map((r) => ({
      ...r,
      circuitName: circuits.find((c) => c.id === r.circuit)?.circuit.name ?? '',
      stock: from.get(r.wire) ?? '–',
    })),
    splices: spliceRows(harness, (c) => JOINT_WORD[circuits.find((x) => x.id === c)?.joint ?? 'crimp-shrink']).map((s) => ({
      ...s,
      placeName: place(s.place),
    })),
    caps: capRows(harness).map((c) => `${c.lead} (${place(c.place)})`),
  };
}

const file = (
  name: string,
  summary: string,
  produces: string,
  make: (w: Awaited<ReturnType<typeof wiringOf>>) => Promise<Buffer | string> | string,
  inline: boolean,
) =>
  route({
    method: 'get',
    path: `/api/orders/:id/wiring/${name}`,
    summary,
    produces,
    handle: async ({ params, res }, { db }) => {
      const w = await wiringOf(db, params.id!);
      res
        .type(produces)
        .setHeader('Content-Disposition', `${inline ? 'inline' : 'attachment'}; filename="${name.replace('.', `-${w.order.number}.`)}"`)
        .send(await make(w));
    },
  });

export const wiringRoutes = [
  file(
    'schematic.svg',
    'The schematic of the added wiring as scalable graphics',
    'image/svg+xml',
    async (w) => schematicSvg(await layOut(schematicOf(w.harness), elk), `${w.heading.unit}, order ${w.heading.order}: added wiring`),
    true,
  ),
  file(
    'schematic.pdf',
    'The schematic on paper',
    'application/pdf',
    async (w) => schematicPdf(await layOut(schematicOf(w.harness), elk), w.heading),
    true,
  ),
  file(
    'cut-list.pdf',
    'Cut list, splice sheet and leads to cap on paper',
    'application/pdf',
    (w) => cutListPdf(w.rows, w.splices, w.caps, w.heading, w.settings.units),
    true,
  ),
  file(
    'labels.pdf',
    'Labels of wires and fuses',
    'application/pdf',
    (w) =>
      labelsPdf(
        w.rows,
        w.harness.elements.filter((e): e is HarnessFuse => e.kind === 'fuse' && e.circuit !== null && e.of === null),
        w.heading,
        w.settings.units,
      ),
    true,
  ),
  file(
    'cut-list.csv',
    'Every piece of wire to cut, one a row',
    'text/csv',
    (w) =>
      Papa.unparse(
        w.rows.map((r) => ({
          label: r.label,
          circuit: r.circuitName,
          colour: r.colour,
          awg: r.awg === null ? '' : awgName(r.awg),
          length_m: r.lengthM ?? '',
          from: r.from,
          from_end: r.ends[0],
          to: r.to,
          to_end: r.ends[1],
          slide_on_first: r.slideOn.join('; '),
          strip_mm: r.stripMm ?? '',
          protect: r.protect.join('; '),
          cut_from: r.stock,
        })),
        { escapeFormulae: true },
      ),
    false,
  ),
  file(
    'splices.csv',
    'The splice sheet, one joint a row',
    'text/csv',
    (w) =>
      Papa.unparse(
        w.splices.map((s) => ({
          where: s.at,
          place: s.placeName,
          unit_side: s.from.join(' '),
          kit_side: s.to.join(' '),
          joint: s.joint,
          tug_newtons: s.pull ? Number(s.pull.newtons.toFixed(1)) : '',
          tug_lbf: s.pull?.lbf ?? '',
        })),
        { escapeFormulae: true },
      ),
    false,
  ),
  file(
    'harness.json',
    'The whole harness as data that can be read back',
    'application/json',
    (w) => JSON.stringify({ kadro: 'harness', format: 1, harness: Harness.parse(w.harness) }, null, 1),
    false,
  ),
];
