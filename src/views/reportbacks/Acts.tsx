import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { LeftAlone, ReportBackAct } from '../../core/reportbacks/acts';
import type { ActedView } from '../../core/reportbacks/queue-view';
import { count, counted } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { sendJson } from '../../ui/text/read';

/** What is done with report-backs: some of them, or all of a list. */
export type Chosen = { ids: string[] } | { list: Record<string, string> };

const actWords: Record<ReportBackAct, string> = {
  hold: 'Hold',
  let_go: 'Let go',
  tell_now: 'Tell now',
  withdraw: 'Withdraw',
  tell_again: 'Tell again',
};
const doneWords: Record<ReportBackAct, string> = {
  hold: 'held',
  let_go: 'let go',
  tell_now: 'told now',
  withdraw: 'withdrawn',
  tell_again: 'told again',
};
const leftWords: Record<LeftAlone, string> = {
  'being told': 'being told at this moment',
  'told already': 'told already: only a correction changes them',
  unsure: 'unsure: say first whether the platform has them',
  'held already': 'held by somebody already',
  'not held by a person': 'not held by a person',
  'held for a reason': 'held for a reason, which is fixed first',
  'due already': 'due already',
  withdrawn: 'withdrawn',
  refused: 'refused: they can be told again or withdrawn',
  'not refused': 'neither refused nor withdrawn',
};

/** What can be done with the chosen report-backs: what it would do is said before it is done. */
export function Acts({
  business,
  chosen,
  acts,
  onDone,
}: {
  business: string;
  chosen: Chosen;
  acts: readonly ReportBackAct[];
  onDone?: () => void;
}) {
  const client = useQueryClient();
  const send = (act: ReportBackAct, isTried: boolean) =>
    sendJson<ActedView>(`/api/b/${business}/report-backs/act`, { act, ...chosen, isTried });
  const tried = useMutation({ mutationFn: async (act: ReportBackAct) => ({ act, ...(await send(act, true)) }) });
  const done = useMutation({
    mutationFn: async (act: ReportBackAct) => ({ act, ...(await send(act, false)) }),
    onSuccess: () => {
      tried.reset();
      onDone?.();
      return client.invalidateQueries();
    },
  });
  const would = tried.data;
  return (
    <div>
      {!would && (
        <div className="flex flex-wrap gap-2">
          {acts.map((act) => (
            <button
              key={act}
              type="button"
              className="button"
              disabled={tried.isPending}
              onClick={() => tried.mutate(act)}
            >
              {actWords[act]}
            </button>
          ))}
        </div>
      )}
      {would && (
        <div role="status" className="flex flex-wrap items-center gap-3">
          <span>
            {would.done === 0 ? 'None' : counted(would.done, 'report-back', 'report-backs')} would be{' '}
            {doneWords[would.act]}
            {would.left.map(({ because, count: n }) => `; ${count(n)} ${leftWords[because]}`).join('')}.
          </span>
          {would.done > 0 && (
            <button
              type="button"
              className="button button-strong"
              disabled={done.isPending}
              onClick={() => done.mutate(would.act)}
            >
              {actWords[would.act]} {count(would.done)}
            </button>
          )}
          <button type="button" className="button" onClick={() => tried.reset()}>
            Cancel
          </button>
        </div>
      )}
      {done.data && !would && (
        <p role="status" className="text-quiet mt-1 text-[13px]">
          {counted(done.data.done, 'was', 'were')} {doneWords[done.data.act]}.
        </p>
      )}
      <Problem text={tried.error?.message ?? done.error?.message} />
    </div>
  );
}
