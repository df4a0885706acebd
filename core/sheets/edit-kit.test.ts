import { describe, expect, it } from 'vitest';
import { demoIds, demoKit, demoModel } from '../../tests/demo-sheets';
import { chosenKit } from '../wiring/chosen';
import { boxScheme, joinTargets } from './box-scheme';
import {
  addContent,
  addLeg,
  addStep,
  boxChanges,
  boxProblems,
  changeDevice,
  changeLeg,
  changeStep,
  copiedKit,
  fitsModel,
  joinWire,
  moveStep,
  namedContent,
  newKit,
  removeContent,
} from './edit-kit';
import { guessColumns, readTable, tableLines } from './read-table';
import { CONTENTS } from './tables';

const roof = demoKit('roof-bar');

describe('a box’s sheet as it is edited', () => {
  it('is refused without a maker or a name, and needs what every sheet needs before it is published', () => {
    expect(() => newKit(' ', 'x', [], null)).toThrow('say who made it');
    expect(() => newKit('x', '', [], null)).toThrow('say what it is called');
    const empty = newKit('Pellam', 'Roof bar', ['roof-bar'], demoModel('drover-2'));
    expect(empty.id).toBe('roof-bar-2');
    expect(boxProblems(empty)).toEqual([{ part: { kind: 'box' }, says: 'an empty box', stops: true }]);
    expect(boxProblems(newKit('Pellam', 'Roof bar', [], null)).length).toBe(2);
  });
  it('finds every sheet of the demo sound, and says nothing of an unchanged one', () => {
    for (const id of demoIds('kits')) {
      expect(
        boxProblems(demoKit(id)).filter((p) => p.stops),
        id,
      ).toEqual([]);
      expect(boxChanges(demoKit(id), demoKit(id)), id).toEqual([]);
    }
  });
  it('names what a figure or a join that cannot be is of', () => {
    const short = changeLeg(roof, 'relay', 'lamp', 0);
    expect(boxProblems(short)[0]).toMatchObject({ part: { kind: 'harness', id: 'relay' }, stops: true });
    const wild = joinWire(roof, 'relay', 'lamp', 'lamp', 'bar.nowhere');
    expect(boxProblems(wild)[0]!.says).toMatch(/names terminal “nowhere” of Roof bar lamp/);
    expect(boxProblems(joinWire(roof, 'relay', 'lamp', 'lamp', null))[0]).toMatchObject({
      says: 'lamp plug of relay harness: wire lamp goes nowhere',
      stops: false,
    });
    const dark = changeDevice(roof, 'bar', { load: { ...roof.devices[0]!.load!, watts: null } });
    expect(boxProblems(dark)[0]!.says).toBe('Roof bar lamp: watts not known');
  });
  it('tells what is otherwise, in words', () => {
    const said = boxChanges(roof, changeStep(changeDevice(roof, 'bar', { massKg: 4 }), 'aim', { minutes: 9 }));
    expect(said).toEqual(['Device “Roof bar lamp”: mass 3.2 kg; now 4 kg', 'Step “Aim the bar”: minutes 4; now 9']);
    expect(boxChanges(null, roof)).toEqual(['New: 5 pieces, 2 devices, 4 steps']);
  });
  it('is copied under a name of its own', () => {
    expect(copiedKit(roof, 'Roof bar lamp 120 W, again', ['roof-bar'])).toMatchObject({ id: 'roof-bar-lamp-120-w-again', maker: 'Pellam' });
  });
  it('has its contents and steps added, moved and taken out, with what names them', () => {
    expect(() => addContent(roof, '', 1)).toThrow('say what it is');
    expect(() => addContent(roof, 'nut', 0)).toThrow(/whole number from 1/);
    const nut = addContent(roof, 'nut', 4);
    const named = namedContent(nut, nut.contents.length - 1);
    const stepped = addStep(named.kit, 'Nuts on', 'mount', 'roof-front');
    const uses = changeStep(stepped.kit, stepped.id, { uses: [named.id] });
    expect(boxProblems(uses)).toEqual([]);
    expect(removeContent(uses, nut.contents.length - 1).steps.at(-1)!.uses).toEqual([]);
    const ids = (k: typeof roof) => k.steps.map((s) => s.id);
    expect(ids(moveStep(roof, 'switch', -1))).toEqual(['switch', 'clamps', 'lit', 'aim']);
    expect(moveStep(roof, 'clamps', -1)).toBe(roof);
    expect(moveStep(roof, 'aim', 1)).toBe(roof);
  });
  it('fits one more model before all other rules, and one less', () => {
    const more = fitsModel(roof, 'skarn-600', true);
    expect(more.fits[0]).toEqual({ models: ['skarn-600'], fits: true });
    expect(fitsModel(more, 'skarn-600', false).fits).toEqual(roof.fits);
    expect(fitsModel(roof, 'drover-2', false).fits[0]!.models).toEqual(['drover-4']);
  });
  it('has one more end, on a leg from where its wires part', () => {
    const more = addLeg(roof, 'relay', 'second lamp', ['lamp', 'ground']);
    const h = more.harnesses[0]!;
    expect(h.legs.at(-1)).toMatchObject({ from: 'relay', to: 'second-lamp' });
    expect(boxProblems(more).map((p) => p.says)).toEqual([
      'second lamp of relay harness: wire lamp goes nowhere',
      'second lamp of relay harness: wire ground goes nowhere',
    ]);
    expect(() => addLeg(roof, 'relay', 'x', [])).toThrow('say which wires end there');
  });
});

