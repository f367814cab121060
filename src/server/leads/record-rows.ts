import { mailDomainOf } from '../../core/capture/no-customer';
import type { ReadRecord } from '../../core/crms';
import { isRecordNewer, withFieldTimes, withMoves, type Identity } from '../../core/leads';
import type { Release } from '../../core/releases';
import { companyIdOf, crmEnquiryIdOf, dealIdOf, enquiryIdOf, leadIdOf } from '../../core/strands';
import type { CompanyRow, DealRow, EnquiryRow, LeadRow } from '../db';
import type { Account } from '../platforms/accounts';
import { hashMail, hashTelephone, sha256 } from '../secrets';
import type { OpenLeadOf } from './open-leads';
import type { Known } from './people';

const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/** The account that records come from. */
export type Source = Pick<Account, 'businessId' | 'id'>;
/** An enquiry as far as a record says it. */
export type NewEnquiry = Pick<EnquiryRow, 'leadToken' | 'marked'> & Partial<EnquiryRow>;

/** What records of a CRM say, each of it once. */
export interface RecordRows {
  deals: Map<string, DealRow>;
  leads: Map<string, LeadRow>;
  companies: Map<string, CompanyRow>;
  identities: Map<string, Known>;
  enquiries: Map<string, NewEnquiry>;
  /** Deals that came to carry the lead token of another enquiry than theirs was: from which one to which. */
  moved: { number: string; from: string; to: string }[];
}

/**
 * The rows of what records say. Each record builds on what is known of its deal; an older one that comes late says nothing.
 *
 * @param known deals by their numbers, those that were merged into these among them
 * @param isWhole false where a record says only the stage it is at now
 * @param openLeadOf finds what a record without a lead token is of, where the CRM got a platform's lead by itself
 */
export function recordRows(
  { businessId, id: accountId }: Source,
  read: readonly ReadRecord[],
  known: ReadonlyMap<string, DealRow>,
  release: Release,
  secretKey: Buffer,
  isWhole: boolean,
  openLeadOf: OpenLeadOf,
): RecordRows {
  const rows: RecordRows = {
    deals: new Map(),
    leads: new Map(),
    companies: new Map(),
    identities: new Map(),
    enquiries: new Map(),
    moved: [],
  };
  for (const one of read) {
    const { record: arrived, merged } = one;
    const before = rows.deals.get(arrived.deal) ?? known.get(arrived.deal);
    if (!isWhole && before && !isRecordNewer(before.record, arrived)) continue;
    const was = before?.record ?? null;
    const record = withFieldTimes(was, isWhole ? arrived : withMoves(was, arrived));
    const madeAt = new Date(record.madeAt);
    const company = companyRow(businessId, accountId, one);
    if (company) rows.companies.set(company.id, company);
    const leadId = leadIdOf(businessId, accountId, record.person);
    rows.leads.set(leadId, {
      businessId,
      id: leadId,
      accountId,
      crmPerson: record.person,
      madeAt,
      name: record.personName.slice(0, 120),
      company: record.company.slice(0, 120),
      companyId: company?.id ?? null,
      mailDomain: mailDomainOf(one.mail),
      personId: leadId,
      joinedBy: '',
      joinedAt: null,
    });
    rows.identities.set(leadId, {
      leadId,
      identities: [...recordNumbers(accountId, [record.person, ...merged.people]), ...reachedBy(secretKey, one)],
    });
    // What was merged away there is known by its number alone: by what the person is reached says the record that stayed.
    for (const person of merged.people) {
      const id = leadIdOf(businessId, accountId, person);
      rows.identities.set(id, { leadId: id, identities: recordNumbers(accountId, [person]) });
    }
    const token = (record.fields[release.content.crm?.leadTokenField ?? ''] ?? '').toLowerCase();
    const leadToken = uuid.test(token) ? token : null;
    const own = before?.enquiryId ?? openLeadOf(one) ?? crmEnquiryIdOf(businessId, accountId, record.deal);
    const enquiryId = leadToken ? enquiryIdOf(businessId, leadToken) : own;
    if (before && before.enquiryId !== enquiryId)
      rows.moved.push({ number: record.deal, from: before.enquiryId, to: enquiryId });
    if (before?.enquiryId !== enquiryId)
      rows.enquiries.set(enquiryId, {
        businessId,
        id: enquiryId,
        leadToken,
        leadId,
        form: '',
        page: '',
        fields: [],
        sentAt: madeAt,
        releaseNumber: release.number,
        marked: '',
      });
    rows.deals.set(record.deal, {
      businessId,
      accountId,
      number: record.deal,
      enquiryId,
      leadId,
      record,
      stage: record.stage,
      madeAt,
      id: before?.id ?? dealIdOf(businessId, accountId, record.deal),
      companyId: company?.id ?? null,
      goneAt: null,
      mergedInto: '',
    });
    for (const number of merged.records) {
      const gone = rows.deals.get(number) ?? known.get(number);
      if (gone)
        rows.deals.set(number, { ...gone, goneAt: gone.goneAt ?? new Date(record.changedAt), mergedInto: record.deal });
    }
  }
  return rows;
}

/** The company of a record; null where it names none. */
function companyRow(businessId: string, accountId: string, { record, companyNumber }: ReadRecord): CompanyRow | null {
  const name = record.company.slice(0, 120);
  const number = companyNumber.slice(0, 60);
  return name === '' && number === ''
    ? null
    : { businessId, id: companyIdOf(businessId, accountId, number, name), accountId, number, name };
}

/** By what records of people are known: their numbers. */
export const recordNumbers = (accountId: string, people: string[]): Identity[] =>
  [...new Set(people)].map((number) => ({ kind: 'record', hash: sha256(`${accountId} ${number}`) }));

/** By what a person is reached, hashed. */
export function reachedBy(secretKey: Buffer, { mail, telephone }: Pick<ReadRecord, 'mail' | 'telephone'>): Identity[] {
  const hash = hashTelephone(secretKey, telephone);
  return [
    ...(mail ? [{ kind: 'mail' as const, hash: hashMail(secretKey, mail) }] : []),
    ...(hash ? [{ kind: 'telephone' as const, hash }] : []),
  ];
}
