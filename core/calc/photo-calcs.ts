import { z } from 'zod';
import { onPlane, planeBy } from '../photo/plane';
import { sum } from '../sum';
import { calculation, field } from './calculation';

const Figure = z.number().min(-1e7).max(1e7);

export const photoPlane = calculation({
  name: 'photo.plane',
  title: 'Straighten a photograph of something flat',
  description:
    'From four or more points on a photograph whose places in a plane are known: how the plane lies on it, how far the points are off, and where other points of the photograph are in the plane.',
  input: {
    points: field(
      z
        .array(z.strictObject({ u: Figure, v: Figure, x: Figure, y: Figure }))
        .min(4, 'a plane needs four points')
        .max(500),
      'Points: on the photograph u, v (px), in the plane x, y',
    ),
    ask: field(
      z
        .array(z.strictObject({ u: Figure, v: Figure }))
        .max(500)
        .default([]),
      'Points of the photograph to place (px)',
    ),
  },
  result: { h: z.array(z.number()).length(9), rms: z.number(), at: z.array(z.object({ x: z.number(), y: z.number() })) },
  example: {
    points: [
      { u: 120, v: 80, x: 0, y: 0 },
      { u: 900, v: 130, x: 2060, y: 0 },
      { u: 880, v: 620, x: 2060, y: 1200 },
      { u: 140, v: 690, x: 0, y: 1200 },
    ],
    ask: [{ u: 500, v: 380 }],
  },
  run: ({ points, ask }) => {
    const { h, rms } = planeBy(points);
    const at = ask.map((p) => onPlane(h, p.u, p.v));
    return {
      h,
      rms,
      at,
      sum: sum(
        { label: 'Points', value: points.length },
        {
          label: 'Plane by them',
          value: points.length > 4 ? 'nearest by least squares' : 'through all four',
          source: 'direct linear transformation (Hartley and Zisserman, Multiple View Geometry, section 4; from memory)',
          kind: 'note' as const,
        },
        ...at.slice(0, 20).map((p, i) => ({ label: `Point ${i + 1} asked for`, value: `${p.x.toPrecision(5)}, ${p.y.toPrecision(5)}` })),
        { label: 'The points lie off it by, root mean square', value: Number(rms.toPrecision(3)), kind: 'result' as const },
      ),
    };
  },
});
