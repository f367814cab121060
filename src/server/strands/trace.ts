import { AvrixError } from '../../core/errors';
import { contractOf } from '../../core/platforms';
import { reasonWords } from '../../core/reasons/words';
import { formWordsOf, originWords } from '../../core/releases';
import {
  changedOnTheWay,
  followStrand,
  isAlone,
  speakingRows,
  traceHops,
  traceSentence,
  traceValues,
  type TraceView,
  type WayInKind,
  type BoughtWayIn,
  boughtWaysIn,
} from '../../core/strands';
import { waysIn } from '../../core/ways-in';
import type { Context } from '../context';
import type { Crms } from '../crms/crm';
import { dayWords } from '../days';
import type { BusinessRow, EnquiryRow, RoleRow } from '../db';
import { called, nameless } from '../leads/called';
import { enquiredBy } from '../leads/enquired';
import type { WriteBack } from '../leads/write-back';
import type { Membership } from '../people/people';
import type { CampaignNames } from '../plan/campaign-names';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { tellingViews } from './telling-view';
import { traceEvents } from './trace-events';
import { makeTraceFacts, type TraceFacts, type Traced } from './trace-facts';
import { leadViews, noteOf, traceCard, type LeadWords } from './trace-lead';

/** Trace: one enquiry's or order's values, hop by hop; or one strand's, where nothing came in. */
export function makeTraces(
  context: Context,
  releases: Releases,
  crms: Crms,
  campaignNames: CampaignNames,
  writeBack: WriteBack,
) {
  const { tables } = context;
  const facts = makeTraceFacts(context, releases);

  const wordsOf = async ({ id, key }: BusinessRow): Promise<LeadWords> => ({
    campaignName: await campaignNames.get(id),
    link: (enquiryId) => writeBack.linkOf(key, enquiryId),
    crm: await crms.of(id),
  });
  const view = async (business: BusinessRow, role: RoleRow, strandId: string, traced: Traced) =>
    toView(await facts.read(business.id, strandId, traced), business, role, await wordsOf(business));

  /** @throws AVX_NOT_FOUND, AVX_ENQUIRY_NEW */
  async function readEnquiry(businessId: string, id: string): Promise<EnquiryRow & { strandId: string }> {
    const enquiry = (await tables.enquiries.findOne({ where: { businessId, id } }))?.get({ plain: true });
    if (!enquiry) throw new AvrixError('AVX_NOT_FOUND', { what: 'enquiry' });
    if (!enquiry.strandId) throw new AvrixError('AVX_ENQUIRY_NEW');
    return { ...enquiry, strandId: enquiry.strandId };
  }

  return {
    async ofEnquiry(business: BusinessRow, role: RoleRow, id: string): Promise<TraceView> {
      const enquiry = await readEnquiry(business.id, id);
      return view(business, role, enquiry.strandId, { way: enquiry.wayIn, enquiry, bought: null });
    },

    /**
     * Has the card of an enquiry written into its record in the CRM as a note.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_CRM_NO_NOTES, AVX_NOTE_THERE
     */
    async writeNote(membership: Membership, byName: string, id: string): Promise<void> {
      requireEditor(membership);
      const { business } = membership;
      const enquiry = await readEnquiry(business.id, id);
      const known = await facts.read(business.id, enquiry.strandId, { way: enquiry.wayIn, enquiry, bought: null });
      const words = await wordsOf(business);
      const deal = known.deals.find(({ goneAt }) => goneAt === null);
      if (!words.crm?.contract.note || !deal) throw new AvrixError('AVX_CRM_NO_NOTES');
      const text = noteOf(traceCard(known, business.timeZone, false, words.campaignName), words, id);
      const same = known.writes.find(
        ({ cause, state, fields }) =>
          cause === 'note' && (state === 'waiting' || state === 'written') && fields[0]?.becomes === text,
      );
      if (same) throw new AvrixError('AVX_NOTE_THERE', { crm: words.crm.account.name });
      const note = { rule: '', field: '', was: '', becomes: text, cut: null };
      const plans = [{ writable: { enquiry }, deal, writes: [note] }];
      await writeBack.queue(business.id, words.crm, plans, 'note', byName, known.release);
    },

    /** On the ways in of what is bought with the newest that it brought, or with the one of an ID. @param of '' for the newest */
    async ofStrand(business: BusinessRow, role: RoleRow, id: string, way: WayInKind, of = ''): Promise<TraceView> {
      const bought = isBoughtWay(way) ? await facts.boughtOf(business.id, id, way, of) : null;
      return view(business, role, id, { way, enquiry: null, bought });
    },
  };
}

