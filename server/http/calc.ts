import { z } from 'zod';
import { CALCULATIONS, findCalculation } from '#core/calc/registry';
import { Problem } from './problem';
import { route } from './route';

export const calcRoutes = [
  route({
    method: 'get',
    path: '/api/calc',
    summary: 'The registered calculations',
    handle: async () => CALCULATIONS.map(({ name, title, description }) => ({ name, title, description })),
  }),
  route({
    method: 'post',
    path: '/api/calc/:name',
    summary: 'Run a calculation: ended when it takes too long, and one that searches answers with its bound',
    body: z.unknown(),
    handle: async ({ params, body, signal, person }, { workers }) => {
      if (!findCalculation(params.name!)) throw new Problem(404, 'Not here', `There is no calculation “${params.name}”.`);
      return workers.run('calc', { name: params.name!, input: body }, { signal, person: person.id });
    },
  }),
];
