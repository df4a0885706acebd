import { z } from 'zod';
import { CALCULATIONS, findCalculation, runCalculation } from '#core/calc/registry';
import { Problem } from './problem';
import { route } from './route';

export const calcRoutes = [
  route({
    method: 'get',
    path: '/api/calc',
    summary: 'The registered calculations',
    open: true,
    handle: async () => CALCULATIONS.map(({ name, title, description }) => ({ name, title, description })),
  }),
  route({
    method: 'post',
    path: '/api/calc/:name',
    summary: 'Run a calculation',
    open: true,
    body: z.unknown(),
    handle: async ({ params, body }) => {
      if (!findCalculation(params.name!)) throw new Problem(404, 'Not here', `There is no calculation “${params.name}”.`);
      return runCalculation(params.name!, body);
    },
  }),
];