function toView(facts: TraceFacts, business: BusinessRow, role: RoleRow, leadWords: LeadWords): TraceView {
  const { release, strand, enquiry, bought, lead } = facts;
  const forms = formWordsOf(release);
  const way = waysIn[facts.way];
  const rows = speakingRows(facts.hops, way);
  const followed = followStrand(rows, way);
  const ownReports = bought
    ? facts.reportBacks.filter(({ keyValue }) => keyValue === strand.clickId)
    : facts.reportBacks;
  const told = ownReports.find((r) => r.answeredAt !== null && r.correction === 0);
  const platform = contractOf(told?.platform ?? strand.platform, release.content.platforms)?.words ?? 'the platform';
  const company = lead ? called(lead, role.seesPeople, nameless(enquiry?.wayIn)) : null;
  const stopReason = followed.stop?.state === 'lost' ? followed.stop.reason : null;
  const words = stopReason && reasonWords(stopReason, forms, way);
  const swapOf = (rule: string) => release.content.capture.fill.find(({ id }) => id === rule)?.swap ?? '';
  const values = traceValues({
    way,
    strand,
    arrival: facts.arrival,
    keptHit: facts.keptHit,
    orderHit: facts.boughtHit,
    isFetched: typeof facts.sentOn?.fetchedAt === 'number',
    fills: enquiry?.fills ?? null,
    swapOf,
    record: facts.deals[0]?.record ?? null,
    crm: release.content.crm,
    toldClickId: told && told.state !== 'refused' ? told.keyValue : '',
    confirmed: told?.state === 'confirmed',
    utmLowerCase: release.content.capture.keep.utmLowerCase,
  });
  return {
    way: way.kind,
    crumb: bought ? `${bought.kind} ${bought.number}` : (company ?? (enquiry ? 'not in the CRM yet' : `no ${way.one}`)),
    title: traceSentence(strand.kind, way, followed, platform, forms, changedOnTheWay(values)),
    under: underLine(facts, business.timeZone, forms),
    timeZone: business.timeZone,
    hops: traceHops(strand, rows, way, forms),
    values,
    events: traceEvents(facts, forms),
    telling: tellingViews(facts, role),
    mend: words && words.mend ? { text: words.text, mend: words.mend } : null,
    ...leadViews(facts, business, role, leadWords, forms),
  };
}

function underLine(
  { enquiry, bought, strand, release, sentOn }: TraceFacts,
  zone: string,
  forms: (form: string) => string,
): string {
  const from = originWords(release, strand.source, strand.medium);
  if (bought?.at)
    return `${boughtDone[bought.kind]} on ${dayWords(bought.at.getTime(), zone)}${visitWords(bought)}${ageWords(strand, bought.at)}.`;
  if (bought) return bought.paidAt ? `Paid on ${dayWords(bought.paidAt.getTime(), zone)}; no sign-up is known.` : '';
  if (!enquiry) return `${strand.kind === 'click' ? 'Clicked' : 'Landed'} ${dayWords(strand.firstAt, zone)}, ${from}.`;
  if (sentOn) return `Sent “${enquiry.form}” on ${sentOn.platform} on ${dayWords(enquiry.sentAt.getTime(), zone)}.`;
  return `${enquiredBy(enquiry, forms)} on ${dayWords(enquiry.sentAt.getTime(), zone)}${visitWords(enquiry)}${ageWords(strand, enquiry.sentAt)}.`;
}

const boughtDone = { order: 'Ordered', subscription: 'Signed up', conversion: 'Converted' } as const;
const isBoughtWay = (way: WayInKind): way is BoughtWayIn => (boughtWaysIn as readonly string[]).includes(way);

const visitWords = ({ visitNumber }: { visitNumber: number | null }) =>
  visitNumber ? `, on visit ${visitNumber}` : '';

/** How long after its click something came in. */
function ageWords(strand: TraceFacts['strand'], at: Date): string {
  if (isAlone(strand)) return '';
  const days = Math.floor((at.getTime() - strand.firstAt) / 86_400_000);
  const after = days === 0 ? 'the same day as' : days === 1 ? '1 day after' : `${days} days after`;
  return `, ${after} the ${strand.kind === 'click' ? 'paid click' : 'tagged landing'}`;
}
