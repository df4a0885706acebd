import type { SystemContext } from '@chakra-ui/react';
import { serializeStyles } from '@emotion/serialize';

/** Sets of styles kept; past it all are forgotten, as a page that makes ever new ones would fill the memory. */
const KEPT = 8000;

/** A key of what may be given as a style: flat as most are, or nested. */
const keyOf = (style: object): string => {
  let key = '';
  for (const name in style) {
    const value = (style as Record<string, unknown>)[name];
    if (value === undefined) continue;
    key += `${name}:${typeof value === 'object' && value !== null ? `{${keyOf(value)}}` : `${typeof value === 'number' ? '#' : ''}${String(value)}`}\u0001`;
  }
  return key;
};

/**
 * The same system, which works out each set of styles once. As it comes, a recipe is made anew for every element painted and the
 * last 500 sets are remembered, fewer than the stations of an order have; here a recipe is made once for its description, and a
 * set of styles is kept as the style sheet takes it.
 */
export function quickSystem(system: SystemContext): SystemContext {
  const recipes = new WeakMap<object, ReturnType<SystemContext['cva']>>();
  const properties = new Map<string, boolean>();
  const sets = new Map<string, object>();
  const ids = new WeakMap<object, number>();
  let next = 0;
  // what a recipe answers is long and always the same object
  const idOf = (o: object) => {
    let id = ids.get(o);
    if (id === undefined) ids.set(o, (id = next++));
    return id;
  };
  return {
    ...system,
    cva: ((config: object) => {
      let made = recipes.get(config);
      if (!made) recipes.set(config, (made = system.cva(config)));
      return made;
    }) as SystemContext['cva'],
    isValidProperty: (name: string) => {
      let valid = properties.get(name);
      if (valid === undefined) properties.set(name, (valid = system.isValidProperty(name)));
      return valid;
    },
    css: ((first: object | undefined, ...rest: (object | undefined)[]) => {
      const key = `${first ? idOf(first) : ''}|${rest.map((s) => (s ? keyOf(s) : '')).join('|')}`;
      let made = sets.get(key);
      if (!made) {
        if (sets.size >= KEPT) sets.clear();
        sets.set(key, (made = serializeStyles([system.css(first ?? {}, ...rest.map((s) => s ?? {}))])));
      }
      return made;
    }) as SystemContext['css'],
  };
}
