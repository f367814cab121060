import { Op } from 'sequelize';
import { AvrixError, fieldsWrong } from '../../core/errors';
import type { TellingRule } from '../../core/outcomes/schema';
import { mayChange } from '../../core/people/rights';
import { stoppedWords } from '../../core/reasons/words';
import {
  comparedKey,
  compareDays,
  compareTold,
  isCompared,
  reportedDays,
  sumsOf,
  timeOf,
  type Compared,
  type ToldRow,
} from '../../core/reportbacks/compare';
import { comparedDays, compareSentence } from '../../core/reportbacks/compare-words';
import type { CompareQuery } from '../../core/reportbacks/compare-schema';
import type { ComparedTelling, CompareView, DifferenceRow } from '../../core/reportbacks/compare-view';
import { nowMs } from '../clock';
import type { Connections } from '../connections/connections';
import type { Context } from '../context';
import { dayIn, dayWords, instantIn } from '../days';
import { plain, type RoleRow } from '../db';
import type { Membership } from '../people/people';
import type { Account, Accounts } from '../platforms/accounts';
import { requireEditor, type Draft } from '../releases/draft';
import { moneyWords } from '../strands/trace-events';
import { readOld, readOurs, readReported, type OurRow, type Ours } from './compare-queries';

/** Differences that are shown. */
const shown = 100;
const day = 86_400_000;

/** A telling that is compared, with its rule. */
type Chosen = ComparedTelling & { rule: TellingRule };

