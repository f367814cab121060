import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { ShareView } from '../../core/plan/view';
import { ruleSentence, type RuleChange } from '../../core/rules';
import { counted } from '../../core/strands';
import { FileButton } from '../../ui/files/FileButton';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { useDraft } from '../../ui/rule/useDraft';
import { sendFile } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { PlanFrame } from './PlanFrame';
import { StepsEditor } from './StepsEditor';
import { ValueFlow } from './ValueFlow';
import { quoteValue } from '../../core/quote-value';

interface Props {
  business: string;
  initial: ShareView;
}

interface Difference {
  changes: { change: RuleChange; was: string | null; will: string | null }[];
  problems: { row: string; was: string; fix: string }[];
}

/** The plan as it is handed on: a page to print, files, and files read back in with a look at what they change. */
export function SharePage(props: Props) {
  return (
    <Live>
      <Share {...props} />
    </Live>
  );
}

function Share({ business, initial }: Props) {
  const api = `/api/b/${business}/plan`;
  const view = useView(`${api}/share`, initial);
  const [isWriting, setWriting] = useState(false);
  const [difference, setDifference] = useState<Difference | null>(null);
  const compare = useMutation({
    mutationFn: (file: File) => sendFile<Difference>(`${api}/file`, file),
    onSuccess: setDifference,
  });
  return (
    <PlanFrame
      business={business}
      section="Share"
      sentence={view.sentence}
      offPlan={view.offPlan}
      actions={
        <div className="flex gap-2 print:hidden">
          {view.mayChange && (
            <FileButton words="Read one back" accept=".json,.csv,.xlsx" onFile={(file) => compare.mutate(file)} />
          )}
          {(['json', 'csv', 'xlsx'] as const).map((format) => (
            <a key={format} href={`${api}/plan.${format}`} className="button" download>
              {format.toUpperCase()}
            </a>
          ))}
          <a href={`${api}/sheet.xlsx`} className="button" download>
            Sheet for people
          </a>
          <button type="button" className="button button-strong" onClick={() => print()}>
            Print
          </button>
        </div>
      }
    >
      {compare.error && (
        <p role="alert" className="text-error mb-3">
          <Words text={compare.error.message} />
        </p>
      )}
      {difference && <ReadBack business={business} difference={difference} onDone={() => setDifference(null)} />}
      {isWriting && <StepsEditor business={business} view={view} onDone={() => setWriting(false)} />}
      <Printed
        view={view}
        edit={
          view.mayChange &&
          !isWriting && (
            <button type="button" className="quiet-link cursor-pointer print:hidden" onClick={() => setWriting(true)}>
              Change the steps
            </button>
          )
        }
      />
    </PlanFrame>
  );
}

function ReadBack({
  business,
  difference: { changes, problems },
  onDone,
}: {
  business: string;
  difference: Difference;
  onDone: () => void;
}) {
  const client = useQueryClient();
  const draft = useDraft(business);
  return (
    <section className="sheet mb-4" aria-label="What the file would change">
      <h2 className="px-5 pt-4 text-base">
        {changes.length === 0
          ? 'The file says the same as the plan.'
          : `The file would change ${counted(changes.length, 'rule', 'rules')}.`}
      </h2>
      <ol className="mt-1">
        {changes.map(({ change, was, will }) => (
          <li key={`${change.kind} ${change.id}`} className="border-base-300 border-b px-5 py-2.5 last:border-0">
            {was !== null && was !== will && (
              <p className="text-quiet line-through decoration-1">
                <Words text={was} />
              </p>
            )}
            {will === null ? 'It is taken out.' : <Words text={will} />}
          </li>
        ))}
      </ol>
      {problems.length > 0 && (
        <ul role="alert" className="text-error border-base-300 border-t px-5 py-3">
          {problems.slice(0, 50).map(({ row, was, fix }) => (
            <li key={row + was}>
              {row}: {was}. {fix}
            </li>
          ))}
        </ul>
      )}
      {draft.problem && (
        <p role="alert" className="text-error px-5 py-2">
          {draft.problem}
        </p>
      )}
      <p className="border-base-300 flex gap-2 border-t px-5 py-3">
        {changes.length > 0 && (
          <button
            type="button"
            className="button button-strong"
            disabled={draft.put.isPending}
            onClick={() =>
              draft.put.mutate(
                changes.map(({ change }) => change),
                {
                  onSuccess: () => {
                    onDone();
                    void client.invalidateQueries();
                    location.assign(`/b/${business}/not-live`);
                  },
                },
              )
            }
          >
            Add {counted(changes.length, 'rule', 'rules')} to draft
          </button>
        )}
        <button type="button" className="button" onClick={onDone}>
          {changes.length > 0 ? 'Take none' : 'Close'}
        </button>
      </p>
    </section>
  );
}

