const NAMED = /^\/at\/([a-z][a-z0-9]{1,19})(?=\/|$)/;
const found = NAMED.exec(globalThis.location?.pathname ?? '');

/** Which shop this page is of, by its address; null: the one at the address itself. A page is of one shop as long as it is open. */
export const SHOP_ID: string | null = found?.[1] ?? null;
/** What stands before every address of that shop. */
export const SHOP_PATH = found?.[0] ?? '';

/** An address within the shop, as the browser asks for it. */
export const inShop = (path: string): string => SHOP_PATH + path;
/** Where the page is within its shop. */
export const placeInShop = (): string => location.pathname.slice(SHOP_PATH.length) + location.search;
/** The address of a shop’s first screen. */
export const shopAddress = (id: string, first: boolean): string => (first ? '/' : `/at/${id}/`);
