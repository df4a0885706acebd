import { z } from 'zod';
import { figuresOf, monthOf, type PeriodFigures, type ShopFigures } from '#core/shop/month';
import { standing } from '#core/sheets/bundle';
import { picturesOf } from '#core/sheets/pictures';
import { SheetKind, type SheetFile } from '#model/sheet';
import { csv } from '../documents/csv';
import type { OwnGroup } from '../shops';
import { row, transact, type Shop } from '../store/db';
import { keepPhoto, hasPhoto, readPhoto } from '../store/photos';
import { FIRST_SHOP, groupsOf } from '../store/shops';
import { readSettings } from '../store/settings';
import { historyOf, newestRef, readSheetJson, writeSheet } from '../store/sheets';
import { Period, period } from './month';
import { Problem } from './problem';
import { route, type Services } from './route';

/** The group of one who owns it. @throws Problem 404 for everybody else */
async function mine(s: Services, person: string, group: string): Promise<OwnGroup> {
  const found = await s.groupOf(person, group);
  if (!found) throw new Problem(404, 'Not here', 'There is no such group, or it is not yours.');
  return found;
}

async function figures(shop: Shop, query: z.output<typeof Period>): Promise<PeriodFigures & { here: number; late: number }> {
  const now = await row<{ here: number; late: number | null }>(
    shop,
    "SELECT COUNT(*) here, SUM(promised_at < ?) late FROM orders WHERE status = 'open'",
    [new Date()],
  );
  return { ...figuresOf(monthOf(await period(shop, query), null)), here: Number(now?.here ?? 0), late: Number(now?.late ?? 0) };
}

async function allFigures(s: Services, person: string, group: string, query: z.output<typeof Period>) {
  const { name, shops } = await mine(s, person, group);
  const rows: ShopFigures[] = [];
  // one after another: whoever is at work in them comes first
  for (const { at, shop } of shops) rows.push({ id: at.id, name: at.name, first: at.id === FIRST_SHOP, ...(await figures(shop, query)) });
  return { name, rows };
}

/** What became of a sheet in another shop. */
export interface Given {
  shop: string;
  became: 'taken' | 'there already' | 'changed there' | 'newer there';
}

/**
 * Gives the newest revision of a sheet to another shop, with the pictures that it names. One that the other shop changed itself
 * stays as it is there.
 */
async function give(s: Services, to: Shop, kind: SheetKind, id: string, by: string): Promise<Given['became']> {
  const json = (await readSheetJson(s.shop, s.workers, kind, (await newestRef(s.shop, kind, id))!))!;
  const there = await newestRef(to, kind, id);
  const stands = standing(await historyOf(s.shop, kind, id), there ? await historyOf(to, kind, id) : []);
  if (stands === 'same') return 'there already';
  if (stands === 'ours newer') return 'newer there';
  if (stands === 'both changed') return 'changed there';
  const sheet = JSON.parse(json) as Parameters<typeof picturesOf>[0];
  for (const photo of picturesOf(sheet)) {
    if (await hasPhoto(to, photo)) continue;
    const picture = await readPhoto(s.shop, photo);
    if (picture) await keepPhoto(to, s.workers, photo, picture.bytes, by);
  }
  const from = there?.revision ?? 0;
  const { shop: called } = await readSettings(s.shop);
  await transact(to, (tx) => writeSheet(tx, { kadro: kind, format: 1, sheet } as SheetFile, by, `from ${called}`, from));
  return 'taken';
}

export const groupRoutes = [
  route({
    method: 'get',
    path: '/api/groups',
    summary: 'The groups of shops that who asks owns',
    handle: async ({ person }, { shop }) =>
      (await groupsOf(shop.directory, person.id)).map((g) => ({ id: g.id, name: g.name, shops: g.shops.map((x) => x.id) })),
  }),
  route({
    method: 'get',
    path: '/api/groups/:group',
    summary: 'What a period came to in every shop of a group: for who owns the group',
    query: Period,
    handle: async ({ params, query, person }, s) => allFigures(s, person.id, params.group!, query),
  }),
  route({
    method: 'get',
    path: '/api/groups/:group/figures.csv',
    summary: 'The same as rows, one for each shop',
    query: Period,
    produces: 'text/csv',
    handle: async ({ params, query, person, res }, s) => {
      const { rows } = await allFigures(s, person.id, params.group!, query);
      const list = rows.map((r) => ({
        shop: r.name,
        here_now: r.here,
        past_promise: r.late,
        handed_over: r.finished,
        by_the_promise: r.kept,
        came_back: r.back,
        planned_min: Math.round(r.planned * 10) / 10,
        spent_min: Math.round(r.spent * 10) / 10,
      }));
      res.attachment(`shops-${query.from}-${query.to}.csv`).type('text/csv').send(csv(list));
    },
  }),
  route({
    method: 'post',
    path: '/api/groups/:group/sheets',
    summary: 'Give the newest revision of a sheet of this shop to all shops of its group; what a shop changed itself stays as it is there',
    action: 'sheets.import',
    body: z.strictObject({ kind: SheetKind, id: z.string().regex(/^[a-z0-9-]{1,60}$/) }),
    handle: async ({ params, body, person }, s): Promise<Given[]> => {
      const { shops } = await mine(s, person.id, params.group!);
      if (!shops.some((x) => x.at.id === s.shop.id)) throw new Problem(404, 'Not here', 'This shop is none of that group.');
      if (!(await newestRef(s.shop, body.kind, body.id))) throw new Problem(404, 'Not here', 'There is no such sheet.');
      const given: Given[] = [];
      for (const { at, shop: to } of shops)
        if (at.id !== s.shop.id) given.push({ shop: at.name, became: await give(s, to, body.kind, body.id, person.id) });
      return given;
    },
  }),
];
