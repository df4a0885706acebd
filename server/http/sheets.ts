import { z } from 'zod';
import { makeSheet } from '#core/archetype/make-sheet';
import { restsOnAssumed } from '#core/known/pointer';
import { words } from '#model/common';
import { SheetKind, type SheetRef } from '#model/sheet';
import { SheetBegun } from '#model/sheet-begun';
import { UnitModel } from '#model/unit-model';
import { canonical } from '../store/chain';
import { transact } from '../store/db';
import { retire, retiredOf, usesOf } from '../store/sheet-uses';
import { newestRef, newestRefs, readSheetJson, StaleSheet, writeSheet } from '../store/sheets';
import { Problem } from './problem';
import { route, type Services } from './route';

/** The newest of every sheet of a kind, as JSON, without taking any of it apart here. */
async function listOf(s: Services, kind: SheetKind): Promise<string> {
  const list = await newestRefs(s.shop, kind);
  const out = await retiredOf(s.shop, kind);
  const each = await Promise.all(
    list.map(async (r) => {
      const head = JSON.stringify({
        ref: { id: r.id, revision: r.revision },
        at: r.at,
        by: r.by_person,
        reason: r.reason,
        ...(out.has(r.id) && { retired: true }),
      }).slice(0, -1);
      return `${head},"sheet":${await readSheetJson(s.shop, s.workers, kind, r)}}`;
    }),
  );
  return `[${each.join(',')}]`;
}

/**
 * A sheet as its body makes it, kept as the first revision. One that was begun alike is the same sheet, so that asking twice begins one.
 */
async function begin(s: Services, begun: SheetBegun, by: string): Promise<{ ref: SheetRef; sheet: UnitModel }> {
  const made = makeSheet(begun, { at: new Date().toISOString(), by });
  const there = await newestRef(s.shop, 'model', made.id);
  if (there) {
    const sheet = UnitModel.parse(JSON.parse((await readSheetJson(s.shop, s.workers, 'model', there))!));
    const bare = ({ known: _, ...m }: UnitModel) => canonical(m);
    if (restsOnAssumed(sheet) && bare(sheet) === bare(made)) return { ref: there, sheet };
    const message = `There is a sheet of the ${sheet.maker} ${sheet.name} of ${sheet.years.from} already: choose it from the list, or give this one a name that tells them apart.`;
    throw new Problem(409, 'There already', message, { refused: true, fields: [{ path: 'name', message }] });
  }
  const { ref } = await transact(s.shop, (tx) => writeSheet(tx, { kadro: 'model', format: 1, sheet: made }, by));
  return { ref, sheet: made };
}

export const sheetRoutes = [
  route({
    method: 'get',
    path: '/api/sheets',
    summary: 'The newest revision of every model, kit and rule pack',
    handle: async ({ res }, s) => {
      const [models, kits, packs] = [await listOf(s, 'model'), await listOf(s, 'kit'), await listOf(s, 'rules')];
      res.type('application/json').send(`{"models":${models},"kits":${kits},"packs":${packs}}`);
    },
  }),
  route({
    method: 'get',
    path: '/api/sheets/:kind/:id',
    summary: 'Export one sheet as a file',
    handle: async ({ params, res }, s) => {
      const kind = SheetKind.safeParse(params.kind);
      const ref = kind.success ? await newestRef(s.shop, kind.data, params.id!) : null;
      const json = ref && kind.success ? await readSheetJson(s.shop, s.workers, kind.data, ref) : null;
      if (json === null) throw new Problem(404, 'Not here', 'There is no such sheet.');
      res.attachment(`${params.id}.${params.kind}.json`).type('application/json');
      res.send(await s.workers.run('sheetFile', { kind: kind.data!, json }));
    },
  }),
  route({
    method: 'get',
    path: '/api/sheets/:kind/:id/uses',
    summary: 'Open orders that have a sheet, and at which revision',
    handle: async ({ params }, s) => {
      const kind = SheetKind.safeParse(params.kind);
      if (!kind.success || !(await newestRef(s.shop, kind.data, params.id!))) throw new Problem(404, 'Not here', 'There is no such sheet.');
      return usesOf(s.shop, kind.data, params.id!);
    },
  }),
  route({
    method: 'put',
    path: '/api/sheets/:kind/:id/retired',
    summary: 'Take a model or kit from what is offered, or put it back; orders that have it keep it',
    action: 'sheets.import',
    body: z.strictObject({ retired: z.boolean() }),
    handle: async ({ params, body, person }, s) => {
      const kind = SheetKind.exclude(['rules']).safeParse(params.kind);
      if (!kind.success || !(await newestRef(s.shop, kind.data, params.id!))) throw new Problem(404, 'Not here', 'There is no such sheet.');
      await retire(s.shop, kind.data, params.id!, body.retired, person.id);
      return { retired: body.retired };
    },
  }),
  route({
    method: 'post',
    path: '/api/sheets/begun',
    summary: 'Begin the sheet of a unit that nobody has one for, from the body nearest to it',
    action: 'order.open',
    body: SheetBegun,
    handle: async ({ body, person }, s) => begin(s, body, person.id),
  }),
  route({
    method: 'post',
    path: '/api/sheets',
    summary: 'Import one sheet file; a changed one becomes the next revision',
    action: 'sheets.import',
    text: true,
    query: z.object({
      /** why it was changed */
      reason: words(200).optional(),
      /** the revision that it was made from: refused where there is another by now */
      from: z.coerce.number().int().min(0).optional(),
    }),
    handle: async ({ body, person, signal, query }, { shop, workers }) => {
      const read = await workers.run('checkSheet', { text: body as string }, { signal, person: person.id });
      if (!read.sheet) {
        const p = read.problems[0]!;
        throw new Problem(422, 'The file has mistakes', `line ${p.line}${p.field ? `, ${p.field}` : ''}: ${p.message}`, {
          problems: read.problems,
        });
      }
      const { sheet } = read;
      const done = await transact(shop, (tx) => writeSheet(tx, sheet, person.id, query.reason ?? null, query.from ?? null)).catch(
        (e: unknown) => {
          if (!(e instanceof StaleSheet)) throw e;
          const message = `Somebody published revision ${e.revision} meanwhile: take it, and make your changes to that.`;
          throw new Problem(409, 'Changed meanwhile', message, { refused: true });
        },
      );
      return { ...done, problems: read.problems };
    },
  }),
];
