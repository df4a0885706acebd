import { chakra, Dialog, Portal } from '@chakra-ui/react';
import { useEffect, useState, type ComponentProps, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useReachable } from './context';
import { inShop } from './place';

/** A button. `main` is the one thing to do here; `plain` the rest; `quiet` has no frame; `grave` cannot be taken back. */
export const Act = chakra('button', {
  base: {
    display: 'inline-flex',
    alignItems: 'center',
    justifyContent: 'center',
    gap: '8px',
    minHeight: '40px',
    px: '14px',
    borderRadius: 'kadro',
    borderWidth: '1px',
    borderStyle: 'solid',
    fontWeight: 600,
    cursor: 'pointer',
    whiteSpace: 'nowrap',
    _disabled: { opacity: 0.5, cursor: 'not-allowed' },
  },
  variants: {
    look: {
      main: { bg: 'accent', color: 'onAccent', borderColor: 'accent' },
      plain: { bg: 'raised', color: 'ink', borderColor: 'rule', _hover: { borderColor: 'accent' } },
      quiet: { bg: 'transparent', color: 'accent', borderColor: 'transparent', px: '8px', _hover: { bg: 'accentWash' } },
      grave: { bg: 'raised', color: 'fails', borderColor: 'fails' },
    },
    big: { true: { minHeight: '56px', px: '22px', fontSize: '20px' } },
    on: { true: { bg: 'accentWash', borderColor: 'accent', color: 'ink' } },
  },
  defaultVariants: { look: 'plain' },
});

/** An `Act` that only the server can do: out of its reach it says so, and waits. */
export function ServerAct({ children, disabled, ...p }: ComponentProps<typeof Act>) {
  const reachable = useReachable();
  return (
    <Act {...p} disabled={disabled || !reachable}>
      {children}
      {!reachable && <NeedsServer />}
    </Act>
  );
}
const NeedsServer = () => (
  <chakra.span fontSize="13px" fontWeight={400}>
    needs the server
  </chakra.span>
);

const entry = {
  width: '100%',
  minHeight: '40px',
  px: '10px',
  borderRadius: 'kadro',
  borderWidth: '1px',
  borderStyle: 'solid',
  borderColor: 'quiet',
  bg: 'raised',
  color: 'ink',
  fontSize: '16px',
  _placeholder: { color: 'quiet' },
  _invalid: { borderColor: 'fails', borderWidth: '2px' },
  _disabled: { opacity: 0.6 },
} as const;
export const Entry = chakra('input', { base: entry });
export const Choice = chakra('select', { base: entry });
export const Lines = chakra('textarea', { base: { ...entry, py: '8px', minHeight: '72px', resize: 'vertical' } });

/** A link that looks like a plain button, for files that the server makes: out of its reach it says so. */
export function FileLink({ children, ...p }: ComponentProps<typeof PlainLink>) {
  const reachable = useReachable();
  const { href, ...rest } = p;
  if (reachable)
    return (
      <PlainLink href={href && inShop(href)} {...rest}>
        {children}
      </PlainLink>
    );
  return (
    <PlainLink {...rest} aria-disabled opacity={0.6}>
      {children} <NeedsServer />
    </PlainLink>
  );
}
const PlainLink = chakra('a', {
  base: {
    display: 'inline-flex',
    alignItems: 'center',
    gap: '8px',
    minHeight: '40px',
    px: '14px',
    borderWidth: '1px',
    borderColor: 'rule',
    borderRadius: 'kadro',
    bg: 'raised',
    fontWeight: 600,
  },
});

/** To a paper that this device makes itself. */
export const PaperLink = ({ to, children }: { to: string; children: ReactNode }) => (
  <PlainLink asChild>
    <Link to={to}>{children}</Link>
  </PlainLink>
);

/** A raised sheet on the paper, edged by a thin rule. */
export const Sheet = chakra('section', {
  base: { bg: 'raised', borderWidth: '1px', borderColor: 'rule', borderRadius: 'kadro', p: '16px' },
});

