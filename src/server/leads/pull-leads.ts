/* eslint-disable no-await-in-loop -- each answer says where the next one begins */
import type { Transaction } from 'sequelize';
import { mailDomainOf } from '../../core/capture/no-customer';
import { contractOf } from '../../core/platforms';
import type { PlatformLead } from '../../core/platforms/contract';
import {
  clickStrandId,
  enquiryIdOf,
  leadFormStrandId,
  leadIdOf,
  platformLeadId,
  madeLeadToken,
  type KnownConsent,
  type Strand,
} from '../../core/strands';
import type { Question } from '../../core/outgoing';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, type EnquiryRow, type LeadRow } from '../db';
import type { Account, Accounts } from '../platforms/accounts';
import { askAccount } from '../platforms/call';
import type { Releases } from '../releases/releases';
import { seal } from '../secrets';
import { pagelessTouch } from './pageless-touch';
import { reachedBy, recordNumbers } from './record-rows';
import { storeSent } from './store-sent';
import type { LeadPullRow, PlatformLeadRow } from './table';

/** How long (ms) until the platform is asked again. */
const betweenPulls = 5 * 60_000;
/** One pull reads at most this many answers; the next one goes on from there at once. */
const mostAnswers = 100;

/**
 * Fetches what people sent with a platform's own forms: the oldest first, so that what the platform keeps no longer soon
 * is fetched before the rest. Each becomes a person with an enquiry, whose strand begins on the platform.
 */
export function makePullLeads(context: Context, accounts: Accounts, releases: Releases) {
  const { db, tables, config } = context;

  /** @returns when to pull again; null where nothing is pulled from the account any more */
  return async function pullLeads(businessId: string, accountId: string): Promise<Date | null> {
    const pull = (await tables.leadPulls.findOne({ where: { businessId, accountId } }))?.get({ plain: true });
    const account = await accounts.byId(businessId, accountId);
    if (!pull || pull.endedAt || !account || account.retiredAt) return null;
    if (account.pausedAt) return new Date(nowMs() + betweenPulls);
    const contract = contractOf(account.kind, (await releases.live(businessId)).content.platforms);
    if (!contract?.leadForms) return null;
    const { leadForms, authorised } = contract;
    const ask = async <T>({ request, read }: Question<T>) =>
      read(await askAccount(context, account, authorised, request));
    let titles: Map<string, string> | null = null;
    let after = pull.pulledTo;
    for (let answers = 0; answers < mostAnswers; answers++) {
      const { leads, more } = await ask(leadForms.sent(after));
      if (leads.length > 0) titles ??= new Map((await ask(leadForms.forms)).map(({ form, title }) => [form, title]));
      const pulledTo = leads.at(-1)?.number ?? after;
      await inTransaction(db, async (transaction) => {
        await store(
          account,
          pull,
          leads
            .filter(({ sentAt }) => !pull.takesFrom || sentAt >= pull.takesFrom.getTime())
            .map((lead) => ({ ...lead, form: titles?.get(lead.form) ?? lead.form })),
          transaction,
        );
        await tables.leadPulls.update(
          { pulledTo, pulledAt: now() },
          // Where somebody began anew meanwhile, the new beginning stays.
          { where: { businessId, accountId, endedAt: null, begunAt: pull.begunAt }, transaction },
        );
      });
      if (!more || pulledTo === after) return new Date(nowMs() + betweenPulls);
      after = pulledTo;
    }
    return now();
  };

  async function store(account: Account, pull: LeadPullRow, leads: PlatformLead[], transaction: Transaction) {
    if (leads.length === 0) return;
    const { businessId } = account;
    const release = await releases.live(businessId);
    const rows = leads.map((lead) => rowsOf(account, pull, lead, release.number));
    await storeSent(context, businessId, rows, transaction);
  }

  /** What is kept of one lead. Of one whose answers the platform kept no longer it is kept that it was sent. */
  function rowsOf(account: Account, pull: LeadPullRow, lead: PlatformLead, releaseNumber: number) {
    const { businessId, id: accountId } = account;
    const { number, form, ad, place, answers, isTest, clickId } = lead;
    const id = platformLeadId(businessId, accountId, number);
    const token = madeLeadToken(id);
    const leadId = leadIdOf(businessId, accountId, number);
    const sentAt = new Date(lead.sentAt);
    const source = account.settings.source ?? account.kind;
    const campaign = lead.campaign.slice(0, 200);
    const origin = { source, medium: pull.medium, campaign, content: ad.slice(0, 200), utmId: '' };
    const strand: Strand = {
      ...origin,
      id: clickId ? clickStrandId(businessId, account.kind, clickId) : leadFormStrandId(id),
      kind: clickId ? 'click' : 'lead_form',
      platform: account.kind,
      clickId,
      firstAt: lead.sentAt,
      visitor: id,
      marked: isTest ? 'test' : '',
    };
    const touch = pagelessTouch(id, 'lead_form', releaseNumber, {
      ...origin,
      businessId,
      at: sentAt,
      platform: account.kind,
      clickId,
    });
    const person: LeadRow = {
      businessId,
      id: leadId,
      accountId,
      crmPerson: number,
      name: answers?.name ?? '',
      company: answers?.company ?? '',
      companyId: null,
      mailDomain: mailDomainOf(answers?.mail ?? ''),
      madeAt: sentAt,
      personId: leadId,
      joinedBy: '',
      joinedAt: null,
    };
    const consent: KnownConsent = { measurement: 'yes', advertising: 'yes', at: lead.sentAt };
    const enquiry: Partial<EnquiryRow> & { id: string } = {
      businessId,
      id: enquiryIdOf(businessId, token),
      leadToken: token,
      leadId,
      strandId: strand.id,
      touchId: touch.id,
      visitorId: id,
      form,
      page: '',
      sentAt,
      fields: [],
      marked: strand.marked,
      consent: pull.agreed ? consent : null,
      releaseNumber,
      wayIn: 'lead_form',
    };
    const kept: PlatformLeadRow = {
      businessId,
      id,
      accountId,
      number,
      leadId,
      enquiryId: enquiry.id,
      form,
      ad: ad.slice(0, 200),
      campaign,
      place,
      sentAt,
      fetchedAt: answers ? now() : null,
      isTest,
      answers: answers && !isTest ? seal(config.secretKey, answers) : null,
      handed: answers && !isTest && pull.handsOver ? 'waiting' : 'no',
      askedAt: null,
      answer: '',
      deal: '',
    };
    const identities = [
      ...recordNumbers(accountId, [number]),
      ...(answers ? reachedBy(config.secretKey, answers) : []),
    ];
    return { strand, touch, person, enquiry, lead: kept, known: { leadId, identities } };
  }
}
