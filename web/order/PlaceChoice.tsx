import { Choice, Labelled } from '../app/ui';
import { useOrder } from './useOrder';

/** A place of the order’s unit, or none yet. */
export function PlaceChoice({
  id,
  label,
  error,
  value,
  onPlace,
}: {
  id: string;
  label: string;
  error?: string | undefined;
  value: string | null;
  onPlace: (place: string | null) => void;
}) {
  const { sheets } = useOrder();
  return (
    <Labelled label={label} id={id} error={error ?? null}>
      <Choice id={id} value={value ?? ''} onChange={(e) => onPlace(e.target.value || null)} aria-invalid={error ? true : undefined}>
        <option value="">choose</option>
        {sheets.model.places.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </Choice>
    </Labelled>
  );
}
