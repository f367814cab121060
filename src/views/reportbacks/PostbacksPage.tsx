import type { NoticesView, NoticeView, SenderView } from '../../core/outcomes/notices/view';
import { count } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { LiveList } from '../../ui/list/ListPage';
import { Key } from '../../ui/keys/Key';
import { Live } from '../../ui/live/Live';
import { Time } from '../../ui/text/Time';
import { reportBacksParts } from './ReportBacksFrame';

interface Props {
  business: string;
  initial: NoticesView;
  search: string;
}

/** What outside programs post of orders and subscriptions, and what became of each. */
export function PostbacksPage(props: Props) {
  return (
    <Live>
      <Postbacks {...props} />
    </Live>
  );
}

function Postbacks({ business, initial, search }: Props) {
  const here = `/b/${business}/report-backs/postbacks`;
  const columns = (timeZone: string): Column<NoticeView>[] => [
    {
      id: 'happenedAt',
      head: 'Happened',
      by: true,
      className: 'whitespace-nowrap',
      cell: ({ happenedAt }) => <Time iso={happenedAt} timeZone={timeZone} />,
    },
    {
      id: 'sender',
      head: 'Posted by',
      cell: ({ sender, senderId }) => (
        <a href={`${here}/${senderId}`} className="quiet-link">
          {sender}
        </a>
      ),
    },
    { id: 'step', head: 'Step', cell: ({ step }) => <code className="value">{step}</code> },
    {
      id: 'about',
      head: 'About',
      cell: ({ about, payment }) => (
        <>
          {about}
          {payment && <span className="text-quiet">, payment {payment}</span>}
        </>
      ),
    },
    {
      id: 'amount',
      head: 'Amount',
      by: true,
      right: true,
      cell: ({ amount }) => <span className="value whitespace-nowrap">{amount}</span>,
    },
    {
      id: 'stands',
      head: 'Became',
      cell: ({ stands }) => <span className={isOdd(stands) ? 'text-error' : ''}>{standsWords[stands]}</span>,
    },
  ];
  return (
    <LiveList
      api={`/api${here}`}
      initial={initial}
      search={search}
      usualSort="receivedAt"
      finds="Order, subscription, payment, step"
      columns={columns}
      parts={reportBacksParts(business, 'Postbacks')}
      first={search ? 'None of this kind.' : 'Nothing was posted yet.'}
      also={
        initial.mayChange && (
          <a href={`${here}/new`} className="button button-strong" data-new>
            New sender <Key k="n" strong />
          </a>
        )
      }
      under={(view) => <Senders here={here} senders={(view as NoticesView).senders} timeZone={view.timeZone} />}
    />
  );
}

const standsWords: Record<NoticeView['stands'], string> = {
  counted: 'counted',
  'reaches nothing': 'no outcome is reached by it',
  'taken back': 'its worth was taken back',
  'worth changed': 'its worth was changed',
  'changes nothing': 'changed nothing',
  'not known yet': 'waits: nothing with this number is known yet',
  'step not known': 'waits: nobody said what its step means',
  'not counted': 'means nothing here',
  test: 'a test, not counted',
};
const isOdd = (stands: NoticeView['stands']): boolean => stands === 'step not known';

function Senders({ here, senders, timeZone }: { here: string; senders: SenderView[]; timeZone: string }) {
  if (senders.length === 0) return null;
  const columns: Column<SenderView>[] = [
    {
      id: 'name',
      head: 'Sender',
      cell: ({ id, name }) => (
        <a href={`${here}/${id}`} className="quiet-link font-semibold">
          {name}
        </a>
      ),
    },
    {
      id: 'state',
      head: 'Last posted',
      cell: ({ isRetired, hasSecret, lastAt, lastProblem }) =>
        isRetired ? (
          'retired'
        ) : !hasSecret ? (
          'no secret yet'
        ) : lastAt ? (
          <>
            <Time iso={lastAt} timeZone={timeZone} />
            {lastProblem && <span className="text-error">: {lastProblem}</span>}
          </>
        ) : (
          'nothing yet'
        ),
    },
    {
      id: 'posted',
      head: 'Posted',
      right: true,
      cell: ({ id, posted }) => (
        <a href={`${here}?sender=${id}`} className="value quiet-link">
          {count(posted)}
        </a>
      ),
    },
  ];
  return (
    <div className="mt-3">
      <DataTable label="Senders" rows={senders} idOf={({ id }) => id} columns={columns} none="" />
    </div>
  );
}
