import { useState } from 'react';
import type { CarryRule } from '../../core/capture';
import type { KeptView } from '../../core/capture/station-view';
import { counted } from '../../core/strands';
import { useDraft } from '../../ui/rule/useDraft';
import { Copy } from '../../ui/text/Copy';

/** The names under which click IDs travel a second time: which platforms' links can carry one, and what to append to them. */
export function CarryNames({ business, view }: { business: string; view: KeptView }) {
  const { carry, keep } = view.rules;
  const kept = view.platforms.filter(({ kind }) => keep.clickIds.some(({ platform }) => platform === kind));
  return (
    <section className="sheet" aria-label="Carry names">
      <p className="px-5 pt-4 text-[17px]">
        Where a browser takes a click ID out of the address, a second name brings it, if the platform fills it in:
      </p>
      <ul className="py-2">
        {kept.map((platform) => (
          <Platform
            key={platform.kind}
            business={business}
            platform={platform}
            names={carry.filter((rule) => rule.platform === platform.kind)}
            empty={view.emptyCarries}
            weeks={view.weeks}
            mayChange={view.mayChange}
          />
        ))}
      </ul>
    </section>
  );
}

function Platform({
  business,
  platform: { kind, words, clickPlaceholder },
  names,
  empty,
  weeks,
  mayChange,
}: {
  business: string;
  platform: KeptView['platforms'][number];
  names: CarryRule[];
  empty: KeptView['emptyCarries'];
  weeks: number;
  mayChange: boolean;
}) {
  const { put, wrong, problem } = useDraft(business);
  const [name, setName] = useState('');
  if (!clickPlaceholder)
    return (
      <li className="text-quiet px-5 py-2">
        {words}’s links cannot carry one: it has no placeholder for its click ID.
      </li>
    );
  return (
    <>
      {names.map((rule) => {
        const piece = `${rule.name}=${clickPlaceholder}`;
        return (
          <li key={rule.name} className="flex flex-wrap items-center gap-3 px-5 py-2">
            <span>
              {words}’s links carry it. Append <code className="value text-[15px]">&amp;{piece}</code>
            </span>
            <Copy text={`&${piece}`} words="Copy" />
            {(empty[rule.name] ?? 0) > 0 && (
              <span className="text-error">
                It arrived empty {counted(empty[rule.name]!, 'time', 'times')} in {weeks} weeks: use another name.
              </span>
            )}
            {mayChange && (
              <button
                type="button"
                className="quiet-link cursor-pointer"
                disabled={put.isPending}
                onClick={() => put.mutate([{ kind: 'carry', id: rule.name, value: null }])}
              >
                Take the name out
              </button>
            )}
          </li>
        );
      })}
      {mayChange && (
        <li className="px-5 py-2">
          <form
            className="flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              put.mutate([{ kind: 'carry', id: name, value: { platform: kind, name }, from: null }], {
                onSuccess: () => setName(''),
              });
            }}
          >
            <label className="text-quiet" htmlFor={`carry-${kind}`}>
              {names.length > 0 ? 'Another name for ' : 'A name for '}
              {words}
            </label>
            <input
              id={`carry-${kind}`}
              className="field value w-40"
              placeholder="lark_ref"
              value={name}
              spellCheck={false}
              onChange={(event) => setName(event.target.value.trim())}
            />
            <button
              type="submit"
              className="button"
              disabled={name === '' || put.isPending}
              title={name === '' ? 'Write the name first.' : undefined}
            >
              Add it
            </button>
            {(wrong[0] ?? problem) && (
              <span role="alert" className="text-error">
                {wrong[0] ? `${wrong[0].was}. ${wrong[0].fix}` : problem}
              </span>
            )}
          </form>
        </li>
      )}
    </>
  );
}
