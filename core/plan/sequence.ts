import TinyQueue from 'tinyqueue';
import { ImpossibleInput } from '../errors';
import type { Choice } from './sequence-bound';
import { Choices } from './sequence-choices';
import { compile, type Compiled } from './sequence-compile';
import type { Sequence, SequenceProblem, SequenceStep } from './sequence-problem';
import { plainWay } from './sequence-plain';
import { Search } from './sequence-search';
import type { State } from './sequence-state';

/** Some choices made, and what no way on with them goes below; a search once all are made. */
interface Branch {
  made: readonly Choice[];
  least: number;
  search: Search | null;
}

/** States reckoned in a search before another is asked. */
const HELPING = 500;
/** States after which a plan counts as hard. */
const HARD = 1000;
/** How many searches begin with a beam, and how many states of a level it keeps: fewer where there is a choice of searches. */
const BEAMS = 6;
const [NARROW, WIDE, WIDEST] = [12, 80, 1280];

function pathOf(s: State): SequenceStep[] {
  const parts: SequenceStep[][] = [];
  for (let at: State | null = s; at; at = at.from) parts.push(at.steps);
  return parts.reverse().flat();
}

/** Where the work stands, as the problem says. @throws ImpossibleInput for what is not there */
function startOf(c: Compiled, start: SequenceProblem['start']): State {
  const done = new Uint8Array(c.tasks.length);
  start?.done.forEach((id, i) => {
    const at = c.tasks.findIndex((t) => t.id === id);
    if (at < 0) throw new ImpossibleInput(`there is no “${id}” among the tasks`, `start.done.${i}`);
    done[at] = 1;
  });
  let off = 0;
  start?.off.forEach((id, i) => {
    const at = c.panels.findIndex((t) => t.id === id);
    if (at < 0) throw new ImpossibleInput(`there is no “${id}” among the panels`, `start.off.${i}`);
    off |= 1 << at;
  });
  c.panels.forEach((p, i) => {
    if (off & (1 << i) && (off & p.after) !== p.after)
      throw new ImpossibleInput(`“${p.id}” cannot be off while what comes off before it is on`, 'start.off');
  });
  return {
    done,
    left: done.reduce((n, d) => n - d, done.length),
    off,
    powered: start?.power !== 'off',
    zone: start?.zone == null ? -1 : c.zones.indexOf(start.zone),
    minutes: 0,
    least: 0,
    steps: [],
    from: null,
  };
}

/**
 * The order of tasks, panels and power that takes the fewest minutes, each panel off at most as often as needed.
 * Branch and bound over where a task that wants a panel on stands among those that want it off, and A* in each branch
 * over the rest that is a matter of choice (see `settle`), with a bound on panels, power and moves. Where `most` states
 * do not prove an optimum, or `stop` says that time is out, the best found is answered with the bound proved until then.
 * @throws ImpossibleInput for ids that are not there or twice, circles, a panel wanted off and on at once
 */
export function sequence(
  problem: SequenceProblem,
  { most = 9_000, stop = () => false }: { most?: number; stop?: () => boolean } = {},
): Sequence {
  const c = compile(problem);
  const start = startOf(c, problem.start);
  const choices = new Choices(c, start);
  const nodes = new TinyQueue<Branch>(
    [{ made: [], least: choices.least([]), search: null }],
    (a, b) => a.least - b.least || b.made.length - a.made.length,
  );
  let best: State | null = null;
  let [reckoned, searches] = [0, 0];
  let looked = false;
  const bestMinutes = () => best?.minutes ?? Infinity;
  const better = (s: State | null) => {
    if (s && s.minutes < bestMinutes() - 1e-9) best = s;
  };
  while (nodes.length && nodes.peek()!.least < bestMinutes() - 1e-9 && reckoned < most && !stop()) {
    const x = nodes.pop()!;
    if (!x.search) {
      const ways = choices.next(x.made);
      reckoned += ways.length;
      for (const made of ways) {
        const least = Math.max(x.least, choices.least(made));
        if (least < Infinity) nodes.push({ made, least, search: null });
      }
      if (ways.length) continue;
      x.search = new Search(compile(choices.problem(problem, x.made)), start, x.made);
      if (searches++ < BEAMS && x.made.length) better(x.search.beam(NARROW, bestMinutes(), stop));
      reckoned += x.search.reckoned;
    }
    // hard ones have a good way early, so that there is one whenever time is out, and so that worse ones are not followed
    if (!looked && reckoned > HARD) {
      looked = true;
      better(x.search.beam(WIDE, bestMinutes(), stop));
    }
    const before = x.search.reckoned;
    const end = x.search.run(HELPING, Math.min(bestMinutes(), nodes.peek()?.least ?? Infinity), stop);
    reckoned += x.search.reckoned - before;
    better(end);
    x.least = Math.max(x.least, x.search.least);
    if (!end && x.least < bestMinutes() - 1e-9) nodes.push(x);
  }
  const bound = nodes.peek()?.least ?? Infinity;
  if (bound < bestMinutes() - 1e-9) better((!stop() && nodes.peek()!.search?.beam(WIDE, bestMinutes(), stop)) || null);
  // a few states of each level may all lead nowhere
  for (let width = WIDE; !best && width <= WIDEST && !stop(); width *= 4) better(new Search(c, start).beam(width, Infinity, stop));
  const found = (best as State | null) ?? plainWay(c, start);
  return { steps: pathOf(found), minutes: found.minutes, bound: Math.min(bound, found.minutes), optimal: found.minutes <= bound + 1e-9 };
}
