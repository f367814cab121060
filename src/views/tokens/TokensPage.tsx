import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { TokensView, TokenView } from '../../core/people/view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { FreshToken } from './FreshToken';
import { NewTokenForm } from './NewTokenForm';

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
  return (
    <StationFrame sentence={view.sentence}>
      <div className="mt-5 grid grid-cols-1 items-start gap-4 xl:grid-cols-[1.9fr_1fr]">
        <section className="sheet overflow-x-auto" aria-label="Tokens">
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">For</th>
                <th scope="col">May</th>
                <th scope="col">Made</th>
                <th scope="col">Last used</th>
                <th scope="col">Ends</th>
                <th>
                  <span className="sr-only">Revoke</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {view.rows.map((token) => (
                <Row key={token.id} token={token} api={api} timeZone={view.timeZone} onDone={readAnew} />
              ))}
              {view.rows.length === 0 && (
                <tr>
                  <td colSpan={6} className="text-quiet">
                    Make the first one beside this; the call it is for is shown with it.
                  </td>
                </tr>
              )}
            </tbody>
          </table>
        </section>
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

interface RowProps {
  token: TokenView;
  api: string;
  timeZone: string;
  onDone(): void;
}

function Row({ token, api, timeZone, onDone }: RowProps) {
  const [asked, setAsked] = useState(false);
  const revoke = useMutation({
    mutationFn: () => sendJson(`${api}/${token.id}/revoke`, {}),
    onSuccess: onDone,
  });
  const ended = token.state !== 'runs';
  return (
    <tr className={ended ? 'text-quiet' : ''}>
      <td>
        {token.name}
        <div className="text-quiet text-[12.5px]">
          <code className="value">{token.begins}…</code> by {token.maker}
        </div>
      </td>
      <td>{token.rights}</td>
      <td>
        <Time iso={token.madeAt} timeZone={timeZone} far />
      </td>
      <td>{token.usedAt ? <Time iso={token.usedAt} timeZone={timeZone} /> : 'never'}</td>
      <td>
        {token.state === 'revoked' ? (
          'revoked'
        ) : (
          <>
            {token.state === 'over' && 'ended '}
            <Time iso={token.expiresAt} timeZone={timeZone} far />
          </>
        )}
      </td>
      <td className="text-right whitespace-nowrap">
        {!ended && !asked && (
          <button type="button" className="button" onClick={() => setAsked(true)}>
            Revoke
          </button>
        )}
        {!ended && asked && (
          <span className="inline-flex gap-2">
            <button type="button" className="button" onClick={() => setAsked(false)}>
              Keep it
            </button>
            <button
              type="button"
              className="button button-strong"
              disabled={revoke.isPending}
              onClick={() => revoke.mutate()}
            >
              Revoke now
            </button>
          </span>
        )}
        {revoke.error && <div className="text-error text-[12.5px]">{revoke.error.message}</div>}
      </td>
    </tr>
  );
}
