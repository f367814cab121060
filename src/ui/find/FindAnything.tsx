import { lazy, Suspense, useEffect, useRef, useState } from 'react';

const Panel = lazy(() => import('./FindPanel'));

/** Finds anything of a business from every page, by Ctrl or Cmd and `K`, also while something is being typed. */
export function FindAnything({ business }: { business: string }) {
  const sheet = useRef<HTMLDialogElement>(null);
  const [isOpen, setIsOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey) || event.altKey || event.shiftKey)
        return;
      event.preventDefault();
      if (sheet.current?.open) sheet.current.close();
      else if (!document.querySelector('dialog[open]')) {
        sheet.current?.showModal();
        setIsOpen(true);
      }
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);
  return (
    <dialog
      ref={sheet}
      aria-label="Find anything"
      className="sheet text-base-content mx-auto mt-[12vh] mb-auto w-[min(760px,calc(100vw-48px))] overflow-hidden p-0 backdrop:bg-black/40"
      onClose={() => setIsOpen(false)}
      // What is pressed outside of it is the dialog itself.
      onClick={({ target }) => target === sheet.current && sheet.current.close()}
    >
      {isOpen && (
        <Suspense fallback={<p className="text-quiet p-4">Opening …</p>}>
          <Panel business={business} />
        </Suspense>
      )}
    </dialog>
  );
}
