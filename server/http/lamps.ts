import { z } from 'zod';
import { holeSheets, templateSvg, type HoleSheet } from '#core/lighting/hole-sheet';
import { aimPdf, holeSheetDxf, holeSheetPdf, mirrorOf } from '../documents/lamp-paper';
import type { Db } from '../store/db';
import { compute, readOrder } from '../store/orders';
import { Problem } from './problem';
import { route } from './route';

/** Metres to the wall that are taken when nobody says: 25 ft. */
const WALL_M = 7.62;

async function lampsOf(db: Db, id: string) {
  const order = await readOrder(db, id);
  if (!order) throw new Problem(404, 'Not here', 'There is no such order.');
  const { assessment, settings } = await compute(db, order);
  const { model } = assessment.sheets;
  return {
    order,
    settings,
    assessment,
    heading: { order: order.number, unit: `${model.maker} ${model.name}`, identity: order.unit.identity, owner: order.owner },
    sheets: holeSheets(order, assessment.sheets),
  };
}

const one = (list: readonly HoleSheet[], kit: string, device: string): HoleSheet => {
  const s = list.find((x) => x.kit === kit && x.device === device);
  if (!s) throw new Problem(404, 'Not here', 'No part of this order has a hole sheet of that name.');
  return s;
};

const Mirror = z.object({ mirror: z.literal('yes').optional() });
const Wall = z.object({
  distance: z.coerce.number().min(1, 'the wall stands from 1 to 50 m away').max(50, 'the wall stands from 1 to 50 m away').default(WALL_M),
});
const file = (
  ext: 'pdf' | 'svg' | 'dxf',
  produces: string,
  make: (s: HoleSheet, w: Awaited<ReturnType<typeof lampsOf>>) => string | Promise<Buffer>,
) =>
  route({
    method: 'get',
    path: `/api/orders/:id/holes/:kit/:device/sheet.${ext}`,
    summary: `One part’s hole and cut-out sheet at 1:1 (${ext}); mirror=yes for the other side`,
    query: Mirror,
    produces,
    handle: async ({ params, query, res }, { db }) => {
      const w = await lampsOf(db, params.id!);
      const plain = one(w.sheets, params.kit!, params.device!);
      const s = query.mirror === 'yes' ? mirrorOf(w.assessment.sheets.model, plain, { id: '', name: '' }) : plain;
      res
        .type(produces)
        .setHeader(
          'Content-Disposition',
          `${ext === 'dxf' ? 'attachment' : 'inline'}; filename="holes-${w.order.number}-${s.device}.${ext}"`,
        )
        .send(await make(s, w));
    },
  });

export const lampRoutes = [
  route({
    method: 'get',
    path: '/api/orders/:id/holes.pdf',
    summary: 'Every hole and cut-out sheet of an order at 1:1',
    produces: 'application/pdf',
    handle: async ({ params, res }, { db }) => {
      const w = await lampsOf(db, params.id!);
      if (!w.sheets.length) throw new Problem(404, 'Nothing to print', 'No part of this order has a cut-out or bolts on its sheet.');
      res
        .type('application/pdf')
        .setHeader('Content-Disposition', `inline; filename="holes-${w.order.number}.pdf"`)
        .send(await holeSheetPdf(w.sheets, w.heading));
    },
  }),
  file('pdf', 'application/pdf', (s, w) => holeSheetPdf([s], w.heading)),
  file('svg', 'image/svg+xml', (s, w) => templateSvg(s, `${s.name}, ${w.heading.unit}, order ${w.heading.order}`)),
  file('dxf', 'image/vnd.dxf', (s) => holeSheetDxf(s)),
  route({
    method: 'get',
    path: '/api/orders/:id/aim.pdf',
    summary: 'The aim card, with strips at 1:1 for the wall; distance=METRES to the wall',
    query: Wall,
    produces: 'application/pdf',
    handle: async ({ params, query, res }, { db }) => {
      const w = await lampsOf(db, params.id!);
      res
        .type('application/pdf')
        .setHeader('Content-Disposition', `inline; filename="aim-${w.order.number}.pdf"`)
        .send(await aimPdf(w.assessment.lamps.lamps, query.distance, w.heading, w.settings.units));
    },
  }),
];
