import { chakra } from '@chakra-ui/react';
import { Act } from '../app/ui';

/** Keeps a form as a whole: the one thing to do, that it is done, or why not. */
export function Kept(p: { locked: boolean; dirty: boolean; saved: boolean; action: string; error: string | null; ready: boolean }) {
  if (p.locked) return null;
  return (
    <chakra.div display="flex" gap="12px" alignItems="center" mt="14px" minH="44px">
      <Act type="submit" look="main" disabled={!p.dirty || !p.ready}>
        {p.action}
      </Act>
      {p.error ? (
        <chakra.span role="alert" color="fails">
          {p.error}
        </chakra.span>
      ) : (
        p.saved &&
        !p.dirty && (
          <chakra.span role="status" color="holds">
            Saved
          </chakra.span>
        )
      )}
    </chakra.div>
  );
}
