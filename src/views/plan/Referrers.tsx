import { useState } from 'react';
import type { ChannelsView } from '../../core/plan/view';
import { count } from '../../core/strands';
import { useDraft } from '../../ui/rule/useDraft';

/** Hosts that sent people without tags, each with the channel that it belongs to. */
export function Referrers({ business, view }: { business: string; view: ChannelsView }) {
  const draft = useDraft(business);
  const arrived = new Set(view.referrers.map(({ host }) => host));
  const quiet = view.plan.referrers.filter(({ host }) => !arrived.has(host));
  const set = (host: string, channel: string) =>
    draft.put.mutate([{ kind: 'referrer', id: host, value: channel ? { host, channel } : null }]);
  return (
    <section aria-label="Referrers">
      <h2 className="text-base">Who comes without tags, by referrer</h2>
      <div className="sheet mt-2">
        <table className="rows">
          <tbody>
            {view.referrers.map(({ host, arrivals, channel }) => (
              <tr key={host}>
                <td>
                  <code className="value">{host}</code>
                </td>
                <td className="text-right tabular-nums">{count(arrivals)}</td>
                <td className="w-64">
                  <HostChannel
                    key={channel}
                    host={host}
                    channel={channel ?? ''}
                    mayChange={view.mayChange}
                    onSet={(next) => set(host, next)}
                  />
                </td>
              </tr>
            ))}
            {quiet.map(({ host, channel }) => (
              <tr key={host}>
                <td>
                  <code className="value">{host}</code>
                </td>
                <td className="text-quiet text-right">none</td>
                <td>
                  <HostChannel
                    key={channel}
                    host={host}
                    channel={channel}
                    mayChange={view.mayChange}
                    onSet={(next) => set(host, next)}
                  />
                </td>
              </tr>
            ))}
            {view.referrers.length + quiet.length === 0 && (
              <tr>
                <td className="text-quiet">Nobody came from another website without tags in {view.weeks} weeks.</td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
      {draft.problem && (
        <p role="alert" className="text-error mt-2">
          {draft.problem}
        </p>
      )}
    </section>
  );
}

function HostChannel({
  host,
  channel,
  mayChange,
  onSet,
}: {
  host: string;
  channel: string;
  mayChange: boolean;
  onSet: (channel: string) => void;
}) {
  const [text, setText] = useState(channel);
  return (
    <input
      className="field w-full"
      aria-label={`Channel of ${host}`}
      value={text}
      list="channels"
      placeholder="no channel yet"
      disabled={!mayChange}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => text.trim() !== channel && onSet(text.trim())}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}
