import { useState } from 'react';
import type { FillRule } from '../../core/capture';
import { readingWords } from '../../core/capture/readings';
import { fill } from '../../core/rules/fill';
import type { CaptureEffectView, FormsView } from '../../core/capture/station-view';
import { Key } from '../../ui/keys/Key';
import { PickList } from '../../ui/list/PickList';
import { Live } from '../../ui/live/Live';
import { DraftBar } from '../../ui/rule/DraftBar';
import { RuleSentence } from '../../ui/rule/RuleSentence';
import { RuleGrid } from '../../ui/rule/RuleGrid';
import { TakeOut } from '../../ui/rule/TakeOut';
import { useAddressPart } from '../../ui/rule/useAddressPart';
import { useEffectOf } from '../../ui/rule/useEffectOf';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { CaptureEffect } from './CaptureEffect';
import { CaptureFrame } from './CaptureFrame';
import { useView } from '../../ui/live/useView';

interface Props {
  business: string;
  initial: FormsView;
  search: string;
}

const fresh = 'new';
/** The fill rules: each a sentence, with what it would have put into the forms that were sent. */
export function FieldsPage(props: Props) {
  return (
    <Live>
      <Fields {...props} />
    </Live>
  );
}

function Fields({ business, initial, search }: Props) {
  const view = useView(`/api/b/${business}/capture/fields`, initial);
  const [named, setNamed] = useAddressPart('rule', search);
  const [as, setAs] = useAddressPart('as', search);
  const rules = view.rules.fill;
  const id = named || (rules[0]?.id ?? fresh);
  const stored = rules.find((rule) => rule.id === id) ?? null;
  const field = new URLSearchParams(search).get('field') ?? '';
  return (
    <CaptureFrame
      business={business}
      section="Fields"
      view={view}
      actions={
        <div className="flex gap-2">
          <button type="button" className="button" onClick={() => setAs(as === 'grid' ? '' : 'grid')}>
            {as === 'grid' ? 'As sentences' : 'As a grid'}
          </button>
          {view.mayChange && as !== 'grid' && (
            <button type="button" className="button button-strong" data-new onClick={() => setNamed(fresh)}>
              New rule <Key k="n" strong />
            </button>
          )}
        </div>
      }
    >
      {as === 'grid' ? (
        <RuleGrid
          business={business}
          kind="fill"
          label="Fill rules"
          stored={rules}
          beside={{ capture: view.rules }}
          disabled={!view.mayChange}
        />
      ) : (
        <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[270px_1fr] xl:grid-cols-[270px_1fr_310px]">
          <PickList
            label="Fill rules"
            items={rules.map((rule) => ({
              id: rule.id,
              href: `?rule=${encodeURIComponent(rule.id)}`,
              words: <code className="value font-semibold">{rule.field}</code>,
              under: [readingWords[rule.reading], ...rule.forms].join(', '),
            }))}
            current={id}
            onPick={setNamed}
            fresh={stored ? null : 'New rule'}
          />
          <FillEditor key={id} business={business} view={view} stored={stored} field={field} onNamed={setNamed} />
        </div>
      )}
    </CaptureFrame>
  );
}

function FillEditor({
  business,
  view,
  stored,
  field,
  onNamed,
}: {
  business: string;
  view: FormsView;
  stored: FillRule | null;
  field: string;
  onNamed: (id: string) => void;
}) {
  const [start] = useState(() => ({
    ...fill.start!(
      {},
      view.rules.fill.map((one) => one.id),
    ),
    field,
  }));
  const { rule, setRule, edit, change, isChanged, bar } = useRuleEditor({
    ...{ business, kind: 'fill' as const, stored, start, changed: view.changed },
  });
  const { data: effect } = useEffectOf<CaptureEffectView>(
    `/api/b/${business}/capture/effect`,
    rule.field.trim() === '' ? [] : [change],
  );
  return (
    <>
      <section className="sheet min-w-0" aria-label={rule.field || 'New rule'}>
        <RuleSentence
          kind="fill"
          rule={rule}
          onEdit={setRule}
          beside={{ capture: view.rules }}
          disabled={!view.mayChange}
          isNew={stored === null}
        />
        <datalist id="fields">
          {[...new Set(view.forms.flatMap((form) => form.fields.map(({ name }) => name)))].map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
        <datalist id="forms">
          {view.forms.map(({ form }) => (
            <option key={form} value={form} />
          ))}
        </datalist>
        {view.mayChange && <DraftBar {...bar} changed={isChanged} onDone={() => onNamed(rule.id)} />}
        {view.mayChange && stored && (
          <TakeOut business={business} name={{ kind: 'fill', id: stored.id }} onDone={() => onNamed('')} />
        )}
      </section>
      <div className="lg:col-start-2 xl:col-start-3">
        {rule.field.trim() === '' ? (
          <p className="sheet text-quiet p-4">Name the field, and what was sent shows what the rule would have done.</p>
        ) : (
          <CaptureEffect
            effect={effect}
            weeks={view.weeks}
            timeZone={view.timeZone}
            {...(view.mayChange ? { onField: (name: string) => edit({ field: name }) } : {})}
          />
        )}
      </div>
    </>
  );
}
