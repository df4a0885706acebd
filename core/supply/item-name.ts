import { isWire, type SupplyKind } from '#model/supply';
import { fuseOf, sayFuse } from '../plan/say-fuse';
import { contactorOf } from '../wire-rules/contacts';
import { terminalOf } from '../wire-rules/terminal-size';
import { capital } from '../words';

/** What kind of thing an item is, and its name where no order says a better one: read from what the plan calls it. */
export function readItem(item: string): { kind: SupplyKind; name: string } {
  if (isWire(item)) return { kind: 'wire', name: item.replace(' ', ' AWG, ') };
  const fuse = fuseOf(item);
  if (fuse) return { kind: 'fuse', name: `${sayFuse(fuse)} and holder` };
  const contactor = contactorOf(item);
  if (contactor) return { kind: 'relay', name: contactor.name };
  const terminal = terminalOf(item);
  if (terminal) return { kind: 'end', name: `${terminal.end.replaceAll('-', ' ')}, ${terminal.size.words}` };
  return { kind: 'buy', name: capital(item.replaceAll('-', ' ')) };
}
