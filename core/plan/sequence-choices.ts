import { Chains, type Choice } from './sequence-bound';
import type { Compiled } from './sequence-compile';
import type { SequenceProblem } from './sequence-problem';
import { asked, type State } from './sequence-state';

/** A task that wants a panel on which others want off. */
type Clash = Omit<Choice, 'way'>;

const WAYS = ['before', 'after', 'between'] as const;

/** Tasks that want a panel on which others want off: what has to be chosen for each, and how that changes the least minutes. */
export class Choices {
  private readonly open: Clash[];

  constructor(
    private readonly c: Compiled,
    private readonly s: State,
  ) {
    const a = asked(c, s);
    const clash = a.open & a.shut;
    this.open = c.tasks.flatMap((t, task) =>
      s.done[task] ? [] : c.panelTopo.filter((panel) => t.shut & clash & (1 << panel)).map((panel) => ({ task, panel })),
    );
  }

  /** Minutes at the least with these choices; infinite where they cannot all be. */
  least(made: readonly Choice[]): number {
    return new Chains(this.c, this.s, made).least(this.s);
  }

  /** The ways to go on choosing, or none where all is chosen. */
  next(made: readonly Choice[]): Choice[][] {
    // what comes before or after everything under a panel does so with the panels under that one as well
    const follows = ({ task, panel }: Clash) =>
      made.some((m) => m.task === task && (m.panel === panel || (m.way !== 'between' && this.c.panels[panel]!.over & (1 << m.panel))));
    const x = this.open.find((o) => !follows(o));
    return x ? WAYS.map((way) => [...made, { ...x, way }]) : [];
  }

  /** The problem with what was chosen as an order between tasks; what stands between two others is left to the search. */
  problem(p: SequenceProblem, made: readonly Choice[]): SequenceProblem {
    const { c, s } = this;
    const after = p.tasks.map((t) => [...t.after]);
    for (const { task, panel, way } of made) {
      if (way === 'between') continue;
      c.tasks.forEach((t, i) => {
        const wantsOff = t.open & (1 << panel) || (t.power === 'off' && c.power.open & (1 << panel));
        if (!wantsOff || s.done[i]) return;
        if (way === 'before') after[i]!.push(p.tasks[task]!.id);
        else after[task]!.push(t.id);
      });
    }
    return { ...p, tasks: p.tasks.map((t, i) => ({ ...t, after: after[i]! })) };
  }
}
