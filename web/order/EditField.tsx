import { chakra } from '@chakra-ui/react';
import { useState, type ReactNode } from 'react';
import { useDraft } from '../app/kept';
import { Entry, Labelled } from '../app/ui';

/**
 * One figure or word of an order, typed in place: recorded on Enter or on leaving, kept as a draft until then, with what is
 * wrong said beneath. `read` turns text into the value or throws with a message; null leaves it as it was.
 */
export function EditField<T>(p: {
  id: string;
  draft: string;
  label: string;
  value: string;
  read: (text: string) => T;
  save: (value: T) => boolean;
  note?: (text: string) => ReactNode;
  mono?: boolean;
  type?: string;
  disabled?: boolean;
  placeholder?: string;
}) {
  const [draft, setDraft] = useDraft(p.draft);
  const [error, setError] = useState<string | null>(null);
  const text = draft ?? p.value;
  const commit = () => {
    if (draft === null) return;
    if (draft.trim() === p.value.trim()) return setDraft(null);
    try {
      const value = p.read(draft);
      setError(null);
      if (p.save(value)) setDraft(null);
    } catch (e) {
      setError((e as Error).message);
    }
  };
  return (
    <Labelled
      label={p.label}
      id={p.id}
      error={error}
      note={
        p.note?.(text) ??
        (draft !== null && draft.trim() !== p.value.trim() ? (
          <chakra.span color="tightText">typed, Enter records it</chakra.span>
        ) : undefined)
      }
    >
      <Entry
        id={p.id}
        type={p.type}
        value={text}
        disabled={p.disabled}
        placeholder={p.placeholder}
        fontFamily={p.mono ? 'mono' : 'body'}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${p.id}-error` : undefined}
        autoComplete="off"
        onChange={(e) => {
          setDraft(e.target.value);
          setError(null);
        }}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') commit();
          if (e.key === 'Escape') {
            setDraft(null);
            setError(null);
          }
        }}
      />
    </Labelled>
  );
}
