/* eslint-disable no-await-in-loop -- bounded parts, in order */
import { mailDomainOf } from '../../../core/capture/no-customer';
import type { ImportedLead } from '../../../core/leads/imports';
import type { ImportHow } from '../../../core/leads/imports-view';
import {
  clickStrandId,
  enquiryIdOf,
  importStrandId,
  leadIdOf,
  madeLeadToken,
  nilId,
  platformLeadId,
  type KnownConsent,
  type Strand,
} from '../../../core/strands';
import { now } from '../../clock';
import type { Context } from '../../context';
import { inTransaction, plain, type EnquiryRow, type LeadRow, type PlatformLeadRow, type TouchRow } from '../../db';
import type { Releases } from '../../releases/releases';
import { seal, sha256 } from '../../secrets';
import { readErased } from '../erasing/marks';
import { pagelessTouch } from '../pageless-touch';
import { reachedBy, recordNumbers } from '../record-rows';
import { storeSent } from '../store-sent';

const atOnce = 500;

/** What became of leads that were brought in. */
export interface TakenImport {
  taken: number;
  known: number;
  erased: number;
}

/**
 * Takes leads in that somebody brings: each is an enquiry with a person, and the touch that its row names. One that is brought in
 * again is known by its key; nothing of it is changed.
 */
export function makeTakeImport(context: Context, releases: Releases) {
  const { db, tables, config } = context;

  /** What is kept of one lead. */
  function rowsOf(businessId: string, how: ImportHow, lead: ImportedLead, releaseNumber: number) {
    const { name, company, mail, telephone, source, medium, campaign, content, term, clickId } = lead;
    const id = platformLeadId(businessId, nilId, `${how.list} ${lead.key}`);
    const token = madeLeadToken(id);
    const enquiryId = enquiryIdOf(businessId, token);
    const leadId = leadIdOf(businessId, nilId, id);
    const sentAt = new Date(lead.enquiredAt);
    const clickedAt = lead.clickedAt ?? lead.enquiredAt;
    const platform = clickId === '' ? '' : how.platform;
    const origin = { source, medium, campaign, content, utmId: '' };
    const isClick = clickId !== '' && platform !== '';
    const strand: Strand = {
      ...origin,
      id: isClick ? clickStrandId(businessId, platform, clickId) : importStrandId(id),
      kind: isClick ? 'click' : 'import',
      platform,
      clickId: isClick ? clickId : '',
      firstAt: isClick ? clickedAt : lead.enquiredAt,
      visitor: id,
      marked: '',
    };
    const isOriginKnown = isClick || [source, medium, campaign, content, term].some((one) => one !== '');
    const touch: TouchRow | null = isOriginKnown
      ? pagelessTouch(id, 'import', releaseNumber, {
          ...origin,
          businessId,
          at: new Date(clickedAt),
          term,
          platform,
          clickId: strand.clickId,
        })
      : null;
    const person: LeadRow = {
      businessId,
      id: leadId,
      accountId: nilId,
      crmPerson: sha256(id),
      name,
      company,
      companyId: null,
      mailDomain: mailDomainOf(mail),
      madeAt: sentAt,
      personId: leadId,
      joinedBy: '',
      joinedAt: null,
    };
    const consent: KnownConsent = { measurement: 'yes', advertising: 'yes', at: lead.enquiredAt };
    const enquiry: Partial<EnquiryRow> & { id: string } = {
      businessId,
      id: enquiryId,
      leadToken: token,
      leadId,
      strandId: strand.id,
      touchId: touch?.id ?? null,
      visitorId: id,
      form: how.list,
      page: '',
      sentAt,
      fields: [],
      marked: '',
      consent: how.agreed === 'yes' ? consent : null,
      releaseNumber,
      wayIn: 'import',
    };
    const kept: PlatformLeadRow = {
      businessId,
      id,
      accountId: nilId,
      number: '',
      leadId,
      enquiryId,
      form: how.list,
      ad: content,
      campaign,
      place: '',
      sentAt,
      fetchedAt: now(),
      isTest: false,
      answers: mail === '' && telephone === '' ? null : seal(config.secretKey, { name, company, mail, telephone }),
      handed: how.handsOver === 'yes' && mail !== '' ? 'waiting' : 'no',
      askedAt: null,
      answer: '',
      deal: '',
    };
    const identities = [...recordNumbers(nilId, [sha256(id)]), ...reachedBy(config.secretKey, { mail, telephone })];
    return {
      token,
      strand,
      touch,
      person,
      enquiry,
      lead: kept,
      known: { leadId, identities },
    };
  }

  /** @returns how many were new, known already, or of somebody who was erased */
  return async function takeImport(businessId: string, how: ImportHow, leads: ImportedLead[]): Promise<TakenImport> {
    const total: TakenImport = { taken: 0, known: 0, erased: 0 };
    const { number } = await releases.live(businessId);
    const byId = new Map(leads.map((lead) => rowsOf(businessId, how, lead, number)).map((row) => [row.lead.id, row]));
    total.known += leads.length - byId.size;
    const all = [...byId.values()];
    for (let from = 0; from < all.length; from += atOnce) {
      const part = all.slice(from, from + atOnce);
      const done = await inTransaction(db, async (transaction) => {
        const id = part.map(({ lead }) => lead.id);
        const there = new Set(
          plain(await tables.platformLeads.findAll({ attributes: ['id'], where: { businessId, id }, transaction })).map(
            (row) => row.id,
          ),
        );
        const tokens = part.map(({ token }) => token);
        const gone = await readErased(context, businessId, 'token', tokens, transaction);
        const fresh = part.filter(({ lead, token }) => !there.has(lead.id) && !gone.has(token));
        await storeSent(context, businessId, fresh, transaction);
        // An erased one's row is there no less: only its token says who it was.
        const erased = part.filter(({ token }) => gone.has(token)).length;
        return { taken: fresh.length, erased, known: part.length - fresh.length - erased };
      });
      total.taken += done.taken;
      total.known += done.known;
      total.erased += done.erased;
    }
    return total;
  };
}
