import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { ValueRule } from '../../core/capture';
import type { CaptureBase, KeptTrafficView } from '../../core/capture/station-view';
import { count, counted } from '../../core/strands';
import { sendJson } from '../../ui/text/read';
import { shortTime } from '../../ui/text/time';

const settleAfter = 250;

/** What a keep rule would have kept in the recorded traffic, at once, while it is being written. */
export function KeptTraffic({ business, rule, view }: { business: string; rule: ValueRule; view: CaptureBase }) {
  const [asked, setAsked] = useState(rule);
  useEffect(() => {
    const wait = setTimeout(() => setAsked(rule), settleAfter);
    return () => clearTimeout(wait);
  }, [rule]);
  const { data } = useQuery({
    queryKey: ['kept-traffic', business, asked],
    queryFn: () => sendJson(`/api/b/${business}/capture/kept-traffic`, asked) as Promise<KeptTrafficView>,
    enabled: asked.name !== '',
    placeholderData: keepPreviousData,
  });
  if (rule.name === '')
    return <p className="text-quiet px-5 pb-4">Name the value, and what arrived shows what the rule would keep.</p>;
  if (!data) return <p className="text-quiet px-5 pb-4">Looking through what arrived …</p>;
  const looked = data.since ? `Since ${shortTime(data.since, view.timeZone)}` : `In ${view.weeks} weeks`;
  return (
    <p className="px-5 pb-4" role="status">
      {data.arrivals === 0 ? (
        <span className="text-quiet">
          {looked} no arrival brought <code className="value">{rule.name}</code>.
        </span>
      ) : (
        <>
          {looked} {counted(data.arrivals, 'arrival', 'arrivals')} brought it; {count(data.kept)} would be kept
          {data.odd > 0 && `, ${count(data.odd)} not, for what the rule does not expect`}. Last:{' '}
          {data.last.map(({ value, keeps }, at) => (
            <span key={at}>
              {at > 0 && ', '}
              <code className={`value ${keeps ? '' : 'line-through'}`}>{value}</code>
            </span>
          ))}
          .
        </>
      )}
    </p>
  );
}
