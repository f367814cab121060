import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { missingInStep, missingInTakes, type RoutineMeans } from '../../core/leads/routines/routine';
import type { RoutinesView, TakesEffectView, TriedView } from '../../core/leads/routines/view';
import { count, counted } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { useSettled } from '../../ui/rule/useSettled';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  api: string;
  view: RoutinesView;
  means: RoutineMeans;
}

/** Whom a routine would have taken, and what it would do with one lead, while it is written. */
export function RoutineEffect(props: Props) {
  return (
    <div className="grid gap-4">
      <Takes {...props} />
      <TryOne {...props} />
    </div>
  );
}

function Takes({ business, api, view, means }: Props) {
  const settled = useSettled(means.takes, 250);
  const missing = missingInTakes(settled);
  const { data, error } = useQuery({
    queryKey: ['routine takes', api, JSON.stringify(settled)],
    queryFn: () => sendJson<TakesEffectView>(`${api}/effect`, { takes: settled }),
    enabled: missing === '',
    placeholderData: (before) => before,
  });
  if (missing !== '') return <EffectSheet heading="Not said yet" under={`Say ${missing}, and who fits is counted.`} />;
  if (error) return <EffectSheet heading="Not counted" under={error.message} />;
  if (!data) return <EffectSheet heading={null} />;
  return (
    <EffectSheet
      heading={`${counted(data.lately, 'enquiry', 'enquiries')} in 4 weeks would have fitted`}
      under={`${count(data.now)} fit in all, by what is known now.`}
    >
      <ul className="mt-2">
        {data.newest.map((one) => (
          <li key={one.id} className="border-base-300 border-b py-1.5 text-[13px] last:border-0">
            <a href={`/b/${business}/leads/${one.id}`} className="quiet-link font-semibold">
              {one.company}
            </a>
            <span className="text-quiet block">
              {one.cameFrom}, <Time iso={one.at} timeZone={view.timeZone} />
            </span>
          </li>
        ))}
      </ul>
    </EffectSheet>
  );
}

function TryOne({ api, view, means }: Props) {
  const [text, setText] = useState('');
  const isWhole = missingInTakes(means.takes) === '' && means.steps.every((step) => missingInStep(step) === '');
  const tried = useMutation({
    mutationFn: () => sendJson<TriedView>(`${api}/try`, { means, enquiry: text.trim() }),
  });
  return (
    <section className="sheet p-4" aria-label="Try it on one lead">
      <h2 className="text-base">Try it on one lead</h2>
      <p className="text-quiet mt-1 text-[13px]">Nothing is sent or set.</p>
      <form
        className="mt-2 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          tried.mutate();
        }}
      >
        <input
          className="field min-w-0 flex-1"
          aria-label="Lead"
          placeholder="Email, company or CRM number"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <button className="button" disabled={!isWhole || text.trim() === '' || tried.isPending}>
          Try
        </button>
      </form>
      <Problem text={tried.error?.message} />
      {tried.data && <Tried tried={tried.data} timeZone={view.timeZone} />}
    </section>
  );
}

function Tried({ tried: { lead, stops, steps }, timeZone }: { tried: TriedView; timeZone: string }) {
  return (
    <div className="mt-3" role="status">
      <p className="font-semibold">{lead}</p>
      {stops && <p className="text-error">{stops}</p>}
      <ol className="mt-1">
        {steps.map(({ id, at, words, problem, mail }) => (
          <li key={id} className="border-base-300 border-b py-2 text-[13px] last:border-0">
            <span className="text-quiet block">
              <Time iso={at} timeZone={timeZone} />
            </span>
            <Words text={words.charAt(0).toUpperCase() + words.slice(1)} />
            {problem && <p className="text-error">{problem}</p>}
            {mail && mail.text && (
              <details className="bg-base-200 mt-1 rounded-[4px] px-3 py-1.5">
                <summary className="cursor-pointer [overflow-wrap:anywhere]">
                  {mail.to ? `To ${mail.to}` : 'To nobody yet'}
                </summary>
                <p className="mt-1 font-semibold">{mail.subject}</p>
                <p className="mt-1 [overflow-wrap:anywhere] whitespace-pre-wrap">{mail.text}</p>
              </details>
            )}
          </li>
        ))}
      </ol>
    </div>
  );
}
