import { describe, expect, it } from 'vitest';
import { demoKit, looseKit } from '../tests/demo-sheets';
import { readSheet } from '#core/sheets/read';
import { broughtUpToDate, Kit } from './kit';

/** What is wrong with a kit, as `path: message`. */
const problems = (k: unknown) => (Kit.safeParse(k).error?.issues ?? []).map((i) => `${i.path.join('.')}: ${i.message}`).join('\n');
const changed = (id: string, change: (k: Kit) => void): Kit => {
  const k = structuredClone(demoKit(id));
  change(k);
  return k;
};

describe('a box that is described wrongly is named at its field', () => {
  it.each<[string, string, (k: Kit) => void, RegExp]>([
    [
      'a join to no terminal',
      'roof-bar',
      (k) => (k.joins[2]!.to.lamp = 'bar.plug'),
      /joins\.2\.to\.lamp: names terminal “plug” of Roof bar lamp, which this kit does not have/,
    ],
    [
      'a join of no end',
      'roof-bar',
      (k) => (k.joins[0]!.end = 'tail'),
      /joins\.0\.end: names end “tail”, which relay harness does not have/,
    ],
    ['a join of no wire', 'roof-bar', (k) => (k.joins[0]!.to.blue = 'ground'), /joins\.0\.to\.blue: no wire “blue” ends at red ring/],
    ['an end joined twice', 'roof-bar', (k) => k.joins.push(k.joins[0]!), /joins\.5\.end: red ring of relay harness is joined twice/],
    [
      'a cut whose side is joined to nothing',
      'rear-lamp-signals',
      (k) => (k.cuts[0]!.wire = 'tail'),
      /cuts\.0\.unitSide: is joined to nothing: no lead of this kit goes to wire:tail/,
    ],
    [
      'a cut that leads to no terminal',
      'rear-lamp-signals',
      (k) => (k.cuts[1]!.otherSide = 'rear-right.moon'),
      /cuts\.1\.otherSide: names terminal “moon”/,
    ],
    ['a feed of no circuit', 'roof-bar', (k) => (k.joins[0]!.to.feed = 'feed:moon'), /joins\.0\.to\.feed: names circuit “moon”/],
    [
      'a leg of no length',
      'roof-bar',
      (k) => (k.harnesses[0]!.legs[0]!.lengthMm = 0),
      /harnesses\.0\.legs\.0\.lengthMm: a leg has a length/,
    ],
    [
      'a loop',
      'roof-bar',
      (k) => k.harnesses[0]!.legs.push({ id: 'back', from: 'lamp', to: 'relay', lengthMm: 100 }),
      /harnesses\.0\.legs\.6: “back” closes a loop/,
    ],
    [
      'two pieces',
      'roof-bar',
      (k) => k.harnesses[0]!.legs.push({ id: 'apart', from: 'here', to: 'there', lengthMm: 100 }),
      /harnesses\.0\.legs: falls apart/,
    ],
    ['a wire of one end', 'roof-bar', (k) => (k.harnesses[0]!.ends[0]!.wires = [{ wire: 'ground' }]), /“feed” has one end only/],
    [
      'two halves that do not mate',
      'road-kit',
      (k) => {
        const end = k.harnesses[0]!.ends.find((e) => e.id === 'module')!.end;
        if (end.kind === 'connector') end.gender = 'socket';
      },
      /joins\.1: module plug of signal harness, a eight-way sealed socket with 8 cavities, does not go into Signal module/,
    ],
    [
      'a wire in another cavity than its terminal',
      'road-kit',
      (k) => {
        const w = k.harnesses[0]!.ends.find((e) => e.id === 'module')!.wires;
        [w[2]!.cavity, w[3]!.cavity] = [w[3]!.cavity, w[2]!.cavity];
      },
      /joins\.1\.to\.left: is in cavity 4, which is “right” at Signal module/,
    ],
    [
      'a cavity beyond the plug',
      'road-kit',
      (k) => (k.harnesses[0]!.ends.find((e) => e.id === 'module')!.wires[0]!.cavity = 9),
      /cavity 9 of a connector with 8/,
    ],
    ['a cavity with two wires', 'road-kit', (k) => (k.harnesses[0]!.ends[0]!.wires[1]!.cavity = 1), /cavity 1 has a wire already/],
    ['an output taken from nowhere', 'front-harness', (k) => (k.provides[0]!.at = 'block.z'), /provides\.0\.at: names terminal “z”/],
    ['an output that is there twice', 'front-harness', (k) => (k.provides[1]!.id = 'front-a'), /provides\.1\.id: “front-a” is there twice/],
    ['a choice that is open nowhere', 'road-kit', (k) => (k.joins[0]!.when = 'running:loud'), /joins\.0\.when: names “running:loud”/],
    [
      'a mistake under an option that is not the first',
      'road-kit',
      (k) => (k.joins.find((j) => j.when === 'running:on')!.harness = 'none'),
      /names harness “none”|harness: names harness “none”/,
    ],
    ['a step that mounts nothing here', 'roof-bar', (k) => k.steps[0]!.mounts.push('moon'), /steps\.0\.mounts\.1: names device “moon”/],
    ['a step that uses nothing here', 'roof-bar', (k) => k.steps[0]!.uses.push('glue'), /steps\.0\.uses\.1: names “glue”/],
    ['a fuse in a leg that is not there', 'roof-bar', (k) => (k.harnesses[0]!.inline[0]!.leg = 'arm'), /inline\.0\.leg: names leg “arm”/],
  ])('%s', (_, id, change, message) => expect(problems(changed(id, change))).toMatch(message));
  it('the line of it is told in a file', () => {
    const text = JSON.stringify(
      { kadro: 'kit', format: 2, sheet: changed('roof-bar', (k) => (k.harnesses[0]!.legs[0]!.lengthMm = 0)) },
      null,
      1,
    );
    const { sheet, problems: found } = readSheet(text);
    expect(sheet).toBeNull();
    expect(found[0]).toMatchObject({ field: 'sheet.harnesses.0.legs.0.lengthMm', message: 'a leg has a length above 0' });
    expect(text.split('\n')[found[0]!.line - 1]).toMatch(/"lengthMm": 0/);
  });
});

