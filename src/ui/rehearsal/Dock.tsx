import { lazy, Suspense, useEffect, useState } from 'react';
import { Key } from '../keys/Key';
import { isPlainKey } from '../keys/plain-key';
import { useWritten, type Written } from './useRehearsal';

const Panel = lazy(() => import('./RehearsalPanel'));

/** The bar at the bottom of every page, which opens with `r`: a pretend visitor is walked down the line in it. */
export function Dock({ business }: { business: string }) {
  const [written, write] = useWritten(business);
  const { isOpen } = written;
  /** How often somebody called for it here: then it takes what is typed. A page that opens with it does not. */
  const [called, setCalled] = useState(0);
  // What is gone to by Tab scrolls above it.
  useEffect(() => {
    document.documentElement.dataset.dock = isOpen ? 'open' : 'closed';
  }, [isOpen]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'r' || !isPlainKey(event) || document.querySelector('dialog[open]')) return;
      event.preventDefault();
      write({ isOpen: true });
      setCalled((before) => before + 1);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  return (
    <div className="print:hidden">
      {/* What the page ends with is above the dock. */}
      <div className={isOpen ? 'h-[58vh]' : 'h-[38px]'} />
      <section
        aria-label="Rehearse"
        className={`border-base-300 fixed inset-x-0 bottom-0 z-20 flex flex-col border-t bg-[color-mix(in_srgb,var(--color-base-300)_60%,var(--color-base-200))] ${
          isOpen ? 'h-[58vh]' : 'h-[38px]'
        }`}
      >
        <div className="flex h-[38px] shrink-0 items-center gap-4 px-6">
          <button
            type="button"
            className="font-semibold hover:underline"
            aria-expanded={isOpen}
            onClick={() => {
              write({ isOpen: !isOpen });
              setCalled((before) => before + 1);
            }}
          >
            Rehearse
          </button>
          <span className="text-quiet min-w-0 truncate">{barWords(written)}</span>
          <span className="ml-auto flex shrink-0 items-center gap-3">
            {isOpen ? (
              <>
                <a href={`/b/${business}/rehearsals`} className="hover:underline">
                  Saved rehearsals
                </a>
                <button type="button" className="hover:underline" onClick={() => write({ isOpen: false })}>
                  Close
                </button>
              </>
            ) : (
              <>
                <span>
                  <Key k="r" /> open
                </span>
                <span className="hidden sm:inline">
                  <Key k="Ctrl K" /> find anything
                </span>
                <span className="hidden lg:inline">
                  <Key k="/" /> find here
                </span>
                <span className="hidden sm:inline">
                  <Key k="?" /> keys
                </span>
              </>
            )}
          </span>
        </div>
        {isOpen && (
          <Suspense fallback={<p className="text-quiet px-6">Opening …</p>}>
            <Panel business={business} written={written} write={write} called={called} />
          </Suspense>
        )}
      </section>
    </div>
  );
}

/** What the bar says of the rehearsal that is in it. */
function barWords({ isOpen, lines, saved }: Written): string {
  if (isOpen) return saved?.name ?? 'Enter adds a step, Backspace in the empty field changes the last one';
  if (lines.length === 0) return 'Paste a link and walk a pretend visitor down the line';
  return `${saved ? `${saved.name}: ` : ''}${lines.join(' · ')}`;
}
