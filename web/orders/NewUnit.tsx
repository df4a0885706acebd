import { chakra } from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import { bodiesOf, BODIES } from '#core/archetype/body';
import { makeSheet } from '#core/archetype/make-sheet';
import { sourceAmps } from '#core/energy/source';
import { unitView } from '#core/drawing/view';
import { showQuantity, type UnitSystem } from '#core/quantity/quantity';
import type { UnitKind } from '#model/common';
import { useUnits } from '../app/context';
import { Act, Entry, Labelled } from '../app/ui';
import { Outline } from '../drawing/UnitDrawing';
import { FIGURES, type Begun, type BegunForm, type Figure } from './begun';

export const KINDS: Record<UnitKind, string> = {
  'side-by-side': 'Side-by-side',
  'golf-cart': 'Golf cart',
  motorcycle: 'Motorcycle',
  quad: 'Quad',
  boat: 'Boat',
  'snow-machine': 'Snow machine',
};

/** What a body has where nobody says otherwise, as it stands in an empty field. */
function usual(body: string, key: Figure, units: UnitSystem): string {
  const b = BODIES.find((x) => x.id === body)!;
  if (key === 'capacityAh') return `some ${b.battery.capacityAh} Ah`;
  if (key === 'sourceA') return b.source.kind === 'none' ? '' : `some ${Math.round(sourceAmps(b.source, b.source.workingRpm))} A`;
  return b.dims[key] ? `some ${showQuantity(b.dims[key], 'smallLength', units)}` : '';
}

/** A body’s drawing, from its right. */
function BodyDrawing({ id }: { id: string }) {
  const view = useMemo(
    () =>
      unitView(makeSheet({ body: id, maker: '-', name: '-', year: 2020, figures: {} }, { at: '2020-01-01T00:00:00Z', by: '-' }), 'side'),
    [id],
  );
  const { x, y, w, h } = view.box;
  return (
    <svg viewBox={`${x} ${y} ${w} ${h}`} style={{ width: '100%', height: 84 }} aria-hidden>
      <Outline shapes={view.shapes} />
    </svg>
  );
}

/** A unit that nobody has a sheet for: the body nearest to it, its name, and up to six figures. */
export function NewUnit({
  value,
  onChange,
  read,
  told,
}: {
  value: BegunForm;
  onChange: (v: BegunForm) => void;
  read: Begun;
  /** whether what is missing is told */
  told: boolean;
}) {
  const units = useUnits();
  const chosen = BODIES.find((b) => b.id === value.body);
  const [kind, setKind] = useState<UnitKind>(chosen?.kind ?? 'side-by-side');
  const put = (key: keyof BegunForm, text: string) => onChange({ ...value, [key]: text });
  const figures = (Object.keys(FIGURES) as Figure[]).filter((k) => chosen && usual(chosen.id, k, units));
  return (
    <chakra.section
      aria-label="A unit that is not in the sheets"
      gridColumn="1 / -1"
      mt="14px"
      p="14px"
      borderWidth="1px"
      borderColor="rule"
      borderRadius="kadro"
      bg="raised"
    >
      <chakra.div display="flex" flexWrap="wrap" gap="8px" role="group" aria-label="Kind">
        {(Object.keys(KINDS) as UnitKind[]).map((k) => (
          <Act
            key={k}
            type="button"
            minHeight="48px"
            on={k === kind}
            aria-pressed={k === kind}
            onClick={() => {
              setKind(k);
              const of = bodiesOf(k);
              put('body', of.length === 1 ? of[0]!.id : '');
            }}
          >
            {KINDS[k]}
          </Act>
        ))}
      </chakra.div>
      <chakra.p
        fontSize="14px"
        color={told && read.errors.body ? 'fails' : 'quiet'}
        m="12px 0 6px"
        role={told && read.errors.body ? 'alert' : undefined}
      >
        {(told && read.errors.body) || 'Which of these is nearest to it?'}
      </chakra.p>
      <chakra.div display="grid" gridTemplateColumns="repeat(auto-fill, minmax(180px, 1fr))" gap="8px">
        {bodiesOf(kind).map((b) => (
          <Act
            key={b.id}
            type="button"
            data-body={b.id}
            on={b.id === value.body}
            aria-pressed={b.id === value.body}
            flexDirection="column"
            p="8px"
            whiteSpace="normal"
            onClick={() => put('body', b.id)}
          >
            <BodyDrawing id={b.id} />
            {b.name}
          </Act>
        ))}
      </chakra.div>
      {chosen && (
        <>
          <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(200px, 1fr))" gap="12px 16px" mt="14px">
            {(['maker', 'name'] as const).map((k) => (
              <Labelled key={k} id={`new-${k}`} label={k === 'maker' ? 'Maker' : 'Model name'} error={told ? read.errors[k] : null}>
                <Entry
                  id={`new-${k}`}
                  value={value[k]}
                  maxLength={60}
                  autoComplete="off"
                  aria-invalid={told && !!read.errors[k]}
                  onChange={(e) => put(k, e.target.value)}
                />
              </Labelled>
            ))}
          </chakra.div>
          <chakra.p fontSize="15px" color="quiet" mt="14px" mb="8px">
            What you know of it; the rest is taken as such units commonly are, and everything says so that rests on it.
          </chakra.p>
          <chakra.div display="grid" gridTemplateColumns="repeat(auto-fit, minmax(200px, 1fr))" gap="12px 16px">
            {figures.map((k) => (
              <Labelled key={k} id={`new-${k}`} label={FIGURES[k].name} error={value[k].trim() ? read.errors[k] : null}>
                <Entry
                  id={`new-${k}`}
                  value={value[k]}
                  fontFamily="mono"
                  inputMode="decimal"
                  autoComplete="off"
                  placeholder={usual(chosen.id, k, units)}
                  aria-invalid={!!value[k].trim() && !!read.errors[k]}
                  onChange={(e) => put(k, e.target.value)}
                />
              </Labelled>
            ))}
          </chakra.div>
        </>
      )}
    </chakra.section>
  );
}
