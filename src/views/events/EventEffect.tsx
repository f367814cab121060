import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { Cue, EventRule } from '../../core/events/schema';
import { lacksText } from '../../core/events/words';
import type { EventEffectView, EventsView } from '../../core/events/view';
import { count, counted } from '../../core/strands';
import { listed } from '../../core/listed';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { useSettled } from '../../ui/rule/useSettled';
import { ApiProblem, sendJson } from '../../ui/text/read';
import { dayWords } from '../../ui/text/time';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { DayBars } from './DayBars';

/** What an event as it is written would have caught of what is recorded, and what it just missed. */
export function EventEffect({
  business,
  rule,
  view,
  onTake,
}: {
  business: string;
  rule: EventRule;
  view: EventsView;
  /** Takes what was just missed into the rule. */
  onTake: (cue: Cue) => void;
}) {
  const api = `/api/b/${business}/events/effect`;
  const asked = useSettled(rule);
  // What people call it changes nothing of what is counted, and may be missing while it is written.
  const name = /^[a-z][a-z0-9_]*$/.test(asked.name) ? asked.name : 'new_event';
  const tried = { ...asked, name, words: asked.words || 'new' };
  const { data, error } = useQuery({
    queryKey: [api, tried],
    queryFn: () => sendJson<EventEffectView>(api, tried),
    placeholderData: keepPreviousData,
    retry: false,
    enabled: !asked.cues.some(lacksText),
  });
  if (rule.cues.some(lacksText))
    return <EffectSheet heading="Say what it waits for" under="What it would have caught is shown here at once." />;
  if (error instanceof ApiProblem)
    return <EffectSheet heading="Not complete yet" under={<Words text={error.fields[0]?.was ?? error.message} />} />;
  if (!data) return <EffectSheet heading={null} />;
  const isJudged = data.unjudged.length < rule.cues.length;
  return (
    <EffectSheet
      heading={
        isJudged
          ? `Caught ${count(data.written)} since ${dayWords(data.since.slice(0, 10))}`
          : 'It counts from its release on'
      }
      under={<Words text={underWords(data)} />}
    >
      {isJudged && <DayBars days={data.days} />}
      {data.newest.length > 0 && (
        <table className="rows mt-2">
          <tbody>
            {data.newest.map(({ id, words, href, at, reads }) => (
              <tr key={id}>
                <td className="px-0!">
                  {href ? (
                    <a className="quiet-link font-semibold" href={`/b/${business}${href}`}>
                      {words}
                    </a>
                  ) : (
                    <span className="font-semibold">{words}</span>
                  )}
                  <span className="text-quiet block text-[12.5px] [overflow-wrap:anywhere]">
                    {[...new Set(reads.flatMap(({ value }) => value || []))].join(', ')}
                  </span>
                </td>
                <td className="text-quiet px-0! text-right align-top text-[12.5px]">
                  <Time iso={at} timeZone={view.timeZone} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {data.missed.map(({ words, count: times, cue }) => (
        <p key={words} className="mt-2">
          <b className="font-semibold">Just missed {count(times)}:</b> somebody who <Words text={words} />.{' '}
          {view.mayChange && (
            <button type="button" className="quiet-link cursor-pointer" onClick={() => onTake(cue)}>
              Take it in
            </button>
          )}
        </p>
      ))}
    </EffectSheet>
  );
}

function underWords({ live, written, unknown, unjudged, recordedSince }: EventEffectView): string {
  const said = [
    ...(live !== null && live !== written ? [`The live version caught ${count(live)}.`] : []),
    ...(live !== null && live === written ? ['As many as the live version.'] : []),
    ...(unknown > 0
      ? [`${counted(unknown, 'moment', 'moments')} cannot be judged: what it reads there was not recorded.`]
      : []),
    ...(unjudged.length > 0 ? [`Not recorded before it is live: that somebody ${listed(unjudged, 'or')}.`] : []),
    ...(recordedSince === '' ? ['No press is recorded yet.'] : []),
    ...(recordedSince ? [`Presses are not recorded before ${dayWords(recordedSince.slice(0, 10))}.`] : []),
  ];
  return said.join(' ') || 'All recorded traffic could be judged.';
}
