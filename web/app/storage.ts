import { SHOP_PATH } from './place';

/** What is the device’s, whichever shop a page is of: how it looks, who has left, who was shown round. */
const OF_DEVICE = /^(scheme|signed-out|walk\..*)$/;
const nameOf = (key: string): string => `kadro.${SHOP_PATH && !OF_DEVICE.test(key) ? `${SHOP_PATH}.` : ''}${key}`;

export function readKept<T>(key: string, fallback: T): T {
  try {
    const text = localStorage.getItem(nameOf(key));
    return text === null ? fallback : (JSON.parse(text) as T);
  } catch {
    return fallback;
  }
}

/** Keeps something small on this device; false where there is no room for it. */
export function writeKept(key: string, value: unknown): boolean {
  try {
    if (value === undefined || value === null || value === '') localStorage.removeItem(nameOf(key));
    else localStorage.setItem(nameOf(key), JSON.stringify(value));
    return true;
  } catch {
    return false;
  }
}
