import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Element } from '#core/network/element';

const name = (node: string, ground: string) => (node === ground ? '0' : `x${node}`);

/** One element in the simulator's own language; a diode is its forward volts behind the same small resistance as ours. */
export function card(e: Element, ground: string, prefix = ''): string {
  const [a, b] = [e.from, e.to].map((n) => (n === ground ? '0' : prefix + name(n, ground)));
  const id = `${prefix}${e.id}`;
  const v = `v(${a},${b})`;
  switch (e.kind) {
    case 'V':
      return e.ohms ? `V${id} ${a} m${id} ${e.volts}\nR${id} m${id} ${b} ${e.ohms}` : `V${id} ${a} ${b} ${e.volts}`;
    case 'R':
      return `R${id} ${a} ${b} ${e.ohms}`;
    case 'I':
      return `I${id} ${a} ${b} ${e.amps}`;
    case 'load':
      return `B${id} ${a} ${b} I=(${v} > ${e.minVolts}) ? ${e.watts}/max(${v},${e.minVolts}) : ${v}*${e.watts / e.minVolts ** 2}`;
    case 'diode':
      return `B${id} ${a} ${b} I=max(0,${v}-${e.volts})*1e4`;
    case 'switch':
      return e.closed ? `V${id} ${a} ${b} 0` : `R${id} ${a} ${b} 1e15`;
  }
}

/** Node volts that ngspice finds for each of several networks, in one run of it; null where it finds no operating point. */
export function ngspice(networks: { elements: Element[]; ground: string }[]): (Map<string, number> | null)[] {
  const dir = mkdtempSync(join(tmpdir(), 'kadro-spice-'));
  try {
    const free = ({ elements, ground }: (typeof networks)[number]) =>
      [...new Set(elements.flatMap((e) => [e.from, e.to]))].filter((n) => n !== ground);
    const control = networks.map((net, i) => {
      writeFileSync(
        join(dir, `n${i}.cir`),
        `network ${i}\n${net.elements.map((e) => card(e, net.ground)).join('\n')}\n.options reltol=1e-9 abstol=1e-13 vntol=1e-11 gmin=1e-15 itl1=2000\n.end\n`,
      );
      return `source n${i}.cir\nop\nwrdata n${i}.out ${free(net)
        .map((n) => `v(${name(n, net.ground)})`)
        .join(' ')}\nremcirc`;
    });
    writeFileSync(join(dir, 'all.cir'), `all\nR1 1 0 1\n.control\nset numdgt=15\n${control.join('\n')}\nquit 0\n.endc\n.end\n`);
    execFileSync('ngspice', ['-b', 'all.cir'], { cwd: dir, stdio: ['ignore', 'pipe', 'pipe'], timeout: 240_000 });
    return networks.map((net, i) => {
      const file = join(dir, `n${i}.out`);
      if (!existsSync(file)) return null;
      const figures = readFileSync(file, 'utf8').trim().split(/\s+/).map(Number);
      return new Map(free(net).map((n, k) => [n, figures[2 * k + 1]!]));
    });
  } finally {
    rmSync(dir, { recursive: true, force: true });
  }
}
