import type { ReactNode } from 'react';
import { Button, Dialog, DialogTrigger, Heading, Modal, ModalOverlay } from 'react-aria-components';

/** A button for what cannot be undone: it asks once more, and says what follows. */
export function Confirm({
  words,
  question,
  does,
  onConfirm,
  children,
}: {
  words: string;
  question: string;
  /** The button that does it. */
  does: string;
  onConfirm: () => void;
  /** What follows. */
  children: ReactNode;
}) {
  return (
    <DialogTrigger>
      <Button className="button">{words}</Button>
      <ModalOverlay className="fixed inset-0 z-20 grid place-items-center bg-black/40" isDismissable>
        <Modal>
          <Dialog role="alertdialog" className="sheet text-base-content w-[420px] max-w-[90vw] p-5">
            {({ close }) => (
              <>
                <Heading slot="title" className="text-lg">
                  {question}
                </Heading>
                <p className="mt-2">{children}</p>
                <div className="mt-4 flex gap-2">
                  <Button
                    className="button button-strong"
                    onPress={() => {
                      onConfirm();
                      close();
                    }}
                  >
                    {does}
                  </Button>
                  <Button className="button" onPress={close} autoFocus>
                    Cancel
                  </Button>
                </div>
              </>
            )}
          </Dialog>
        </Modal>
      </ModalOverlay>
    </DialogTrigger>
  );
}