describe('the first format', () => {
  it('is read and brought up to date: its box is what it contains, and nothing else changes', () => {
    const old = { kadro: 'kit', format: 1, sheet: { ...looseKit('roof-bar'), box: [{ item: 'lamp bar', count: 1 }] } } as Record<
      string,
      unknown
    >;
    const { contents: _, ...sheet } = old.sheet as Record<string, unknown>;
    const plain = Object.fromEntries(
      Object.entries(sheet).filter(([k]) => !['besides', 'variants', 'harnesses', 'joins', 'provides', 'takesOff'].includes(k)),
    );
    const read = readSheet(JSON.stringify({ ...old, sheet: plain }));
    expect(read.problems).toEqual([]);
    expect(read.sheet).toMatchObject({
      kadro: 'kit',
      format: 2,
      sheet: { id: 'roof-bar', contents: [{ item: 'lamp bar', count: 1, of: [] }] },
    });
  });
  it('names what is wrong in its own words', () => {
    const text = '{ "kadro": "kit", "format": 1, "sheet": {\n "id": "x",\n "box": [{ "item": "lamp", "count": 0 }] } }';
    expect(readSheet(text).problems.find((p) => p.field === 'sheet.box.0.count')).toMatchObject({ line: 3 });
  });
  it('leaves what is of today, and what is no kit, as it is', () => {
    const k = demoKit('roof-bar');
    expect(broughtUpToDate(k)).toBe(k);
    expect(broughtUpToDate('x')).toBe('x');
  });
});
