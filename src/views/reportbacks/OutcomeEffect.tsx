import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { OutcomeRule } from '../../core/outcomes/schema';
import type { OutcomeEffectView, OutcomesView } from '../../core/outcomes/view';
import { count, counted } from '../../core/strands';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { useSettled } from '../../ui/rule/useSettled';
import { ApiProblem, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

/** What an outcome as it is written would have counted lately, what that is worth, and what each account would have been told. */
export function OutcomeEffect({ business, rule, view }: { business: string; rule: OutcomeRule; view: OutcomesView }) {
  const api = `/api/b/${business}/outcomes/effect`;
  const asked = useSettled(rule);
  // A code and a name change nothing of what is counted, and may be missing while it is written.
  const tried = { ...asked, code: asked.code || 'NEW-ONE', words: asked.words || 'new' };
  const { data, error } = useQuery({
    queryKey: [api, tried],
    queryFn: () => sendJson<OutcomeEffectView>(api, tried),
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (error instanceof ApiProblem)
    return <EffectSheet heading="Not complete yet" under={<Words text={error.fields[0]?.was ?? error.message} />} />;
  if (!data) return <EffectSheet heading={null} />;
  return (
    <EffectSheet
      heading={`In ${data.weeks} weeks it would have counted ${count(data.written)}`}
      under={
        <>
          of {counted(data.of, ...subjectsOf[rule.reachedBy.kind])}, staff and bots aside
          {data.live !== data.written && data.live > 0 && <>; the live version counts {count(data.live)}</>}
          {data.worth !== null && data.worth.length > 0 && <>, worth {data.worth.join(' and ')}</>}.
        </>
      }
    >
      {data.withoutAmount > 0 && (
        <p className="text-error mt-2">
          {counted(data.withoutAmount, 'of them lacks', 'of them lack')} the amount: no worth is told.
        </p>
      )}
      {data.clicks.length > 0 && (
        <ul className="mt-2">
          {data.clicks.map((one) => (
            <li key={one.platform}>
              {count(one.count)} came by a click of {one.words}
            </li>
          ))}
        </ul>
      )}
      {data.told.length > 0 && (
        <ul className="mt-2">
          {data.told.map((one) => (
            <li key={one.account}>
              {one.name} would be told of {count(one.times)}
              {one.worth !== null && one.worth.length > 0 && <>, worth {one.worth.join(' and ')}</>}
              {one.tooOld > 0 && (
                <span className="text-quiet">
                  ; {counted(one.tooOld, 'click is', 'clicks are')} {count(one.limitDays)} days old or older
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
      {data.newest.length > 0 && (
        <table className="rows mt-3">
          <tbody>
            {data.newest.map(({ id, words, href, at, worth }) => (
              <tr key={id}>
                <td className="px-0!">
                  {href ? (
                    <a className="quiet-link" href={`/b/${business}${href}`}>
                      {words}
                    </a>
                  ) : (
                    words
                  )}
                  <span className="text-quiet block text-[12.5px]">
                    <Time iso={at} timeZone={view.timeZone} />
                  </span>
                </td>
                <td className="px-0! text-right align-top whitespace-nowrap">{worth}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </EffectSheet>
  );
}

const subjectsOf: Record<OutcomeRule['reachedBy']['kind'], [one: string, many: string]> = {
  stage: ['record', 'records'],
  order: ['order', 'orders'],
  postback: ['order or subscription', 'orders and subscriptions'],
  field: ['record', 'records'],
  event: ['time it went off', 'times it went off'],
  page: ['time it was reached', 'times it was reached'],
  file: ['row of a file', 'rows of files'],
};
