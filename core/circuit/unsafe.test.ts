import { describe, expect, it } from 'vitest';
import { Joint } from '#model/kit';
import { DEFAULT_SETTINGS } from '#model/settings';
import { demoModel, demoOrder } from '../../tests/demo-sheets';
import { jointProblem, JOINT_WORD } from './joint';
import { unsafeOverride } from './unsafe';
import { planWiring } from '../wiring/plan';

const circuit = (model: string, kits: string[], id: string) => {
  const { order, sheets } = demoOrder(model, kits);
  return { c: planWiring(order, sheets, DEFAULT_SETTINGS).circuits.find((x) => x.id === id)!, model: sheets.model };
};

describe('what could hurt somebody', () => {
  const bar = circuit('drover-4', ['roof-bar'], 'roof-bar/bar');
  const grips = circuit('lapwing-500', ['heated-grips'], 'heated-grips/grips');
  const nav = circuit('sandbar-21', ['nav-lights'], 'nav-lights/nav');
  it.each([
    ['a fuse above the wire', bar, 'fuseA', 60, /above what the wire may carry \(45 A\)/],
    ['a wire too thin under its fuse', { ...bar, c: { ...bar.c, fuseA: 30 } }, 'awg', 16, /fuse is above what the wire may carry \(25 A\)/],
    [
      'a wire too thin where it is hot',
      { ...bar, c: { ...bar.c, fuseA: 20, around: { hot: true, bundled: 1 }, load: { ...bar.c.load, continuousA: 10 } } },
      'awg',
      18,
      /17 A/,
    ],
    [
      'a wire too thin for its bundle',
      { ...bar, c: { ...bar.c, fuseA: 15, around: { hot: false, bundled: 7 } } },
      'awg',
      16,
      /above what the wire may carry \(12.5 A\)/,
    ],
    [
      'a fuse not made for its volts',
      { ...bar, c: { ...bar.c, ampacityA: 100, highestV: 58 } },
      'fuseA',
      3,
      /no 3 A fuse is made for 58 V/,
    ],
    [
      'a relay for more than any carries',
      { ...bar, c: { ...bar.c, load: { ...bar.c.load, peakA: 140 } } },
      'mode',
      'relay',
      /no relay or contactor here switches 140 A/,
    ],
    [
      'a fuse above its maker’s',
      { ...bar, c: { ...bar.c, circuit: { ...bar.c.circuit, fuseMaxA: 15 } } },
      'fuseA',
      20,
      /above the 15 A that the kit’s maker allows/,
    ],
    ['no relay where one is called for', bar, 'mode', 'direct', /calls for a relay/],
    ['a feed without room', grips, 'feed', 'plug-2', /needs 5 A, 1.6 A free/],
    ['a piercing tap on a boat', nav, 'joint', 'piercing-tap', /wet place/],
    ['a piercing tap for ten amperes', bar, 'joint', 'piercing-tap', /not for 10 A/],
  ] as [string, typeof bar, Parameters<typeof unsafeOverride>[1], string | number, RegExp][])('%s', (_, { c, model }, field, value, says) =>
    expect(unsafeOverride(c, field, value, model, DEFAULT_SETTINGS)).toMatch(says),
  );
  it.each([
    ['a fuse that fits', bar, 'fuseA', 20],
    ['a thicker wire', bar, 'awg', 10],
    ['a relay', bar, 'mode', 'relay'],
    ['a feed with room', grips, 'feed', 'plug-10'],
    ['a crimp', nav, 'joint', 'crimp-shrink'],
    ['a measured length', bar, 'lengthM', 9],
    ['another way', bar, 'route', 'battery>bus-bar'],
    [
      'a piercing tap for little in the dry',
      { ...bar, c: { ...bar.c, load: { ...bar.c.load, continuousA: 0.5 } } },
      'joint',
      'piercing-tap',
    ],
  ] as [string, typeof bar, Parameters<typeof unsafeOverride>[1], string | number][])(
    '%s is nobody’s danger',
    (_, { c, model }, field, value) => expect(unsafeOverride(c, field, value, model, DEFAULT_SETTINGS)).toBeNull(),
  );
  it('every joint has its word; only the tap that pierces is ever a problem', () => {
    for (const j of Joint.options) {
      expect(JOINT_WORD[j].length).toBeGreaterThan(3);
      if (j !== 'piercing-tap') expect(jointProblem(demoModel('sandbar-21'), 'helm', j, 50)).toBeNull();
    }
  });
});
