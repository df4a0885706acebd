import { chakra } from '@chakra-ui/react';
import { useState, type ReactNode } from 'react';
import type { OwnersView } from '#core/order/owners-view';
import { Act, Entry, Labelled } from '../app/ui';

type Priced = Pick<NonNullable<OwnersView['bill']>, 'lines' | 'taxes' | 'totals'>;
/** Carries out what the owner said; answers whether it was. */
export type Say = (said: Record<string, unknown>) => Promise<boolean>;

/** The whole of the page, as wide as a telephone. */
export const Page = ({ children }: { children: ReactNode }) => (
  <chakra.main data-part="page" maxW="560px" mx="auto" p="16px 14px 60px" minH="100vh" bg="paper" color="ink" fontSize="17px">
    {children}
  </chakra.main>
);

/** One thing on it. */
export const Card = ({ label, children }: { label?: string; children: ReactNode }) => (
  <chakra.section aria-label={label} bg="raised" borderWidth="1px" borderColor="rule" borderRadius="kadro" p="14px" mb="12px">
    {children}
  </chakra.section>
);

/** What it comes to, large; its lines for who wants them. */
export function PriceOf({ of, currency }: { of: Priced; currency: string }) {
  return (
    <>
      <chakra.p fontFamily="mono" fontSize="26px" my="4px">
        {of.totals.gross}{' '}
        <chakra.span fontSize="15px" color="quiet">
          {currency}
        </chakra.span>
      </chakra.p>
      {of.taxes
        .filter((t) => Number(t.tax) !== 0)
        .map((t) => (
          <chakra.p key={t.name} color="quiet" fontSize="15px">
            {t.name} {t.rate}: {t.tax}, {t.included ? 'within it' : 'in it'}
          </chakra.p>
        ))}
      <chakra.details>
        <chakra.summary cursor="pointer" color="accent" minH="44px" display="flex" alignItems="center">
          What it is made of
        </chakra.summary>
        {of.lines.map((l, i) => (
          <chakra.p key={i} display="flex" gap="10px" borderTopWidth="1px" borderColor="rule" py="6px" fontSize="15px">
            <chakra.span flex="1" minW={0}>
              {l.name}
              {l.quantity !== '1' && (
                <chakra.span color="quiet">
                  , {l.quantity}
                  {l.unit && ` ${l.unit}`}
                </chakra.span>
              )}
            </chakra.span>
            <chakra.span fontFamily="mono">{l.gross}</chakra.span>
          </chakra.p>
        ))}
      </chakra.details>
    </>
  );
}

/** Says who it is, and yes: nothing is agreed by one touch. */
export function Agree({
  id,
  owner,
  action,
  busy,
  onYes,
}: {
  id: string;
  owner: string;
  action: string;
  busy: boolean;
  onYes: (name: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(owner);
  if (!open)
    return (
      <Act look="main" width="100%" minHeight="52px" mt="8px" onClick={() => setOpen(true)}>
        {action}
      </Act>
    );
  return (
    <chakra.form
      mt="8px"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim()) onYes(name.trim());
      }}
    >
      <Labelled label="Your name, as your signature" id={`${id}-name`}>
        <Entry
          id={`${id}-name`}
          minHeight="48px"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
          autoComplete="name"
        />
      </Labelled>
      <chakra.div display="flex" gap="8px" mt="8px">
        <Act type="button" minHeight="52px" onClick={() => setOpen(false)}>
          Not yet
        </Act>
        <Act type="submit" look="main" minHeight="52px" flex="1" disabled={busy || !name.trim()}>
          Yes, I agree
        </Act>
      </chakra.div>
    </chakra.form>
  );
}
