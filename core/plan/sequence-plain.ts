import type { Compiled } from './sequence-compile';
import { copy, settleTask, togglePanel, togglePower, type State } from './sequence-state';

/**
 * A way to the end that is there at once, however many tasks: one after the other in an order that keeps what comes before
 * first, with panels and power turned for each. There always is one, and it is seldom a good one.
 */
export function plainWay(c: Compiled, from: State): State {
  const s = copy(from);
  const open = (mask: number) => {
    for (const i of c.panelTopo) if (mask & (1 << i) && !(s.off & (1 << i))) togglePanel(c, s, i);
  };
  const shut = (mask: number) => {
    for (const i of [...c.panelTopo].reverse()) if (mask & s.off & (1 << i)) togglePanel(c, s, i);
  };
  const power = (on: boolean) => {
    if (s.powered === on) return;
    open(c.power.open);
    togglePower(c, s);
  };
  for (const i of c.topo) {
    if (s.done[i]) continue;
    const t = c.tasks[i]!;
    if (t.power !== 'any') power(t.power === 'on');
    open(t.open);
    shut(t.shut);
    settleTask(c, s, i);
  }
  power(true);
  shut(s.off);
  return s;
}
