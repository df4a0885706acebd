// Many shops at their full size: on one database, then the same record on three nodes.
import { startClusterShop } from './cluster-shop.mjs';
import { startShop } from './shop.mjs';

const SIZE = { shops: 100, orders: 1000, tablets: 50, seconds: 60 };

/** @param parts what seeds and measures: tests/bench/shops.ts */
export async function benchManyShops({ seedShops, benchShops, rootOf }, say) {
  const shop = await startShop({ fast: false });
  const seeded = await seedShops(rootOf(shop.folder), SIZE);
  await benchShops(say, 'One database', shop.base, seeded, SIZE);
  await shop.end();
  const cluster = await startClusterShop({ folder: shop.folder });
  try {
    await benchShops(say, 'Three nodes and two servers', cluster.base, seeded, SIZE);
  } finally {
    await cluster.stop();
  }
}
