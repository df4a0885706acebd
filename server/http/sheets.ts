import { packFile } from '#core/lighting/pack';
import { readSheet } from '#core/sheets/read';
import type { RulePack } from '#model/rule-pack';
import { SheetKind } from '#model/sheet';
import { transact } from '../store/db';
import { listNewest, readNewest, writeSheet } from '../store/sheets';
import { Problem } from './problem';
import { route } from './route';

export const sheetRoutes = [
  route({
    method: 'get',
    path: '/api/sheets',
    summary: 'The newest revision of every model, kit and rule pack',
    handle: async (_c, { db }) => ({
      models: await listNewest(db, 'model'),
      kits: await listNewest(db, 'kit'),
      packs: await listNewest(db, 'rules'),
    }),
  }),
  route({
    method: 'get',
    path: '/api/sheets/:kind/:id',
    summary: 'Export one sheet as a file',
    handle: async ({ params, res }, { db }) => {
      const kind = SheetKind.safeParse(params.kind);
      const found = kind.success ? await readNewest(db, kind.data, params.id!) : null;
      if (!found) throw new Problem(404, 'Not here', 'There is no such sheet.');
      res.attachment(`${params.id}.${params.kind}.json`).type('application/json');
      const sheet = kind.data === 'rules' ? packFile(found.sheet as RulePack) : found.sheet;
      res.send(JSON.stringify({ kadro: kind.data, format: 1, sheet }, null, 2) + '\n');
    },
  }),
  route({
    method: 'post',
    path: '/api/sheets',
    summary: 'Import one sheet file; a changed one becomes the next revision',
    action: 'sheets.import',
    text: true,
    handle: async ({ body, person }, { db }) => {
      const read = readSheet(body as string);
      if (!read.sheet)
        throw new Problem(
          422,
          'The file has mistakes',
          `line ${read.problems[0]!.line}${read.problems[0]!.field ? `, ${read.problems[0]!.field}` : ''}: ${read.problems[0]!.message}`,
          { problems: read.problems },
        );
      const done = await transact(db, (conn) => writeSheet(conn, read.sheet, person.id));
      return { ...done, problems: read.problems };
    },
  }),
];
