import { tryOn } from '#core/sheets/try-on';
import { mayFit } from '#core/order/fit';
import { Memo } from '#core/memo';
import { DEFAULT_SETTINGS } from '#model/settings';
import type { Kit } from '#model/kit';
import { demoIds, demoKit, demoModel, demoPack, packIds } from '../demo-sheets';

const at = (list: number[], share: number) => [...list].sort((a, b) => a - b)[Math.floor(list.length * share)]!;
const ALLOWED_MS = 100;
const CHANGES = 40;

/** What somebody changes of a box while it is unpacked, one thing after another; each makes another sheet. */
function changed(kit: Kit, i: number): Kit {
  const k = structuredClone(kit);
  const pick = <T>(list: readonly T[]): T | undefined => list[Math.floor(i / 6) % Math.max(1, list.length)];
  const step = pick(k.steps);
  const device = pick(k.devices);
  const leg = pick(k.harnesses[0]?.legs ?? []);
  if (i % 6 === 0 && step) step.minutes += 1 + i / 10;
  if (i % 6 === 1 && leg) leg.lengthMm += 20 + i;
  if (i % 6 === 2 && device) device.name += ` ${i}`;
  if (i % 6 === 3 && step) step.title += ` ${i}`;
  if (i % 6 === 4) k.name += ` ${i}`;
  if (i % 6 === 5 && step) step.why = `${step.why ?? ''} ${i}`;
  return k;
}

/** A box tried on a unit after each change of its sheet, in one thread that remembers what it worked out. */
export async function benchTryOn(say: (line: string) => void): Promise<void> {
  const packs = packIds().map(demoPack);
  const models = demoIds('models').map(demoModel);
  const all: number[] = [];
  const over: string[] = [];
  const ids = demoIds('kits');
  for (const id of ids) {
    const kit = demoKit(id);
    const model = models.find((m) => mayFit(kit, m, m.years.to, m.builds[0]!.id)) ?? models[0]!;
    const memo = new Memo();
    let now = kit;
    tryOn(now, model, packs, DEFAULT_SETTINGS, {}, memo);
    const ms: number[] = [];
    for (let i = 0; i < CHANGES; i++) {
      now = changed(now, i);
      const t = performance.now();
      tryOn(now, model, packs, DEFAULT_SETTINGS, {}, memo);
      ms.push(performance.now() - t);
    }
    all.push(...ms);
    if (at(ms, 0.95) > ALLOWED_MS) over.push(`${id} on ${model.id} ${at(ms, 0.5).toFixed(0)} and ${at(ms, 0.95).toFixed(0)}`);
  }
  say(
    `A box tried on a unit after a change, ${ids.length} boxes, ${CHANGES} changes each: ${at(all, 0.5).toFixed(0)} ms at the median, ${at(all, 0.95).toFixed(0)} ms at the 95th (${ALLOWED_MS} allowed), ${at(all, 0.99).toFixed(0)} at the 99th; ${ids.length - over.length} boxes under it for themselves${over.length ? ` (over: ${over.join('; ')})` : ''}.`,
  );
}
