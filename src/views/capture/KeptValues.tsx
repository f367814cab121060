import { useState } from 'react';
import { characterWords } from '../../core/capture/sentences';
import { rowToValue, valueColumns, valueToRow } from '../../core/capture/rule-rows';
import type { KeptView } from '../../core/capture/station-view';
import type { ValueRule } from '../../core/capture';
import { ChoicePart, NumberPart, TextPart } from '../../ui/rule/parts';
import { RuleGrid } from '../../ui/rule/RuleGrid';
import { TakeOut } from '../../ui/rule/TakeOut';
import { DraftBar } from '../../ui/rule/DraftBar';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { sentence } from './kept-rule';
import { KeptTraffic } from './KeptTraffic';

interface Props {
  business: string;
  view: KeptView;
}

const fresh: ValueRule = {
  ...{ name: '', cookie: '', days: 90, age: 'renewed', which: 'last', lowerCase: false, characters: 'any' },
  longest: 200,
};

/** The business's own query values that are kept, as sentences or as a grid. */
export function KeptValues({ business, view }: Props) {
  const [asGrid, setAsGrid] = useState(false);
  const [adding, setAdding] = useState(false);
  const { values } = view.rules.keep;
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-auto text-base">
          {values.length === 0 ? 'No other query value is kept' : 'Other query values that are kept'}
        </h2>
        <button type="button" className="button" onClick={() => setAsGrid(!asGrid)}>
          {asGrid ? 'As sentences' : 'As a grid'}
        </button>
        {view.mayChange && !asGrid && (
          <button type="button" className="button" disabled={adding} onClick={() => setAdding(true)}>
            Keep another
          </button>
        )}
      </div>
      {asGrid ? (
        <RuleGrid
          key={JSON.stringify(values)}
          business={business}
          label="Kept values"
          columns={valueColumns}
          stored={values.map((rule) => ({ id: rule.name, cells: valueToRow(rule) }))}
          changeOf={(id, cells) => {
            const value = rowToValue(cells);
            return { kind: 'kept_value', id: id || value.name, value };
          }}
          disabled={!view.mayChange}
        />
      ) : (
        <>
          {values.map((rule) => (
            <Value key={JSON.stringify(rule)} business={business} view={view} stored={rule} />
          ))}
          {adding && <Value business={business} view={view} stored={null} onKept={() => setAdding(false)} />}
        </>
      )}
    </>
  );
}

function Value({
  business,
  view,
  stored,
  onKept,
}: Props & {
  stored: ValueRule | null;
  /** A new one is in the draft, and stands among the others from then on. */
  onKept?: () => void;
}) {
  const { rule, edit, isChanged, bar } = useRuleEditor<ValueRule>({
    ...{ business, stored, start: fresh, changed: view.changed },
    nameOf: ({ name }) => ({ kind: 'kept_value', id: name }),
  });
  const disabled = !view.mayChange;
  return (
    <section className="sheet" aria-label={`Kept value ${rule.name || 'new'}`}>
      <p className={sentence}>
        <ChoicePart
          label="Which one is kept"
          value={rule.which}
          disabled={disabled}
          options={[
            ['last', 'The last'],
            ['first', 'The first'],
          ]}
          onChange={(which) => edit({ which })}
        />{' '}
        <TextPart
          label="Query value"
          value={rule.name}
          placeholder="query name"
          disabled={disabled || stored !== null}
          onChange={(text) => {
            const name = text.trim();
            const usual = (of: string) => `avx_${of.replace(/\W/g, '_')}`;
            edit({ name, ...(rule.cookie === '' || rule.cookie === usual(rule.name) ? { cookie: usual(name) } : {}) });
          }}
        />{' '}
        is kept{' '}
        <NumberPart label="Days it is kept" value={rule.days} disabled={disabled} onChange={(days) => edit({ days })} />{' '}
        days in the cookie{' '}
        <TextPart
          label="Cookie"
          value={rule.cookie}
          placeholder="cookie"
          disabled={disabled}
          onChange={(cookie) => edit({ cookie: cookie.trim() })}
        />
        , counted{' '}
        <ChoicePart
          label="Counted from"
          value={rule.age}
          disabled={disabled}
          options={[
            ['renewed', 'anew from each visit'],
            ['fixed', 'from when it came'],
          ]}
          onChange={(age) => edit({ age })}
        />
        , its letters{' '}
        <ChoicePart
          label="Letters"
          value={rule.lowerCase ? 'small' : 'any'}
          disabled={disabled}
          options={[
            ['any', 'as they arrive'],
            ['small', 'small'],
          ]}
          onChange={(letters) => edit({ lowerCase: letters === 'small' })}
        />
        : at most{' '}
        <NumberPart
          label="Most characters"
          value={rule.longest}
          disabled={disabled}
          onChange={(longest) => edit({ longest })}
        />{' '}
        of{' '}
        <ChoicePart
          label="Expected characters"
          value={rule.characters}
          disabled={disabled}
          options={Object.entries(characterWords) as [ValueRule['characters'], string][]}
          onChange={(characters) => edit({ characters })}
        />
        .
      </p>
      <KeptTraffic business={business} rule={rule} weeks={view.weeks} />
      {!disabled && (isChanged || bar.inDraft || stored === null) && (
        <DraftBar {...bar} changed={isChanged || stored === null} onPut={() => bar.onPut(onKept)} />
      )}
      {!disabled && stored && <TakeOut business={business} name={{ kind: 'kept_value', id: stored.name }} />}
    </section>
  );
}
