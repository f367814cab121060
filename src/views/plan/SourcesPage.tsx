import { ruleOf, type SourceRule } from '../../core/plan';
import type { SourceEffectView, SourcesView } from '../../core/plan/view';
import { count } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { useEffectOf } from '../../ui/rule/useEffectOf';
import type { RuleEditor } from '../../ui/rule/useRuleEditor';
import { Words } from '../../ui/text/Words';
import { PlanFrame } from './PlanFrame';

interface Props {
  business: string;
  initial: SourcesView;
  search: string;
}

/** Which media each source goes with, and what partners prescribe for their links. */
export function SourcesPage(props: Props) {
  return (
    <Live>
      <Sources {...props} />
    </Live>
  );
}

function Sources({ business, initial, search }: Props) {
  const view = useView(`/api/b/${business}/plan/sources`, initial);
  const open = useOpen('source', search);
  const { plan, rows } = view;
  const labelOf = (source: string) => rows.find((row) => row.source === source)?.label || source;
  const free = rows.filter(({ source }) => !plan.sources.some((rule) => rule.source === source));
  const start: SourceRule = { source: free[0]?.source ?? '', mediums: [], fixed: [] };
  return (
    <PlanFrame
      business={business}
      section="Sources"
      sentence={view.sentence}
      offPlan={view.offPlan}
      actions={view.mayChange && rows.length > 0 && <NewRule words="New rule" open={open} />}
    >
      {rows.length === 0 ? (
        <a href={`/b/${business}/plan?tag=utm_source`} className="button">
          List sources
        </a>
      ) : (
        <RuleStation
          business={business}
          kind="source"
          view={view}
          label="Sources with a rule"
          fresh="New rule"
          rules={plan.sources}
          open={open}
          item={(rule) => ({
            words: labelOf(rule.source),
            under: `${rule.source} with ${rule.mediums.join(', ') || 'any medium'}`,
          })}
          start={start}
          beside={{ plan }}
          offers={{
            sources: free.map(({ source }) => source),
            mediums: (ruleOf(plan, 'utm_medium')?.values ?? []).map(({ value }) => value),
          }}
          title={(rule) => labelOf(rule.source)}
          beneath={() => (
            <p className="text-quiet px-5 pb-4 text-[13px]">
              What it prescribes is written as in a link: <code className="value">utm_content=bw-04</code>. Whoever
              makes a link with this source cannot type it otherwise.
            </p>
          )}
          effect={(editor) => <SourceEffect business={business} editor={editor} />}
        />
      )}
      {free.length > 0 && plan.sources.length > 0 && (
        <p className="text-quiet mt-4">
          Without a rule:{' '}
          {free.map(({ source, label, arrivals }) => `${label || source} (${count(arrivals)})`).join(', ')}.
        </p>
      )}
    </PlanFrame>
  );
}

function SourceEffect({ business, editor: { rule, change } }: { business: string; editor: RuleEditor<'source'> }) {
  const isComplete = rule.source !== '';
  const { data: effect } = useEffectOf<SourceEffectView>(
    `/api/b/${business}/plan/sources/effect`,
    isComplete ? [change] : [],
  );
  if (!isComplete)
    return <p className="sheet text-quiet p-4">Choose a source, and the links that name it are checked.</p>;
  if (!effect) return <EffectSheet heading={null} />;
  const { links, misfits, first } = effect;
  if (links === 0)
    return <EffectSheet heading="No link in use names it" under="Links made from now on are held to it." />;
  return (
    <EffectSheet heading={headingOf(links, misfits)} under="Links in use that name this source.">
      <ul className="mt-1">
        {first.map(({ url, words }) => (
          <li key={url} className="border-base-300 border-b py-1.5 last:border-0">
            <a className="quiet-link" href={`/b/${business}/links?link=${encodeURIComponent(url)}`}>
              <code className="value text-[12px]">{url}</code>
            </a>
            <span className="text-error block text-[12.5px]">
              <Words text={words} />
            </span>
          </li>
        ))}
        {misfits > first.length && <li className="text-quiet py-1.5">and {count(misfits - first.length)} more</li>}
      </ul>
    </EffectSheet>
  );
}

function headingOf(links: number, misfits: number): string {
  if (links === 1) return misfits === 0 ? 'Its one link fits' : 'Its one link does not fit';
  if (misfits === 0) return `All its ${count(links)} links fit`;
  return `${count(misfits)} of its ${count(links)} links ${misfits === 1 ? 'does' : 'do'} not fit`;
}
