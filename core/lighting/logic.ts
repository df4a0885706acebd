import type { RuleItem, StateClause } from '#model/rule-pack';
import type { SwitchState } from '../harness/simulate';
import type { SwitchTable } from './switching';

type LogicRule = Extract<RuleItem, { kind: 'logic' }>;

/** Whether a control of the unit or its kits does this. */
export const hasSwitch = (t: SwitchTable, role: string): boolean => t.roles.some((r) => r.has(role));

/** What trying every state of the switches says about one rule. */
export interface LogicProof {
  outcome: 'holds' | 'fails' | 'unknown';
  says: string;
  /** states in which it was called for, of all that were tried */
  called: number;
  tried: number;
  /** a state in which it fails, the plainest of them */
  failing: SwitchState | null;
}

/** Positions that a control not on this unit stands in. */
const REST_WORDS = ['off', 'released', 'neutral', 'rest'];

const wanted = (t: SwitchTable, fns: readonly string[], side?: 'left' | 'right') =>
  t.lamps.filter((l) => fns.includes(l.function) && (!side || l.side === side));

const few = (names: readonly string[], word: string): string =>
  `${names.slice(0, 2).join(', ')}${names.length > 2 ? ` and ${names.length - 2} more` : ''} ${names.length > 1 ? 'are' : 'is'} ${word}`;

/**
 * A clause made ready for many states: why it is not so in one of them, in words; null when it is so. Where it is flashing that is
 * asked about, a lamp that does something else besides and stands lit through the beat is dark as a signal.
 */
function compile(t: SwitchTable, c: StateClause, flashing: boolean): (i: number) => string | null {
  if ('control' in c) {
    const rest = c.in.some((p) => REST_WORDS.includes(p));
    return (i) => {
      const at = t.roles[i]!.get(c.control);
      return (at === undefined ? rest : c.in.includes(at)) ? null : `${c.control} is elsewhere`;
    };
  }
  const dark = 'dark' in c;
  const all = wanted(t, dark ? c.dark : c.lit, c.side);
  const any = !dark && c.which === 'any';
  if (!all.length) return () => (dark ? null : 'there is no such lamp');
  return (i) => {
    const lit = t.lit[i]!;
    const between = t.between[i]!;
    const wrong = (l: (typeof all)[number]) =>
      lit.has(l.id) === dark && !(dark && flashing && l.shared && between >= 0 && t.lit[between]!.has(l.id));
    let bad = 0;
    for (const l of all) if (wrong(l)) bad++;
    if (any ? bad < all.length : bad === 0) return null;
    return few(
      all.filter(wrong).map((l) => l.name),
      dark ? 'lit' : 'dark',
    );
  };
}

const functionsOf = (c: StateClause): readonly string[] => ('lit' in c ? c.lit : 'dark' in c ? c.dark : []);

/**
 * Proves a rule about switching in every state of the table. Nothing is proved where a lamp's switching is not described, or
 * where the state it speaks of cannot be reached.
 */
export function proveLogic(rule: LogicRule, t: SwitchTable): LogicProof {
  const none = (says: string): LogicProof => ({ outcome: 'unknown', says, called: 0, tried: t.states.length, failing: null });
  const clauses = [...rule.given, ...rule.then];
  for (const c of clauses) {
    const fns = functionsOf(c);
    if (!fns.length) continue;
    const side = 'side' in c ? c.side : undefined;
    const lamps = wanted(t, fns, side);
    if (!lamps.length && !('dark' in c)) return none(`no ${fns.join(' or ')} ${side ? `on the ${side} ` : ''}to try`);
    const dim = lamps.find((l) => t.unknown.has(l.id));
    if (dim) return none(`how ${dim.name} is switched is on no sheet`);
  }
  const given = rule.given.map((c) => compile(t, c, false));
  const then = rule.then.map((c) => compile(t, c, rule.flashing));
  const flashers = rule.then.flatMap((c) => ('lit' in c ? wanted(t, c.lit, c.side) : []));
  let called = 0;
  let worst: { at: number; why: string; moved: number } | null = null;
  if (rule.some) return proveSome(t, [...given, ...then]);
  for (let i = 0; i < t.states.length; i++) {
    const s = t.states[i]!;
    if (rule.flashing && !s.beat) continue;
    if (given.some((c) => c(i) !== null)) continue;
    called++;
    let why: string | null = null;
    for (const c of then) if ((why = c(i)) !== null) break;
    if (!why && rule.flashing) {
      const off = t.between[i]!;
      const steady = flashers.find((l) => off < 0 || t.lit[off]!.has(l.id));
      if (steady) why = `${steady.name} does not flash`;
    }
    if (!why) continue;
    // the plainest failing state: the fewest switches thrown
    const moved = Object.values(s.controls).filter((p) => !REST_WORDS.includes(p)).length;
    if (!worst || moved < worst.moved) worst = { at: i, why, moved };
  }
  if (worst) return { outcome: 'fails', says: worst.why, called, tried: t.states.length, failing: t.states[worst.at]! };
  if (!called) return none('the switches that this speaks of are not in the wiring');
  return {
    outcome: 'holds',
    says: `in all ${called} of ${t.states.length} states of the switches that call for it`,
    called,
    tried: t.states.length,
    failing: null,
  };
}

/** Whether the switches can be put so that all of it holds at once; what stands in the way where they come nearest, if not. */
function proveSome(t: SwitchTable, clauses: readonly ((i: number) => string | null)[]): LogicProof {
  const tried = t.states.length;
  let nearest: { bad: number; why: string } | null = null;
  let so = 0;
  for (let i = 0; i < tried; i++) {
    const bad = clauses.flatMap((c) => c(i) ?? []);
    if (!bad.length) so++;
    else if (!nearest || bad.length < nearest.bad) nearest = { bad: bad.length, why: bad[0]! };
  }
  return so
    ? { outcome: 'holds', says: `in ${so} of ${tried} states of the switches`, called: so, tried, failing: null }
    : { outcome: 'fails', says: `in no position of the switches: ${nearest?.why ?? 'there are none'}`, called: 0, tried, failing: null };
}
