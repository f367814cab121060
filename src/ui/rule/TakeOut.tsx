import type { RuleName } from '../../core/rules';
import { useDraft } from './useDraft';

/** Takes a rule out of the draft; it stays live until the draft is. */
export function TakeOut({ business, name, onDone }: { business: string; name: RuleName; onDone?: () => void }) {
  const { put, problem } = useDraft(business);
  return (
    <p className="px-5 pb-3">
      <button
        type="button"
        className="quiet-link cursor-pointer"
        disabled={put.isPending}
        onClick={() => put.mutate([{ ...name, value: null }], { onSuccess: () => onDone?.() })}
      >
        Take the rule out
      </button>
      {problem && <span className="text-error ml-3">{problem}</span>}
    </p>
  );
}
