import { useState } from 'react';
import type { FillRule, Reading } from '../../core/capture';
import { platformName } from '../../core/links/placeholders';
import { fillColumns, fillToRow, listOf, rowToFill } from '../../core/capture/rule-rows';
import { finderWords, readingWords } from '../../core/capture/sentences';
import type { CaptureEffectView, FormsView } from '../../core/capture/station-view';
import { Key } from '../../ui/keys/Key';
import { PickList } from '../../ui/list/PickList';
import { Live } from '../../ui/live/Live';
import { DraftBar } from '../../ui/rule/DraftBar';
import { ChoicePart, TextPart } from '../../ui/rule/parts';
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
  const { fill } = view.rules;
  const id = named || (fill[0]?.id ?? fresh);
  const stored = fill.find((rule) => rule.id === id) ?? null;
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
          key={JSON.stringify(fill)}
          business={business}
          label="Fill rules"
          columns={fillColumns(view.rules)}
          stored={fill.map((rule) => ({ id: rule.id, cells: fillToRow(rule) }))}
          changeOf={(known, cells, taken) => {
            const id = known || newRuleId(taken);
            return { kind: 'fill', id, value: rowToFill(cells, id) };
          }}
          disabled={!view.mayChange}
        />
      ) : (
        <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[270px_1fr] xl:grid-cols-[270px_1fr_310px]">
          <PickList
            label="Fill rules"
            items={fill.map((rule) => ({
              id: rule.id,
              href: `?rule=${encodeURIComponent(rule.id)}`,
              words: <code className="value font-semibold">{rule.field}</code>,
              under: [readingWords[rule.reading], ...rule.forms].join(', '),
            }))}
            current={id}
            onPick={setNamed}
            fresh={stored ? null : 'New rule'}
          />
          <FillEditor
            key={`${id} ${JSON.stringify(stored)}`}
            business={business}
            view={view}
            stored={stored}
            field={field}
            onNamed={setNamed}
          />
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
  const [start] = useState<FillRule>(() => ({
    ...{
      id: newRuleId(view.rules.fill.map((one) => one.id)),
      find: 'name',
      field,
      forms: [],
      pages: [],
      reading: 'last_source',
    },
    ...{ platform: '', swap: '', when: 'always', otherwise: '' },
  }));
  const { rule, edit, change, isChanged, bar } = useRuleEditor<FillRule>({
    ...{ business, stored, start, changed: view.changed },
    nameOf: ({ id }) => ({ kind: 'fill', id }),
  });
  const { data: effect } = useEffectOf<CaptureEffectView>(
    `/api/b/${business}/capture/effect`,
    rule.field.trim() === '' ? [] : [change],
  );
  const disabled = !view.mayChange;
  const [forms, setForms] = useState(rule.forms.join(', '));
  const [pages, setPages] = useState(rule.pages.join(', '));
  return (
    <>
      <section className="sheet min-w-0" aria-label={rule.field || 'New rule'}>
        <p className="px-5 py-4 text-[17px] leading-[1.9]">
          <ChoicePart
            label="How the field is found"
            value={rule.find}
            disabled={disabled}
            options={Object.entries(finderWords) as [FillRule['find'], string][]}
            onChange={(find) => edit({ find })}
          />{' '}
          <TextPart
            label="Field"
            value={rule.field}
            placeholder="field"
            list="seen-fields"
            disabled={disabled}
            onChange={(text) => edit({ field: text })}
          />{' '}
          of{' '}
          <TextPart
            label="Forms"
            value={forms}
            placeholder="every form"
            list="seen-forms"
            disabled={disabled}
            onChange={(text) => {
              setForms(text);
              edit({ forms: listOf(text) });
            }}
          />{' '}
          on{' '}
          <TextPart
            label="Pages that begin with"
            value={pages}
            placeholder="every page"
            disabled={disabled}
            onChange={(text) => {
              setPages(text);
              edit({ pages: listOf(text) });
            }}
          />{' '}
          gets{' '}
          <ChoicePart
            label="Reading"
            value={rule.reading}
            disabled={disabled}
            options={Object.entries(readingWords) as [Reading, string][]}
            onChange={(reading) => edit({ reading, platform: '' })}
          />
          {rule.reading === 'kept_value' && (
            <>
              {' '}
              <ChoicePart
                label="Which kept value"
                value={rule.platform}
                disabled={disabled}
                options={[['', 'which?'], ...view.rules.keep.values.map(({ name }) => [name, name] as const)]}
                onChange={(platform) => edit({ platform })}
              />
            </>
          )}
          {rule.reading === 'click_id' && view.rules.keep.clickIds.length > 1 && (
            <>
              {' '}
              of{' '}
              <ChoicePart
                label="Whose click ID"
                value={rule.platform}
                disabled={disabled}
                options={[
                  ['', 'the newest of any platform'],
                  ...view.rules.keep.clickIds.map(({ platform }) => [platform, platformName(platform)] as const),
                ]}
                onChange={(platform) => edit({ platform })}
              />
            </>
          )}
          {view.rules.swaps.length > 0 && (
            <>
              {' '}
              <ChoicePart
                label="Swap table"
                value={rule.swap}
                disabled={disabled}
                options={[
                  ['', 'as it is'],
                  ...view.rules.swaps.map(({ name }) => [name, `through the table “${name}”`] as const),
                ]}
                onChange={(swap) => edit({ swap })}
              />
            </>
          )}
          ,{' '}
          <ChoicePart
            label="When"
            value={rule.when}
            disabled={disabled}
            options={[
              ['always', 'whatever stands there'],
              ['empty', 'only when it is empty'],
            ]}
            onChange={(when) => edit({ when })}
          />
          ; where there is none,{' '}
          <TextPart
            label="Otherwise"
            value={rule.otherwise}
            placeholder="it stays empty"
            disabled={disabled}
            onChange={(otherwise) => edit({ otherwise })}
          />
          .
        </p>
        <datalist id="seen-fields">
          {[...new Set(view.forms.flatMap((form) => form.fields.map(({ name }) => name)))].map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
        <datalist id="seen-forms">
          {view.forms.map(({ form }) => (
            <option key={form} value={form} />
          ))}
        </datalist>
        {view.mayChange && <DraftBar {...bar} changed={isChanged} onPut={() => bar.onPut(() => onNamed(rule.id))} />}
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

/** A name for a new rule that no other has; it stays when the rule's field is changed. */
function newRuleId(taken: string[]): string {
  for (let n = taken.length + 1; ; n++) if (!taken.includes(`rule ${n}`)) return `rule ${n}`;
}
