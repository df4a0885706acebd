import { describe, expect, it } from 'vitest';
import { Memo } from './memo';

describe('what was computed lately', () => {
  it('is made once for a key, whose objects are told apart by identity, and never shared between memos', () => {
    const memo = new Memo();
    let made = 0;
    const make = () => ++made;
    const model = { id: 'm' };
    expect([memo.once('a', [model, 'x'], make), memo.once('a', [model, 'x'], make)]).toEqual([1, 1]);
    expect(memo.once('a', [{ id: 'm' }, 'x'], make)).toBe(2);
    expect(memo.once('b', [model, 'x'], make)).toBe(3);
    expect(new Memo().once('a', [model, 'x'], make)).toBe(4);
  });
  it('is bounded: what was asked for longest ago goes first', () => {
    const memo = new Memo();
    let made = 0;
    const ask = (k: number) => memo.once('a', [k], () => ++made, 3);
    [1, 2, 3].forEach(ask);
    ask(1);
    ask(4);
    expect(made).toBe(4);
    ask(1);
    expect(made).toBe(4);
    ask(2);
    expect(made).toBe(5);
    // who computes for many keeps more of each
    const wide = new Memo(2);
    let asked = 0;
    for (let k = 0; k < 12; k++) wide.once('a', [k % 6], () => ++asked, 3);
    expect(asked).toBe(6);
  });
});
