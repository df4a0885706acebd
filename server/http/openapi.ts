import { z } from 'zod';
import { ProblemDocument } from './problem';
import type { Route } from './route';

const schema = (s: z.ZodType, io: 'input' | 'output') => {
  const { $schema: _, ...rest } = z.toJSONSchema(s, { io, unrepresentable: 'any' });
  return rest;
};

/** The OpenAPI 3.1 document of the routes, made from the same schemas that guard them. */
export function openApi(routes: Route[]) {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const r of routes) {
    const path = r.path.replace(/:(\w+)/g, '{$1}');
    const parameters = [
      ...[...r.path.matchAll(/:(\w+)/g)].map((m) => ({ name: m[1], in: 'path', required: true, schema: { type: 'string' } })),
      ...Object.entries(r.query?.shape ?? {}).map(([name, s]) => ({
        name,
        in: 'query',
        required: false,
        schema: schema(s as z.ZodType, 'input'),
      })),
      ...(r.headers ?? []).map((h) => ({ ...h, in: 'header', schema: { type: 'string' } })),
    ];
    (paths[path] ??= {})[r.method] = {
      summary: r.summary,
      ...(r.open ? { security: [] } : {}),
      ...(parameters.length ? { parameters } : {}),
      ...(r.body ? { requestBody: { required: true, content: { 'application/json': { schema: schema(r.body, 'input') } } } } : {}),
      ...(r.text ? { requestBody: { required: true, content: { 'text/plain': { schema: { type: 'string' } } } } } : {}),
      responses: {
        200: {
          description: 'Done',
          content: { [r.produces ?? 'application/json']: { schema: r.result ? schema(r.result, 'output') : {} } },
        },
        default: {
          description: 'A problem, with a sentence for a person',
          content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
        },
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Kadro', version: '1', description: 'The record and the computation of a powersports installer’s shop.' },
    paths,
    components: {
      schemas: { Problem: schema(ProblemDocument, 'output') },
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'kadro' } },
    },
    security: [{ session: [] }],
  };
}
