import { Problem } from './problem';

/** Data deeper or larger than this is nothing that a screen or a person sends. */
const DEEPEST = 32;
const MOST_VALUES = 60_000;
const MOST_KEYS = 2000;

/**
 * Looks at data before anything reads it: not too deep, not too much. Without recursion, so that nothing deep can exhaust it.
 * @throws Problem 422
 */
export function checkBounds(data: unknown): void {
  const stack: [unknown, number][] = [[data, 1]];
  let values = 0;
  const refuse = (why: string): never => {
    throw new Problem(422, 'Not possible', `What was sent is ${why}.`, { fields: [{ path: '', message: why }] });
  };
  while (stack.length) {
    const [v, depth] = stack.pop()!;
    if (++values > MOST_VALUES) refuse(`more than ${MOST_VALUES} values`);
    if (v === null || typeof v !== 'object') continue;
    if (depth > DEEPEST) refuse(`nested more than ${DEEPEST} deep`);
    const inside = Array.isArray(v) ? v : Object.values(v);
    if (!Array.isArray(v) && inside.length > MOST_KEYS) refuse(`an object of more than ${MOST_KEYS} fields`);
    if (inside.length > MOST_VALUES) refuse(`more than ${MOST_VALUES} values`);
    for (const x of inside) stack.push([x, depth + 1]);
  }
}
