import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS } from '#model/settings';
import { after, demoOrder } from '../../tests/demo-sheets';
import { assess } from '../order/assess';
import { CUT_INSIDE_MM, extent, holeSheets, rulerStrokes, templateStrokes, templateSvg } from './hole-sheet';

const sheets = (more: Parameters<typeof after>[1][] = []) => {
  const { order, sheets: s } = demoOrder('parkway-48', ['reducer-48', 'cart-road-lamps', 'signal-mirrors', 'usb-socket']);
  const o = after(order, ...more);
  return holeSheets(o, assess(o, s, DEFAULT_SETTINGS).sheets);
};
const one = (list: ReturnType<typeof sheets>, device: string) => list.find((x) => x.device === device)!;

describe('hole and cut-out sheets', () => {
  it('cuts inside the trace by a millimetre all round', () => {
    const s = one(sheets(), 'head-left');
    expect(s.trace).toEqual({ kind: 'rect', w: 150, h: 92, r: 14 });
    expect(s.cut).toEqual({ kind: 'rect', w: 150 - 2 * CUT_INSIDE_MM, h: 92 - 2 * CUT_INSIDE_MM, r: 13 });
    expect(s.holes.map((h) => h.mm)).toEqual([5, 5, 5, 5]);
  });
  it('the other side’s is its mirror', () => {
    const list = sheets();
    const [l, r] = [one(list, 'left'), one(list, 'right')];
    expect([l.mirrored, r.mirrored]).toEqual([false, true]);
    expect(r.holes.map((h) => [h.right + 0, h.up])).toEqual(l.holes.map((h) => [-h.right + 0, h.up]));
  });
  it('only a handed part has a mirror: the same lamp on both sides has the same sheet on both', () => {
    const { order, sheets: s } = demoOrder('drover-4', ['front-harness', 'road-kit']);
    const list = holeSheets(order, assess(order, s, DEFAULT_SETTINGS).sheets);
    const [l, r] = ['front-left', 'front-right'].map((d) => list.find((x) => x.device === d)!);
    expect([l!.mirrored, r!.mirrored]).toEqual([false, false]);
    expect(r!.holes).toEqual(l!.holes);
  });
  it('a hole that a drill makes is drilled with a pilot, a bigger one is cut; trade sizes, common practice, no source', () => {
    const usb = one(sheets(), 'usb');
    expect(usb.holes[0]).toMatchObject({ mm: 30, pilotMm: 3 });
    expect(usb.trace).toBeNull();
    const mirror = one(sheets(), 'left');
    // lead hole 3/8 in, 3/4 in above the lower screw, screws 1/8 in
    expect(mirror.holes[0]!.mm).toBeCloseTo(0.375 * 25.4, 1);
    const lower = mirror.holes.filter((h) => h.what === 'bolt').reduce((a, b) => (b.up < a.up ? b : a));
    expect(mirror.holes[0]!.up - lower.up).toBeCloseTo(0.75 * 25.4, 0);
    expect(lower.mm).toBeCloseTo(25.4 / 8, 1);
  });
  it('goes where the lamp is put, and looks behind there', () => {
    const s = one(
      sheets([{ type: 'lamp.placed', lamp: 'cart-road-lamps/head-left', at: { x: 2080, y: 380, z: 600 }, label: 'Left headlamp' }]),
      'head-left',
    );
    expect(s.where).toMatch(/380 mm left of the centre line, 600 mm up/);
    expect(s.behind[0]).toBe('take off first to look: Front cowl');
    expect(s.behind.some((b) => /^wires from inside the front cowl/.test(b))).toBe(true);
  });
  it('the ruler is 100 mm and 4 in; everything drawn lies in the sheet’s room', () => {
    const lines = rulerStrokes(0, 0).flatMap((k) => (k.kind === 'line' ? [k] : []));
    expect(Math.max(...lines.filter((l) => l.y2 > 0).map((l) => l.x2))).toBe(100);
    expect(Math.max(...lines.filter((l) => l.y2 < 0).map((l) => l.x2))).toBeCloseTo(101.6, 9);
    for (const s of sheets()) {
      const { w, h } = extent(s);
      for (const k of templateStrokes(s)) {
        if (k.kind === 'circle') expect(Math.abs(k.x) + k.r <= w / 2 && Math.abs(k.y) + k.r <= h / 2).toBe(true);
        if (k.kind === 'rect') expect(k.w <= w && k.h <= h).toBe(true);
      }
      const svg = templateSvg(s, 'a & b');
      const [, width, , vw] = /width="([\d.]+)mm" height="([\d.]+)mm" viewBox="\S+ \S+ ([\d.]+)/.exec(svg)!;
      expect(width).toBe(vw);
      expect(svg).toContain('<title>a &amp; b</title>');
    }
  });
});
