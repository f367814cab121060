import { cardNote, cardText } from '../../core/leads/card';
import type { LeadCard } from '../../core/leads/card';
import { mayChange } from '../../core/people/rights';
import type { TraceView } from '../../core/strands';
import { isAlone } from '../../core/strands';
import type { Crm } from '../crms/crm';
import type { BusinessRow, RoleRow } from '../db';
import { called, erasedName, nameless } from '../leads/called';
import { cardOf } from '../leads/card';
import { enquiredBy } from '../leads/enquired';
import type { TraceFacts } from './trace-facts';

/** What the lead's page needs besides what is stored of the lead. */
export interface LeadWords {
  campaignName: (campaign: string) => string;
  /** Where its page is. */
  link: (enquiryId: string) => string;
  crm: Crm | null;
}

const boughtTitles = { order: 'Order', subscription: 'Subscription', conversion: 'Conversion' } as const;

/** What sales reads first of an enquiry, or of what was bought. */
export function traceCard(
  { strand, touches, enquiry, bought, lead, release, others }: TraceFacts,
  timeZone: string,
  seesPeople: boolean,
  campaignName: LeadWords['campaignName'],
): LeadCard {
  const [first] = touches;
  const came = bought?.at ?? enquiry?.sentAt ?? null;
  const title = bought
    ? `${boughtTitles[bought.kind]} ${bought.number}`
    : enquiry?.erasedAt
      ? erasedName
      : lead
        ? called(lead, seesPeople, nameless(enquiry?.wayIn))
        : enquiry
          ? 'Not in the CRM yet'
          : 'Nobody known yet';
  return cardOf(
    {
      title,
      person: seesPeople ? (lead?.name ?? '') : '',
      enquiry,
      bought,
      origin: isAlone(strand) ? null : { ...strand, term: '', utmId: '', referrer: '', landing: '' },
      first: first && first.at.getTime() !== strand.firstAt && (came === null || first.at <= came) ? first : null,
      before: others.map((other) => other.enquiry.sentAt).filter((at) => enquiry !== null && at < enquiry.sentAt),
    },
    release,
    timeZone,
    campaignName,
  );
}

/** The note that is written of a card. */
export const noteOf = (card: LeadCard, { link }: Pick<LeadWords, 'link'>, enquiryId: string): string =>
  cardNote(card, link(enquiryId));

/** What the lead's page shows besides the trace: the card, how far it was answered, the note, further enquiries. */
export function leadViews(
  facts: TraceFacts,
  business: BusinessRow,
  role: RoleRow,
  words: LeadWords,
  forms: (form: string) => string,
): Pick<TraceView, 'card' | 'answered' | 'note' | 'others'> {
  const { enquiry, lead, writes, deals, others } = facts;
  const card = traceCard(facts, business.timeZone, role.seesPeople, words.campaignName);
  const shown = { ...card, text: cardText(card) };
  if (!enquiry) return { card: shown, answered: null, note: null, others: [] };
  const notes = writes.filter(({ cause }) => cause === 'note');
  const last = notes.at(-1);
  const takesNotes = words.crm?.contract.note && deals.some(({ goneAt }) => goneAt === null) && mayChange(role);
  return {
    card: shown,
    answered:
      enquiry.marked || enquiry.erasedAt
        ? null
        : {
            enquiry: enquiry.id,
            company: lead ? called(lead, role.seesPeople, nameless(enquiry.wayIn)) : 'This enquiry',
            quality: enquiry.quality,
            reason: enquiry.qualityReason,
            mayChange: mayChange(role),
            seesPeople: role.seesPeople,
          },
    note: takesNotes
      ? {
          enquiry: enquiry.id,
          crm: words.crm!.account.name,
          last: last
            ? {
                at: (last.writtenAt ?? last.madeAt).toISOString(),
                state: last.state,
                answer: last.answer,
                isSame: last.fields[0]?.becomes === noteOf(card, words, enquiry.id),
              }
            : null,
        }
      : null,
    others: others.map(({ enquiry: other }) => ({
      id: other.id,
      form: enquiredBy(other, forms),
      at: other.sentAt.toISOString(),
      stage: other.stage ?? 'not in the CRM yet',
    })),
  };
}
