import { chakra } from '@chakra-ui/react';
import { Plus, X } from 'lucide-react';
import { FittedWire } from '#model/fitted';
import { WireFunction } from '#model/parts';
import type { Place } from '#model/unit-model';
import { functionWord } from '#core/harness/tap';
import { ImpossibleInput } from '#core/errors';
import { Act, Choice, Entry } from '../../app/ui';

/** A wire as it is being typed. */
export interface TypedWire {
  function: string;
  colour: string;
  place: string;
}

/** @throws ImpossibleInput that says what is missing or cannot be */
export function readWire(w: TypedWire, places: readonly Pick<Place, 'id'>[]): FittedWire {
  const named = WireFunction.safeParse(w.function);
  if (!named.success) throw new ImpossibleInput('say what each wire does');
  const read = FittedWire.safeParse({ ...w, colour: w.colour.trim().toUpperCase() });
  // the unit may have been changed since it was chosen
  if (!places.some((p) => p.id === w.place)) throw new ImpossibleInput(`the ${functionWord(named.data)} wire: say where it is found`);
  if (read.success) return read.data;
  throw new ImpossibleInput(`the ${functionWord(named.data)} wire: its colour, such as RD or GN/WH: ${read.error.issues[0]!.message}`);
}

/** Wires of something fitted before that a kit may be joined to: what each does, its colour, and where it is found. */
export function FittedWires({
  wires,
  onChange,
  places,
  error,
}: {
  wires: readonly TypedWire[];
  onChange: (next: TypedWire[]) => void;
  places: readonly Pick<Place, 'id' | 'name'>[];
  error?: string | undefined;
}) {
  const put = (i: number, part: Partial<TypedWire>) => onChange(wires.map((w, n) => (n === i ? { ...w, ...part } : w)));
  return (
    <chakra.div gridColumn="1 / -1" display="grid" gap="6px">
      {wires.map((w, i) => (
        <chakra.div key={i} display="grid" gridTemplateColumns="2fr 1fr 2fr auto" gap="12px">
          <Choice aria-label={`Wire ${i + 1} does`} value={w.function} onChange={(e) => put(i, { function: e.target.value })}>
            <option value="">what it does</option>
            {WireFunction.options.map((f) => (
              <option key={f} value={f}>
                {functionWord(f)}
              </option>
            ))}
          </Choice>
          <Entry
            aria-label={`Colour of wire ${i + 1}`}
            placeholder="RD"
            fontFamily="mono"
            value={w.colour}
            onChange={(e) => put(i, { colour: e.target.value })}
          />
          <Choice aria-label={`Place of wire ${i + 1}`} value={w.place} onChange={(e) => put(i, { place: e.target.value })}>
            <option value="">where it is found</option>
            {places.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </Choice>
          <Act type="button" look="quiet" aria-label={`Drop wire ${i + 1}`} onClick={() => onChange(wires.filter((_, n) => n !== i))}>
            <X size={18} aria-hidden />
          </Act>
        </chakra.div>
      ))}
      {error && (
        <chakra.p role="alert" fontSize="14px" color="fails">
          {error}
        </chakra.p>
      )}
      <chakra.div>
        <Act
          type="button"
          look="quiet"
          onClick={() => onChange([...wires, { function: '', colour: '', place: wires.at(-1)?.place ?? '' }])}
        >
          <Plus size={18} aria-hidden /> A wire of it that a kit is joined to
        </Act>
      </chakra.div>
    </chakra.div>
  );
}

/** The wires that were told of something fitted before, in a few words. */
export const SaidWires = ({ wires }: { wires: readonly FittedWire[] | undefined }) =>
  wires?.length ? <chakra.span color="quiet">{wires.map((w) => `${functionWord(w.function)} ${w.colour}`).join(', ')}</chakra.span> : null;
