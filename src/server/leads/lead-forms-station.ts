/* eslint-disable no-await-in-loop -- a platform is asked to change one form after the other */
import { AvrixError } from '../../core/errors';
import type {
  FormLinkView,
  LeadAccountView,
  LeadFormsView,
  LeadPullGiven,
  PlatformLeadView,
} from '../../core/leads/forms-view';
import { queryOf, tagLink, type TagValue } from '../../core/links';
import { mayChange } from '../../core/people/rights';
import { contractOf } from '../../core/platforms';
import type { LeadFormsContract, PlatformContract } from '../../core/platforms/contract';
import { count, counted, type Sentence } from '../../core/strands';
import { now } from '../clock';
import type { Changes } from '../changes/changes';
import type { Context } from '../context';
import type { Crms } from '../crms/crm';
import { inTransaction, markWork, plain } from '../db';
import type { Membership } from '../people/people';
import type { Account, Accounts } from '../platforms/accounts';
import { askAccount } from '../platforms/call';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { called } from './called';
import { readNewestLeads, readTotals, type NewestLead, type Totals } from './lead-forms-queries';
import type { LeadPullRow } from './table';

const mostShown = 200;

interface WithForms {
  account: Account;
  contract: PlatformContract;
  forms: LeadFormsContract;
}

