import type { Hit } from '../../core/capture';
import { AvrixError } from '../../core/errors';
import { contractOf } from '../../core/platforms';
import { reasonWords } from '../../core/reasons/words';
import { originWords, type Release } from '../../core/releases';
import {
  changedOnTheWay,
  followStrand,
  isAlone,
  nilId,
  onward,
  speakingRows,
  traceSentence,
  traceValues,
  type HopRow,
  type Strand,
  type TraceHop,
  type TraceView,
  type WayInKind,
} from '../../core/strands';
import { waysIn, type WayIn } from '../../core/ways-in';
import type { Context } from '../context';
import {
  pick,
  selectRows,
  plain,
  type AttemptRow,
  type BusinessRow,
  type EnquiryRow,
  type LeadRow,
  type OutcomeRow,
  type ReportBackRow,
  type RoleRow,
  type TouchRow,
} from '../db';
import { formWordsOf, hiddenName } from '../leads/list';
import type { Releases } from '../releases/releases';
import { fromHopRow, fromStrandRow } from './store';
import { tellingViews } from './telling-view';
import { dayWords, traceEvents } from './trace-events';
import { hits } from '../capture/table';

/** All that is stored about one strand and, where there is one, its enquiry. */
export interface TraceFacts {
  way: WayInKind;
  release: Release;
  strand: Strand;
  hops: HopRow[];
  enquiry: EnquiryRow | null;
  lead: LeadRow | null;
  touches: TouchRow[];
  arrival: Hit | null;
  keptHit: Hit | null;
  outcomes: OutcomeRow[];
  /** When (ms) the click of each click ID was that a report-back names. */
  clickedAt: Map<string, number>;
  reportBacks: ReportBackRow[];
  attempts: AttemptRow[];
}

/** Trace: one enquiry's values, hop by hop; or one strand's, where nobody asked. */
export function makeTraces(context: Context, releases: Releases) {
  const { db, tables } = context;

  async function view(business: BusinessRow, role: RoleRow, strandId: string, enquiry: EnquiryRow | null) {
    const facts = await readFacts(business, strandId, enquiry);
    return toView(facts, business, role);
  }

  async function readFacts(business: BusinessRow, strandId: string, enquiry: EnquiryRow | null): Promise<TraceFacts> {
    const businessId = business.id;
    const strandRow = await tables.strands.findOne({ where: { businessId, id: strandId } });
    if (!strandRow) throw new AvrixError('AVX_NOT_FOUND', { what: 'strand' });
    const strand = fromStrandRow(strandRow.get({ plain: true }));
    const rows = plain(await tables.hops.findAll({ where: { businessId, strandId } })).map(fromHopRow);
    const subject = enquiry?.id ?? nilId;
    const visitor = enquiry?.visitorId ?? (strand.visitor === nilId ? null : strand.visitor);
    const touches = visitor
      ? plain(
          await tables.touches.findAll({
            where: { businessId, visitorId: visitor },
            order: [['at', 'ASC']],
            limit: 100,
          }),
        )
      : [];
    // Of several click IDs of one arrival the touch names only the first.
    const ownTouch = touches.find(
      ({ at, clickId }) => at.getTime() === strand.firstAt || (clickId !== '' && clickId === strand.clickId),
    );
    const reportBacks = enquiry
      ? plain(
          await tables.reportBacks.findAll({
            where: { businessId, subjectId: enquiry.id },
            order: [['madeAt', 'ASC']],
          }),
        )
      : [];
    const release = await releases.live(businessId);
    const outcomes = enquiry
      ? plain(
          await tables.outcomes.findAll({
            where: { businessId, subjectId: enquiry.id },
            order: [['happenedAt', 'ASC']],
          }),
        )
      : [];
    return {
      way: 'form',
      release,
      strand,
      hops: rows.filter((row) => row.wayIn === 'none' || row.subject === subject),
      enquiry,
      lead: enquiry?.leadId
        ? ((await tables.leads.findOne({ where: { businessId, id: enquiry.leadId } }))?.get({ plain: true }) ?? null)
        : null,
      touches,
      arrival: await readHit(businessId, ownTouch?.hitId ?? null),
      keptHit: await readHit(businessId, enquiry?.hitId ?? ownTouch?.hitId ?? null),
      outcomes,
      clickedAt: new Map([[strand.clickId, strand.firstAt]]),
      reportBacks,
      attempts: plain(
        await tables.attempts.findAll({
          where: { businessId, reportBackId: reportBacks.map((r) => r.id) },
          order: [['startedAt', 'ASC']],
          limit: 100,
        }),
      ),
    };
  }

  async function readHit(businessId: string, id: string | null): Promise<Hit | null> {
    if (!id) return null;
    const [row] = await selectRows(db, pick(hits, ['body']), 'FROM hits WHERE business_id = ? AND id = ?', [
      businessId,
      id,
    ]);
    return row?.body ?? null;
  }

  return {
    async ofEnquiry(business: BusinessRow, role: RoleRow, id: string): Promise<TraceView> {
      const row = await tables.enquiries.findOne({ where: { businessId: business.id, id } });
      const enquiry = row?.get({ plain: true });
      if (!enquiry) throw new AvrixError('AVX_NOT_FOUND', { what: 'enquiry' });
      if (!enquiry.strandId) throw new AvrixError('AVX_ENQUIRY_NEW');
      return view(business, role, enquiry.strandId, enquiry);
    },

    ofStrand: (business: BusinessRow, role: RoleRow, id: string): Promise<TraceView> => view(business, role, id, null),
  };
}

