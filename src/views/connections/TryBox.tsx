import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { AccountView, TryView } from '../../core/connections/view';
import { sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';

/** Tries an account: what was sent, what came back, and what that means. */
export function TryBox({ api, account }: { api: string; account: AccountView }) {
  const client = useQueryClient();
  const [clickId, setClickId] = useState('');
  const attempt = useMutation({
    mutationFn: () => sendJson<TryView>(`${api}/try`, { clickId }),
    onSettled: () => client.invalidateQueries(),
  });
  const isPlatform = account.does === 'platform';
  return (
    <div className="border-base-300 border-t px-5 py-4">
      <div className="flex flex-wrap items-center gap-3">
        <button type="button" className="button" disabled={attempt.isPending} onClick={() => attempt.mutate()}>
          {attempt.isPending ? 'Trying …' : `Try ${account.name}`}
        </button>
        {isPlatform ? (
          <label className="text-quiet flex items-center gap-2">
            sends one pretend row with the click ID
            <input
              className="field value w-40"
              value={clickId}
              placeholder="avrix-try"
              spellCheck={false}
              onChange={(event) => setClickId(event.target.value.trim())}
            />
          </label>
        ) : account.does === 'destination' ? (
          <span className="text-quiet">sends one pretend event</span>
        ) : (
          <span className="text-quiet">asks it one question, and keeps nothing of the answer</span>
        )}
      </div>
      {attempt.error && (
        <p role="alert" className="text-error mt-3">
          <Words text={attempt.error.message} />
        </p>
      )}
      {attempt.data && <Result tried={attempt.data} />}
    </div>
  );
}

export function Result({ tried: { request, answer, isGood, means } }: { tried: TryView }) {
  return (
    <div className="mt-3" role="status">
      <p className={isGood ? 'text-success font-semibold' : 'text-error font-semibold'}>{means}</p>
      <div className="@container mt-2">
        <div className="grid gap-3 @md:grid-cols-2">
          <Exchange
            heading="Sent"
            first={`${request.method} ${request.address}`}
            rest={[
              ...Object.entries(request.headers).map(([name, value]) => `${name}: ${value}`),
              ...(request.body ? ['', indented(request.body)] : []),
            ]}
          />
          <Exchange heading="Answered" first={answer.status} rest={answer.body ? ['', indented(answer.body)] : []} />
        </div>
      </div>
    </div>
  );
}

function Exchange({ heading, first, rest }: { heading: string; first: string; rest: string[] }) {
  return (
    <div className="min-w-0">
      <h3 className="text-quiet text-[12.5px] font-normal">{heading}</h3>
      <pre className="value bg-base-200 mt-1 max-h-72 overflow-auto rounded-[5px] p-2 text-[12px] whitespace-pre-wrap [overflow-wrap:anywhere]">
        {[first, ...rest].join('\n')}
      </pre>
    </div>
  );
}

function indented(text: string): string {
  try {
    return JSON.stringify(JSON.parse(text), null, 2);
  } catch {
    return text;
  }
}
