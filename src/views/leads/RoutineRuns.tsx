import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ActState, RoutinesView, RoutineView, RunsView, RunView } from '../../core/leads/routines/view';
import { count } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { readJson, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  api: string;
  view: RoutinesView;
  stored: RoutineView;
}

/** Who is in a routine, at which step, and what was done with each. */
export function RoutineRuns({ business, api, view, stored }: Props) {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: [`${api}/runs`, stored.id],
    queryFn: () => readJson<RunsView>(`${api}/runs?id=${stored.id}`),
    refetchInterval: 5000,
  });
  const send = useMutation({
    mutationFn: ([path, body]: [path: string, body: object]) => sendJson(`${api}/${path}`, body),
    onSuccess: () => client.invalidateQueries(),
  });
  const stepOf = (id: string) => stored.means.steps.findIndex((step) => step.id === id) + 1;
  const columns: Column<RunView>[] = [
    {
      id: 'lead',
      head: 'Lead',
      by: ({ lead }) => lead,
      cell: ({ lead, enquiryId }) => (
        <a href={`/b/${business}/leads/${enquiryId}`} className="quiet-link font-semibold">
          {lead}
        </a>
      ),
    },
    {
      id: 'began',
      head: 'Taken',
      by: ({ beganAt }) => beganAt,
      className: 'whitespace-nowrap',
      cell: ({ beganAt }) => <Time iso={beganAt} timeZone={view.timeZone} />,
    },
    {
      id: 'done',
      head: 'Done',
      cell: ({ acts }) => (
        <Acts
          acts={acts}
          timeZone={view.timeZone}
          mayChange={view.mayChange}
          onSay={(act, arrived) => send.mutate(['unsure', { act, arrived }])}
        />
      ),
    },
    {
      id: 'next',
      head: 'Next',
      by: ({ state, dueAt }) => (state === 'going' ? (dueAt ?? '') : '~'),
      cell: (run) => <Next run={run} step={stepOf(run.step)} timeZone={view.timeZone} />,
    },
    {
      id: 'end',
      head: 'Let it go',
      isHeadHidden: true,
      right: true,
      cell: ({ id, state, lead }) =>
        state === 'going' &&
        view.mayChange && (
          <button
            type="button"
            className="quiet-link cursor-pointer whitespace-nowrap"
            aria-label={`Let go of ${lead}`}
            onClick={() => send.mutate(['runs/end', { run: id }])}
          >
            Let go
          </button>
        ),
    },
  ];
  const runs = data?.runs ?? [];
  return (
    <section aria-label="Who is in it">
      <h2 className="mb-2 text-base">
        Who is in it
        {data && data.total > runs.length && (
          <span className="text-quiet ml-2 text-[13px] font-normal">
            the newest {count(runs.length)} of {count(data.total)}
          </span>
        )}
      </h2>
      <Problem text={send.error?.message} />
      <DataTable
        rows={runs}
        idOf={({ id }) => id}
        columns={columns}
        finds={{ what: 'a lead', label: 'Find a lead in this routine', in: ({ lead }) => lead }}
        none={
          data === undefined
            ? 'Looking who is in it …'
            : stored.state === 'draft'
              ? 'Nobody: it is not started.'
              : 'It has taken nobody yet.'
        }
      />
    </section>
  );
}

const stateWords: Record<ActState, string> = {
  waiting: 'waits',
  begun: 'going out now',
  done: '',
  unsure: 'nobody knows whether it arrived',
  refused: 'refused',
  left_out: 'left out',
  again: 'sent again soon',
};

function Acts({
  acts,
  timeZone,
  mayChange,
  onSay,
}: {
  acts: RunView['acts'];
  timeZone: string;
  mayChange: boolean;
  onSay: (act: string, arrived: boolean) => void;
}) {
  const done = acts.filter(({ state }) => state !== 'waiting');
  if (done.length === 0) return <span className="text-quiet">nothing yet</span>;
  return (
    <ul>
      {done.map(({ id, at, state, words, answer }) => (
        <li key={id}>
          <Words text={words || 'A step'} />
          {stateWords[state] && (
            <span className={state === 'left_out' ? 'text-quiet' : 'text-error'}>
              {' '}
              {stateWords[state]}
              {(state === 'refused' || state === 'left_out') && answer ? `: ${answer}` : ''}
            </span>
          )}{' '}
          <span className="text-quiet whitespace-nowrap">
            <Time iso={at} timeZone={timeZone} />
          </span>
          {state === 'unsure' && mayChange && (
            <span className="ml-2 whitespace-nowrap">
              <button type="button" className="quiet-link cursor-pointer" onClick={() => onSay(id, true)}>
                It arrived
              </button>{' '}
              <button type="button" className="quiet-link cursor-pointer" onClick={() => onSay(id, false)}>
                Send again
              </button>
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}

function Next({
  run: { state, dueAt, endedAt, why },
  step,
  timeZone,
}: {
  run: RunView;
  step: number;
  timeZone: string;
}) {
  if (state === 'done') return <span className="text-quiet">done</span>;
  if (state === 'let_go')
    return (
      <>
        let go: {why}
        {endedAt && (
          <span className="text-quiet">
            , <Time iso={endedAt} timeZone={timeZone} />
          </span>
        )}
      </>
    );
  return (
    <>
      step {step}
      {dueAt && (
        <>
          , <Time iso={dueAt} timeZone={timeZone} />
        </>
      )}
      {why && <span className="text-error block">waits: {why}</span>}
    </>
  );
}
