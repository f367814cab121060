import { hostOfWebsite } from '../../core/businesses/schema';
import { businessKey } from '../../core/businesses/key';
import type { AccountState, ChangedAccount, NewAccount } from '../../core/connections/schema';
import type { AccountName, AccountView, ConnectionsView, KindView } from '../../core/connections/view';
import { AvrixError, fieldsWrong } from '../../core/errors';
import { isUnder } from '../../core/capture/address';
import { mayChange } from '../../core/people/rights';
import { contractOf } from '../../core/platforms';
import type { ReleaseContent } from '../../core/releases';
import { startClickId } from '../../core/rules/click-id';
import { registrableOf, websiteWrong } from '../businesses/website';
import { now } from '../clock';
import type { Changes } from '../changes/changes';
import type { Context } from '../context';
import { inTransaction, markWork, plain } from '../db';
import { groupBy } from '../../core/group-by';
import { folderOf } from '../files/folders';
import { newId, newSecret } from '../ids';
import { makeLastKnown } from '../last-known';
import type { Membership } from '../people/people';
import type { Openers } from '../events/openers';
import { takeUpTellings } from '../events/take-up';
import { observationStartDay } from '../plan/plan';
import type { Account, Accounts } from '../platforms/accounts';
import { requireEditor, type Draft } from '../releases/draft';
import { markSubjects } from '../reportbacks/settle';
import { brokenOf, stateWords, toView, undescribed, usedFor } from './account-view';
import { kindOf, kindsOf } from './kinds';
import { connectionsSentence } from './sentence';
import { readHostsSeen, readLastEvents, readRecordCounts, readStrangers, readTold, readToldEvents } from './queries';

export type Connections = ReturnType<typeof makeConnections>;

/** @throws AVX_ROLE_TOO_SMALL for all but owners */
export function requireOwner({ role }: Membership, right: string): void {
  if (role.role !== 'owner') throw new AvrixError('AVX_ROLE_TOO_SMALL', { right });
}

