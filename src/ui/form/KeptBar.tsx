import type { ReactNode } from 'react';
import { Problem } from './Problem';

/** What can be done with a thing that somebody writes (`useKept`): saved, undone, copied, and what else there is to it. */
export function KeptBar({
  save,
  onSave,
  onUndo,
  onCopy,
  problem,
  children,
}: {
  /** The button that saves it: "Save segment". */
  save: string;
  /** null while it cannot be saved; undefined where nobody may. */
  onSave: (() => void) | null | undefined;
  /** null where nothing is written. */
  onUndo: (() => void) | null;
  /** null while it is not whole; undefined where there is nothing to copy, or nobody may. */
  onCopy: (() => void) | null | undefined;
  problem: string;
  children?: ReactNode;
}) {
  return (
    <>
      <div className="border-base-300 flex flex-wrap items-center gap-3 border-t px-5 py-3">
        {onSave !== undefined && (
          <button type="button" className="button button-strong" disabled={onSave === null} onClick={() => onSave?.()}>
            {save}
          </button>
        )}
        {onUndo && (
          <button type="button" className="quiet-link cursor-pointer" onClick={onUndo}>
            Undo
          </button>
        )}
        {onCopy !== undefined && (
          <button
            type="button"
            className="quiet-link cursor-pointer"
            disabled={onCopy === null}
            onClick={() => onCopy?.()}
          >
            Duplicate
          </button>
        )}
        {children}
      </div>
      <div className="px-5 pb-1">
        <Problem text={problem || undefined} />
      </div>
    </>
  );
}