/** Forms of platforms' own: which accounts' leads are fetched, how, and what became of each. */
export function makeLeadFormsStation(
  context: Context,
  accounts: Accounts,
  releases: Releases,
  crms: Crms,
  changes: Changes,
) {
  const { db, tables } = context;

  async function accountsWithForms(businessId: string): Promise<WithForms[]> {
    const { platforms } = (await releases.live(businessId)).content;
    return (await accounts.all(businessId)).flatMap((account): WithForms[] => {
      const contract = account.retiredAt ? null : contractOf(account.kind, platforms);
      return contract?.leadForms ? [{ account, contract, forms: contract.leadForms }] : [];
    });
  }

  async function accountOf(businessId: string, id: string): Promise<WithForms> {
    const found = (await accountsWithForms(businessId)).find(({ account }) => account.id === id);
    if (!found) throw new AvrixError('AVX_NOT_FOUND', { what: 'account with forms of its own' });
    return found;
  }

  async function view({ business, role }: Membership): Promise<LeadFormsView> {
    const [withForms, pulls, totals, rows, crm, { content }] = await Promise.all([
      accountsWithForms(business.id),
      tables.leadPulls.findAll({ where: { businessId: business.id, endedAt: null } }),
      readTotals(db, business.id),
      readNewestLeads(db, business.id, mostShown),
      crms.of(business.id),
      releases.live(business.id),
    ]);
    const pullOf = new Map(plain(pulls).map((pull) => [pull.accountId, pull]));
    const shown = withForms.map((one) => accountView(one, pullOf.get(one.account.id) ?? null));
    return {
      sentence: sentenceOf(shown, totals),
      accounts: shown,
      media: content.plan.channels.map(({ medium }) => medium),
      crm: { name: crm?.account.name ?? '', makes: crm?.contract.make !== undefined },
      leads: rows.map((row) => toLeadView(row, role.seesPeople)),
      total: totals.all,
      refused: totals.refused,
      mayChange: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  /** Where an account's forms lead, and with our tags beside those that are there. @throws ServiceAway */
  async function readLinks({ account, contract, forms }: WithForms, medium: string): Promise<FormLinkView[]> {
    const { request, read } = forms.forms;
    const own = read(await askAccount(context, account, contract.authorised, request));
    const placed = (words: string) => contract.placeholders.find((one) => one.words === words)?.text ?? '';
    const tags: TagValue[] = [
      ['utm_source', account.settings.source ?? account.kind],
      ['utm_medium', medium],
      ['utm_campaign', placed('campaign name')],
      ['utm_content', placed('ad name')],
    ];
    return own.map(({ form, title, link }) => {
      if (!URL.canParse(link)) return { form, title, link, becomes: link };
      const there = new Set(queryOf(link).map(([name]) => name));
      const added = tags.filter(([tag, value]) => value !== '' && !there.has(tag));
      return { form, title, link, becomes: added.length > 0 ? tagLink(new URL(link), added) : link };
    });
  }

  const mediumOf = async (businessId: string, accountId: string): Promise<string> =>
    (await tables.leadPulls.findOne({ where: { businessId, accountId } }))?.get({ plain: true }).medium ?? '';

  return {
    view,

    /**
     * Fetches an account's leads from now on, and those that the platform still keeps where they are wanted too. Where it
     * was fetched before, it goes on where it ended.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND
     */
    async begin(membership: Membership, byName: string, given: LeadPullGiven): Promise<LeadFormsView> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const { account } = await accountOf(businessId, given.account);
      await inTransaction(db, async (transaction) => {
        const before = await tables.leadPulls.findOne({ where: { businessId, accountId: account.id }, transaction });
        const row: LeadPullRow = {
          businessId,
          accountId: account.id,
          takesFrom: given.take === 'new' ? now() : null,
          medium: given.medium,
          handsOver: given.handsOver,
          agreed: given.agreed,
          // All is read again where more is wanted than before; what is here already stays as it is.
          pulledTo: given.take === 'all' ? '' : (before?.get({ plain: true }).pulledTo ?? ''),
          pulledAt: null,
          byName,
          begunAt: now(),
          endedAt: null,
        };
        await tables.leadPulls.upsert(row, { transaction });
        await markWork(db, 'lead_pull', businessId, [account.id], now(), transaction);
        const became = given.take === 'all' ? 'fetched, with all that are still kept' : 'fetched from now on';
        await note(membership, account, 'not fetched', became, transaction);
      });
      return view(membership);
    },

    /** Fetches nothing more from an account; what was fetched stays. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async end(membership: Membership, accountId: string): Promise<LeadFormsView> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const { account } = await accountOf(businessId, accountId);
      await inTransaction(db, async (transaction) => {
        await tables.leadPulls.update(
          { endedAt: now() },
          { where: { businessId, accountId: account.id, endedAt: null }, transaction },
        );
        await note(membership, account, 'fetched', 'not fetched any more', transaction);
      });
      return view(membership);
    },

    /** Asks the CRM again for records of the leads that it refused. @throws AVX_ROLE_TOO_SMALL */
    async askAgain(membership: Membership): Promise<LeadFormsView> {
      requireEditor(membership);
      const businessId = membership.business.id;
      await inTransaction(db, async (transaction) => {
        const where = { businessId, handed: 'refused' as const, deal: '' };
        const ids = plain(await tables.platformLeads.findAll({ attributes: ['id'], where, limit: 5000, transaction }));
        await tables.platformLeads.update({ handed: 'waiting', answer: '' }, { where, transaction });
        await markWork(
          db,
          'hand_over',
          businessId,
          ids.map(({ id }) => id),
          now(),
          transaction,
        );
      });
      return view(membership);
    },

    /** @throws AVX_NOT_FOUND; ServiceAway */
    async links({ business }: Membership, accountId: string): Promise<FormLinkView[]> {
      return readLinks(await accountOf(business.id, accountId), await mediumOf(business.id, accountId));
    },

    /**
     * Puts our tags on the links that an account's forms lead to. Tags that stand there already stay.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND; ServiceAway
     */
    async tagLinks(membership: Membership, accountId: string): Promise<FormLinkView[]> {
      requireEditor(membership);
      const { business } = membership;
      const one = await accountOf(business.id, accountId);
      const medium = await mediumOf(business.id, accountId);
      const changed = (await readLinks(one, medium)).filter(({ link, becomes }) => link !== becomes);
      for (const { form, title, link, becomes } of changed) {
        await askAccount(context, one.account, one.contract.authorised, one.forms.writeLink(form, becomes));
        await changes.note(business.id, membership.role.personId, [
          { kind: 'connection', subject: `${one.account.name}: link of “${title}”`, was: link, became: becomes },
        ]);
      }
      return readLinks(one, medium);
    },
  };

  function note(
    { business, role }: Membership,
    { name }: Account,
    was: string,
    became: string,
    transaction: Parameters<Changes['note']>[3],
  ) {
    const change = { kind: 'connection' as const, subject: `${name}: leads of its own forms`, was, became };
    return changes.note(business.id, role.personId, [change], transaction);
  }
}

function accountView({ account, contract, forms }: WithForms, pull: LeadPullRow | null): LeadAccountView {
  return {
    id: account.id,
    name: account.name,
    platform: contract.words,
    keptDays: forms.keptDays,
    untestable: forms.places.filter(({ passesTests }) => !passesTests).map(({ words }) => words),
    pull: pull && {
      since: pull.begunAt.toISOString(),
      by: pull.byName,
      takesAll: pull.takesFrom === null,
      medium: pull.medium,
      handsOver: pull.handsOver,
      agreed: pull.agreed,
      pulledAt: pull.pulledAt?.toISOString() ?? null,
    },
    trouble: account.pausedAt
      ? 'The account is paused.'
      : account.brokenAt
        ? `It answered ${account.answerStatus}: ${account.answerSaid}`
        : '',
  };
}

const toLeadView = (row: NewestLead, seesPeople: boolean): PlatformLeadView => ({
  id: row.id,
  enquiryId: row.enquiryId,
  words: row.fetchedAt === null ? 'not fetched' : called(row, seesPeople),
  number: row.number,
  form: row.form,
  ad: row.ad,
  campaign: row.campaign,
  place: row.place,
  sentAt: row.sentAt.toISOString(),
  ...standingOf(row),
});

/** What became of a lead. */
function standingOf({ fetchedAt, isTest, handed, answer, deal }: NewestLead): Pick<PlatformLeadView, 'state' | 'said'> {
  if (isTest) return { state: 'test', said: '' };
  if (fetchedAt === null) return { state: 'gone', said: '' };
  if (deal !== '') return { state: 'in the CRM', said: deal };
  if (handed === 'refused') return { state: 'refused', said: answer };
  return handed === 'no' ? { state: 'not asked for', said: answer } : { state: 'waits for the CRM', said: answer };
}

function sentenceOf(shown: LeadAccountView[], { all, gone, tests, inCrm, refused }: Totals): Sentence {
  const [first] = shown;
  if (!first)
    return {
      title: 'No connected platform has forms of its own.',
      under: 'Once an account of one is connected, what people send with its forms can be fetched here.',
    };
  if (all === 0)
    return {
      title: shown.some(({ pull }) => pull)
        ? `No lead from ${first.platform}’s own forms yet.`
        : `Nothing is fetched from ${first.platform}’s own forms.`,
      under: `${first.platform} keeps what people send for ${first.keptDays} days; what is fetched here stays.`,
    };
  const fetched = all - gone - tests;
  const lost =
    gone === 0
      ? 'None was gone before it was fetched.'
      : `${count(gone)} ${gone === 1 ? 'was' : 'were'} gone before ${gone === 1 ? 'it was' : 'they were'} fetched.`;
  const open = fetched - inCrm;
  const next =
    refused > 0
      ? ` The CRM refused ${count(refused)}.`
      : open > 0
        ? ` ${count(open)} ${open === 1 ? 'waits' : 'wait'} for it.`
        : '';
  return {
    title:
      open === 0 && fetched > 0
        ? `${fetched === 1 ? 'The one lead' : `All ${count(fetched)} leads`} fetched from platforms’ own forms ${fetched === 1 ? 'is' : 'are'} in the CRM.`
        : `Of ${counted(fetched, 'lead', 'leads')} fetched from platforms’ own forms, ${count(inCrm)} ${inCrm === 1 ? 'is' : 'are'} in the CRM.`,
    under: `${lost}${next}${tests > 0 ? ` ${counted(tests, 'test lead is', 'test leads are')} left out.` : ''}`,
  };
}
