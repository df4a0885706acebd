import { createSystem, defaultConfig } from '@chakra-ui/react';
import { serializeStyles } from '@emotion/serialize';
import { describe, expect, it } from 'vitest';
import { quickSystem } from './quick-system';

const plain = createSystem(defaultConfig);
const quick = quickSystem(plain);
/** Styles as the style sheet takes them, by either system. */
const of = (s: unknown) => serializeStyles([s as Parameters<typeof serializeStyles>[0][number]]).styles;

describe('a system that works each set of styles out once', () => {
  it.each([
    [{ display: 'flex', px: '10px', color: 'fg' }],
    [{ _hover: { bg: 'bg', '& > b': { fontWeight: 700 } }, p: 0 }],
    [{ width: { base: '10px', md: '20px' }, color: undefined }],
    [{}],
  ])('says what the other says: %j', (style) => {
    expect(of(quick.css({}, style))).toBe(of(plain.css({}, style)));
    // and again, from what it kept
    expect(of(quick.css({}, style))).toBe(of(plain.css({}, style)));
  });
  it('keeps apart what differs by a number’s being one, by its order, or by where it ends', () => {
    const all = [{ p: 1 }, { p: '1' }, { p: '1px', m: '2px' }, { m: '2px', p: '1px' }, { content: '"a;m:b"' }, { content: '"a"', m: 'b' }];
    for (const style of all) expect(of(quick.css({}, style))).toBe(of(plain.css({}, style)));
  });
  it('later styles win over a recipe’s, and a recipe is made once', () => {
    const config = { base: { color: 'red', p: '2px' }, variants: { big: { true: { p: '9px' } } } };
    expect(quick.cva(config)).toBe(quick.cva(config));
    const [a, b] = [quick.cva(config)({ big: true }), plain.cva(config)({ big: true })];
    expect(of(quick.css(a, { color: 'blue' }))).toBe(of(plain.css(b, { color: 'blue' })));
  });
  it('knows the same properties', () => {
    for (const name of ['px', 'color', 'onClick', '_hover', 'data-step', 'aria-label'])
      expect([name, quick.isValidProperty(name)]).toEqual([name, plain.isValidProperty(name)]);
  });
});
