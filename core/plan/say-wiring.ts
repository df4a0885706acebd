import type { Harness, HarnessElement, HarnessWire } from '#model/harness';
import type { UnitModel } from '#model/unit-model';
import { PROTECTION } from '../circuit/route';
import { JOINT_WORD } from '../circuit/joint';
import { ownFuse } from '../circuit/flows';
import { sayEndWork, toStow, type EndWork } from '../wiring/box-work';
import type { PlannedCircuit } from '../wiring/planned';
import { showQuantity } from '../quantity/quantity';
import { round } from '../sum';
import { awgName } from '../wire/resistance';
import { sayFuse } from './say-fuse';

/** A wire in a few words: gauge and colour. */
export const sayWire = (w: Pick<HarnessWire, 'awg' | 'colour'>): string => `${w.awg === null ? '?' : awgName(w.awg)} AWG ${w.colour}`;

const list = (words: readonly string[]): string =>
  words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? '');
const distinct = (words: readonly string[]): string[] => [...new Set(words)];

/**
 * What is to be wired for a circuit, read off the network's elements: its wires, its fuse, its relay with every terminal, what
 * its signals lead to; a line for each, in SI as all sentences are kept. Nothing is said that the network does not have.
 */
export function sayCircuit(c: PlannedCircuit, h: Harness, model: UnitModel, ends: readonly EndWork[] = []): string {
  const mine = h.elements.filter((e) => e.circuit === c.id);
  const all = mine.filter((e): e is HarnessWire => e.kind === 'wire');
  const wires = all.filter((w) => !w.box);
  const label = new Map(h.nodes.map((n) => [n.id, n]));
  const name = (node: string) => label.get(node)?.label ?? node;
  const volts = (node: string) => {
    const p = model.powerPoints.find((x) => `pp:${x.id}` === node);
    return p && !/\d V\b/.test(p.name) ? `${name(node)} (${round(p.volts)} V)` : name(node);
  };
  const loads = wires.filter((w) => !w.signal);
  const signals = wires.filter((w) => w.signal);
  const coil = mine.find((e) => e.kind === 'coil' && e.part !== undefined) as Extract<HarnessElement, { kind: 'coil' }> | undefined;
  const fuse = mine.find((e) => e.id === ownFuse(c.id));
  const plug = mine.find((e) => e.kind === 'contact' && e.id === `${c.id}#plug:contact`);
  const out: string[] = [];

  const far = c.circuit.devices.map((d) => c.kit.devices.find((x) => x.id === d)!).at(-1)!;
  const to = model.places.find((p) => p.id === far.place)?.name ?? 'its place';
  const last = (w: HarnessWire) => (w.colour === c.circuit.colour ? 0 : w.colour === 'BK' ? 2 : 1);
  const ways = distinct([...loads].sort((a, b) => last(a) - last(b)).map(sayWire));
  const length = c.lengthM === null ? 'length to measure' : `${showQuantity(c.lengthM, 'length', 'metric')} to the farthest`;
  const boxed = all.filter((w) => w.box && !w.signal);
  if (boxed.length) {
    out.push(
      `Of the box: ${distinct([...boxed].sort((a, b) => a.awg! - b.awg!).map(sayWire)).join(', ')}${c.fuseFrom === 'box' ? `, its ${c.fuseA} A fuse in it` : ''}.`,
    );
    for (const e of ends) out.push(sayEndWork(e));
    if (ends.some(toStow)) out.push('What is over is folded back and tied.');
    if (ways.length) out.push(`Off the shelf: ${list(ways)}.`);
  } else if (c.circuit.taps) {
    const from = distinct(
      loads.filter((w) => label.get(w.from)?.kind === 'unit-wire' || !w.from.startsWith(c.kit.id)).map((w) => name(w.from)),
    );
    out.push(
      `${list(ways)}, joined to ${list(from.length ? from : [c.feed?.name ?? 'the wire it is joined to'])}, ${JOINT_WORD[c.joint]}; no fuse of its own.`,
    );
  } else out.push(`${list(ways)}, ${length}, from ${c.feed?.name ?? 'a feed still to choose'} to ${to}.`);

  if (coil) {
    const end = (node: string) => {
      const w = signals.find((x) => x.from === node || x.to === node);
      return w ? `${sayWire(w)} ${w.to === node ? `from ${volts(w.from)}` : `to ${volts(w.to)}`}` : 'nothing yet';
    };
    const [, contact] = [coil, mine.find((e) => e.id === `${c.id}#relay:contact`)];
    out.push(
      `${coil.part!.name.charAt(0).toUpperCase()}${coil.part!.name.slice(1)}: ${contact && fuse ? 'the fuse to 30, the load on 87, ' : ''}86: ${end(coil.from)}; 85: ${end(coil.to)}.`,
    );
  }
  const told = signals.filter((w) => !coil || ![coil.from, coil.to].some((n) => w.from === n || w.to === n));
  if (told.length) out.push(`${told.map((w) => `Signal ${sayWire(w)}: ${volts(w.from)} to ${name(w.to)}`).join('; ')}.`);
  if (plug) out.push('A two-pin plug after the fuse, where a hand reaches it.');
  if (c.route?.hazards.length && !boxed.length) out.push(`On its way: ${c.route.hazards.map((z) => `${z}: ${PROTECTION[z]}`).join('; ')}.`);
  if (c.circuit.taps) return out.join('\n');
  if (c.guardedBy !== null) out.push(`No fuse of its own: that of ${c.guardedBy} guards it.`);
  else if (fuse?.kind === 'fuse') out.push(c.fuseA === null ? 'Its fuse is still to choose.' : `Leave the ${sayFuse(fuse)} out.`);
  return out.join('\n');
}
