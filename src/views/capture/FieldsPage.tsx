import type { Reading } from '../../core/capture';
import { readingWords } from '../../core/capture/readings';
import type { CaptureEffectView, FormsView } from '../../core/capture/station-view';
import { fill } from '../../core/rules/fill';
import { useAddressPart } from '../../ui/address/useAddressPart';
import { useOpen } from '../../ui/address/useOpen';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { RuleGrid } from '../../ui/rule/RuleGrid';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { useEffectOf } from '../../ui/rule/useEffectOf';
import type { RuleEditor } from '../../ui/rule/useRuleEditor';
import { CaptureEffect } from './CaptureEffect';
import { CaptureFrame } from './CaptureFrame';

interface Props {
  business: string;
  initial: FormsView;
  search: string;
}

/** What the address may say of a rule that is made: a field that nothing fills, its form and what its name asks for. */
const offered = ['field', 'form', 'reading'];

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
  const open = useOpen('rule', search, offered);
  const [as, setAs] = useAddressPart('as', search);
  const [field] = useAddressPart('field', search);
  const [form] = useAddressPart('form', search);
  const [reading] = useAddressPart('reading', search);
  const rules = view.rules.fill;
  const names = rules.map(({ id }) => id);
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
          {view.mayChange && as !== 'grid' && <NewRule words="New rule" open={open} />}
        </div>
      }
    >
      {as === 'grid' ? (
        <RuleGrid
          business={business}
          kind="fill"
          label="Fill rules"
          stored={rules}
          beside={{ capture: view.rules, platforms: view.ownPlatforms }}
          disabled={!view.mayChange}
        />
      ) : (
        <RuleStation
          business={business}
          kind="fill"
          view={view}
          label="Fill rules"
          fresh="New rule"
          rules={rules}
          open={open}
          item={(rule) => ({
            words: <code className="value font-semibold">{rule.field}</code>,
            under: [readingWords[rule.reading], ...rule.forms].join(', '),
          })}
          start={{
            ...fill.start!({}, names),
            field,
            forms: form ? [form] : [],
            ...(reading in readingWords ? { reading: reading as Reading } : {}),
          }}
          beside={{ capture: view.rules, platforms: view.ownPlatforms }}
          title={(rule) => rule.field}
          offers={offersOf(view)}
          effect={(editor) => <FillEffect business={business} view={view} editor={editor} />}
        />
      )}
    </CaptureFrame>
  );
}

/** Fields and forms that pages reported, offered while a rule is typed. */
const offersOf = ({ forms }: FormsView) => ({
  fields: [...new Set(forms.flatMap(({ fields }) => fields.map(({ name }) => name)))],
  forms: forms.map(({ form }) => form),
});

function FillEffect({
  business,
  view,
  editor: { rule, change, edit },
}: {
  business: string;
  view: FormsView;
  editor: RuleEditor<'fill'>;
}) {
  const isNamed = rule.field.trim() !== '';
  const { data: effect } = useEffectOf<CaptureEffectView>(`/api/b/${business}/capture/effect`, isNamed ? [change] : []);
  if (!isNamed)
    return (
      <p className="sheet text-quiet p-4">Name the field, and what was sent shows what the rule would have done.</p>
    );
  return (
    <CaptureEffect
      effect={effect}
      weeks={view.weeks}
      timeZone={view.timeZone}
      {...(view.mayChange ? { onField: (name: string) => edit({ field: name }) } : {})}
    />
  );
}
