import { z } from 'zod';
import { qualityWords, type Quality } from '../../../core/leads';
import { touchValue } from '../../../core/leads/touch-words';
import type { MailFacts } from '../../../core/leads/routines/mail-text';
import type { LetGo } from '../../../core/leads/routines/routine';
import { noStages } from '../../../core/outcomes';
import type { PersonKey } from '../../../core/platforms/contract';
import { formWordsOf, type Release } from '../../../core/releases';
import type { Context } from '../../context';
import type { Crms } from '../../crms/crm';
import { dayWords } from '../../days';
import type { BusinessRow, EnquiryRow, LeadRow, TouchRow } from '../../db';
import { unseal } from '../../secrets';
import { readDeals, type KnownDeal } from '../deals-of';

/** Whom a routine took: an enquiry with its person, and its deals that the CRM still has. */
export interface Whom {
  enquiry: EnquiryRow;
  lead: LeadRow | null;
  deals: KnownDeal[];
  touch: TouchRow | null;
  /** Whether the CRM had a record of it and has none any more. */
  isGone: boolean;
}

/** @returns null where the enquiry is there no more */
export async function readWhom(
  context: Pick<Context, 'tables'>,
  businessId: string,
  enquiryId: string,
  release: Release,
): Promise<Whom | null> {
  const { tables } = context;
  const found = await tables.enquiries.findOne({ where: { businessId, id: enquiryId } });
  if (!found) return null;
  const enquiry = found.get({ plain: true });
  const { leadId, touchId } = enquiry;
  const [lead, touch, deals] = await Promise.all([
    leadId ? tables.leads.findOne({ where: { businessId, id: leadId } }) : null,
    touchId ? tables.touches.findOne({ where: { businessId, id: touchId } }) : null,
    readDeals(context, businessId, [enquiryId], release.content),
  ]);
  const all = deals.get(enquiryId) ?? [];
  const there = all.filter(({ goneAt }) => goneAt === null);
  return {
    enquiry,
    lead: lead?.get({ plain: true }) ?? null,
    touch: touch?.get({ plain: true }) ?? null,
    deals: there,
    isGone: all.length > 0 && there.length === 0,
  };
}

/** Why a lead is let go, in words; '' where it is not. */
export function letGoWhy({ enquiry, isGone }: Whom, { stages, answered }: LetGo, release: Release): string {
  const { marked, quality, stage } = enquiry;
  if (marked !== '') return 'is staff, a bot or a test';
  if (quality === 'no_enquiry') return 'is no enquiry';
  if (isGone) return 'the CRM has the record no more';
  const { inOrder } = release.content.crm?.stages ?? noStages;
  const from = Math.min(...stages.map((one) => inOrder.indexOf(one)).filter((at) => at >= 0));
  const isReached = stage !== null && (stages.includes(stage) || inOrder.indexOf(stage) >= from);
  if (isReached) return `reached ${stage}`;
  const ends: Record<LetGo['answered'], Quality[]> = {
    no: [],
    answering: ['answering', 'qualified', 'disqualified'],
    qualified: ['qualified', 'disqualified'],
  };
  return ends[answered].includes(quality) ? `is ${qualityWords[quality]}` : '';
}

/** What an email can say of whoever it goes to. */
export function factsOf(
  { enquiry, lead, deals, touch }: Whom,
  business: Pick<BusinessRow, 'name' | 'timeZone'>,
  release: Release,
  campaignName: (campaign: string) => string,
  unsubscribe: string,
): MailFacts {
  const name = lead?.name ?? '';
  return {
    first_name: name.split(/\s+/)[0] ?? '',
    name,
    company: lead?.company ?? '',
    // A platform's own form is called as the platform calls it.
    form: enquiry.wayIn === 'form' ? formWordsOf(release)(enquiry.form).replace(/[“”]/g, '') : enquiry.form,
    enquired: dayWords(enquiry.sentAt.getTime(), business.timeZone).split(',')[0]!,
    came_from: touch ? touchValue({ part: 'words', swap: '' }, touch, release, campaignName) : '',
    business: business.name,
    unsubscribe,
    record: deals[0]?.record.fields ?? {},
  };
}

const answersSchema = z.object({ mail: z.string(), telephone: z.string().default('') });

/**
 * The email address, or telephone number, of whoever enquired: addresses are not kept, so the CRM is asked for its record, which also has the newest
 * one. Of a CRM that cannot be asked the email address is kept while routines are in use; of a platform's lead both are, until the
 * CRM has it.
 *
 * @returns '' where none is known yet
 * @throws ServiceAway where the CRM is away
 */
export async function addressOf(
  { tables, config }: Pick<Context, 'tables' | 'config'>,
  crms: Crms,
  { enquiry: { businessId, id }, lead, deals }: Pick<Whom, 'enquiry' | 'lead' | 'deals'>,
  by: PersonKey = 'mail',
): Promise<string> {
  const [deal] = deals;
  const crm = deal ? await crms.ofAccount(businessId, deal.accountId) : null;
  if (deal && crm?.contract.gives === 'numbers') {
    const read = await crm.ask(crm.contract.record(deal.number));
    if ('record' in read) return read[by].trim();
  }
  const kept =
    lead && by === 'mail' && (await tables.leadAddresses.findOne({ where: { businessId, leadId: lead.id } }));
  if (kept) return String(unseal(config.secretKey, kept.get({ plain: true }).mail));
  const platformLead = (await tables.platformLeads.findOne({ where: { businessId, enquiryId: id } }))?.get({
    plain: true,
  });
  return platformLead?.answers ? answersSchema.parse(unseal(config.secretKey, platformLead.answers))[by] : '';
}