function toView(facts: TraceFacts, business: BusinessRow, role: RoleRow): TraceView {
  const { release, strand, enquiry, lead } = facts;
  const forms = formWordsOf(release);
  const way = waysIn[facts.way];
  const rows = speakingRows(facts.hops, way);
  const followed = followStrand(rows, way);
  const told = facts.reportBacks.find((r) => r.answeredAt !== null);
  const platform = contractOf(told?.platform ?? strand.platform)?.words ?? 'the platform';
  const company = lead ? (role.seesPeople ? lead.company || lead.name || 'no name' : hiddenName) : null;
  const stopReason = followed.stop?.state === 'lost' ? followed.stop.reason : null;
  const words = stopReason && reasonWords(stopReason, forms);
  const swapOf = (rule: string) => release.content.capture.fill.find(({ id }) => id === rule)?.swap ?? '';
  const values = traceValues({
    way,
    strand,
    arrival: facts.arrival,
    keptHit: facts.keptHit,
    fills: enquiry?.fills ?? null,
    swapOf,
    record: enquiry?.crmRecord ?? null,
    crm: release.content.crm,
    toldClickId: told && told.state !== 'refused' ? told.keyValue : '',
    confirmed: told?.state === 'confirmed',
    utmLowerCase: release.content.capture.keep.utmLowerCase,
  });
  return {
    way: way.kind,
    crumb: company ?? (enquiry ? 'not in the CRM yet' : 'no enquiry'),
    title: traceSentence(strand.kind, way, followed, platform, forms, changedOnTheWay(values)),
    under: underLine(facts, business.timeZone, forms),
    timeZone: business.timeZone,
    hops: way.hops.map((hop) => traceHop(hop, rows, way, isAlone(strand) ? way.hops.length : followed.reached, forms)),
    values,
    events: traceEvents(facts, forms),
    telling: tellingViews(facts, role),
    mend: words && words.mend ? { text: words.text, mend: words.mend } : null,
    forSales: salesWords(facts, company ?? 'Not in the CRM yet', business.timeZone),
  };
}

function traceHop(
  hop: TraceHop['hop'],
  rows: HopRow[],
  { hops, own }: WayIn,
  reached: number,
  forms: (form: string) => string,
): TraceHop {
  const row = rows.find((r) => r.hop === hop) ?? (hop === own ? rows.find((r) => r.hop === onward) : undefined);
  // What was not made at one hop counts at none after it, however its own row stands.
  const cutOff = hops.indexOf(hop) > reached && row?.state === 'made_it';
  return {
    hop,
    state: row ? (cutOff ? 'waiting' : row.state) : 'none',
    at: row?.at ? new Date(row.at).toISOString() : null,
    why: row?.reason ? reasonWords(row.reason, forms).text : '',
    evidence: row?.evidence ?? 'none',
  };
}

function underLine({ enquiry, strand, release }: TraceFacts, zone: string, forms: (form: string) => string): string {
  const from = originWords(release, strand.source, strand.medium);
  if (!enquiry) return `${strand.kind === 'click' ? 'Clicked' : 'Landed'} ${dayWords(strand.firstAt, zone)}, ${from}.`;
  const form = enquiry.form ? `Sent ${forms(enquiry.form)}` : 'In the CRM without a form Avrix saw';
  const visit = enquiry.visitNumber ? `, on visit ${enquiry.visitNumber}` : '';
  const days = Math.floor((enquiry.sentAt.getTime() - strand.firstAt) / 86_400_000);
  const age = isAlone(strand)
    ? ''
    : `, ${days === 0 ? 'the same day as' : days === 1 ? '1 day after' : `${days} days after`} the ${strand.kind === 'click' ? 'paid click' : 'tagged landing'}`;
  return `${form} on ${dayWords(enquiry.sentAt.getTime(), zone)}${visit}${age}.`;
}

/** The card for sales: who, where from, when, in words. */
function salesWords({ strand, touches, enquiry, release }: TraceFacts, company: string, zone: string): string {
  const first = touches[0];
  const lines = [
    company,
    `Came from: ${isAlone(strand) ? 'not known' : originWords(release, strand.source, strand.medium)}`,
    strand.campaign ? `Campaign: ${strand.campaign}` : '',
    first && first.at.getTime() !== strand.firstAt
      ? `First seen: ${dayWords(first.at.getTime(), zone)}, ${originWords(release, first.source, first.medium, first.referrer)}`
      : '',
    enquiry ? `Asked: ${dayWords(enquiry.sentAt.getTime(), zone)}` : '',
    enquiry?.stage ? `Stage: ${enquiry.stage}` : '',
  ];
  return lines.filter(Boolean).join('\n');
}
