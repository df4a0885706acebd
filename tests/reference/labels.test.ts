import { BinaryBitmap, HybridBinarizer, MultiFormatReader, RGBLuminanceSource } from '@zxing/library';
import { encode } from 'uqr';
import { describe, expect, it } from 'vitest';
import { labelText, readLabel } from '#core/supply/label';

/** Points of the picture for one square of a code, and squares of white around it (ISO/IEC 18004 asks for four). */
const POINTS = 6;
const QUIET = 4;

/** A code as a camera would have it, read by another package than drew it. */
function seen(text: string): string {
  const { data, size } = encode(text, { ecc: 'M', border: 0 });
  const side = (size + 2 * QUIET) * POINTS;
  const light = new Uint8ClampedArray(side * side).fill(255);
  data.forEach((line, j) =>
    line.forEach((dark, i) => {
      if (!dark) return;
      for (let y = 0; y < POINTS; y++)
        light.fill(
          0,
          ((j + QUIET) * POINTS + y) * side + (i + QUIET) * POINTS,
          ((j + QUIET) * POINTS + y) * side + (i + QUIET + 1) * POINTS,
        );
    }),
  );
  return new MultiFormatReader()
    .decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(light, side, side))), new Map())
    .getText();
}

describe('labels of the shelf', () => {
  it.each([
    [{ item: 'fuse-blade-15' }],
    [{ item: '2/0 RD/BK', amount: 12.5 }],
    [{ item: 'cart-basic-lamps-push-pull-switch', amount: 1, lot: 'PPS-77' }],
  ])('%j is read by another package as it was written', (label) => {
    expect(readLabel(seen(labelText(label)))).toEqual({ amount: null, lot: '', ...label });
  });
});
