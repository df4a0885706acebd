import type { Outside } from '../outside/errands';
import type { Shop } from '../store/db';
import { standInMessenger } from './messenger';
import { standInSupplier } from './supplier';

/**
 * A supplier and a messenger that stand in for real ones.
 * @param lose the first answer to everything is lost on its way back, after it was heard
 */
export function standInsFor(shop: Shop, lose: boolean): Outside {
  const heard = new Set<string>();
  const loses = (ref: string) => lose && !heard.has(ref) && Boolean(heard.add(ref));
  return { supplier: standInSupplier(shop, loses), messenger: standInMessenger(shop, loses) };
}
