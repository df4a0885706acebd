import { ImpossibleInput } from '#core/errors';
import { standing, writeBundle, type Bundled, type BundledPicture, type Standing } from '#core/sheets/bundle';
import { picturesOf } from '#core/sheets/pictures';
import { SheetKind, type SheetRef } from '#model/sheet';
import { hasPhoto, keepPhoto, readPhoto } from '../store/photos';
import { readSettings } from '../store/settings';
import { historyOf, newestRefs, readSheetJson } from '../store/sheets';
import { route, type Services } from './route';

/** Keeps the pictures that a sheet of a bundle names; answers how many it lacks. They go by their bytes: none that is here changes. */
async function keepNamed(s: Services, text: string, pictures: readonly BundledPicture[], by: string, signal: AbortSignal): Promise<number> {
  const { sheet } = JSON.parse(text) as { sheet: object };
  let lacks = 0;
  for (const id of picturesOf(sheet)) {
    if (await hasPhoto(s.shop, id)) continue;
    const found = pictures.find((p) => p.id === id);
    try {
      if (!found) throw new ImpossibleInput('it is not in the file');
      await keepPhoto(s.shop, s.workers, id, Buffer.from(found.bytes), by, { signal, person: by });
    } catch (e) {
      if (!(e instanceof ImpossibleInput)) throw e;
      lacks++;
    }
  }
  return lacks;
}

/** A sheet of a bundle beside the one here. */
export interface Beside {
  kind: SheetKind;
  id: string;
  name: string;
  standing: Standing;
  /** the revision that is here; 0 for none */
  revision: number;
  /** what is otherwise there, a line each */
  changes: string[];
  /** why it cannot be taken; empty where it can */
  problems: string[];
  /** its file; left out where there is nothing to take */
  text?: string;
}

export const bundleRoutes = [
  route({
    method: 'get',
    path: '/api/sheets.zip',
    summary: 'The newest revision of every sheet as one zip, with what each was before and the pictures they name',
    produces: 'application/zip',
    handle: async ({ res }, s) => {
      const sheets: Bundled[] = [];
      const named = new Set<string>();
      for (const kind of SheetKind.options)
        for (const { id, revision } of await newestRefs(s.shop, kind)) {
          const json = (await readSheetJson(s.shop, s.workers, kind, { id, revision }))!;
          sheets.push({ kind, id, history: await historyOf(s.shop, kind, id), text: await s.workers.run('sheetFile', { kind, json }) });
          for (const p of picturesOf(JSON.parse(json) as object)) named.add(p);
        }
      const pictures: BundledPicture[] = [];
      for (const id of named) {
        const photo = await readPhoto(s.shop, id);
        if (photo) pictures.push({ id, bytes: photo.bytes });
      }
      const { shop } = await readSettings(s.shop);
      res.attachment('sheets.zip').type('application/zip');
      res.send(Buffer.from(writeBundle(sheets, shop, new Date().toISOString(), pictures)));
    },
  }),
  route({
    method: 'post',
    path: '/api/sheets/compare',
    summary:
      'Compare a zip of sheets with those that are here: new, same, newer there or here, or both changed. No sheet is taken in; pictures that those which may be taken name are kept.',
    action: 'sheets.import',
    bytes: true,
    handle: async ({ body, person, signal }, s) => {
      const bundle = await s.workers.run('readBundle', { bytes: new Uint8Array(body as Buffer) }, { signal, person: person.id });
      const newest = new Map<string, SheetRef>();
      for (const kind of SheetKind.options)
        for (const { id, revision } of await newestRefs(s.shop, kind)) newest.set(`${kind}/${id}`, { id, revision });
      const out: Beside[] = [];
      for (const b of bundle.sheets) {
        const here = newest.get(`${b.kind}/${b.id}`);
        const stands = standing(b.history, here ? await historyOf(s.shop, b.kind, b.id) : []);
        const ours = here && stands !== 'same' ? await readSheetJson(s.shop, s.workers, b.kind, here) : null;
        const seen = await s.workers.run('compareSheet', { ...b, ours }, { signal, person: person.id });
        const take = stands !== 'same' && stands !== 'ours newer';
        const lacks = take && !seen.problems.length ? await keepNamed(s, b.text, bundle.pictures, person.id, signal) : 0;
        if (lacks) seen.changes.push(`${lacks} of its pictures ${lacks === 1 ? 'is' : 'are'} not in the file, or no picture`);
        out.push({
          kind: b.kind,
          id: b.id,
          standing: stands,
          revision: here?.revision ?? 0,
          ...seen,
          ...(take && !seen.problems.length && { text: b.text }),
        });
      }
      return { from: bundle.from, at: bundle.at, sheets: out };
    },
  }),
];
