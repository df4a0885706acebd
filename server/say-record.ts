import { checkRecord } from './store/check-record';
import type { Shop } from './store/db';

/** Checks a shop’s record and says what it found, for whoever looks after it. @param of in front of each line @returns whether it is whole */
export async function sayRecord(shop: Shop, of = ''): Promise<boolean> {
  const r = await checkRecord(shop);
  r.problems.forEach((p) => console.log(of + p));
  const found = r.problems.length ? `${r.problems.length} problems` : 'every state is what its events make, every hash agrees';
  console.log(`${of}${r.orders} orders, ${r.events} events, ${r.photos} pictures: ${found}`);
  return !r.problems.length;
}
