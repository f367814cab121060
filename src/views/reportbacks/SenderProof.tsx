import { Cell, Part, Select } from '../../ui/form/rows';
import { SecretOnce, useMakeSecret } from '../../ui/form/SecretOnce';
import { Copy } from '../../ui/text/Copy';
import { Time } from '../../ui/text/Time';
import type { SenderPartProps } from './SenderParts';

/** The address that it posts to, and how it proves itself. */
export function SenderProof({ api, view, given, set, disabled }: SenderPartProps & { api: string }) {
  const make = useMakeSecret(`${api}/secret`, { id: view.id });
  const [secret, isInAddress] = [make.data?.secret, given.proof === 'address'];
  const address = isInAddress ? `${view.address}/${secret ?? '…'}` : view.address;
  return (
    <Part
      heading="Where it posts"
      under="By POST as JSON or a form, one thing that happened or a list of them; or by GET, all in the query."
    >
      {view.address === '' ? (
        <p>Its address is made once you add it.</p>
      ) : (
        <div className="flex flex-wrap items-center gap-3">
          <code className="value [overflow-wrap:anywhere]">{address}</code>
          {(secret || !isInAddress) && <Copy text={address} words="Copy" />}
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
        <SecretOnce
          make={make}
          hasSecret={view.hasSecret}
          mayChange={view.mayChange}
          shownIn={given.proof === 'address' ? 'the address' : ''}
        />
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
