import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { ToldEventRow, ToldEventsView } from '../../core/events/told';
import { tellingStates, tellingWords } from '../../core/events/telling-states';
import { ListPage } from '../../ui/list/ListPage';
import type { Column } from '../../ui/list/DataTable';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { eventsParts } from './EventsFrame';
import { Words } from '../../ui/text/Words';

/** Events as destinations were told them: each with what was sent, what was answered, and telling it again. */
export function ToldPage({ business, initial, search }: { business: string; initial: ToldEventsView; search: string }) {
  const columns = (timeZone: string): Column<ToldEventRow>[] => [
    {
      id: 'at',
      head: 'Happened',
      className: 'whitespace-nowrap w-36',
      cell: ({ at }) => <Time iso={at} timeZone={timeZone} />,
    },
    {
      id: 'event',
      head: 'Event',
      className: 'w-52',
      cell: ({ event, account }) => (
        <>
          <code className="value">{event}</code>
          <span className="text-quiet block text-[12.5px]">{account}</span>
        </>
      ),
    },
    {
      id: 'by',
      head: 'Told by',
      className: 'w-24',
      cell: ({ by }) => by,
    },
    {
      id: 'sent',
      head: 'What was sent',
      cell: ({ sent, eventId, by }) => (
        <>
          {sent.length > 0 ? (
            <span className="flex flex-wrap gap-x-2">
              {sent.map((part, at) => (
                <code key={at} className="value [overflow-wrap:anywhere]">
                  {part}
                </code>
              ))}
            </span>
          ) : (
            <span className="text-quiet">{by === 'page' ? 'by its opener' : 'nothing yet'}</span>
          )}
          <code className="value text-quiet block text-[11px] [overflow-wrap:anywhere]">{eventId}</code>
        </>
      ),
    },
    {
      id: 'state',
      head: 'Answer',
      className: 'w-[26%]',
      cell: (row) => <State business={business} row={row} timeZone={timeZone} />,
    },
  ];
  return (
    <ListPage
      api={`/api/b/${business}/events/told`}
      initial={initial}
      search={search}
      usualSort="at"
      finds="Event’s name"
      columns={columns}
      parts={eventsParts(business, 'Told')}
      under={<States business={business} search={search} />}
      first="An event appears here once it was told, or waits to be."
    />
  );
}

/** Narrows the list to how they stand; each has an address of its own. */
function States({ business, search }: { business: string; search: string }) {
  const given = new URLSearchParams(search);
  const current = given.get('state') ?? '';
  const to = (state: string) => {
    const next = new URLSearchParams(search);
    next.delete('page');
    if (state) next.set('state', state);
    else next.delete('state');
    return `/b/${business}/events/told${next.size > 0 ? `?${next}` : ''}`;
  };
  const wired = given.get('event') || given.get('account');
  return (
    <p className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1">
      {(['', ...tellingStates] as const).map((state) => (
        <a
          key={state}
          href={to(state)}
          aria-current={state === current ? 'page' : undefined}
          className={state === current ? 'font-semibold' : 'quiet-link'}
        >
          {state ? tellingWords[state] : 'all'}
        </a>
      ))}
      {wired && (
        <a className="quiet-link ml-auto" href={`/b/${business}/events/told`}>
          Events of every wire
        </a>
      )}
    </p>
  );
}

function State({ business, row, timeZone }: { business: string; row: ToldEventRow; timeZone: string }) {
  const client = useQueryClient();
  const { state, reason, toldAt, tries, id } = row;
  const again = useMutation({
    mutationFn: () => sendJson(`/api/b/${business}/events/told/again`, { ids: [id] }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <>
      <span className={state === 'refused' ? 'text-error' : ''}>{tellingWords[state]}</span>
      {toldAt && (
        <span className="text-quiet">
          , <Time iso={toldAt} timeZone={timeZone} />
        </span>
      )}
      {tries > 1 && <span className="text-quiet">, {tries} tries</span>}
      {reason && <span className="block text-[12.5px] [overflow-wrap:anywhere]">{reason}</span>}
      {row.mayTellAgain && (
        <button
          type="button"
          className="quiet-link block text-[12.5px]"
          disabled={again.isPending}
          onClick={() => again.mutate()}
        >
          Tell it again
        </button>
      )}
      {again.error && (
        <span className="text-error block text-[12.5px]">
          <Words text={again.error.message} />
        </span>
      )}
    </>
  );
}
