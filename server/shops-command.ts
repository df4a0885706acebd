import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import type { z } from 'zod';
import { words } from '#model/common';
import { PersonId, Role, ShopId } from '#model/person';
import { loadDemo } from './demo';
import { prepareShop, shopAt, tellName } from './shops';
import { ShopPeople, takePeople } from './store/shop-people';
import { sayRecord } from './say-record';
import { makeCode, makeAccount } from './store/accounts';
import { row, rows, run, transact, type Directory, type Pools, type Shop } from './store/db';
import { joinPerson, letIn } from './store/people';
import { beginSettings } from './store/settings';
import { createDatabase, endGroup, FIRST_SHOP, findShop, giveGroup, listShops, makeGroup, nameShop, type ShopRow } from './store/shops';
import { sizeOf } from './store/system';
import { inlineWorkers } from './work/inline';

export interface Machine {
  pools: Pools;
  directory: Directory;
  root: string;
  env: NodeJS.ProcessEnv;
}

/** How long servers that run are given to let go of a shop, ms: they ask the directory more often than that. */
const LET_GO_MS = 5000;
/** Names that a shop cannot have: its database would be another’s. */
const TAKEN: readonly string[] = [FIRST_SHOP, 'directory'];

const USAGE = `npm run shops                                    which there are
npm run shops -- make ID NAME --owner PERSON     a new one; --demo fills it with the demo
npm run shops -- join PERSON ID ROLE             somebody with an account works there too (${Role.options.join(', ')})
npm run shops -- code PERSON                     a code with which they set a new password, within a day
npm run shops -- group ID NAME --owner PERSON    a group of shops, and who sees figures of all of them
npm run shops -- put SHOP GROUP                  a shop becomes one of a group; “none” takes it out
npm run shops -- remove ID --yes                 a shop and all of its record; npm run backup -- FILE --shop ID keeps it first`;

/** Said to whoever asked, in a line. */
class No extends Error {}
const read = <T>(shape: z.ZodType<T>, value: unknown, what: string): T => {
  const r = shape.safeParse(value);
  if (!r.success) throw new No(`${what} “${String(value ?? '')}”: ${r.error.issues[0]!.message}.`);
  return r.data;
};

/** What is done with shops from outside: by who keeps the machine, with the servers running or not. @returns how the command ends */
export async function shopsCommand(args: string[], m: Machine): Promise<number> {
  try {
    const { values, positionals } = parseArgs({
      args,
      allowPositionals: true,
      options: { owner: { type: 'string' }, demo: { type: 'boolean' }, yes: { type: 'boolean' } },
    });
    const [what = 'list', ...rest] = positionals;
    const does = COMMANDS[what];
    if (!does) throw new No(`“${what}” is not understood.\n${USAGE}`);
    await does(m, rest, values);
    return 0;
  } catch (e) {
    if (!(e instanceof No) && (e as { code?: string }).code?.startsWith('ERR_PARSE_ARGS') !== true) throw e;
    console.error(e instanceof No ? e.message : `${(e as Error).message.split('.')[0]!}.\n${USAGE}`);
    return 2;
  }
}

