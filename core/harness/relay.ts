import { contactOhms } from '../wire-rules/contacts';
import type { HarnessElement } from '#model/harness';
import type { Builder } from './builder';

/** The volts that a relay pulls in and drops out at, as shares of its coil's. From memory (ISO 7588 relays). */
const RELAY = { pullIn: 0.65, dropOut: 0.15 };
type Contact = Extract<HarnessElement, { kind: 'contact' }>;
type Coil = Extract<HarnessElement, { kind: 'coil' }>;

/** Puts a relay into the network: its four terminals, coil and contact, out of a box or off the shelf. */
export function addRelay(
  b: Builder,
  of: string,
  r: {
    name: string;
    circuit: string | null;
    place: string | null;
    pin: (terminal: string) => string;
    coilOhms: number;
    coilV: number;
    rated?: Contact['rated'];
    part?: Coil['part'];
  },
): void {
  for (const t of ['30', '87', '86', '85']) b.node(r.pin(t), `${r.name}, relay ${t}`, 'relay', r.place, of);
  const e = { of, circuit: r.circuit };
  const coil = `${of}@coil`;
  b.add({
    ...e,
    kind: 'coil',
    id: coil,
    name: `${r.name}, relay coil`,
    from: r.pin('86'),
    to: r.pin('85'),
    ohms: r.coilOhms,
    ...(r.part && { part: r.part }),
    pullInV: RELAY.pullIn * r.coilV,
    dropOutV: RELAY.dropOut * r.coilV,
  });
  b.add({
    ...e,
    kind: 'contact',
    id: `${of}:contact`,
    name: `${r.name}, relay contact`,
    from: r.pin('30'),
    to: r.pin('87'),
    when: [{ coil, pulled: true }],
    ohms: contactOhms(r.rated),
    ...(r.rated && { rated: r.rated }),
  });
}
