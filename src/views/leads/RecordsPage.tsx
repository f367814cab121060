import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { JoinedBy } from '../../core/leads';
import type {
  ApartView,
  JoinedView,
  OddDealView,
  PairGiven,
  RecordsView,
  SharedView,
} from '../../core/leads/records-view';
import { count } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

import { leadsParts } from './LeadsFrame';
import { RecordLink } from './RecordLink';

interface Props {
  business: string;
  initial: RecordsView;
}

/** Which records are one person's, what several people share, and what the CRM did to its deals. */
export function RecordsPage(props: Props) {
  return (
    <Live>
      <Records {...props} />
    </Live>
  );
}

const joinedWords: Record<JoinedBy, string> = {
  record: 'merged in the CRM',
  mail: 'same email',
  telephone: 'same telephone number',
  hand: 'joined by hand',
};
const oddWords: Record<OddDealView['kind'], string> = {
  merged: 'Merged',
  deleted: 'Deleted',
  skipped: 'Passed over',
  'moved back': 'Moved back',
};

function Records({ business, initial }: Props) {
  const api = `/api/b/${business}/leads/records`;
  const client = useQueryClient();
  const view = useView(api, initial);
  const pair = useMutation({
    mutationFn: (given: PairGiven) => sendJson<RecordsView>(`${api}/pairs`, given),
    onSuccess: (next) => client.setQueryData([api], next),
  });
  const setPair = view.mayChange ? (given: PairGiven) => pair.mutate(given) : null;
  const { timeZone } = view;
  return (
    <StationFrame sentence={view.sentence} parts={leadsParts(business, 'Records')}>
      <Problem text={pair.error?.message} />
      <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[1.25fr_1fr]">
        <div className="flex min-w-0 flex-col gap-4">
          <Joined
            business={business}
            timeZone={timeZone}
            setPair={setPair}
            rows={view.joined}
            total={view.totals.joined}
          />
          <Apart business={business} timeZone={timeZone} setPair={setPair} rows={view.apart} />
          <Shared business={business} setPair={setPair} rows={view.shared} total={view.totals.shared} />
        </div>
        <section aria-label="Deals in the CRM" className="min-w-0">
          <h2 className="text-base">What the CRM did to its deals</h2>
          <p className="text-quiet mb-2 text-[13px]">
            {view.lookedAt === 0
              ? 'No deal was read yet.'
              : `Of the newest ${count(view.lookedAt)} deals. A stage passed over counts as reached; going back and forth counts once. ${shownOf(view.odd.length, view.totals.odd)}`}
          </p>
          <DataTable
            label="Odd deals"
            rows={view.odd}
            idOf={({ id }) => id}
            columns={oddColumns(business, timeZone)}
            finds={{
              what: 'Company, number, stage',
              label: 'Find',
              in: (row) => `${oddWords[row.kind]} ${row.words} ${row.number} ${row.text}`,
            }}
            none="None was merged, deleted, moved back or moved past a stage."
          />
        </section>
      </div>
    </StationFrame>
  );
}

type SetPair = ((given: PairGiven) => void) | null;

/** "the newest 100 of 240", where not all are shown. */
const shownOf = (shown: number, total: number): string =>
  shown < total ? `The newest ${count(shown)} of ${count(total)}.` : '';