type Options = { owner?: string | undefined; demo?: boolean | undefined; yes?: boolean | undefined };
const COMMANDS: Record<string, (m: Machine, rest: string[], o: Options) => Promise<void>> = {
  list: async (m) => {
    for (const s of await listShops(m.directory)) {
      const { orders, events, pictures } = await sizeOf(shopAt(m.pools, m.directory, s, m.env));
      const where = s.id === FIRST_SHOP ? '/' : `/at/${s.id}`;
      console.log(
        `${s.id.padEnd(20)} ${where.padEnd(24)} ${s.name}${s.group ? `, of ${s.group}` : ''}: ${orders} orders, ${events} events, ${pictures} pictures`,
      );
    }
  },

  make: async (m, [id, name], { owner, demo }) => {
    const shop = await newShop(m, read(ShopId, id, 'ID'));
    const called = read(words(80), name, 'NAME');
    const person = demo ? null : read(PersonId, owner, '--owner');
    await createDatabase(m.directory, shop.schema);
    await prepareShop(shop, m.root);
    if (demo) await loadDemo(shop, inlineWorkers(), m.root, new Date(), called);
    let password: string | null = randomBytes(6).toString('base64url');
    if (person)
      await transact(shop, async (tx) => {
        await beginSettings(tx, { shop: called }, person);
        if (!(await makeAccount(tx, person, password!))) password = null;
        await joinPerson(tx, { id: person, name: await nameOf(m, person), role: 'owner' }, 'kadro');
      });
    // last: servers answer for it once it is whole
    await nameShop(m.directory, { id: shop.id, name: called, schema: shop.schema });
    await tellName(shop);
    console.log(`${called} is at /at/${shop.id}.`);
    if (person)
      console.log(
        password ? `Its owner signs in as ${person}, password ${password}` : `${person} has an account already, and signs in as before.`,
      );
  },

  join: async (m, [person, id, role]) => {
    const who = read(PersonId, person, 'PERSON');
    const shop = await known(m, id);
    const as = read(Role, role, 'ROLE');
    await account(m, who);
    if (!(await letIn(shop, { id: who, name: await nameOf(m, who), role: as }))) throw new No(`${who} is in that shop already.`);
    console.log(`${who} works there as ${as} from now on.`);
  },

  code: async (m, [person]) => {
    const who = read(PersonId, person, 'PERSON');
    await account(m, who);
    const { code, until } = await makeCode(m.directory, who);
    console.log(`${who} sets a new password with the code ${code} until ${until.toISOString().slice(0, 16).replace('T', ' ')} UTC.`);
  },

  group: async (m, [id, name], { owner }) => {
    const group = read(ShopId, id, 'ID');
    const who = read(PersonId, owner, '--owner');
    await account(m, who);
    await makeGroup(m.directory, { id: group, name: read(words(80), name, 'NAME') }, who);
    console.log(`${who} sees figures of all shops of ${group}: npm run shops -- put SHOP ${group}`);
  },

  put: async (m, [id, group]) => {
    const shop = await known(m, id);
    if (group === 'none') {
      await endGroup(m.directory, shop.id);
      return console.log(`${shop.id} is in no group.`);
    }
    if (!(await giveGroup(m.directory, shop.id, read(ShopId, group, 'GROUP')))) throw new No(`There is no group “${group}”.`);
    console.log(`${shop.id} is one of ${group}.`);
  },

  // of a restore, which has made its database: not for people
  take: async (m, [id, name, file]) => {
    const shop = await newShop(m, read(ShopId, id, 'ID'));
    const people = ShopPeople.parse(JSON.parse(readFileSync(file!, 'utf8')));
    const named = await takePeople(shop, people);
    await prepareShop(shop, m.root);
    await sayRecord(shop);
    if (named.length)
      console.log(
        `${named.join(', ')}: somebody here is called that already, with another password, and is not let in. Who is the same: npm run shops -- join PERSON ${shop.id} ROLE`,
      );
    await nameShop(m.directory, { id: shop.id, name: name ?? '', schema: shop.schema });
    await tellName(shop);
  },

  remove: async (m, [id], { yes }) => {
    const shop = await known(m, id);
    if (shop.id === FIRST_SHOP) throw new No('The shop at the address itself stays: it is what the others were made beside.');
    const { orders, events, pictures } = await sizeOf(shop);
    if (!yes)
      throw new No(
        `${shop.id} holds ${orders} orders, ${events} events and ${pictures} pictures. Keep it with npm run backup -- FILE --shop ${shop.id}, then say --yes: nothing of it is left after that.`,
      );
    const at = m.directory.at;
    const photos = shop.pictures ? await rows<{ id: string }>(shop, 'SELECT id FROM photos') : [];
    await run(m.directory, `DELETE FROM ${at}.shops WHERE id = ?`, [shop.id]);
    await pause(LET_GO_MS);
    await run(m.directory, `DROP DATABASE IF EXISTS \`${shop.schema}\``);
    await run(m.directory, `DELETE FROM ${at}.members WHERE shop = ?`, [shop.id]);
    await run(m.directory, `DELETE FROM ${at}.rights_log WHERE shop = ?`, [shop.id]);
    // who worked nowhere else is nobody any more
    await run(m.directory, `DELETE FROM ${at}.sessions WHERE account NOT IN (SELECT account FROM ${at}.members)`);
    await run(
      m.directory,
      `DELETE FROM ${at}.accounts WHERE id NOT IN (SELECT account FROM ${at}.members) AND id NOT IN (SELECT account FROM ${at}.group_owners)`,
    );
    await run(m.directory, `DELETE FROM ${at}.passkeys WHERE account NOT IN (SELECT id FROM ${at}.accounts)`);
    for (const p of photos) await shop.pictures!.remove(p.id);
    console.log(`${shop.id} is gone: ${orders} orders, ${events} events, ${pictures} pictures.`);
  },
};

/** A shop that is to be, on a database that nobody has yet. */
async function newShop(m: Machine, id: string): Promise<Shop> {
  if (TAKEN.includes(id)) throw new No(`A shop cannot be called “${id}”: choose another ID.`);
  if (await findShop(m.directory, id)) throw new No(`There is a shop “${id}” already.`);
  const schema = `${m.pools.first}_${id}`;
  return shopAt(m.pools, m.directory, { id, schema }, m.env);
}

async function known(m: Machine, id: string | undefined): Promise<Shop> {
  const at: ShopRow | null = id ? await findShop(m.directory, id) : null;
  if (!at) {
    const all = (await rows<{ id: string }>(m.directory, `SELECT id FROM ${m.directory.at}.shops ORDER BY id`)).map((s) => s.id);
    throw new No(`There is no shop “${id ?? ''}” here: there are ${all.join(', ')}.`);
  }
  return shopAt(m.pools, m.directory, at, m.env);
}

/** As another shop calls them, or as they sign in. */
async function nameOf(m: Machine, person: string): Promise<string> {
  const found = await row<{ name: string }>(
    m.directory,
    `SELECT name FROM ${m.directory.at}.members WHERE account = ? ORDER BY at LIMIT 1`,
    [person],
  );
  return found?.name ?? person[0]!.toUpperCase() + person.slice(1);
}

async function account(m: Machine, id: string): Promise<void> {
  if (!(await row(m.directory, `SELECT id FROM ${m.directory.at}.accounts WHERE id = ?`, [id])))
    throw new No(`Nobody here is called “${id}”.`);
}
