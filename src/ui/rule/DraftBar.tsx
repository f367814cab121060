import type { WrongField } from '../../core/errors';
import { WrongFields } from './WrongFields';

/** How a rule on the screen stands to the draft and to what is live, and what can be done about it. */
export function DraftBar({
  business,
  changed,
  inDraft,
  busy,
  wrong,
  problem,
  onPut,
  onBack,
  onDrop,
}: {
  business: string;
  /** Written here and not in the draft yet. */
  changed: boolean;
  /** In the draft and not live. */
  inDraft: boolean;
  busy: boolean;
  wrong: WrongField[];
  problem: string;
  onPut: () => void;
  /** As the draft has it. */
  onBack: () => void;
  /** As it is live. */
  onDrop: () => void;
}) {
  return (
    <div className="border-base-300 border-t px-5 py-3">
      <WrongFields wrong={wrong} problem={problem} />
      <div className="flex flex-wrap items-center gap-2">
        <button type="button" className="button button-strong" disabled={!changed || busy} onClick={onPut}>
          Put into the draft
        </button>
        {changed && (
          <button type="button" className="button" onClick={onBack}>
            Undo
          </button>
        )}
        {!changed && inDraft && (
          <button type="button" className="button" disabled={busy} onClick={onDrop}>
            As it is live
          </button>
        )}
        <span className="text-quiet">
          {changed ? (
            'Only on this screen so far.'
          ) : inDraft ? (
            <>
              In the draft,{' '}
              <a href={`/b/${business}/not-live`} className="quiet-link">
                not live
              </a>
              .
            </>
          ) : (
            'As it is live.'
          )}
        </span>
      </div>
    </div>
  );
}
