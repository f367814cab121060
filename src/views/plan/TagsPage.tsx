import { tagRule } from '../../core/plan/first-plan';
import type { TagRule } from '../../core/plan';
import type { EffectView, TagsView } from '../../core/plan/view';
import { counted } from '../../core/strands';
import { Key } from '../../ui/keys/Key';
import { PickList } from '../../ui/list/PickList';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { DraftBar } from '../../ui/rule/DraftBar';
import { useAddressPart } from '../../ui/rule/useAddressPart';
import { RuleSentence } from '../../ui/rule/RuleSentence';
import { TextPart } from '../../ui/rule/parts';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { useEffectOf } from '../../ui/rule/useEffectOf';
import { Effect } from './Effect';
import { PlanFrame } from './PlanFrame';
import { TagValues } from './TagValues';

interface Props {
  business: string;
  initial: TagsView;
  search: string;
}

/** The naming plan's tags: each a rule in a sentence, with its values and what it does to what was recorded. */
export function TagsPage(props: Props) {
  return (
    <Live>
      <Tags {...props} />
    </Live>
  );
}

const fresh = 'new';

function Tags({ business, initial, search }: Props) {
  const api = `/api/b/${business}/plan/tags`;
  const view = useView(api, initial);
  const [named, setNamed] = useAddressPart('tag', search);
  const tag = named || (view.tags[0]?.rule.tag ?? fresh);
  const row = view.tags.find(({ rule }) => rule.tag === tag);
  return (
    <PlanFrame
      business={business}
      section="Tags"
      sentence={view.sentence}
      offPlan={view.offPlan}
      actions={
        view.mayChange && (
          <button type="button" className="button button-strong" data-new onClick={() => setNamed(fresh)}>
            New tag <Key k="n" strong />
          </button>
        )
      }
    >
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[250px_1fr] xl:grid-cols-[250px_1fr_310px]">
        <TagList view={view} tag={tag} onPick={setNamed} />
        <TagEditor key={tag} business={business} view={view} rule={row?.rule ?? null} onNamed={setNamed} />
      </div>
    </PlanFrame>
  );
}

function TagList({ view, tag, onPick }: { view: TagsView; tag: string; onPick: (tag: string) => void }) {
  return (
    <PickList
      label="Tags"
      items={view.tags.map(({ rule, arrivals, offPlan }) => ({
        id: rule.tag,
        href: `?tag=${rule.tag}`,
        words: rule.name,
        aside: rule.tag,
        under: [
          arrivals === 0 ? 'none arrived' : counted(arrivals, 'arrival', 'arrivals'),
          ...(offPlan > 0 ? [`${counted(offPlan, 'value', 'values')} off plan`] : []),
        ].join(', '),
      }))}
      current={tag}
      onPick={onPick}
      fresh={tag === fresh ? 'New tag' : null}
    />
  );
}

function TagEditor({
  business,
  view,
  rule: stored,
  onNamed,
}: {
  business: string;
  view: TagsView;
  rule: TagRule | null;
  onNamed: (tag: string) => void;
}) {
  const { rule, setRule, edit, change, isChanged, bar } = useRuleEditor({
    ...{ business, kind: 'tag' as const, stored, start: tagRule('', ''), changed: view.changed },
  });
  const complete = rule.tag !== '' && rule.name !== '';
  const { data: effect } = useEffectOf<EffectView>(`/api/b/${business}/plan/effect`, complete ? [change] : []);
  return (
    <>
      <section className="sheet min-w-0" aria-label={rule.name || 'New tag'}>
        <div className="px-5 py-4">
          <RuleSentence
            className="text-[17px] leading-[1.9]"
            kind="tag"
            rule={rule}
            onEdit={setRule}
            beside={{ plan: view.plan }}
            disabled={!view.mayChange}
            isNew={!stored}
          />
          <p className="text-quiet mt-1">
            <TextPart
              label="Note"
              isValue={false}
              value={rule.note}
              placeholder="A note for those who make links"
              disabled={!view.mayChange}
              onChange={(note) => edit({ note })}
            />
          </p>
        </div>
        <TagValues
          rule={rule}
          counts={view.counts[rule.tag] ?? {}}
          mayChange={view.mayChange}
          onEdit={(values) => edit({ values })}
        />
        {view.mayChange && <DraftBar {...bar} changed={isChanged} onDone={() => onNamed(rule.tag)} />}
      </section>
      <div className="lg:col-start-2 xl:col-start-3">
        <Effect effect={effect} changed={isChanged} weeks={view.weeks} />
      </div>
    </>
  );
}
