// Headless Chromium from Debian, with nothing of its own on the network.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Where Debian has it, and what it is started with: no network of its own. */
export const CHROMIUM = process.env.KADRO_CHROMIUM ?? '/usr/bin/chromium';
export const BROWSER_FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-extensions',
  '--mute-audio',
  '--disable-dev-shm-usage',
  '--force-prefers-reduced-motion',
];

/** Launches a browser with a fresh profile, and flags beside the usual ones; `close` ends it and drops the profile. */
export async function openBrowser({ width = 1280, height = 800, flags = [] } = {}) {
  const { default: puppeteer } = await import('puppeteer-core');
  const profile = mkdtempSync(join(tmpdir(), 'kadro-chromium-'));
  const browser = await puppeteer.launch({
    executablePath: CHROMIUM,
    userDataDir: profile,
    headless: true,
    defaultViewport: { width, height },
    args: [...BROWSER_FLAGS, ...flags],
  });
  return {
    browser,
    close: async () => {
      await browser.close().catch(() => undefined);
      rmSync(profile, { recursive: true, force: true });
    },
  };
}

/** Signs a page in through the form, as a person would who has been here before: the walk is offered to others. */
export async function signIn(page, base, name, password = 'lantern', first = false) {
  await page.goto(base, { waitUntil: 'load' });
  if (!first) await page.evaluate((n) => localStorage.setItem(`kadro.walk.${n}`, 'true'), name);
  // a first view on a machine at its limit takes its time
  await page.waitForSelector('#name', { timeout: 120_000 });
  await page.type('#name', name);
  await page.type('#password', password);
  await page.keyboard.press('Enter');
  await page.waitForSelector('nav[aria-label=Places]', { timeout: 120_000 });
}
