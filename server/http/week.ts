import { z } from 'zod';
import { Slug } from '#model/common';
import { SheetBegun } from '#model/sheet-begun';
import type { Week } from '#core/shop/week';
import { sha256 } from '../store/chain';
import { newestRef, sheetsFor } from '../store/sheets';
import { shopOf } from '../store/db';
import { readSettings } from '../store/settings';
import { keepWeek, weekOf } from '../store/week';
import { Problem } from './problem';
import { route, type Services } from './route';
import { feedOf, type FeedOf } from '#core/shop/feed';
import { icalOf } from '../documents/ical';
import { calendarBehind, listCalendars, makeCalendar, withdrawCalendar } from '../store/calendars';
import type { WeekTask } from '../work/week-task';

/** What the desk is asked: when could this be ready? */
const Asked = z
  .strictObject({
    model: Slug.nullable().default(null),
    begun: SheetBegun.nullable().default(null),
    build: Slug.default('as-it-stands'),
    kits: z.array(Slug).min(1, 'choose at least one kit').max(12),
  })
  .refine((a) => (a.model === null) !== (a.begun === null), { message: 'say which unit', path: ['model'] });

/** A week is planned anew after so long, ms, though nothing changed. */
const FRESH_MS = 300_000;

/** Whose calendar: `shop`, `bay:ID` or `person:ID`. */
const Whose = z.string().regex(/^(shop|(bay|person):[a-z0-9-]{1,60})$/, 'the shop, a bay or a person');

/** The week as it stands. The same shop at the same time has the same week: it is planned once for all who look, at once or later. */
async function planned({ shop, workers }: Services): Promise<{ week: Week; orders: WeekTask['orders'] }> {
  const asked = await weekOf(shop, workers, Math.floor(Date.now() / FRESH_MS) * FRESH_MS);
  const { near: _near, ...from } = asked;
  const key = sha256(JSON.stringify(from));
  const known = shop.memo.made.get('week');
  if (known?.key === key) return { week: await (known.value as Promise<Week>), orders: asked.orders };
  // nobody who goes away ends it for the others
  const planning = workers.run('week', asked);
  shop.memo.made.set('week', { key, value: planning });
  try {
    const week = await planning;
    await keepWeek(shop, week);
    return { week, orders: asked.orders };
  } catch (e) {
    if (shop.memo.made.get('week')?.value === planning) shop.memo.made.delete('week');
    throw e;
  }
}

export const weekRoutes = [
  route({
    method: 'get',
    path: '/api/week',
    summary:
      'The week as it is planned from all open orders: who works where when, each promise’s chance, what would save one that slips, and what has no place',
    handle: async (_c, s) => (await planned(s)).week,
  }),
  route({
    method: 'get',
    path: '/api/calendars',
    summary: 'The secret addresses of calendars that stand; the secrets themselves are kept nowhere',
    action: 'settings.change',
    handle: async (_c, { shop }) => listCalendars(shop),
  }),
  route({
    method: 'post',
    path: '/api/calendars',
    summary: 'Make a secret address of the shop’s, a bay’s or a person’s calendar; it is told this once',
    action: 'settings.change',
    body: z.strictObject({ whose: Whose }),
    handle: async ({ body, person }, { shop }) => {
      const { id, secret } = await makeCalendar(shop, body.whose, person.id);
      return { id, path: `/api/calendar/${secret}.ics` };
    },
  }),
  route({
    method: 'delete',
    path: '/api/calendars/:id',
    summary: 'Withdraw a calendar’s address: it shows nothing any more',
    action: 'settings.change',
    handle: async ({ params }, { shop }) => {
      if (!(await withdrawCalendar(shop, params.id!))) throw new Problem(404, 'Not here', 'There is no such calendar any more.');
      return { withdrawn: true };
    },
  }),
  route({
    method: 'get',
    path: '/api/calendar/:secret',
    summary: 'A calendar as iCalendar (RFC 5545), for whoever knows its secret address',
    open: true,
    produces: 'text/calendar',
    handle: async ({ params, req, res }, s) => {
      const whose = await calendarBehind(s.shop, params.secret!.slice(0, -'.ics'.length));
      if (whose === null) throw new Problem(404, 'Not here', 'There is no such calendar any more.');
      const { week, orders } = await planned(s);
      const [of, id] = whose.split(':') as [FeedOf['of'], string | undefined];
      const name =
        of === 'shop'
          ? (await readSettings(s.shop)).shop
          : ((of === 'bay' ? week.bays : week.people).find((x) => x.id === id)?.name ?? id!);
      const feed = feedOf(week, orders, (of === 'shop' ? { of } : { of, id }) as FeedOf);
      res.type('text/calendar').send(icalOf(name, feed, req.hostname, new Date()));
    },
  }),
  route({
    method: 'post',
    path: '/api/when',
    summary: 'When a unit that is not here yet could be ready, with everything that is promised kept; and what it would take to be earlier',
    body: Asked,
    handle: async ({ body, signal, person }, { shop, workers }) => {
      const field = (path: string, message: string) => new Problem(422, 'Not possible', message, { fields: [{ path, message }] });
      const kits = await Promise.all(
        body.kits.map(
          async (id, i) => (await newestRef(shop, 'kit', id)) ?? Promise.reject(field(`kits.${i}`, `“${id}” is not in the sheets.`)),
        ),
      );
      const model = body.model === null ? null : await newestRef(shop, 'model', body.model);
      if (body.model !== null && !model) throw field('model', 'That model is not in the sheets.');
      const { bag, packs } = await sheetsFor(shop, workers, [
        ...(model ? [['model', model] as const] : []),
        ...kits.map((k) => ['kit', k] as const),
      ]);
      const settings = await readSettings(shop);
      const week = await weekOf(shop, workers, Date.now());
      const unit = {
        x: { shop: shopOf(shop).id, bag, packs, settings: JSON.stringify(settings) },
        model,
        begun: body.begun,
        build: body.build,
        kits,
      };
      const found = await workers.run('soonest', { week, unit }, { signal, person: person.id });
      if ('why' in found) throw field('kits', `${found.why[0]!.toUpperCase()}${found.why.slice(1)}.`);
      return found.answer;
    },
  }),
];
