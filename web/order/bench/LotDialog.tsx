import { chakra, Dialog, Portal } from '@chakra-ui/react';
import { Barcode } from 'lucide-react';
import { useRef, useState } from 'react';
import type { PlannedStep } from '#core/plan/planned';
import { Refusals } from '../../app/Notices';
import { Act } from '../../app/ui';
import { Lots } from '../handover/Lots';

/** Takes the number of what is in hand, where it is fitted. @param step whose things are asked for first */
export function LotDialog({ step }: { step: PlannedStep }) {
  const [open, setOpen] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Act look="quiet" minHeight="48px" onClick={() => setOpen(true)}>
        <Barcode size={20} aria-hidden /> Serial number
      </Act>
      <Dialog.Root open={open} onOpenChange={(e) => setOpen(e.open)} placement="center" initialFocusEl={() => field.current}>
        <Portal>
          <Dialog.Backdrop />
          <Dialog.Positioner>
            <Dialog.Content bg="raised" color="ink" borderRadius="kadro" p="20px" maxW="720px">
              <Dialog.Title fontSize="20px" mb="8px">
                Serial and lot numbers
              </Dialog.Title>
              <Lots step={step} field={field} />
              <chakra.div mt="12px" aria-live="polite" data-part="refused here">
                <Refusals />
              </chakra.div>
              <chakra.div display="flex" justifyContent="flex-end" mt="16px">
                <Act minHeight="48px" onClick={() => setOpen(false)}>
                  Close
                </Act>
              </chakra.div>
            </Dialog.Content>
          </Dialog.Positioner>
        </Portal>
      </Dialog.Root>
    </>
  );
}
