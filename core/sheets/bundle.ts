import { strFromU8, strToU8, unzipSync, zipSync, type ZippableFile } from 'fflate';
import { z } from 'zod';
import type { SheetKind } from '#model/sheet';
import { SheetKind as Kind } from '#model/sheet';
import { ImpossibleInput } from '../errors';

/** A revision by what is in it: two shops’ same sheets have the same one. */
export type Fingerprint = string;

/** One sheet in a bundle. */
export interface Bundled {
  kind: SheetKind;
  id: string;
  /** the fingerprints of its revisions, the oldest first: the last is of what is in the bundle */
  history: Fingerprint[];
  /** its file, as it is exported by itself */
  text: string;
}

/** A picture that sheets of a bundle name. */
export interface BundledPicture {
  id: string;
  bytes: Uint8Array;
}

const MANIFEST = 'manifest.json';
const PICTURE = /^pictures\/([0-9a-f]{64})$/;
const pictureFile = (id: string): string => `pictures/${id}`;
const Manifest = z.object({
  kadro: z.literal('sheets'),
  format: z.literal(1),
  /** the shop that made it */
  from: z.string().max(120),
  at: z.string().max(40),
  sheets: z
    .array(
      z.object({
        kind: Kind,
        id: z.string().regex(/^[a-z0-9-]{1,60}$/),
        file: z.string().max(120),
        history: z.array(z.string().max(64)).min(1).max(5000),
      }),
    )
    .max(5000),
});

const fileOf = (kind: SheetKind, id: string): string => `${kind}/${id}.json`;
/** Files of a bundle come to so much at the most, bytes: no shop’s sheets are larger. */
export const MOST_UNPACKED = 200_000_000;
const MOST_FILES = 10_000;
/** A time that stands in every bundle, so that the same sheets make the same bytes. */
const THEN = new Date(Date.UTC(2026, 0, 1));

/**
 * Sheets as one zip: a file each, a manifest that says where they come from and what they were before, and the pictures they name,
 * by the SHA-256 of their bytes.
 */
export function writeBundle(sheets: readonly Bundled[], from: string, at: string, pictures: readonly BundledPicture[] = []): Uint8Array {
  const manifest: z.infer<typeof Manifest> = {
    kadro: 'sheets',
    format: 1,
    from,
    at,
    sheets: sheets.map(({ kind, id, history }) => ({ kind, id, file: fileOf(kind, id), history })),
  };
  return zipSync(
    {
      [MANIFEST]: strToU8(`${JSON.stringify(manifest, null, 2)}\n`),
      ...Object.fromEntries(sheets.map((s) => [fileOf(s.kind, s.id), strToU8(s.text)])),
      // a picture is as small as it gets
      ...Object.fromEntries(pictures.map((p) => [pictureFile(p.id), [p.bytes, { level: 0 }] satisfies ZippableFile])),
    },
    { level: 6, mtime: THEN },
  );
}

/** A path that stays within its folder: no way up, none from a root or a drive. */
const staysIn = (path: string): boolean => !/^([/\\]|[A-Za-z]:)|(^|[/\\])\.\.([/\\]|$)|\0/.test(path);

/**
 * A bundle’s sheets and where they come from. Nothing is unpacked before its sizes are known to be a shop’s.
 * @throws ImpossibleInput for bytes that are no zip, one that is too large once unpacked, one that climbs out of its folder, or one
 * without a manifest that names its files
 */
export function readBundle(bytes: Uint8Array): { from: string; at: string; sheets: Bundled[]; pictures: BundledPicture[] } {
  const bad = (says: string) => new ImpossibleInput(says, 'file');
  let total = 0;
  let files = 0;
  let entries: Record<string, Uint8Array>;
  try {
    entries = unzipSync(bytes, {
      filter: (f) => {
        if (!staysIn(f.name)) throw bad(`“${f.name.slice(0, 60)}” would be put outside of the folder`);
        total += f.originalSize;
        if (total > MOST_UNPACKED || ++files > MOST_FILES) throw bad('unpacked it would be larger than the sheets of any shop');
        return /\.json$/.test(f.name) || PICTURE.test(f.name);
      },
    });
  } catch (e) {
    throw e instanceof ImpossibleInput ? e : bad('that is no zip, or it is broken');
  }
  const text = (name: string) => {
    const b = entries[name];
    return b && strFromU8(b);
  };
  const said = text(MANIFEST);
  if (said === undefined) throw bad('it has no manifest.json: it is no bundle of sheets');
  let parsed: unknown;
  try {
    parsed = JSON.parse(said);
  } catch {
    throw bad('its manifest.json is no JSON');
  }
  const manifest = Manifest.safeParse(parsed);
  if (!manifest.success) throw bad(`its manifest.json: ${manifest.error.issues[0]!.path.join('.')} ${manifest.error.issues[0]!.message}`);
  return {
    from: manifest.data.from,
    at: manifest.data.at,
    sheets: manifest.data.sheets.map(({ kind, id, file, history }) => {
      const t = text(file);
      if (t === undefined) throw bad(`its manifest names ${file}, which is not in it`);
      return { kind, id, history, text: t };
    }),
    pictures: Object.entries(entries).flatMap(([name, picture]) => {
      const id = PICTURE.exec(name)?.[1];
      return id === undefined ? [] : [{ id, bytes: picture }];
    }),
  };
}

/** How a sheet of a bundle stands to the one here. */
export type Standing = 'new' | 'same' | 'theirs newer' | 'ours newer' | 'both changed';

/** By what was in its revisions, there and here: one that was here once and is not the last there was changed there since. */
export function standing(theirs: readonly Fingerprint[], ours: readonly Fingerprint[]): Standing {
  const [there, here] = [theirs.at(-1)!, ours.at(-1)];
  if (here === undefined) return 'new';
  if (there === here) return 'same';
  if (theirs.includes(here)) return 'theirs newer';
  if (ours.includes(there)) return 'ours newer';
  return 'both changed';
}
