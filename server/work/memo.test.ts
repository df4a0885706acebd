import { expect, it } from 'vitest';
import { canonical } from '#core/canonical';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoFloor, demoOrder } from '../../tests/demo-sheets';
import { WorkMemo, type OrderInput } from './memo';

const [unit] = demoFloor();
const { order, sheets } = demoOrder(unit!.model, unit!.kits);
const shopOf = (shop: string): OrderInput => {
  const packs = sheets.packs.map((p) => ({ id: p.id, revision: 1 }));
  const bag = Object.fromEntries([
    [`${shop}/model/${sheets.model.id}/1`, JSON.stringify(sheets.model)],
    ...sheets.kits.map((k) => [`${shop}/kit/${k.id}/1`, JSON.stringify(k)]),
    ...sheets.packs.map((p) => [`${shop}/rules/${p.id}/1`, JSON.stringify(p)]),
  ]) as Record<string, string>;
  // as it is read from its record
  return { shop, order: JSON.parse(canonical(order)) as typeof order, bag, packs, settings: JSON.stringify(DEFAULT_SETTINGS) };
};

it('what one command ends with the next begins with, and what it does not change is not worked out again', () => {
  const memo = new WorkMemo();
  const x = shopOf('shop');
  const before = memo.computed(x);
  expect(memo.computed(shopOf('shop')).assessment).toBe(before.assessment);
  const noted = after(x.order, { type: 'finding.added', text: 'a loose bolt' } as never);
  const ended = memo.computed(x, noted, canonical(noted));
  expect(ended.assessment).not.toBe(before.assessment);
  expect(ended.sheets).toBe(before.sheets);
  expect(ended.assessment.lamps).toBe(before.assessment.lamps);
  expect(ended.assessment.wiring.harness).toBe(before.assessment.wiring.harness);
  // read from its record it is the same order
  const read = { ...x, order: JSON.parse(canonical(noted)) as typeof order };
  expect(memo.computed(read).assessment).toBe(ended.assessment);
});

it('another shop’s order of the same content is its own', () => {
  const memo = new WorkMemo();
  const one = memo.computed(shopOf('shop'));
  const other = memo.computed(shopOf('other'));
  expect(other.assessment).not.toBe(one.assessment);
  expect(other.assessment.stations).toEqual(one.assessment.stations);
});
