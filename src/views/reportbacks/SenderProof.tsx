import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Problem } from '../../ui/form/Problem';
import { Cell, Part, Select } from '../../ui/form/rows';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import type { SenderPartProps } from './SenderParts';

/** The address that it posts to, and how it proves itself. */
export function SenderProof({ api, view, given, set, disabled }: SenderPartProps & { api: string }) {
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: () => sendJson<{ secret: string; address: string }>(`${api}/secret`, { id: view.id }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <Part
      heading="Where it posts"
      under="By POST as JSON or a form, one thing that happened or a list of them; or by GET, all in the query."
    >
      {view.address === '' ? (
        <p>Its address is made once you add it.</p>
      ) : (
        <div className="flex flex-wrap items-center gap-3">
          <code className="value [overflow-wrap:anywhere]">
            {make.data?.address ?? (given.proof === 'address' ? `${view.address}/…` : view.address)}
          </code>
          {(make.data || given.proof !== 'address') && <Copy text={make.data?.address ?? view.address} words="Copy" />}
        </div>
      )}
      <p className="mt-2 leading-[2.4]">
        It proves itself by{' '}
        <Select
          label="Proof"
          className="w-auto"
          value={given.proof}
          disabled={disabled}
          onChange={(proof) => set({ proof })}
          options={[
            ['address', 'the secret in its address'],
            ['token', 'the secret in a header'],
            ['hmac', 'HMAC-SHA256 of the body, in hex, in a header'],
          ]}
        />
        {given.proof !== 'address' && (
          <>
            {' '}
            called{' '}
            <Cell
              label="Header"
              className="w-44 leading-normal"
              value={given.header}
              disabled={disabled}
              onChange={(header) => set({ header })}
            />
          </>
        )}
        .
      </p>
      {view.address !== '' && (
        <div className="mt-1 flex flex-wrap items-center gap-3">
          {make.data ? (
            <>
              <span>
                {given.proof === 'address'
                  ? 'The secret is in the address, shown this once.'
                  : 'Its secret, shown this once:'}
              </span>
              {given.proof !== 'address' && (
                <>
                  <code className="value [overflow-wrap:anywhere]">{make.data.secret}</code>
                  <Copy text={make.data.secret} words="Copy secret" />
                </>
              )}
            </>
          ) : (
            <span>{view.hasSecret ? 'It has a secret.' : 'It has no secret yet, so nothing is taken.'}</span>
          )}
          {view.mayChange && !make.data && (
            <button type="button" className="button" disabled={make.isPending} onClick={() => make.mutate()}>
              {view.hasSecret ? 'Replace the secret' : 'Make a secret'}
            </button>
          )}
          <Problem text={make.error?.message} />
        </div>
      )}
      {view.lastAt && (
        <p className={view.lastProblem ? 'text-error mt-1' : 'text-quiet mt-1'}>
          Last posted <Time iso={view.lastAt} timeZone={view.timeZone} />
          {view.lastProblem ? `: ${view.lastProblem}` : ', and read.'}
        </p>
      )}
    </Part>
  );
}
