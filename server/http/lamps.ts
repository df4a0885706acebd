import { z } from 'zod';
import { paperType, type PaperName } from '../work/papers';
import { sendPaper } from './paper';
import { route } from './route';

/** Metres to the wall that are taken when nobody says: 25 ft. */
const WALL_M = 7.62;
const Mirror = z.object({ mirror: z.literal('yes').optional() });
const Wall = z.object({
  distance: z.coerce.number().min(1, 'the wall stands from 1 to 50 m away').max(50, 'the wall stands from 1 to 50 m away').default(WALL_M),
});

const hole = (ext: 'pdf' | 'svg' | 'dxf') => {
  const paper: PaperName = `hole.${ext}`;
  return route({
    method: 'get',
    path: `/api/orders/:id/holes/:kit/:device/sheet.${ext}`,
    summary: `One part’s hole and cut-out sheet at 1:1 (${ext}); mirror=yes for the other side`,
    query: Mirror,
    produces: paperType(paper),
    handle: (call, s) =>
      sendPaper(call, s, { paper, kit: call.params.kit!, device: call.params.device!, mirror: call.query.mirror === 'yes' }),
  });
};

export const lampRoutes = [
  route({
    method: 'get',
    path: '/api/orders/:id/holes.pdf',
    summary: 'Every hole and cut-out sheet of an order at 1:1',
    produces: 'application/pdf',
    handle: (call, s) => sendPaper(call, s, { paper: 'holes.pdf' }),
  }),
  hole('pdf'),
  hole('svg'),
  hole('dxf'),
  route({
    method: 'get',
    path: '/api/orders/:id/aim.pdf',
    summary: 'The aim card, with strips at 1:1 for the wall; distance=METRES to the wall',
    query: Wall,
    produces: 'application/pdf',
    handle: (call, s) => sendPaper(call, s, { paper: 'aim.pdf', distanceM: call.query.distance }),
  }),
];
