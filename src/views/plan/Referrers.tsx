import { useState } from 'react';
import type { ChannelsView } from '../../core/plan/view';
import { count } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Combobox } from '../../ui/pick/Combobox';
import { useDraft } from '../../ui/rule/useDraft';

type Referrer = ChannelsView['referrers'][number];

/** The names of channels that the plan has. */
export const channelsOf = ({ plan }: Pick<ChannelsView, 'plan'>): string[] => [
  ...new Set(plan.channels.map(({ channel }) => channel)),
];

/** Hosts that sent people without tags, each with the channel that it belongs to. */
export function Referrers({ business, view }: { business: string; view: ChannelsView }) {
  const draft = useDraft(business);
  const arrived = new Set(view.referrers.map(({ host }) => host));
  const rows: Referrer[] = [
    ...view.referrers,
    ...view.plan.referrers.filter(({ host }) => !arrived.has(host)).map((planned) => ({ ...planned, arrivals: 0 })),
  ];
  const set = (host: string, channel: string) =>
    draft.put.mutate([{ kind: 'referrer', id: host, value: channel ? { host, channel } : null }]);
  const columns: Column<Referrer>[] = [
    { id: 'host', head: 'Website', by: ({ host }) => host, cell: ({ host }) => <code className="value">{host}</code> },
    {
      id: 'arrivals',
      head: `Arrived in ${view.weeks} weeks`,
      by: ({ arrivals }) => arrivals,
      right: true,
      cell: ({ arrivals }) => (arrivals === 0 ? <span className="text-quiet">none</span> : count(arrivals)),
    },
    {
      id: 'channel',
      head: 'Channel',
      by: ({ channel }) => channel,
      className: 'w-64',
      cell: ({ host, channel }) => (
        <HostChannel
          key={channel}
          host={host}
          channel={channel ?? ''}
          channels={channelsOf(view)}
          mayChange={view.mayChange}
          onSet={(next) => set(host, next)}
        />
      ),
    },
  ];
  return (
    <section aria-label="Referrers">
      <h2 className="text-base">Arrivals without tags, by referrer</h2>
      <div className="mt-2">
        <DataTable
          rows={rows}
          idOf={({ host }) => host}
          columns={columns}
          start={{ by: 'arrivals', descending: true }}
          none={`Nobody came from another website without tags in ${view.weeks} weeks.`}
        />
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
  channels,
  mayChange,
  onSet,
}: {
  host: string;
  channel: string;
  channels: string[];
  mayChange: boolean;
  onSet: (channel: string) => void;
}) {
  const [text, setText] = useState(channel);
  return (
    <Combobox
      label={`Channel of ${host}`}
      value={text}
      choices={channels.map((value) => ({ value }))}
      isValue={false}
      placeholder="no channel yet"
      disabled={!mayChange}
      onChange={setText}
      onDone={(picked) => picked.trim() !== channel && onSet(picked.trim())}
    />
  );
}
