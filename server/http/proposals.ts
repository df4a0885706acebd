import { z } from 'zod';
import { openValue, tooFar, withBuildValue, withValue } from '#core/known/values';
import { proposals, withProposal, type Proposal } from '#core/known/proposals';
import { Slug, words } from '#model/common';
import { Pointer } from '#model/known';
import { UnitModel } from '#model/unit-model';
import type { SheetRef } from '#model/sheet';
import { transact, type Store } from '../store/db';
import { decline, evidenceFor } from '../store/evidence';
import { newestRef, readSheetJson, writeSheet } from '../store/sheets';
import { Problem } from './problem';
import { route, type Services } from './route';

async function found(s: Services, id: string, store: Store = s.shop): Promise<{ ref: SheetRef; model: UnitModel; list: Proposal[] }> {
  const ref = await newestRef(store, 'model', id);
  const json = ref && (await readSheetJson(s.shop, s.workers, 'model', ref));
  if (!ref || !json) throw new Problem(404, 'Not here', 'There is no such sheet.');
  const model = UnitModel.parse(JSON.parse(json));
  return { ref, model, list: proposals(model, await evidenceFor(store, id)) };
}

/** How a lead may know a value that no order measured. */
const SAID = z.enum(['maker', 'read', 'measured']);

/** What the bench found of a model's values, and what a lead makes of it. */
export const proposalRoutes = [
  route({
    method: 'post',
    path: '/api/sheets/model/:id/values',
    summary: 'Put a figure that is known into the sheet of a model, or of one build of it, as its next revision; null takes a build’s out',
    action: 'sheets.import',
    body: z.strictObject({
      pointer: Pointer,
      value: z.number().gt(0, 'must be above zero').max(1_000_000).nullable(),
      how: SAID,
      revision: z.number().int(),
      build: Slug.nullable().default(null),
    }),
    handle: async ({ params, body: { pointer, value, how, revision, build }, person }, s) => {
      const { ref, model } = await found(s, params.id!);
      if (ref.revision !== revision)
        throw new Problem(409, 'Changed meanwhile', `The sheet is at revision ${ref.revision} by now: look again.`, { refused: true });
      const of = openValue(model, pointer);
      const bad = (path: string, message: string) =>
        new Problem(422, 'Not possible', message, { refused: true, fields: [{ path, message }] });
      if (!of) throw bad('pointer', 'That is no figure of this model that is read or measured.');
      if (build !== null && !model.builds.some((b) => b.id === build)) throw bad('build', 'The model has no such build.');
      if (value === null && build === null) throw bad('value', 'A model’s own figure is not taken out.');
      const far = value === null ? null : tooFar(of, value);
      if (far) throw bad('value', far);
      const known = { how, by: person.id, at: new Date().toISOString() };
      const put = (m: UnitModel, v: number): UnitModel => {
        const changed = withValue(m, pointer, v);
        return { ...changed, known: { ...changed.known, [pointer]: known } };
      };
      const sheet = UnitModel.parse(
        build === null ? put(model, value!) : withBuildValue(model, build, pointer, value === null ? null : { value, known }),
      );
      return transact(s.shop, (tx) => writeSheet(tx, { kadro: 'model', format: 1, sheet }, person.id));
    },
  }),
  route({
    method: 'get',
    path: '/api/sheets/model/:id/proposals',
    summary: 'What orders on this model found its values to be, and the sheet does not say yet',
    handle: async ({ params }, s) => (await found(s, params.id!)).list,
  }),
  route({
    method: 'post',
    path: '/api/sheets/model/:id/proposals/taken',
    summary: 'Take what orders found of a value into the sheet, as its next revision',
    action: 'sheets.import',
    body: z.strictObject({ pointer: Pointer, value: z.number(), build: Slug.nullable().default(null) }),
    handle: async ({ params, body, person }, s) => {
      const { model, list } = await found(s, params.id!);
      const p = list.find((x) => x.of.pointer === body.pointer);
      const build = body.build === null ? null : p?.builds.find((b) => b.build === body.build);
      if (!p || build === undefined) throw new Problem(409, 'Not now', 'Nothing is proposed there any more.', { refused: true });
      if ((build ?? p).value !== body.value)
        throw new Problem(409, 'Not now', 'Another order measured it meanwhile: look again.', { refused: true });
      const sheet = UnitModel.parse(withProposal(model, p, { at: new Date().toISOString(), by: person.id }, body.build));
      return transact(s.shop, (tx) => writeSheet(tx, { kadro: 'model', format: 1, sheet }, person.id));
    },
  }),
  route({
    method: 'post',
    path: '/api/sheets/model/:id/proposals/declined',
    summary: 'Leave out of the sheet what one order found of a value',
    action: 'sheets.import',
    body: z.strictObject({ pointer: Pointer, order: z.uuid(), reason: words(200) }),
    handle: async ({ params, body, person }, s) => {
      const { list } = await found(s, params.id!);
      if (!list.some((p) => p.of.pointer === body.pointer && p.evidence.some((e) => e.order === body.order)))
        throw new Problem(409, 'Not now', 'Nothing is proposed there any more.', { refused: true });
      await decline(s.shop, params.id!, body.pointer, body.order, body.reason, person.id);
      return { declined: true };
    },
  }),
];
