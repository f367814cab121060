import { useEffect, useState } from 'react';
import type { DraftState } from '../../core/releases/view';
import { count } from '../../core/strands';
import { onDraftChanged } from '../rule/draft-changed';
import { readJson } from '../text/read';

/** How many rules of the draft are not live; follows what is changed on the page, and is not there at none. */
export function NotLiveMark({ business, notLive }: { business: string; notLive: number }) {
  const [rules, setRules] = useState(notLive);
  useEffect(
    () =>
      onDraftChanged(() => {
        readJson<DraftState>(`/api/b/${business}/draft/state`).then(
          ({ changed }) => setRules(changed.length),
          () => undefined,
        );
      }),
    [business],
  );
  if (rules === 0) return null;
  return (
    <a
      href={`/b/${business}/not-live`}
      className="bg-accent text-accent-content rounded-[5px] px-3 py-1.5 font-semibold"
    >
      {count(rules)} not live
    </a>
  );
}
