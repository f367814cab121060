import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { AccountView, ArrivalsView } from '../../core/connections/view';
import { counted } from '../../core/strands';
import { FileButton } from '../../ui/files/FileButton';
import { readJson, sendFile, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';

const betweenReads = 4000;
const waysWords = { webhook: 'sent', list: 'from its list', file: 'from a file' } as const;

/** The newest records that came from an own CRM: what was read of each, and what was not. */
export function Arrivals({
  business,
  account,
  mayChange,
}: {
  business: string;
  account: AccountView;
  mayChange: boolean;
}) {
  const client = useQueryClient();
  const api = `/api/b/${business}/connections/accounts/${account.id}`;
  const { data } = useQuery({
    queryKey: [`${api}/arrivals`],
    queryFn: () => readJson<ArrivalsView>(`${api}/arrivals`),
    refetchInterval: betweenReads,
  });
  const again = useMutation({
    mutationFn: () => sendJson<{ taken: number }>(`${api}/arrivals/again`, {}),
    onSuccess: () => client.invalidateQueries(),
  });
  const file = useMutation({
    mutationFn: (one: File) =>
      sendFile<{ taken: number; refused: { row: string; was: string; fix: string }[] }>(`${api}/file`, one),
    onSuccess: () => client.invalidateQueries(),
  });
  if (!data) return null;
  const unread = data.arrivals.filter(({ problem }) => problem !== '').length;
  return (
    <section className="sheet" aria-label="What arrived">
      <div className="flex flex-wrap items-baseline justify-between gap-3 px-5 pt-4">
        <h2 className="text-base">
          {data.arrivals.length === 0
            ? 'Nothing has arrived yet.'
            : `The last ${counted(data.arrivals.length, 'record', 'records')} that arrived`}
        </h2>
        <span className="flex gap-2">
          {mayChange && unread > 0 && (
            <button type="button" className="button" disabled={again.isPending} onClick={() => again.mutate()}>
              Read {unread} again
            </button>
          )}
          {mayChange && <FileButton words="Import a file" accept=".csv,.xlsx" onFile={(one) => file.mutate(one)} />}
        </span>
      </div>
      {data.hook && (
        <p className="text-quiet px-5 pt-1 text-[13px]">
          It sends to <code className="value [overflow-wrap:anywhere]">{data.hook}</code>
        </p>
      )}
      {(again.error ?? file.error) && (
        <p role="alert" className="text-error px-5 pt-2">
          {(again.error ?? file.error)?.message}
        </p>
      )}
      {file.data && (
        <div role="status" className="px-5 pt-2">
          {counted(file.data.taken, 'record was', 'records were')} taken
          {file.data.refused.length > 0 && `, ${file.data.refused.length} not`}.
          <ul className="text-error">
            {file.data.refused.slice(0, 20).map(({ row, was, fix }) => (
              <li key={row}>
                {row}: {was}. {fix}
              </li>
            ))}
          </ul>
        </div>
      )}
      <ul className="pt-2 pb-2">
        {data.arrivals.map(({ id, receivedAt, cameBy, problem, parts }) => (
          <li key={id} className="border-base-300 border-t px-5 py-2.5">
            <p className="text-quiet text-[12.5px]">
              <Time iso={receivedAt} timeZone={data.timeZone} />, {waysWords[cameBy]}
            </p>
            {problem && <p className="text-error">{problem}</p>}
            <p className="flex flex-wrap gap-x-4 gap-y-0.5">
              {parts.map(({ words, at, value }) => (
                <span key={`${words} ${at}`} title={at}>
                  <span className="text-quiet">{words}</span>{' '}
                  {value === '' ? (
                    <span className="text-error">no value</span>
                  ) : (
                    <code className="value [overflow-wrap:anywhere]">{value.slice(0, 80)}</code>
                  )}
                </span>
              ))}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}
