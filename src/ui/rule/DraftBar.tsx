import type { useRuleEditor } from './useRuleEditor';
import { Words } from '../text/Words';
import { WrongFields } from './WrongFields';

type Bar = ReturnType<typeof useRuleEditor>['bar'];

/** How a rule on the screen stands to the draft and to what is live, and what can be done about it. */
export function DraftBar({
  business,
  kind,
  changed,
  inDraft,
  busy,
  wrong,
  problem,
  warnings,
  conflict,
  meanwhileBy,
  onPut,
  onPutOver,
  onTakeTheirs,
  onBack,
  onDrop,
  onDone,
}: Bar & {
  /** Once it is in the draft. */
  onDone?: () => void;
}) {
  return (
    <div className="border-base-300 border-t px-5 py-3">
      {conflict ? (
        <div role="alert" className="mb-3">
          <p className="text-error font-semibold">{conflict.by} changed this rule while you were writing.</p>
          <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
            <dt className="text-quiet">Theirs</dt>
            <dd>{conflict.theirSentence === null ? 'taken out' : <Words text={conflict.theirSentence} />}</dd>
            <dt className="text-quiet">Yours</dt>
            <dd>{conflict.sentence === null ? 'taken out' : <Words text={conflict.sentence} />}</dd>
          </dl>
        </div>
      ) : (
        <WrongFields kind={kind} wrong={wrong} problem={problem} />
      )}
      {warnings.length > 0 && (
        <ul role="status" className="mb-2">
          {warnings.map(({ was, fix }) => (
            <li key={was}>
              <Words text={`${was}. ${fix}`} />
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap items-center gap-2">
        {conflict ? (
          <>
            <button type="button" className="button button-strong" onClick={onTakeTheirs}>
              Keep theirs
            </button>
            <button type="button" className="button" disabled={busy} onClick={() => onPutOver(onDone)}>
              Replace it with yours
            </button>
          </>
        ) : (
          <button
            type="button"
            className="button button-strong"
            disabled={!changed || busy}
            onClick={() => onPut(onDone)}
          >
            Add to draft
          </button>
        )}
        {changed && !conflict && (
          <button type="button" className="button" onClick={onBack}>
            Undo
          </button>
        )}
        {!changed && inDraft && (
          <button type="button" className="button" disabled={busy} onClick={onDrop}>
            Back to the live version
          </button>
        )}
        <span className="text-quiet">
          {changed ? (
            `Only on this screen so far.${meanwhileBy && ` ${meanwhileBy} changed this rule meanwhile.`}`
          ) : inDraft ? (
            <>
              In the draft,{' '}
              <a href={`/b/${business}/not-live`} className="quiet-link">
                not live
              </a>
              .
            </>
          ) : (
            'This is the live version.'
          )}
        </span>
      </div>
    </div>
  );
}
