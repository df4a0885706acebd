import { packFile } from '../lighting/pack';
import type { RulePack } from '#model/rule-pack';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { demoIds } from '../../tests/demo-sheets';
import { readSheet } from './read';

const text = (f: string) => readFileSync(new URL(`../../demo/${f}.json`, import.meta.url), 'utf8');
const spoil = (f: string, from: string | RegExp, to: string) => {
  const t = text(f).replace(from, to);
  expect(t).not.toBe(text(f));
  return { problems: readSheet(t).problems, lineOf: (s: string) => t.split('\n').findIndex((l) => l.includes(s)) + 1 };
};

describe('reading a sheet file', () => {
  it('takes in every sheet that ships, and what it writes it reads again the same', () => {
    for (const f of [...demoIds('models').map((m) => `models/${m}`), ...demoIds('kits').map((k) => `kits/${k}`)]) {
      const read = readSheet(text(f));
      expect(read.problems, f).toEqual([]);
      expect(readSheet(JSON.stringify(read.sheet))).toEqual(read);
    }
  });
  it('names line and field of a wrong value', () => {
    const { problems, lineOf } = spoil('kits/roof-bar', '"watts": 120', '"watts": -120');
    expect(problems).toEqual([{ line: lineOf('-120'), field: 'sheet.devices.0.load.watts', message: 'must not be below zero' }]);
  });
  it('names an unknown field, a missing one and a wrong word', () => {
    expect(spoil('kits/roof-bar', '"dropPct": 5', '"drop": 5').problems[0]).toMatchObject({
      field: 'sheet.circuits.0.drop',
      message: 'is not a field of this format',
    });
    expect(spoil('kits/roof-bar', /"maker": "Pellam",\s*/, '').problems[0]).toMatchObject({ field: 'sheet.maker', message: 'is missing' });
    expect(spoil('kits/roof-bar', '"stage": "mount"', '"stage": "mounting"').problems[0]!.message).toMatch(
      /must be one of bench-test, mount/,
    );
  });
  it('names what a sheet refers to and does not have', () => {
    expect(spoil('models/drover-4', '"from": "battery", "to": "tunnel"', '"from": "battery", "to": "attic"').problems[0]!.message).toMatch(
      /place “attic”, which this model does not have/,
    );
    expect(
      spoil('kits/roof-bar', '"devices": ["bar"]', '"devices": ["baz"]')
        .problems.map((p) => p.message)
        .join(),
    ).toMatch(/device “baz”/);
    expect(spoil('models/drover-4', '[2000, 36]', '[2000, 3]').problems[0]!.message).toMatch(/output falls back/);
    expect(spoil('kits/reducer-48', '"low": 11.5, "high": 13.9', '"low": 13.9, "high": 11.5').problems[0]!.message).toMatch(/upside down/);
  });
  it('says where a text stops being JSON', () => {
    const broken = text('kits/roof-bar').replace('"contents": [', '"contents": [,');
    const r = readSheet(broken);
    expect(r.sheet).toBeNull();
    expect(r.problems[0]!.line).toBe(broken.split('\n').findIndex((l) => l.includes('[,')) + 1);
    expect(readSheet('').problems[0]!.message).toMatch(/not JSON/);
    expect(readSheet('[1]').problems).toHaveLength(1);
  });
  it('a rule pack with a bad item is read all the same, the item named by line and set aside', () => {
    const pack = readFileSync(new URL('../../rules/road-general.json', import.meta.url), 'utf8');
    const bad = pack.replace('"heightMm": {"min": 559, "max": 1372}', '"heightMm": {"min": 1372, "max": 559}');
    expect(bad).not.toBe(pack);
    const r = readSheet(bad);
    expect(r.problems[0]!.message).toMatch(/upside down/);
    expect(r.problems[0]!.line).toBe(bad.split('\n').findIndex((l) => l.includes('"min": 1372')) + 1);
    const sheet = r.sheet!.sheet as RulePack;
    expect(sheet.bad!.map((b) => b.id)).toEqual(['headlamps']);
    // it goes out as it came, in its place
    const [out, came] = [packFile(sheet).items, (JSON.parse(bad) as { sheet: { items: { id: string }[] } }).sheet.items] as {
      id: string;
    }[][];
    expect(out!.map((i) => i.id)).toEqual(came!.map((i) => i.id));
    expect(out![0]).toEqual(came![0]);
    // anything wrong with the pack itself refuses it whole
    expect(readSheet(pack.replace('"edition"', '"editoin"')).sheet).toBeNull();
  });
});
