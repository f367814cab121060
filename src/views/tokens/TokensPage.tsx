import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { TokensView, TokenView } from '../../core/people/view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Confirm } from '../../ui/form/Confirm';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { FreshToken } from './FreshToken';
import { NewTokenForm } from './NewTokenForm';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  initial: TokensView;
}

/** The tokens by which programs speak to this business: made here, shown once, revoked at once. */
export function TokensPage(props: Props) {
  return (
    <Live>
      <LiveTokens {...props} />
    </Live>
  );
}

function LiveTokens({ business, initial }: Props) {
  const api = `/api/b/${business}/tokens`;
  const client = useQueryClient();
  const view = useView(api, initial);
  const [fresh, setFresh] = useState<string | null>(null);
  const readAnew = () => void client.invalidateQueries({ queryKey: [api] });
  const { timeZone } = view;
  const columns: Column<TokenView>[] = [
    {
      id: 'name',
      head: 'For',
      by: ({ name }) => name,
      cell: ({ name, begins, maker }) => (
        <>
          {name}
          <div className="text-quiet text-[12.5px]">
            <code className="value">{begins}…</code> by {maker}
          </div>
        </>
      ),
    },
    { id: 'rights', head: 'May', cell: ({ rights }) => rights },
    {
      id: 'made',
      head: 'Made',
      by: ({ madeAt }) => madeAt,
      cell: ({ madeAt }) => <Time iso={madeAt} timeZone={timeZone} far />,
    },
    {
      id: 'used',
      head: 'Last used',
      by: ({ usedAt }) => usedAt,
      cell: ({ usedAt }) => (usedAt ? <Time iso={usedAt} timeZone={timeZone} /> : 'never'),
    },
    {
      id: 'ends',
      head: 'Ends',
      by: ({ expiresAt }) => expiresAt,
      cell: ({ state, expiresAt }) =>
        state === 'revoked' ? (
          'revoked'
        ) : (
          <>
            {state === 'expired' && 'ended '}
            <Time iso={expiresAt} timeZone={timeZone} far />
          </>
        ),
    },
    {
      id: 'revoke',
      head: 'Revoke',
      isHeadHidden: true,
      className: 'text-right whitespace-nowrap',
      cell: ({ id, name, state }) => state === 'runs' && <Revoke api={`${api}/${id}`} name={name} onDone={readAnew} />,
    },
  ];
  return (
    <StationFrame sentence={view.sentence}>
      <div className="mt-5 grid grid-cols-1 items-start gap-4 xl:grid-cols-[1.9fr_1fr]">
        <DataTable
          label="Tokens"
          rows={view.rows}
          idOf={({ id }) => id}
          columns={columns}
          rowClass={({ state }) => (state === 'runs' ? '' : 'text-quiet')}
          none="Make the first one beside this; the call it is for is shown with it."
        />
        <div className="flex min-w-0 flex-col gap-4">
          {fresh && <FreshToken token={fresh} example={view.example} onDone={() => setFresh(null)} />}
          <NewTokenForm
            api={api}
            mayGive={view.mayGive}
            onMade={(token) => {
              setFresh(token);
              readAnew();
            }}
          />
          <p className="text-quiet text-[13px]">
            What can be asked for stands in{' '}
            <a href="/api/openapi.json" className="quiet-link">
              /api/openapi.json
            </a>
            , an OpenAPI 3.1 file.
          </p>
        </div>
      </div>
    </StationFrame>
  );
}

function Revoke({ api, name, onDone }: { api: string; name: string; onDone: () => void }) {
  const revoke = useMutation({ mutationFn: () => sendJson(`${api}/revoke`, {}), onSuccess: onDone });
  return (
    <>
      <Confirm
        words="Revoke"
        question={`Revoke the token “${name}”?`}
        does="Revoke now"
        onConfirm={() => revoke.mutate()}
      >
        Programs that use it are refused from then on. It cannot be given back; a new one can be made.
      </Confirm>
      {revoke.error && (
        <div className="text-error text-[12.5px]">
          <Words text={revoke.error.message} />
        </div>
      )}
    </>
  );
}
