import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { BrakeActGiven } from '../../core/reportbacks/queue-schema';
import type { BrakeView } from '../../core/reportbacks/queue-view';
import { count, counted } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';

/** Groups that are held as one until somebody looked at them: what is odd about each, who caused it, and the two ways on. */
export function HeldAsOne({
  business,
  brakes,
  timeZone,
  mayChange,
}: {
  business: string;
  brakes: BrakeView[];
  timeZone: string;
  mayChange: boolean;
}) {
  const client = useQueryClient();
  const end = useMutation({
    mutationFn: (given: BrakeActGiven) => sendJson<{ done: number }>(`/api/b/${business}/report-backs/brake`, given),
    onSuccess: () => client.invalidateQueries(),
  });
  if (brakes.length === 0 && !end.data && !end.error) return null;
  return (
    <section aria-label="Held as one" className="mt-3 flex flex-col gap-3">
      {brakes.map(({ id, outcome, account, accountName, count: many, words, since, causes }) => (
        <div key={id} className="sheet flex flex-wrap items-start justify-between gap-x-6 gap-y-3 px-4 py-3">
          <div className="max-w-[70ch]">
            <p className="font-semibold">
              {count(many)} <code className="value">{outcome}</code> for {accountName}, held as one
            </p>
            <p className="mt-1">
              {words}{' '}
              <span className="text-quiet">
                Since <Time iso={since} timeZone={timeZone} />
                {causes.map(({ words: by, count: n }) => `; ${count(n)} ${by}`).join('')}.
              </span>
            </p>
          </div>
          <div className="flex flex-wrap gap-2">
            <a
              className="button"
              href={`/b/${business}/report-backs/queue?state=held&reason=brake&outcome=${outcome}&account=${account}`}
            >
              Look at them
            </a>
            {mayChange && (
              <>
                <button
                  type="button"
                  className="button"
                  disabled={end.isPending}
                  onClick={() => end.mutate({ id, act: 'withdraw' })}
                >
                  Withdraw {count(many)}
                </button>
                <button
                  type="button"
                  className="button button-strong"
                  disabled={end.isPending}
                  onClick={() => end.mutate({ id, act: 'let_go' })}
                >
                  Let {count(many)} go
                </button>
              </>
            )}
          </div>
        </div>
      ))}
      {end.data && (
        <p role="status">
          {counted(end.data.done, 'was', 'were')} {end.variables.act === 'let_go' ? 'let go' : 'withdrawn'}.
        </p>
      )}
      <Problem text={end.error?.message} />
    </section>
  );
}
