import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { RoutineMeans } from '../../core/leads/routines/routine';
import type { RoutineDo } from '../../core/leads/routines/schema';
import type { RoutinesView, RoutineView, TakesEffectView } from '../../core/leads/routines/view';
import { count, counted } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';

/** Whether a routine runs, and what can be done about it. */
export function RoutineDoes({
  api,
  view,
  stored,
  isWritten,
  means,
}: {
  api: string;
  view: RoutinesView;
  stored: RoutineView;
  isWritten: boolean;
  means: RoutineMeans;
}) {
  const client = useQueryClient();
  const act = useMutation({
    mutationFn: (given: Pick<RoutineDo, 'what' | 'those'>) =>
      sendJson<RoutinesView>(`${api}/act`, { id: stored.id, ...given }),
    onSuccess: (next) => {
      client.setQueryData([api], next);
      return client.invalidateQueries();
    },
  });
  const { data: effect } = useQuery({
    queryKey: ['routine takes', api, JSON.stringify(means.takes)],
    queryFn: () => sendJson<TakesEffectView>(`${api}/effect`, { takes: means.takes }),
    enabled: stored.state === 'draft' && !isWritten,
  });
  const doIt =
    (what: RoutineDo['what'], those = false) =>
    () =>
      act.mutate({ what, those });
  const disabled = act.isPending || isWritten;
  return (
    <div className="border-base-300 flex flex-wrap items-center gap-x-4 gap-y-2 border-t px-5 py-3">
      <p className="mr-auto">
        <State stored={stored} timeZone={view.timeZone} />
      </p>
      {view.mayChange && (
        <>
          {stored.state === 'draft' && (
            <>
              <button type="button" className="button button-strong" disabled={disabled} onClick={doIt('start')}>
                Start for new leads
              </button>
              {effect && effect.now > 0 && (
                <button type="button" className="button" disabled={disabled} onClick={doIt('start', true)}>
                  Start, and take {count(effect.now)} there are
                </button>
              )}
            </>
          )}
          {stored.state === 'braked' && (
            <>
              <button type="button" className="button button-strong" disabled={disabled} onClick={doIt('take')}>
                Take {count(stored.heldBack)}
              </button>
              <button type="button" className="button" disabled={disabled} onClick={doIt('pass_over')}>
                Pass {count(stored.heldBack)} over
              </button>
            </>
          )}
          {(stored.state === 'running' || stored.state === 'braked') && (
            <button type="button" className="button" disabled={disabled} onClick={doIt('pause')}>
              Pause
            </button>
          )}
          {stored.state === 'paused' && (
            <button type="button" className="button button-strong" disabled={disabled} onClick={doIt('go_on')}>
              {stored.dueNow > 0 ? `Go on, with ${counted(stored.dueNow, 'step', 'steps')} due now` : 'Go on'}
            </button>
          )}
          <button
            type="button"
            className="quiet-link cursor-pointer"
            disabled={disabled}
            onClick={doIt(stored.state === 'retired' ? 'use_again' : 'retire')}
          >
            {stored.state === 'retired'
              ? 'Use again'
              : stored.going > 0
                ? `Retire, and let ${count(stored.going)} go`
                : 'Retire'}
          </button>
        </>
      )}
      {isWritten && stored.state === 'draft' && <span className="text-quiet">Save it before it starts.</span>}
      <Problem text={act.error?.message} />
    </div>
  );
}

function State({ stored, timeZone }: { stored: RoutineView; timeZone: string }) {
  const { state, startedAt, going, done, letGo, heldBack } = stored;
  const counts = `${count(going)} on the way, ${count(done)} done, ${count(letGo)} let go`;
  switch (state) {
    case 'draft':
      return 'Not started: nothing is sent or set.';
    case 'braked':
      return `${counted(heldBack, 'lead', 'leads')} came within an hour and wait for you. ${counts}.`;
    case 'paused':
      return `Paused: ${counts}.`;
    case 'retired':
      return `Retired: ${counts}.`;
    case 'running':
      return (
        <>
          Running
          {startedAt && (
            <>
              {' '}
              since <Time iso={startedAt} timeZone={timeZone} />
            </>
          )}
          : {counts}.
        </>
      );
  }
}
