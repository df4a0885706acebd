/** Points of a published table: what it is asked by, and what it answers. */
export type Table = readonly (readonly [number, number])[];

/**
 * What a table answers at `x`: straight between its points, and as its end points beyond them.
 * @param table ordered by its first figures, rising or falling
 */
export function along(table: Table, x: number): number {
  const [first, last] = [table[0]!, table.at(-1)!];
  const way = last[0] > first[0] ? 1 : -1;
  if (way * (x - first[0]) <= 0) return first[1];
  for (let i = 1; i < table.length; i++) {
    const [x0, y0] = table[i - 1]!;
    const [x1, y1] = table[i]!;
    if (way * (x - x1) <= 0) return y0 + ((x - x0) / (x1 - x0)) * (y1 - y0);
  }
  return last[1];
}
