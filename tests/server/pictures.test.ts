import { createHash } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import S3rver from 's3rver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PictureFolder } from '#server/pictures/folder';
import { openPictures } from '#server/pictures/open';
import type { PictureStore } from '#server/pictures/store';
import { checkRecord } from '#server/store/check-record';
import { openShop, rows } from '#server/store/db';
import { movePhotos, readPhoto } from '#server/store/photos';
// @ts-expect-error plain JavaScript shared with the scripts
import { freePort as free } from '../../scripts/lib/mariadb.mjs';
import { png } from '../picture';
import { Client, startShop, type Shop } from '../shop';

const freePort = free as () => Promise<number>;
const sha = (b: Buffer) => createHash('sha256').update(b).digest('hex');
const place = mkdtempSync(join(tmpdir(), 'kadro-pictures-'));
const BUCKET = 'kadro';
let port: number;
let s3: S3rver;
const bucket = () =>
  new S3rver({ port, address: '127.0.0.1', silent: true, directory: join(place, 's3'), configureBuckets: [{ name: BUCKET }] });
/** The stand-in knows one account, by these names. */
const account = { AWS_ACCESS_KEY_ID: 'S3RVER', AWS_SECRET_ACCESS_KEY: 'S3RVER' };
const toBucket = () => ({ ...account, KADRO_PICTURES: `s3://${BUCKET}/shop`, KADRO_S3_ENDPOINT: `http://127.0.0.1:${port}` });

beforeAll(async () => {
  port = await freePort();
  s3 = bucket();
  await s3.run();
  Object.assign(process.env, account);
});
afterAll(async () => {
  await s3.close().catch(() => undefined);
  rmSync(place, { recursive: true, force: true });
});

describe.each<[string, () => PictureStore]>([
  ['a folder', () => openPictures({ KADRO_PICTURES: join(place, 'folder') })!],
  ['an S3-style store', () => openPictures(toBucket())!],
])('pictures in %s', (_what, open) => {
  const bytes = png(1);
  const id = sha(bytes);
  it('are there as they were once they were put, however often, and by however many at once', async () => {
    const store = open();
    expect(await store.get(id)).toBeNull();
    await Promise.all(Array.from({ length: 6 }, () => store.put(id, 'image/png', bytes)));
    await store.put(id, 'image/png', bytes);
    expect((await store.get(id))!.equals(bytes)).toBe(true);
    // whoever opens it next finds them
    expect((await open().get(id))!.equals(bytes)).toBe(true);
    expect(await store.get('0'.repeat(64))).toBeNull();
  });
});

describe('where pictures are', () => {
  it('is named by a folder or a bucket, and nothing is guessed', () => {
    expect(openPictures({})).toBeNull();
    expect(openPictures({ KADRO_PICTURES: 'database' })).toBeNull();
    expect(openPictures(toBucket())!.where).toBe(`s3://kadro/shop/ at http://127.0.0.1:${port}`);
    for (const wrong of ['pictures', './here', 's3:/kadro', 's3://K', 'https://store.example'])
      expect(() => openPictures({ KADRO_PICTURES: wrong }), wrong).toThrow(/name a folder from \/ on/);
    expect(() => openPictures({ ...toBucket(), KADRO_S3_ENDPOINT: 'store' })).toThrow(/write an address/);
  });
  it('a folder that cannot be written says so, and leaves nothing half done', async () => {
    const file = join(place, 'no-folder');
    writeFileSync(file, '');
    await expect(new PictureFolder(file).put(sha(png(2)), 'image/png', png(2))).rejects.toThrow();
  });
});

describe('a shop whose pictures are in an S3-style store', () => {
  let shop: Shop;
  let tor: Client;
  beforeAll(async () => {
    shop = await startShop({ env: { KADRO_DEMO: '1', KADRO_STAND_INS: '1', ...toBucket() } });
    tor = await new Client(shop.base).signIn('tor');
  });
  afterAll(() => shop.stop());
  const put = (b: Buffer) => tor.bytes(`/api/photos/${sha(b)}`, b);

  it('keeps and shows them, and none of their bytes in the database', async () => {
    const p = png(11);
    expect((await put(p)).status).toBe(200);
    expect(Buffer.from(await (await tor.raw(`/api/photos/${sha(p)}`)).arrayBuffer()).equals(p)).toBe(true);
    const db = openShop('shop', shop.url, openPictures(toBucket()));
    expect(await rows(db, 'SELECT id FROM photos WHERE bytes IS NOT NULL')).toEqual([]);
    expect((await checkRecord(db)).problems).toEqual([]);
    await db.close();
  });
  it('while the store is away, a picture is asked for again, and nothing says that it is there', async () => {
    await s3.close();
    const p = png(12);
    const r = await put(p);
    expect(r.status).toBe(503);
    expect(r.text).toContain('kept on this device and sent again');
    s3 = bucket();
    await s3.run();
    expect((await tor.raw(`/api/photos/${sha(p)}`)).status).toBe(404);
    expect((await put(p)).status).toBe(200);
  }, 120_000);
});

describe('pictures that lie in the database', () => {
  let shop: Shop;
  beforeAll(async () => {
    shop = await startShop({ env: { KADRO_DEMO: '1', KADRO_STAND_INS: '1', KADRO_PICTURES: 'database' } });
  });
  afterAll(() => shop.stop());
  it('are moved where they are wanted, by several at once, and what is lost or changed there is found', async () => {
    const tor = await new Client(shop.base).signIn('tor');
    const all = [21, 22, 23].map((n) => png(n));
    for (const p of all) expect((await tor.bytes(`/api/photos/${sha(p)}`, p)).status).toBe(200);
    const folder = join(place, 'moved');
    const db = openShop('shop', shop.url, new PictureFolder(folder));
    const bare = openShop('shop', shop.url);
    expect((await readPhoto(bare, sha(all[0]!)))!.bytes.equals(all[0]!)).toBe(true);
    expect(await movePhotos(bare)).toBe(0);
    // stopped in between, the rest is moved another time
    let n = 0;
    expect(await movePhotos(db, () => n++ < 1)).toBe(1);
    await Promise.all([movePhotos(db), movePhotos(db)]);
    expect(await movePhotos(db)).toBe(0);
    for (const p of all) expect((await readPhoto(db, sha(p)))!.bytes.equals(p)).toBe(true);
    expect((await checkRecord(db)).problems).toEqual([]);
    const file = (p: Buffer) => join(folder, sha(p).slice(0, 2), sha(p));
    expect(readFileSync(file(all[1]!)).equals(all[1]!)).toBe(true);
    writeFileSync(file(all[1]!), 'another');
    rmSync(file(all[2]!));
    expect(existsSync(file(all[0]!))).toBe(true);
    expect((await checkRecord(db)).problems.map((p) => p.replace(/^picture \w+: /, '')).sort()).toEqual([
      `its bytes are gone from the folder ${folder}`,
      'its bytes were changed',
    ]);
    await Promise.all([db.close(), bare.close()]);
  });
});