function Joined({
  business,
  rows,
  total,
  timeZone,
  setPair,
}: {
  business: string;
  rows: JoinedView[];
  total: number;
  timeZone: string;
  setPair: SetPair;
}) {
  return (
    <section aria-label="Joined records" className="sheet px-5 py-4">
      <h2 className="text-base">Several records, one person</h2>
      <p className="text-quiet mt-0.5 text-[13px] empty:hidden">{shownOf(rows.length, total)}</p>
      {rows.length === 0 && <p className="text-quiet mt-1">None so far.</p>}
      <ul className="mt-2 flex flex-col gap-3">
        {rows.map((person) => (
          <li key={person.id}>
            <RecordLink business={business} {...person} />
            <ul className="border-base-300 mt-1 border-l pl-3">
              {person.others.map((record) => (
                <li key={record.id} className="flex flex-wrap items-baseline justify-between gap-x-4">
                  <span>
                    and <RecordLink business={business} {...record} />
                    <span className="text-quiet text-[13px]">
                      , {joinedWords[record.by]}, <Time iso={record.at} timeZone={timeZone} />
                    </span>
                  </span>
                  {setPair && record.mayPart && (
                    <button
                      type="button"
                      className="quiet-link cursor-pointer whitespace-nowrap"
                      onClick={() => setPair({ one: person.id, other: record.id, are: 'apart' })}
                    >
                      Keep apart
                    </button>
                  )}
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Apart({
  business,
  rows,
  timeZone,
  setPair,
}: {
  business: string;
  rows: ApartView[];
  timeZone: string;
  setPair: SetPair;
}) {
  if (rows.length === 0) return null;
  return (
    <section aria-label="Kept apart" className="sheet px-5 py-4">
      <h2 className="text-base">Kept apart by hand</h2>
      <ul className="mt-2 flex flex-col gap-1">
        {rows.map(({ one, other, by, at }) => (
          <li key={`${one.id} ${other.id}`} className="flex flex-wrap items-baseline justify-between gap-x-4">
            <span>
              <RecordLink business={business} {...one} /> and <RecordLink business={business} {...other} />
              <span className="text-quiet text-[13px]">
                , by {by}, <Time iso={at} timeZone={timeZone} />
              </span>
            </span>
            {setPair && (
              <button
                type="button"
                className="quiet-link cursor-pointer whitespace-nowrap"
                onClick={() => setPair({ one: one.id, other: other.id, are: 'as the rules say' })}
              >
                Undo
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Shared({
  business,
  rows,
  total,
  setPair,
}: {
  business: string;
  rows: SharedView[];
  total: number;
  setPair: SetPair;
}) {
  return (
    <section aria-label="Shared" className="sheet px-5 py-4">
      <h2 className="text-base">Shared mailboxes and telephone numbers</h2>
      <p className="text-quiet mt-0.5 text-[13px]">
        Different people use them, so they join nobody: each keeps their own touches. {shownOf(rows.length, total)}
      </p>
      {rows.length === 0 && <p className="text-quiet mt-1">None so far.</p>}
      <ul className="mt-2 flex flex-col gap-3">
        {rows.map(({ id, kind, domain, people }) => (
          <li key={id}>
            {kind === 'mail' ? (
              <>
                A mailbox at <code className="value">{domain}</code>
              </>
            ) : (
              'A telephone number'
            )}{' '}
            of {count(people.length)} people
            <ul className="border-base-300 mt-1 border-l pl-3">
              {people.slice(0, 10).map((record) => (
                <li key={record.id} className="flex flex-wrap items-baseline justify-between gap-x-4">
                  <span>
                    <RecordLink business={business} {...record} />
                  </span>
                  {setPair && people.length === 2 && record === people[1] && (
                    <button
                      type="button"
                      className="quiet-link cursor-pointer whitespace-nowrap"
                      onClick={() => setPair({ one: people[0]!.id, other: record.id, are: 'joined' })}
                    >
                      They are one person
                    </button>
                  )}
                </li>
              ))}
              {people.length > 10 && <li className="text-quiet">and {count(people.length - 10)} others</li>}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  );
}

const oddColumns = (business: string, timeZone: string): Column<OddDealView>[] => [
  {
    id: 'words',
    head: 'Deal',
    by: ({ words }) => words,
    cell: ({ words, number, enquiryId }) => (
      <RecordLink business={business} words={words} number={number} enquiryId={enquiryId} />
    ),
  },
  {
    id: 'kind',
    head: 'What happened',
    by: ({ kind }) => kind,
    cell: ({ kind, text }) => (
      <>
        {oddWords[kind]} <Words text={text} />
      </>
    ),
  },
  { id: 'at', head: 'When', by: ({ at }) => at, cell: ({ at }) => <Time iso={at} timeZone={timeZone} /> },
];