/** What Avrix would tell, beside what another way of telling told, until one is switched over. */
export function makeComparing(context: Context, draft: Draft, accounts: Accounts, connections: Connections) {
  const { db, tables } = context;

  /** Tellings that are compared, by the live rule, or by the draft where none is live. */
  async function readTellings(businessId: string): Promise<Chosen[]> {
    const [{ live, draft: edited }, names] = await Promise.all([
      draft.content(businessId),
      connections.names(businessId),
    ]);
    const [lives, drafts] = [live, edited].map(
      ({ telling }) => new Map(telling.map((rule) => [comparedKey(rule), rule])),
    ) as [Map<string, TellingRule>, Map<string, TellingRule>];
    const keys = new Set([...drafts, ...lives].flatMap(([key, rule]) => (isCompared(rule) ? key : [])));
    return [...keys].map((key) => {
      const known = lives.get(key);
      const isLive = known !== undefined && isCompared(known);
      const rule = isLive ? known : drafts.get(key)!;
      const { outcome, account, from } = rule;
      return {
        key,
        outcome,
        account,
        accountName: names.find((one) => one.key === account)?.name ?? account,
        isLive,
        from: isLive ? from : '',
        fromInDraft: drafts.get(key)?.from ?? '',
        rule,
      };
    });
  }

  return {
    async view({ business, role }: Membership, { of, against, as }: CompareQuery): Promise<CompareView> {
      const tellings = await readTellings(business.id);
      const chosen = tellings.find(({ key }) => key === of) ?? tellings[0];
      const account = chosen ? await accounts.byKey(business.id, chosen.account) : null;
      const reported = account ? await readReported(db, business.id, account.id) : [];
      const files = chosen ? await readFiles(business.id, chosen.key) : [];
      const by = against || (files.length === 0 && reported.length > 0 ? 'report' : 'file');
      const zone = account?.settings.timeZone ?? business.timeZone;
      const since = new Date(nowMs() - comparedDays * day);
      const found: Found = !chosen
        ? nothing
        : by === 'report'
          ? await againstReport(account!, nameIn(reported, as, chosen), chosen, zone, since)
          : await againstFiles(business.id, files, chosen, zone, since, role);
      return {
        sentence: compareSentence(chosen ?? null, by, found, files.length > 0, nowMs(), (at) =>
          dayWords(at, business.timeZone),
        ),
        tellings: tellings.map(({ rule: _rule, ...one }) => one),
        chosen: chosen?.key ?? '',
        against: by,
        reported,
        files,
        ...found,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /**
     * States the moment from which Avrix tells what it only worked out; it holds once it is live.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND
     */
    async switchOver(membership: Membership, personId: string, key: string, at: string): Promise<void> {
      requireEditor(membership);
      const moment = instantIn(membership.business.timeZone, at);
      if (moment === null || moment <= nowMs())
        throw fieldsWrong([
          { field: 'at', was: 'the moment is no later than now', fix: 'Choose one that is still to come.' },
        ]);
      const { draft: edited } = await draft.content(membership.business.id);
      const rule = edited.telling.find((one) => comparedKey(one) === key);
      if (!rule) throw new AvrixError('AVX_NOT_FOUND', { what: 'rule' });
      await draft.change(membership, personId, [
        {
          kind: 'telling',
          id: key,
          value: { ...rule, how: 'told', from: new Date(moment).toISOString().replace('.000', '') },
          from: rule,
        },
      ]);
    },
  };

  async function readFiles(businessId: string, key: string): Promise<CompareView['files']> {
    const rows = plain(
      await tables.filedFiles.findAll({ where: { businessId, state: 'taken' }, order: [['at', 'DESC']], limit: 500 }),
    );
    return rows
      .filter(({ how }) => how.compares === key)
      .map(({ id, name, at, counts }) => ({ id, name, at: at.toISOString(), rows: counts.taken }));
  }

  /** With what the other way told, as its files say, row by row. */
  async function againstFiles(
    businessId: string,
    files: CompareView['files'],
    chosen: Chosen,
    zone: string,
    since: Date,
    role: RoleRow,
  ): Promise<Found> {
    const fileIds = files.map(({ id }) => id);
    const [ours, old] = [await readOurs(db, businessId, chosen, since), await readOld(db, businessId, fileIds, since)];
    const compared = compareTold(ours.told, old);
    const differing = compared.filter(({ kind }) => kind !== 'same');
    return {
      as: '',
      days: compareDays(compared, (at) => dayIn(zone, at)),
      differences: differing.slice(0, shown).map((one) => toRow(one, ours, role)),
      differing: differing.length,
      stillTold: 0,
    };
  }

  /** With the platform's own report: how many there were on each day of the click, without those that Avrix told. */
  async function againstReport(
    { businessId, id: accountId }: Account,
    outcome: string,
    chosen: Chosen,
    zone: string,
    since: Date,
  ): Promise<Found> {
    const { told, booked } = await readOurs(db, businessId, chosen, since);
    const where = { businessId, accountId, outcome, day: { [Op.gte]: dayIn(zone, since.getTime()) } };
    const rows = plain(await tables.outcomeReports.findAll({ where }));
    const clicked = told.flatMap(({ clickedAt }) => (clickedAt === null ? [] : dayIn(zone, clickedAt)));
    const days = reportedDays(rows, clicked, booked).filter((one) => one.day >= where.day[Op.gte]);
    const switched = chosen.from === '' ? '' : dayIn(zone, Date.parse(chosen.from));
    return {
      as: outcome,
      days,
      differences: [],
      differing: days.filter((one) => one.ours !== one.old).length,
      stillTold: switched === '' ? 0 : sumsOf(days.filter((one) => one.day > switched)).old,
    };
  }
}

/** What was found of both ways. */
type Found = Pick<CompareView, 'as' | 'days' | 'differences' | 'differing' | 'stillTold'>;
const nothing: Found = { as: '', days: [], differences: [], differing: 0, stillTold: 0 };

/** The name that the platform's report is read by: the one asked for, else as it is told, else the first. */
const nameIn = (reported: readonly string[], as: string, { rule, outcome }: Chosen): string =>
  [as, rule.as || outcome].find((name) => reported.includes(name)) ?? reported[0] ?? '';

function toRow(one: Compared, { known }: Ours, { seesMoney }: RoleRow): DifferenceRow {
  const row = one.ours ?? one.old!;
  const money = (side: ToldRow | null) =>
    side && seesMoney && side.currency !== '' ? moneyWords({ minor: side.minor, currency: side.currency }) : '';
  const ours = known.get(row.clickId);
  return {
    id: `${one.kind} ${row.id}`,
    kind: one.kind === 'same' ? 'worth' : one.kind,
    clickId: row.clickId,
    at: new Date(timeOf(one)).toISOString(),
    ours: money(one.ours),
    old: money(one.old),
    why: one.kind !== 'only old' ? '' : ours ? whyNot(ours) : 'No outcome is counted by this click.',
    path: ours?.strandId ? `/strands/${ours.strandId}` : '',
  };
}

const whyNot = ({ state, reason }: OurRow): string => {
  if (reason?.code === 'worked_out') return 'The other way told it more than once.';
  return state === 'held' || state === 'withdrawn' || state === 'refused'
    ? `${reason ? stoppedWords(reason).text : 'It is not told'}.`
    : 'Avrix told it itself, before it was only worked out.';
};
