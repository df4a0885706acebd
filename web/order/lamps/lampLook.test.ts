import { describe, expect, it } from 'vitest';
import { EquipmentFunction, LightColour } from '#model/common';
import type { Lamp } from '#core/lighting/lamp';
import { drawnSize, functionWord, isDrawn, lampFill } from './lampLook';
import { stateQuery } from './stateQuery';

const lamp = (over: Partial<Lamp>): Lamp => ({
  id: 'k/l',
  name: 'l',
  function: 'tail',
  at: { x: 0, y: 0, z: 700 },
  where: '',
  from: 'kit',
  known: true,
  moved: false,
  ...over,
});

describe('how a lamp is drawn', () => {
  it('every colour of light has its own', () => {
    const fills = LightColour.options.map((colour) => lampFill({ colour }));
    expect(new Set(fills).size).toBe(fills.length);
    expect(fills).not.toContain(lampFill({}));
  });
  it('at the size that it lights, or at a usual one', () => {
    expect(drawnSize(lamp({ litMm: { w: 12, h: 9 } }))).toEqual({ w: 12, h: 9 });
    expect(drawnSize(lamp({ function: 'mirror-driver' })).w).toBeGreaterThan(drawnSize(lamp({})).w);
  });
  it('only what is on the outside and has a place; a factory mirror is part of the body until it is measured', () => {
    expect([
      isDrawn(lamp({})),
      isDrawn(lamp({ at: null })),
      isDrawn(lamp({ function: 'belt' })),
      isDrawn(lamp({ function: 'turn-indicator' })),
    ]).toEqual([true, false, false, false]);
    const mirror = lamp({ function: 'mirror-driver', from: 'factory' });
    expect([isDrawn(mirror), isDrawn({ ...mirror, moved: true }), isDrawn({ ...mirror, from: 'kit' })]).toEqual([false, true, true]);
  });
  it('every function has plain words', () => {
    for (const f of EquipmentFunction.options) expect(functionWord(f)).not.toMatch(/^(turn|reflector|mirror|sidelight)-|undefined/);
  });
});

describe('a state of the switches in an address', () => {
  it('reads back as what it was', () => {
    const controls = { 'unit#key': 'off', 'road-kit/switch#hazard': 'on' };
    const back = new URLSearchParams(stateQuery({ controls })).get('state')!;
    expect(Object.fromEntries(back.split(',').map((p) => p.split('=')))).toEqual(controls);
  });
});