describe.each(demoIds('kits'))('%s as it is drawn', (id) => {
  const kit = chosenKit(demoKit(id), {});
  const s = boxScheme(kit);
  it('has no block over another, and all of it within its frame', () => {
    for (const b of s.blocks) {
      expect(b.x).toBeGreaterThanOrEqual(0);
      expect(b.y + b.h).toBeLessThanOrEqual(s.height + 0.01);
      expect(b.x + b.w).toBeLessThanOrEqual(s.width);
    }
    const over = s.blocks.flatMap((a, i) =>
      s.blocks.slice(i + 1).filter((b) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h - 0.01 && b.y < a.y + a.h - 0.01),
    );
    expect(over.map((b) => b.key)).toEqual([]);
  });
  it('draws every join from pin to pin, and offers each of its targets', () => {
    const pins = new Set(s.blocks.flatMap((b) => b.pins.map((p) => `${p.x} ${p.y}`)));
    for (const l of s.links.filter((x) => x.kind !== 'leg'))
      for (const [x, y] of [l.from, l.to]) expect(pins, l.key).toContain(`${x} ${y}`);
    const offered = new Set(joinTargets(kit).map((t) => t.target));
    const used = kit.joins.flatMap((j) => Object.values(j.to).flat());
    expect(used.filter((t) => !offered.has(t) && !t.startsWith('wire:'))).toEqual([]);
    const drawn = s.links.filter((l) => l.kind === 'join').length;
    expect(drawn).toBe(used.length);
  });
});

describe('a table of contents', () => {
  const lines = (text: string) => {
    const t = readTable(text, CONTENTS);
    return tableLines(t, CONTENTS, guessColumns(t, CONTENTS));
  };
  it('is read with commas, semicolons or tabs, named or not', () => {
    const two = [
      { item: 'bolt M6', count: 4 },
      { item: 'clamp, rubber', count: 2 },
    ];
    expect(lines('qty,part\n4,bolt M6\n2,"clamp, rubber"')).toEqual(two);
    expect(lines('bolt M6;4\nclamp, rubber;2')).toEqual(two);
    expect(lines('4 ×\tbolt M6\n2\tclamp, rubber')).toEqual(two);
    expect(lines('Item;Qty;Torque N·m\nbolt M6;4;9,5\nplate;1;')).toEqual([
      { item: 'bolt M6', count: 4, torqueNm: 9.5 },
      { item: 'plate', count: 1 },
    ]);
    expect(lines('bolt\nnut')).toEqual([
      { item: 'bolt', count: 1 },
      { item: 'nut', count: 1 },
    ]);
  });
  it('tells rows that cannot be, and keeps the others', () => {
    expect(lines('item,count\nbolt,four\n,2\n"=1+1",2\nnut,3\nwasher,1000')).toEqual([
      { row: 2, says: 'row 2, bolt: “four” is not a count' },
      { row: 3, says: 'row 3 says not what it is' },
      { row: 4, says: 'row 4, “=1+1”, is a formula, not a thing' },
      { item: 'nut', count: 3 },
      { row: 6, says: 'row 6, washer: “1000” is not a count' },
    ]);
    expect(() => readTable(' ', CONTENTS)).toThrow('there is nothing in it');
    expect(() => readTable('x\n'.repeat(600), CONTENTS)).toThrow(/600 rows/);
    expect(() => readTable('a,b\n"open,1', CONTENTS)).toThrow(/row 2/);
    expect(() => tableLines(readTable('1,2', CONTENTS), CONTENTS, ['nothing', 'count'])).toThrow('say which column tells what it is');
  });
});
