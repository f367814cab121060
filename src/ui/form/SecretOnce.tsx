import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Copy } from '../text/Copy';
import { sendJson } from '../text/read';
import { Problem } from './Problem';

/** Makes a secret at an endpoint that answers with it this once. */
export function useMakeSecret(api: string, body: object = {}) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => sendJson<{ secret: string }>(api, body),
    onSuccess: () => client.invalidateQueries(),
  });
}

/**
 * A secret, shown once when it is made, with the button that makes or replaces it.
 * @param shownIn where it is shown instead, such as "the address"; '' for here
 */
export function SecretOnce({
  make,
  hasSecret,
  mayChange,
  disabled = false,
  shownIn = '',
}: {
  make: ReturnType<typeof useMakeSecret>;
  hasSecret: boolean;
  mayChange: boolean;
  disabled?: boolean;
  shownIn?: string;
}) {
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3">
      {make.data ? (
        <>
          <span role="status">
            {shownIn ? `The secret is in ${shownIn}, shown this once.` : 'Its secret, shown this once:'}
          </span>
          {!shownIn && (
            <>
              <code className="value [overflow-wrap:anywhere]">{make.data.secret}</code>
              <Copy text={make.data.secret} words="Copy secret" />
            </>
          )}
        </>
      ) : (
        <span>{hasSecret ? 'It has a secret.' : 'It has no secret yet, so nothing is taken.'}</span>
      )}
      {mayChange && !make.data && (
        <button type="button" className="button" disabled={disabled || make.isPending} onClick={() => make.mutate()}>
          {hasSecret ? 'Replace the secret' : 'Make a secret'}
        </button>
      )}
      <Problem text={make.error?.message} />
    </div>
  );
}