function Printed({ view, edit }: { view: ShareView; edit: React.ReactNode }) {
  const { live, release, tagSets, flow } = view;
  const untracked = live.channels.filter(({ tracked }) => !tracked).map(({ medium }) => quoteValue(medium));
  return (
    <article className="sheet px-7 py-6 print:border-0 print:p-0">
      <p className="text-quiet">
        Live since <Time iso={release.madeAt} timeZone={view.timeZone} far />, release {release.number}, “{release.name}
        ”.
      </p>
      <Part title="How a campaign is made">
        <ol className="list-decimal pl-5">
          {live.making.steps.map((step, at) => (
            <li key={at}>{step}</li>
          ))}
        </ol>
        {live.making.steps.length === 0 && <p className="text-quiet">No steps are written down.</p>}
        {edit}
      </Part>
      <Part title="How values flow">
        <ValueFlow flow={flow} />
      </Part>
      <Part title="Tags">
        {live.tags.map((rule) => (
          <div key={rule.tag} className="mt-3 break-inside-avoid">
            <p>
              <Words text={ruleSentence('tag', rule)!} /> {rule.note}
            </p>
            {rule.values.length > 0 && (
              <p className="mt-1 columns-2 lg:columns-3">
                {rule.values.map(({ value, label }) => (
                  <span key={value} className="block">
                    <code className="value">{value}</code>{' '}
                    <span className="text-quiet">{label !== value && label}</span>
                  </span>
                ))}
              </p>
            )}
          </div>
        ))}
      </Part>
      <Part title="Campaign names">
        <p>
          <Words text={ruleSentence('naming', live.naming)!} />
        </p>
      </Part>
      <Part title="Media and channels">
        <ul>
          {live.channels.map((rule) => (
            <li key={rule.medium}>
              <Words text={ruleSentence('channel', rule)!} />
            </li>
          ))}
        </ul>
        <p className="mt-1">
          {untracked.length > 0 ? (
            <>
              Not tracked: <Words text={untracked.join(', ')} />. All others are.
            </>
          ) : (
            'All media are tracked.'
          )}
        </p>
      </Part>
      {live.sources.length > 0 && (
        <Part title="Sources and their media">
          <ul>
            {live.sources.map((rule) => (
              <li key={rule.source}>
                <Words text={ruleSentence('source', rule)!} />
              </li>
            ))}
          </ul>
        </Part>
      )}
      <Part title="Tag sets">
        {tagSets.length === 0 && <p className="text-quiet">None is saved yet.</p>}
        <ul>
          {tagSets.map(({ name, tags }) => (
            <li key={name}>
              {name}:{' '}
              <Words
                text={Object.entries(tags)
                  .map(([tag, values]) => `${quoteValue(tag)} ${values.map((value) => quoteValue(value)).join(' or ')}`)
                  .join(', ')}
              />
            </li>
          ))}
        </ul>
      </Part>
      <Part title="Outcome codes">
        <p>
          <Words text={ruleSentence('outcome_codes', live.outcomeCodes)!} />
        </p>
      </Part>
    </article>
  );
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mt-5 break-inside-avoid-page" aria-label={title}>
      <h2 className="mb-1 text-[17px]">{title}</h2>
      {children}
    </section>
  );
}