/** A label above what it names, with what is wrong or worked out beneath. */
export function Labelled({
  label,
  error,
  note,
  children,
  id,
}: {
  label: string;
  error?: string | null;
  note?: ReactNode;
  children: ReactNode;
  id: string;
}) {
  return (
    <chakra.div minW={0}>
      <chakra.label htmlFor={id} display="block" fontSize="14px" color="quiet" mb="4px">
        {label}
      </chakra.label>
      {children}
      {error ? (
        <chakra.p id={`${id}-error`} role="alert" fontSize="14px" color="fails" mt="4px">
          {error}
        </chakra.p>
      ) : note ? (
        <chakra.div fontSize="14px" color="quiet" mt="4px">
          {note}
        </chakra.div>
      ) : null}
    </chakra.div>
  );
}

/** Labelled fields beside each other, and buttons at their height, whatever stands beneath one of them. */
export const FieldRow = chakra('div', {
  base: {
    display: 'grid',
    gridAutoFlow: 'column',
    gridTemplateRows: 'auto auto auto',
    justifyContent: 'start',
    columnGap: '12px',
    // label, field and what is wrong with it, each in a row of its own
    '& > *': { gridRow: 'span 3', display: 'grid', gridTemplateRows: 'subgrid', alignItems: 'end' },
    '& > * > p': { alignSelf: 'start' },
    '& > button': { gridRow: '2', display: 'inline-flex', alignItems: 'center' },
  },
});

/** An entry under its label, with what is wrong with it beneath. */
export function TypedField({
  label,
  id,
  error,
  value,
  onValue,
  ...entry
}: {
  label: string;
  id: string;
  error: string | undefined;
  value: string;
  onValue: (text: string) => void;
} & Omit<ComponentProps<typeof Entry>, 'value' | 'onChange' | 'id'>) {
  return (
    <Labelled label={label} id={id} error={error}>
      <Entry {...entry} id={id} value={value} onChange={(e) => onValue(e.target.value)} aria-invalid={error ? true : undefined} />
    </Labelled>
  );
}

/** A dialog with something to fill in, and one thing to do with it. */
export function FormDialog(p: {
  open: boolean;
  title: string;
  action: string;
  /** whether what is filled in will do */
  ready: boolean;
  onClose: () => void;
  onDone: () => void;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={p.open} onOpenChange={(e) => !e.open && p.onClose()} placement="center">
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="raised" color="ink" borderRadius="kadro" p="20px" maxW="480px">
            <form
              onSubmit={(e) => {
                e.preventDefault();
                if (p.ready) p.onDone();
              }}
            >
              <Dialog.Title fontSize="20px" mb="8px">
                {p.title}
              </Dialog.Title>
              {p.children}
              <chakra.div display="flex" gap="8px" mt="16px" justifyContent="flex-end">
                <Act type="button" minHeight="48px" onClick={p.onClose}>
                  Leave it
                </Act>
                <Act look="main" minHeight="48px" type="submit" disabled={!p.ready}>
                  {p.action}
                </Act>
              </chakra.div>
            </form>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}

/** Asks for a reason in a dialog, and keeps what was typed when it is closed by mistake. */
export function ReasonDialog(p: {
  open: boolean;
  title: string;
  text?: string;
  action: string;
  onClose: () => void;
  onReason: (reason: string) => void;
}) {
  const [reason, setReason] = useState('');
  useEffect(() => setReason(''), [p.title]);
  return (
    <FormDialog {...p} ready={!!reason.trim()} onDone={() => p.onReason(reason.trim())}>
      {p.text && (
        <chakra.p color="quiet" mb="8px">
          {p.text}
        </chakra.p>
      )}
      <Labelled label="Reason, for whoever opens this unit next" id="reason">
        <Lines id="reason" value={reason} maxLength={300} onChange={(e) => setReason(e.target.value)} autoFocus />
      </Labelled>
    </FormDialog>
  );
}
