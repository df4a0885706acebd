import { expect, it } from 'vitest';
// @ts-expect-error plain JavaScript shared with the benchmark
import { firstView } from '../../scripts/lib/first-view.mjs';

it('the first view loads no more than it may: what only stations need comes when they are opened', () => {
  const { kB, files } = firstView() as { kB: number; files: number };
  expect(files).toBeGreaterThan(0);
  expect(kB).toBeLessThan(300);
});
