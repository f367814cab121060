import { tagRule } from '../../core/plan/first-plan';
import type { TagRule } from '../../core/plan';
import type { EffectView, TagsView } from '../../core/plan/view';
import { counted } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { TextPart } from '../../ui/rule/parts';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import type { RuleEditor } from '../../ui/rule/useRuleEditor';
import { useEffectOf } from '../../ui/rule/useEffectOf';
import { Effect } from './Effect';
import { PlanFrame } from './PlanFrame';
import { TagNames } from './TagNames';
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

function Tags({ business, initial, search }: Props) {
  const view = useView(`/api/b/${business}/plan/tags`, initial);
  const open = useOpen('tag', search);
  return (
    <PlanFrame
      business={business}
      section="Tags"
      sentence={view.sentence}
      offPlan={view.offPlan}
      actions={view.mayChange && <NewRule words="New tag" open={open} />}
    >
      <RuleStation
        business={business}
        kind="tag"
        view={view}
        label="Tags"
        fresh="New tag"
        rules={view.tags.map(({ rule }) => rule)}
        open={open}
        item={(rule) => ({ words: rule.name, aside: rule.tag, under: howItArrived(view, rule) })}
        start={tagRule('', '')}
        beside={{ plan: view.plan }}
        title={({ name }) => name}
        canGo={false}
        beneath={(editor) => (
          <>
            <Values view={view} editor={editor} />
            {!editor.isNew && <TagNames business={business} view={view} tag={editor.rule.tag} />}
          </>
        )}
        effect={(editor) => <TagEffect business={business} view={view} editor={editor} />}
      />
    </PlanFrame>
  );
}

function howItArrived(view: TagsView, { tag }: TagRule): string {
  const { arrivals, offPlan } = view.tags.find(({ rule }) => rule.tag === tag)!;
  const arrived = arrivals === 0 ? 'none arrived' : counted(arrivals, 'arrival', 'arrivals');
  return offPlan > 0 ? `${arrived}, ${counted(offPlan, 'value', 'values')} off plan` : arrived;
}

function Values({ view, editor: { rule, edit } }: { view: TagsView; editor: RuleEditor<'tag'> }) {
  return (
    <>
      <p className="text-quiet px-5 pb-4">
        <TextPart
          label="Note"
          isValue={false}
          value={rule.note}
          placeholder="A note for those who make links"
          disabled={!view.mayChange}
          onChange={(note) => edit({ note })}
        />
      </p>
      <TagValues
        rule={rule}
        counts={view.counts[rule.tag] ?? {}}
        mayChange={view.mayChange}
        onEdit={(values) => edit({ values })}
      />
    </>
  );
}

function TagEffect({
  business,
  view,
  editor: { rule, change, isChanged },
}: {
  business: string;
  view: TagsView;
  editor: RuleEditor<'tag'>;
}) {
  const isComplete = rule.tag !== '' && rule.name !== '';
  const { data: effect } = useEffectOf<EffectView>(`/api/b/${business}/plan/effect`, isComplete ? [change] : []);
  if (!isComplete)
    return <p className="sheet text-quiet p-4">Name the tag, and what arrived shows what the rule would do.</p>;
  return <Effect effect={effect} changed={isChanged} weeks={view.weeks} />;
}