/** A business's connections: its websites, its accounts on platforms, and its CRM. */
export function makeConnections(
  context: Context,
  accounts: Accounts,
  draft: Draft,
  changes: Changes,
  openers: Openers,
) {
  const { db, tables, config } = context;

  /** The kind of an account, by the live rules or else by those that are being written. */
  const anyKindOf = (kind: string, { live, draft: edited }: { live: ReleaseContent; draft: ReleaseContent }) =>
    kindOf(kind, live) ?? kindOf(kind, edited);

  async function names(businessId: string): Promise<AccountName[]> {
    const [all, content] = await Promise.all([accounts.all(businessId), draft.content(businessId)]);
    return all.flatMap(({ key, kind, name, retiredAt }) => {
      const known = anyKindOf(kind, content);
      return known && !retiredAt ? [{ key, kind, name, does: known.does }] : [];
    });
  }

  async function accountOf({ business }: Membership, id: string): Promise<Account> {
    const account = await accounts.byId(business.id, id);
    if (!account) throw new AvrixError('AVX_NOT_FOUND', { what: 'account' });
    return account;
  }

  const brokenCount = makeLastKnown(async (businessId) => {
    const rows = plain(
      await tables.accounts.findAll({
        attributes: ['name', 'answerStatus', 'brokenAt'],
        where: { businessId, pausedAt: null, retiredAt: null },
        limit: 200,
      }),
    );
    return rows.filter((row) => brokenOf(row)).map(({ name }) => name);
  }, 5000);

  const forget = (businessId: string) => {
    brokenCount.forget(businessId);
    openers.forget(businessId);
  };

  return {
    names,
    accountOf,

    /** Names of accounts whose connection is broken, known within some seconds: every page says so. */
    broken: (businessId: string): Promise<string[]> => brokenCount.get(businessId),

    async view(membership: Membership): Promise<ConnectionsView> {
      const { business, role } = membership;
      const { id } = business;
      const [all, content, websites, told, toldEvents, records, events, hosts, strangers] = await Promise.all([
        accounts.all(id),
        draft.content(id),
        tables.websites.findAll({ where: { businessId: id }, order: [['place', 'ASC']], limit: 200 }),
        readTold(db, id),
        readToldEvents(db, id),
        readRecordCounts(db, id),
        readLastEvents(db, id),
        readHostsSeen(db, id, observationStartDay()),
        readStrangers(db, id),
      ]);
      const { live, draft: edited, changed } = content;
      const toldOf = groupBy(told, ({ accountId }) => accountId);
      const views = all.map((account): AccountView => {
        const kind = anyKindOf(account.kind, content) ?? undescribed(account.kind);
        // Outcomes by report-backs, and single events.
        const own = [
          ...(toldOf.get(account.id) ?? []),
          ...toldEvents.filter((one) => one.account === account.key && one.toldBy === 'server'),
        ];
        const sum = (...states: string[]) =>
          own.filter(({ state }) => states.includes(state)).reduce((total, { count }) => total + count, 0);
        const lastTold = own.map(({ lastAt }) => lastAt?.getTime() ?? 0);
        const did =
          kind.does !== 'crm'
            ? {
                count: sum('told', 'confirmed', 'refused'),
                lastAt: lastTold.some(Boolean) ? new Date(Math.max(...lastTold)).toISOString() : null,
                waiting: sum('waiting', 'unsure'),
                held: sum('held'),
              }
            : {
                count: records.find(({ accountId }) => accountId === account.id)?.count ?? 0,
                lastAt: events.find(({ accountId }) => accountId === account.id)?.lastAt.toISOString() ?? null,
                waiting: 0,
                held: 0,
              };
        const hook = kind.sendsWebhooks ? `${config.edgeOrigin}/hook/${business.key}/${account.key}` : null;
        return { ...toView(account, kind), hook, did, usedFor: usedFor(account, live) };
      });
      const webs = plain(websites).map(({ host, registrable }) => ({
        host,
        registrable,
        subdomain: `t.${registrable}`,
        seenAt:
          hosts
            .filter((one) => isUnder(one.host.replace(/:\d+$/, ''), registrable))
            .map(({ lastAt }) => lastAt.toISOString())
            .sort()
            .at(-1) ?? null,
      }));
      return {
        sentence: connectionsSentence(views, webs, live.crm !== null),
        websites: webs,
        strangers: strangers.filter(({ host }) => !webs.some(({ registrable }) => isUnder(host, registrable))),
        accounts: views,
        kinds: kindsOf(live, edited),
        ownPlatforms: edited.platforms,
        ownCrms: edited.crms,
        clickIdsKept: edited.capture.keep.clickIds.map(({ platform }) => platform),
        changed,
        edge: new URL(config.edgeOrigin).host,
        edgeOrigin: config.edgeOrigin,
        timeZone: business.timeZone,
        currency: business.currency,
        mayChange: mayChange(role),
        isOwner: role.role === 'owner',
      };
    },

    /**
     * Connects an account: its work begins, and what was held for want of it is taken up.
     *
     * @returns its ID, and the secret that its service is to prove itself by where one was made up here: it is said this
     *   once
     * @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG
     */
    async connect(membership: Membership, personId: string, wanted: NewAccount) {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const content = await draft.content(businessId);
      const kind = anyKindOf(wanted.kind, content);
      if (!kind)
        throw fieldsWrong([
          { field: 'kind', was: `no platform or CRM is called “${wanted.kind}” here`, fix: 'Choose one of the list.' },
        ]);
      requireAddress(wanted.endpoint, kind);
      const keys = new Set((await accounts.all(businessId)).map(({ key }) => key));
      const made = kind.sendsWebhooks && wanted.webhookSecret === '' ? newSecret() : '';
      const platform = contractOf(wanted.kind, []);
      const account = {
        businessId,
        id: newId(),
        // A rule that waits for an account of this kind names it so.
        key: keyFor(wanted.kind, keys),
        kind: wanted.kind,
        name: wanted.name,
        endpoint: wanted.endpoint,
        settings: {
          timeZone: wanted.timeZone,
          currency: wanted.currency,
          ...(kind.does === 'platform' ? { source: sourceOf(wanted.kind, content.draft) } : {}),
          ...(platform?.report?.clicks ? { reports: 'yes' } : {}),
        },
        secrets: accounts.seal({ token: wanted.token, webhookSecret: wanted.webhookSecret || made }),
        createdAt: now(),
        pausedAt: null,
        retiredAt: null,
        askedAt: null,
        answerStatus: '',
        answerSaid: '',
        workedAt: null,
        brokenAt: null,
      };
      // First what may be refused, so that an account is not connected twice by who tries again.
      const isKept = content.draft.capture.keep.clickIds.some(({ platform: kept }) => kept === wanted.kind);
      if (kind.does === 'platform' && wanted.keepClickId && !isKept)
        await draft.change(membership, personId, [
          {
            kind: 'click_id',
            id: wanted.kind,
            value: { platform: wanted.kind, days: 90, ...startClickId(wanted.kind, content.draft.platforms) },
            from: null,
          },
        ]);
      await accounts.connect(businessId, account, async (transaction) => {
        if (platform?.report) await markWork(db, 'platform_report', businessId, [account.id], now(), transaction);
        if (kind.does === 'crm') await markWork(db, 'crm_poll', businessId, [account.id], now(), transaction);
        const became = `${kind.words} at ${account.endpoint}`;
        await changes.note(
          businessId,
          personId,
          [{ kind: 'connection', subject: account.name, was: '', became }],
          transaction,
        );
      });
      forget(businessId);
      return { id: account.id, key: account.key, webhookSecret: made };
    },

    /**
     * Changes an account; a key that is left empty stays as it is.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND
     */
    async change(membership: Membership, personId: string, id: string, wanted: ChangedAccount): Promise<void> {
      requireEditor(membership);
      const account = await accountOf(membership, id);
      const { businessId, settings, secrets, name, endpoint } = account;
      requireAddress(wanted.endpoint, anyKindOf(account.kind, await draft.content(businessId)));
      const next = {
        name: wanted.name,
        endpoint: wanted.endpoint,
        settings: { ...settings, timeZone: wanted.timeZone, currency: wanted.currency },
        secrets: accounts.seal({
          token: wanted.token || secrets.token,
          webhookSecret: wanted.webhookSecret || secrets.webhookSecret,
        }),
      };
      const pairs: [string, string, string][] = [
        ['name', name, wanted.name],
        ['address', endpoint, wanted.endpoint],
        ['time zone', settings.timeZone ?? 'UTC', wanted.timeZone],
        ['currency', settings.currency ?? '', wanted.currency],
        ['key', '', wanted.token && wanted.token !== secrets.token ? 'replaced' : ''],
        [
          'webhook secret',
          '',
          wanted.webhookSecret && wanted.webhookSecret !== secrets.webhookSecret ? 'replaced' : '',
        ],
      ];
      const noted = pairs
        .filter(([, was, became]) => was !== became)
        .map(([what, was, became]) => ({ kind: 'connection' as const, subject: `${name}: ${what}`, was, became }));
      const isOther = next.endpoint !== endpoint || wanted.token !== '';
      await inTransaction(db, async (transaction) => {
        await tables.accounts.update(
          // What was answered to the key or at the address before says nothing of these.
          {
            ...next,
            ...(isOther ? { answerStatus: '', answerSaid: '', askedAt: null, brokenAt: null, workedAt: null } : {}),
          },
          { where: { businessId, id }, transaction },
        );
        await changes.note(businessId, personId, noted, transaction);
      });
      forget(businessId);
    },

    /**
     * Pauses an account, retires it or lets it go on. While it is paused nothing is told to it or read from it; what
     * waits is held, and taken up when it goes on. What it ever did stays.
     */
    async setState(membership: Membership, personId: string, id: string, state: AccountState): Promise<void> {
      requireEditor(membership);
      const account = await accountOf(membership, id);
      const { businessId } = account;
      await inTransaction(db, async (transaction) => {
        await tables.accounts.update(
          {
            pausedAt: state === 'pause' ? now() : null,
            retiredAt: state === 'retire' ? now() : null,
            ...(state === 'go on' ? { brokenAt: null } : {}),
          },
          { where: { businessId, id }, transaction },
        );
        const waiting = plain(
          await tables.reportBacks.findAll({
            attributes: ['subjectKind', 'subjectId'],
            where: { businessId, accountId: id, state: ['waiting', 'held'] },
            transaction,
          }),
        );
        // Whether they may be told is decided anew.
        await markSubjects(db, businessId, waiting, transaction);
        if (state === 'go on') {
          const content = await draft.content(businessId);
          const does = anyKindOf(account.kind, content)?.does;
          if (contractOf(account.kind, [])?.report)
            await markWork(db, 'platform_report', businessId, [id], now(), transaction);
          if (does === 'crm') await markWork(db, 'crm_poll', businessId, [id], now(), transaction);
          if (does !== 'crm') await takeUpTellings({ db, tables }, businessId, account.key, transaction);
        }
        const [was, became] = [stateWords(account), state === 'go on' ? 'in use' : `${state}d`];
        if (was !== became)
          await changes.note(
            businessId,
            personId,
            [{ kind: 'connection', subject: account.name, was, became }],
            transaction,
          );
      });
      forget(businessId);
    },

    /**
     * Adds a website: its pages are counted at once, and the draft takes its name among the own ones.
     * @throws AVX_ROLE_TOO_SMALL, AVX_FIELD_WRONG where it is nobody's own, or a business's already
     */
    async addWebsite(membership: Membership, personId: string, written: string): Promise<void> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const host = hostOfWebsite(written);
      const registrable = registrableOf(host);
      await inTransaction(db, async (transaction) => {
        const there = plain(await tables.websites.findAll({ where: { registrable }, transaction }));
        const [other] = there.filter((website) => website.businessId !== businessId);
        if (other)
          throw websiteWrong(
            `the website ${registrable} belongs to another business here`,
            'Ask its owner for a role there, or enter the address of another website.',
          );
        if (there.some((website) => website.host === host))
          throw websiteWrong(`${host} is a website of this business already`, 'Enter another one.');
        const place = await tables.websites.count({ where: { businessId }, transaction });
        await tables.websites.create({ businessId, host, registrable, place }, { transaction });
        await changes.note(
          businessId,
          personId,
          [{ kind: 'connection', subject: 'Websites', was: '', became: host }],
          transaction,
        );
      });
      const { draft: edited } = await draft.content(businessId);
      const { touch } = edited.capture;
      if (!touch.ownHosts.includes(registrable))
        await draft.change(membership, personId, [
          { kind: 'visit', id: '', value: { ...touch, ownHosts: [...touch.ownHosts, registrable] } },
        ]);
    },
  };
}

/** The UTM source that a platform's clicks count as, for its reports of clicks. */
const sourceOf = (kind: string, { capture, platforms }: ReleaseContent): string =>
  capture.keep.clickIds.find(({ platform }) => platform === kind)?.source ||
  platforms.find((one) => one.kind === kind)?.source ||
  kind;

const keyFor = (kind: string, taken: ReadonlySet<string>): string =>
  taken.has(kind) ? businessKey(kind, taken) : kind;

/** @throws AVX_FIELD_WRONG where the address is a folder and what is connected takes no files */
function requireAddress(endpoint: string, kind: KindView | null): void {
  if (folderOf(endpoint) === null || kind?.takesFiles) return;
  throw fieldsWrong([
    {
      field: 'endpoint',
      was: 'it is a folder, and no file is written for this account',
      fix: 'Enter the address of its API.',
    },
  ]);
}
