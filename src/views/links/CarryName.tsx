import { useState } from 'react';
import { pairsOf, placeholdersOf, readLanding } from '../../core/links';
import type { MakingView } from '../../core/links/view';
import { useDraft } from '../../ui/rule/useDraft';

/**
 * Lets a platform's click ID travel under a second name, which no browser takes out of addresses. The name goes into the
 * link and into the draft, so that the pages will know it.
 */
export function CarryName({
  business,
  view,
  landing,
  onLanding,
}: {
  business: string;
  view: MakingView;
  landing: string;
  onLanding: (landing: string) => void;
}) {
  const draft = useDraft(business);
  const { platforms } = view.plan;
  const carried = placeholdersOf(platforms).find(
    ({ isClickId, platform }) => isClickId && view.platforms.includes(platform),
  );
  const known = view.carry.find(({ platform }) => platform === carried?.platform);
  const [name, setName] = useState('');
  const read = readLanding(landing);
  if (!carried || 'problem' in read) return null;
  const { url } = read;
  const words = platforms.find(({ kind }) => kind === carried.platform)!.words;
  const used = known?.name ?? name;
  const stands = pairsOf(url.search.slice(1)).some((pair) => pair.value === carried.text);
  const put = () => {
    const pair = `${used}=${carried.text}`;
    const query = url.search ? `${url.search}&${pair}` : `?${pair}`;
    onLanding(url.origin + url.pathname + query + url.hash);
    if (!known && view.mayChange)
      draft.put.mutate([{ kind: 'carry', id: used, value: { platform: carried.platform, name: used }, from: null }]);
  };
  return (
    <section className="sheet p-5" aria-label="Carry name">
      <h2 className="text-base">Where browsers take out click IDs</h2>
      <p className="text-quiet mt-1">
        {stands
          ? `The click ID of ${words} travels under a second name too.`
          : `For an ad on ${words} the click ID can also travel under a name that no browser knows.`}
      </p>
      {!stands && (
        <div className="mt-2 flex items-center gap-2">
          {known ? (
            <code className="value flex-1">
              {known.name}={carried.text}
            </code>
          ) : (
            <input
              className="field value min-w-0 flex-1"
              placeholder="lark_ref"
              aria-label="Carry name"
              value={name}
              spellCheck={false}
              onChange={(event) => setName(event.target.value.trim())}
            />
          )}
          <button type="button" className="button" disabled={!/^[A-Za-z][\w.-]{0,39}$/.test(used)} onClick={put}>
            Add it
          </button>
        </div>
      )}
      {draft.put.isSuccess && (
        <p className="text-quiet mt-2">
          <code className="value">{used}</code> is in the draft; once it is live the pages restore the click ID from it.
        </p>
      )}
      {draft.problem && (
        <p role="alert" className="text-error mt-2">
          {draft.problem}
        </p>
      )}
    </section>
  );
}
