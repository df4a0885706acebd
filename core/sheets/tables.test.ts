import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { UnitModel } from '#model/unit-model';
import { demoIds, demoModel } from '../../tests/demo-sheets';
import { ImpossibleInput } from '../errors';
import { howKnown } from '../known/pointer';
import { guessColumns, isBad, readTable, tableLines, type TableKind } from './read-table';
import { fuseTable, PINS, placeTable, withFuses, withPins, withPlaces } from './tables';

const typed = { by: 'ines', at: '2026-11-28T10:00:00.000Z' };
const model = demoModel('drover-2');

/** Its good lines, and what is said of the others. */
function taken<C extends string, L>(text: string, kind: TableKind<C, L>): { lines: L[]; says: string[] } {
  const t = readTable(text, kind);
  const all = tableLines(t, kind, guessColumns(t, kind));
  return { lines: all.filter((l): l is L => !isBad(l)), says: all.flatMap((l) => (isBad(l) ? [l.says] : [])) };
}

describe('places from a table', () => {
  it('of every unit come back as they were, in millimetres and in inches', () => {
    for (const id of demoIds('models')) {
      const m = demoModel(id);
      for (const [units, each, unit] of [
        ['metric', 1, ''],
        ['imperial', 25.4, ''],
        ['metric', 25.4, ' in'],
      ] as const) {
        const text = [
          'Place\tx\ty\tz',
          ...m.places.map((p) => [p.name, ...[p.x, p.y, p.z].map((v) => `${v / each}${unit}`)].join('\t')),
        ].join('\n');
        const { lines, says } = taken(text, placeTable(m, units));
        expect(says).toEqual([]);
        expect(lines).toEqual(m.places.map(({ name, x, y, z }) => ({ name, x, y, z })));
        expect(withPlaces(m, lines, typed).places).toEqual(m.places);
      }
    }
  });
  it('move what is there, measured by who put them in, and add what is not', () => {
    const some = model.places.find((p) => p.y === 0)!;
    const { lines, says } = taken(
      `name;height;forward;left\n${some.name};900;;\nnew spot;500;120;-300\nhalf a spot;500;;\nsome words;abc;1;1\n${some.name};;;`,
      placeTable(model, 'metric'),
    );
    expect(says).toEqual([
      'row 4, half a spot: it is new, and needs all three figures',
      'row 5, some words: “abc” is not a figure in mm',
      `row 6, ${some.name}: no figure says where it is`,
    ]);
    const next = UnitModel.parse(withPlaces(model, lines, typed));
    expect(next.places.find((p) => p.id === some.id)).toEqual({ ...some, z: 900 });
    expect(howKnown(next, `/places/${some.id}/z`)).toMatchObject({ how: 'measured', by: 'ines' });
    expect(next.places.at(-1)).toMatchObject({ name: 'new spot', x: 120, y: -300, z: 500 });
    // a sheet of nonsense changes nothing and throws nothing but what it says
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) => {
        try {
          UnitModel.parse(withPlaces(model, taken(text, placeTable(model, 'metric')).lines, typed));
        } catch (e) {
          expect(e).toBeInstanceOf(ImpossibleInput);
        }
      }),
      { numRuns: 300 },
    );
  });
});

describe('a fuse list', () => {
  const [feed] = model.powerPoints.filter((p) => p.kind === 'accessory-port');
  it('puts fuses right and adds what is missing, at a place that the unit has', () => {
    const spot = model.places[0]!.name;
    const { lines, says } = taken(
      [
        'Circuit;Fuse;Live;Where;Used',
        `${feed!.name};7.5 A;;;2`,
        `Chime;5;ignition;${spot};`,
        `Clock;5;always;${spot};0.1`,
        `Radio;15;sometimes;${spot};`,
        'Pump;10;key;the moon;',
        'Fan;10;key;;',
        `Horn;0;key;${spot};`,
      ].join('\n'),
      fuseTable(model, 'metric'),
    );
    expect(says).toEqual([
      'row 5, Radio: “sometimes” says neither always nor with the key',
      'row 6, Pump: the unit has no place “the moon”',
      'row 7, Fan: it is new, and no column says where it is',
      'row 8, Horn: “0” is no fuse',
    ]);
    const next = UnitModel.parse(withFuses(model, lines, typed));
    expect(next.powerPoints.find((p) => p.id === feed!.id)).toEqual({ ...feed, fuseA: 7.5, usedA: 2 });
    expect(howKnown(next, `/powerPoints/${feed!.id}/fuseA`)).toMatchObject({ how: 'read', by: 'ines' });
    expect(next.powerPoints.slice(-2)).toMatchObject([
      { name: 'Chime', fuseA: 5, switching: 'keyed', place: model.places[0]!.id, kind: 'fuse-box-screw' },
      { name: 'Clock', fuseA: 5, switching: 'constant', usedA: 0.1 },
    ]);
  });
  it('without heads is known by what stands in it', () => {
    expect(taken(`${feed!.name},10,keyed`, fuseTable(model, 'metric')).lines).toEqual([
      { name: feed!.name, fuseA: 10, switching: 'keyed' },
    ]);
  });
});

describe('a pinout', () => {
  const feed = model.powerPoints[0]!.id;
  it('says the cavities of a plug, their colours in letters or words, and what carries feed and ground', () => {
    const { lines, says } = taken(
      'Pin,Colour,Function\nA,brown,keyed 12 V\nB,Green/Yellow,ground\nC,WHRD,low beam\nD,GNYE,chassis\nE,mauve,horn\nlong-pin-name,BK,x',
      PINS,
    );
    expect(says).toEqual(['row 6, E: “mauve” is no colour of a wire', 'row 7, long-pin-name: a pin is called by a few letters or figures']);
    expect(lines).toEqual([
      { pin: 'A', colour: 'BN', use: 'keyed 12 V', carries: 'feed' },
      { pin: 'B', colour: 'GN/YE', use: 'ground', carries: 'ground' },
      { pin: 'C', colour: 'WH/RD', use: 'low beam' },
      { pin: 'D', colour: 'GNYE', use: 'chassis' },
    ]);
    expect(UnitModel.parse(withPins(model, feed, lines, typed)).powerPoints[0]!.pins).toEqual(lines);
    expect(() => withPins(model, feed, [...lines, { pin: 'a', use: 'x' }], typed)).toThrow('pin a is there twice');
  });
});
