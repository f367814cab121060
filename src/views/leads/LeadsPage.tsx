import { qualityWords } from '../../core/leads/quality';
import type { LeadListRow, LeadListView } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import type { Column } from '../../ui/list/DataTable';
import { LiveList } from '../../ui/list/ListPage';
import { Live } from '../../ui/live/Live';
import { Time } from '../../ui/text/Time';
import { leadsParts } from './LeadsFrame';
import { QualityBar } from './QualityBar';
import { Narrowing } from './Narrowing';
import { SayQuality, sayingOf, useSayQuality, type Saying } from './SayQuality';
import { Words } from '../../ui/text/Words';

/** Cells that break only where there is little room. */
const oneLine = 'xl:whitespace-nowrap';

interface Props {
  business: string;
  initial: LeadListView;
  search: string;
  seesPeople: boolean;
}

/** Every enquiry, with where it came from in words, how far its value went, and how far it was answered. */
export function LeadsPage(props: Props) {
  return (
    <Live>
      <Leads {...props} />
    </Live>
  );
}

function Leads({ business, initial, search, seesPeople }: Props) {
  const { saying, onSay, error } = useSayQuality(business);
  const sayOf = (quality: Saying['quality']) => (lead: LeadListRow) => onSay(sayingOf(lead.id, lead.company, quality));
  const hrefOf = (row: LeadListRow) => `/b/${business}/leads/${row.id}`;
  const columns = (timeZone: string): Column<LeadListRow>[] => [
    {
      id: 'company',
      head: 'Lead',
      ...(seesPeople ? { by: true } : {}),
      cell: (lead) => (
        <>
          <a href={hrefOf(lead)} className="quiet-link font-semibold">
            {lead.company}
          </a>
          {lead.name && lead.name !== lead.company && <span className="text-quiet"> {lead.name}</span>}
        </>
      ),
    },
    { id: 'cameFrom', head: 'Came from', className: oneLine, cell: ({ cameFrom }) => cameFrom },
    { id: 'form', head: 'Form', cell: ({ form }) => form },
    { id: 'sentAt', head: 'Enquired', by: true, cell: ({ sentAt }) => <Time iso={sentAt} timeZone={timeZone} /> },
    {
      id: 'stage',
      head: 'Stage',
      by: true,
      className: oneLine,
      cell: (lead) => <Stage lead={lead} {...(initial.mayChange ? { onSay: () => sayOf(null)(lead) } : {})} />,
    },
    { id: 'standing', head: 'How far its value went', cell: (lead) => <Standing lead={lead} /> },
  ];
  return (
    <LiveList
      api={`/api/b/${business}/leads`}
      initial={initial}
      search={search}
      usualSort="sentAt"
      hasBook
      finds={seesPeople ? 'Company, name, email, telephone, source' : 'Source, campaign, click ID'}
      columns={columns}
      hrefOf={hrefOf}
      {...(initial.mayChange
        ? { keys: { a: sayOf('answering'), d: sayOf('disqualified'), x: sayOf('no_enquiry'), u: sayOf('') } }
        : {})}
      under={(view) => (
        <>
          <QualityBar
            business={business}
            view={view as LeadListView}
            chosen={new URLSearchParams(search).get('quality') ?? ''}
          />
          <Problem text={error} />
          <Narrowing business={business} view={view as LeadListView} search={search} />
          {saying && <SayQuality saying={saying} onSay={onSay} />}
        </>
      )}
      parts={leadsParts(business, 'Leads')}
      also={
        initial.mayChange && (
          <a href={`/b/${business}/leads/import`} className="button">
            Bring leads in
          </a>
        )
      }
    />
  );
}

/** The stage in the CRM, how far it was answered, and why that was all. */
function Stage({ lead: { stage, quality, qualityReason }, onSay }: { lead: LeadListRow; onSay?: () => void }) {
  const weight = quality === 'unanswered' ? 'font-semibold' : 'text-quiet';
  return (
    <>
      {stage},{' '}
      {onSay ? (
        <button type="button" className={`quiet-link cursor-pointer ${weight}`} onClick={onSay}>
          {qualityWords[quality]}
        </button>
      ) : (
        <span className={weight}>{qualityWords[quality]}</span>
      )}
      {qualityReason && qualityReason !== stage && <span className="text-quiet">: {qualityReason}</span>}
    </>
  );
}

function Standing({ lead }: { lead: LeadListRow }) {
  const lost = lead.state === 'lost';
  return (
    <span className={`inline-block min-w-44 ${lost ? 'text-error' : ''}`}>
      {lost ? `Lost after ${lead.lastHop}` : lead.lastHop}
      {lead.why && (
        <span className={lost ? 'text-[13px]' : 'text-quiet text-[13px]'}>
          : <Words text={lead.why} />
        </span>
      )}
    </span>
  );
}
