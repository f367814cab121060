import { useState } from 'react';
import type { TagCarry } from '../../core/capture';
import { usedInWords } from '../../core/links/uses';

import type { OldName, TagsView } from '../../core/plan/view';
import { counted } from '../../core/strands';
import { useDraft } from '../../ui/rule/useDraft';
import { Copy } from '../../ui/text/Copy';

/** Other names under which a tag travels in links: each is read; one of them, or its own, is what links are made with. */
export function TagNames({ business, view, tag }: { business: string; view: TagsView; tag: string }) {
  const draft = useDraft(business);
  const [name, setName] = useState('');
  const names = view.tagCarry.filter((rule) => rule.tag === tag);
  const written = names.find((rule) => rule.written)?.name ?? tag;
  const old = view.oldNames[tag];
  /** Links are made with one name: what another one says changes along. */
  const writeAs = (wanted: string) =>
    draft.put.mutate(
      names
        .filter((rule) => rule.written !== (rule.name === wanted))
        .map((rule) => ({
          kind: 'tag_carry',
          id: rule.name,
          value: { ...rule, written: rule.name === wanted },
          from: rule,
        })),
    );
  const add = () => {
    const value: TagCarry = { tag, name, written: false };
    draft.put.mutate([{ kind: 'tag_carry', id: name, value, from: null }], { onSuccess: () => setName('') });
  };
  return (
    <section className="border-base-300 border-t px-5 py-4" aria-label="Other names in links">
      <h3 className="font-semibold">Other names in links</h3>
      <p className="text-quiet mt-1 text-[13px]">
        Where a platform or a browser does not let <code className="value">{tag}</code> through, another name brings it.
        Pages read them all; what is kept, sent and counted is <code className="value">{tag}</code>.
      </p>
      {names.length > 0 && (
        <ul className="mt-2">
          {[tag, ...names.map((rule) => rule.name)].map((one) => (
            <li key={one} className="flex flex-wrap items-center gap-3 py-1">
              <label className="flex items-center gap-2">
                <input
                  type="radio"
                  className="radio radio-sm"
                  name={`written-${tag}`}
                  checked={one === written}
                  disabled={!view.mayChange || draft.put.isPending}
                  onChange={() => writeAs(one)}
                />
                <span>
                  Links are made with <code className="value font-semibold">{one}</code>
                </span>
              </label>
              {view.mayChange && one !== tag && (
                <button
                  type="button"
                  className="quiet-link cursor-pointer"
                  onClick={() => draft.put.mutate([{ kind: 'tag_carry', id: one, value: null }])}
                >
                  Take {one} out
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      {view.mayChange && (
        <form
          className="mt-2 flex flex-wrap items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <label className="text-quiet" htmlFor={`other-name-${tag}`}>
            {names.length > 0 ? 'Another name' : 'A name beside it'}
          </label>
          <input
            id={`other-name-${tag}`}
            className="field value w-40"
            placeholder="lark_src"
            value={name}
            spellCheck={false}
            onChange={({ target }) => setName(target.value.trim())}
          />
          <button
            type="submit"
            className="button"
            disabled={name === '' || draft.put.isPending}
            title={name === '' ? 'Write the name first.' : undefined}
          >
            Add name
          </button>
        </form>
      )}
      {(draft.wrong[0] ?? draft.problem) && (
        <p role="alert" className="text-error mt-2">
          {draft.wrong[0] ? `${draft.wrong[0].was}. ${draft.wrong[0].fix}` : draft.problem}
        </p>
      )}
      {old && <Places tag={tag} written={written} old={old} />}
    </section>
  );
}

/** Where links with an old name are used: what there is to change. */
function Places({ written, old }: { tag: string; written: string; old: { links: number; first: OldName[] } }) {
  const places = old.first.map(({ url, usedIn, place, owner }) => [usedInWords[usedIn], place, owner, url].join('\t'));
  return (
    <div className="mt-3">
      <div className="flex items-start justify-between gap-3">
        <p className="text-error">
          {counted(old.links, 'link in use says', 'links in use say')} another name than{' '}
          <code className="value">{written}</code>. They are read as before; change them where they are used.
        </p>
        <Copy text={places.join('\n')} words="Copy places" />
      </div>
      <ul className="mt-1">
        {old.first.slice(0, mostDrawn).map(({ url, usedIn, place, owner }) => (
          <li key={url} className="border-base-300 border-b py-1.5 last:border-0">
            <code className="value text-[12px]">{url}</code>
            <span className="text-quiet block text-[12.5px]">
              {[usedInWords[usedIn], place, owner].filter(Boolean).join(', ')}
            </span>
          </li>
        ))}
        {old.links > mostDrawn && <li className="text-quiet py-1.5">and {old.links - mostDrawn} more</li>}
      </ul>
    </div>
  );
}

const mostDrawn = 20;
