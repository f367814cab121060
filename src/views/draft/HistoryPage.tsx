import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { HistoryView, ReleaseView } from '../../core/releases/view';
import { counted } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live, pageRead } from '../../ui/live/Live';
import { sayDraftChanged } from '../../ui/rule/draft-changed';
import { useAddressPart } from '../../ui/address/useAddressPart';
import { readJson, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  initial: HistoryView;
  /** Query of the page at its first drawing. */
  search: string;
}

/** Every release with who made it when and the sentences it changed, and the way back. */
export function HistoryPage(props: Props) {
  return (
    <Live>
      <History {...props} />
    </Live>
  );
}

function History({ business, initial, search }: Props) {
  const api = `/api/b/${business}/releases`;
  const client = useQueryClient();
  const [before, setBefore] = useAddressPart('before', search);
  const { data: view = initial } = useQuery({
    queryKey: [api, before],
    queryFn: () => readJson<HistoryView>(before ? `${api}?before=${before}` : api),
    ...(before === (new URLSearchParams(search).get('before') ?? '') ? { initialData: initial } : {}),
    placeholderData: keepPreviousData,
    meta: pageRead,
  });
  const [made, setMade] = useState<number | null>(null);
  const back = useMutation({
    mutationFn: (number: number) => sendJson(`${api}/back`, { number }) as Promise<{ number: number }>,
    onSuccess: ({ number }) => {
      setMade(number);
      sayDraftChanged();
      return client.invalidateQueries();
    },
  });
  return (
    <StationFrame
      sentence={view.sentence}
      actions={
        <a className="button" href={`/b/${business}/not-live`}>
          What is not live
        </a>
      }
    >
      {made !== null && (
        <p className="text-success mt-3 font-semibold" role="status">
          Release {made} is live. Pages that are opened from now on work by it.
        </p>
      )}
      {back.error && (
        <p role="alert" className="text-error mt-3">
          <Words text={back.error.message} />
        </p>
      )}
      <ol className="sheet mt-5">
        {view.releases.map((one) => (
          <Release
            key={one.number}
            release={one}
            timeZone={view.timeZone}
            mayTakeBack={view.mayRelease && one.changes.length > 0 && !one.isTakenBack}
            busy={back.isPending}
            onTakeBack={() => back.mutate(one.number)}
          />
        ))}
      </ol>
      <div className="mt-3 flex gap-2">
        {before && (
          <button type="button" className="button" onClick={() => setBefore('')}>
            Newest
          </button>
        )}
        {view.older !== null && (
          <button type="button" className="button" onClick={() => setBefore(String(view.older))}>
            Older
          </button>
        )}
      </div>
    </StationFrame>
  );
}

function Release({
  release: { number, name, madeAt, by, changes, isTakenBack },
  timeZone,
  mayTakeBack,
  busy,
  onTakeBack,
}: {
  release: ReleaseView;
  timeZone: string;
  mayTakeBack: boolean;
  busy: boolean;
  onTakeBack: () => void;
}) {
  return (
    <li className="border-base-300 border-b px-5 py-4 last:border-0" aria-label={`Release ${number}`}>
      <div className="flex items-start justify-between gap-6">
        <div className="min-w-0">
          <h2 className="text-base [overflow-wrap:anywhere]">
            {number} · {name}
          </h2>
          <p className="text-quiet text-[12.5px]">
            <Time iso={madeAt} timeZone={timeZone} />
            {by && `, by ${by}`}
            {isTakenBack && ', taken back since'}
            {changes.length === 0 && ', came with the business'}
          </p>
        </div>
        {mayTakeBack && (
          <button type="button" className="button shrink-0" disabled={busy} onClick={onTakeBack}>
            Take back {counted(changes.length, 'rule', 'rules')}
          </button>
        )}
      </div>
      {changes.map(({ kind, id, station, before, after, details }) => (
        <div key={`${kind} ${id}`} className="mt-2">
          <p className="text-quiet text-[12.5px]">
            {station} · {before === null ? 'new' : after === null ? 'taken out' : 'changed'}
          </p>
          {before !== null && before !== after && (
            <p className="text-quiet line-through decoration-1">
              <Words text={before} />
            </p>
          )}
          {after !== null && (
            <p>
              <Words text={after} />
            </p>
          )}
          {details.map((text) => (
            <p key={text} className="mt-0.5">
              <Words text={text} />
            </p>
          ))}
        </div>
      ))}
    </li>
  );
}
