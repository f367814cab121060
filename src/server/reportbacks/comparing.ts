import { Op } from 'sequelize';
import { AvrixError, fieldsWrong } from '../../core/errors';
import { destinationOf } from '../../core/destinations';
import type { WireRule } from '../../core/events/schema';
import type { TellingRule } from '../../core/outcomes/schema';
import type { ReleaseContent } from '../../core/releases';
import { contractOf } from '../../core/platforms';
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
  timesByDay,
  type Compared,
  type ToldRow,
} from '../../core/reportbacks/compare';
import { comparedDays, compareSentence } from '../../core/reportbacks/compare-words';
import type { CompareQuery } from '../../core/reportbacks/compare-schema';
import type { ComparedTelling, CompareView, DifferenceRow } from '../../core/reportbacks/compare-view';
import { now, nowMs } from '../clock';
import type { Connections } from '../connections/connections';
import type { Context } from '../context';
import { dayIn, dayWords, instantIn } from '../days';
import { inTransaction, markWork, plain, type RoleRow } from '../db';
import type { Membership } from '../people/people';
import type { Account, Accounts } from '../platforms/accounts';
import { requireEditor, type Draft } from '../releases/draft';
import { moneyWords } from '../strands/trace-events';
import { readOld, readOurs, readReported, type OurRow } from './compare-queries';
import { readWireNames, readWireRows, readWireTimes } from './compare-wires';

/** Differences that are shown. */
const shown = 100;
const day = 86_400_000;

/** What is compared, with its rule. */
type Rule = { of: 'outcome'; rule: TellingRule } | { of: 'event'; rule: WireRule };
type Chosen = ComparedTelling & Rule;

/** Tellings and wires by what they are compared under. */
const rulesIn = ({ telling, events }: ReleaseContent): Map<string, Rule> =>
  new Map([
    ...telling.map((rule): [string, Rule] => [comparedKey(rule), { of: 'outcome', rule }]),
    ...events.wires.map((rule): [string, Rule] => [
      comparedKey({ outcome: rule.event, account: rule.account }),
      { of: 'event', rule },
    ]),
  ]);

/** What Avrix would tell, beside what another way of telling told, until one is switched over. */
export function makeComparing(context: Context, draft: Draft, accounts: Accounts, connections: Connections) {
  const { db, tables } = context;

  /** What is compared, by the live rule, or by the draft where none is live. */
  async function readTellings(businessId: string): Promise<{ tellings: Chosen[]; live: ReleaseContent }> {
    const [{ live, draft: edited }, names] = await Promise.all([
      draft.content(businessId),
      connections.names(businessId),
    ]);
    const [lives, drafts] = [rulesIn(live), rulesIn(edited)];
    const keys = new Set([...drafts, ...lives].flatMap(([key, { rule }]) => (isCompared(rule) ? key : [])));
    const tellings = [...keys].map((key): Chosen => {
      const known = lives.get(key);
      const isLive = known !== undefined && isCompared(known.rule);
      const one = isLive ? known : drafts.get(key)!;
      const { account, from } = one.rule;
      return {
        key,
        outcome: one.of === 'event' ? one.rule.event : one.rule.outcome,
        account,
        accountName: names.find((name) => name.key === account)?.name ?? account,
        isLive,
        from: isLive ? from : '',
        fromInDraft: drafts.get(key)?.rule.from ?? '',
        ...one,
      };
    });
    return { tellings, live };
  }

  return {
    async view({ business, role }: Membership, { of, against, as }: CompareQuery): Promise<CompareView> {
      const { tellings, live } = await readTellings(business.id);
      const chosen = tellings.find(({ key }) => key === of) ?? tellings[0];
      const account = chosen ? await accounts.byKey(business.id, chosen.account) : null;
      const zone = account?.settings.timeZone ?? business.timeZone;
      // Whole days, as reports have them; today is the last.
      const firstDay = dayIn(zone, nowMs() - (comparedDays - 1) * day);
      const since = new Date(instantIn(zone, `${firstDay} 00:00`) ?? nowMs() - comparedDays * day);
      const place = account && destinationOf(account.kind, live.platforms);
      const reportsEvents = place?.report !== undefined;
      if (reportsEvents && chosen?.isLive) await askReport(account!);
      const reported = account ? await readReported(db, business.id, account.id) : [];
      const ownNames = chosen?.of === 'event' ? await readWireNames(db, business.id, chosen, since) : [];
      const files = chosen ? await readFiles(business.id, chosen.key) : [];
      // Rows of files are known by their click.
      const takesFiles = chosen?.of !== 'event' || (place !== null && place.toldOf !== 'every event');
      const by = !takesFiles ? 'report' : against || (files.length === 0 && reported.length > 0 ? 'report' : 'file');
      const names = [...new Set([...ownNames, ...reported])];
      const name = chosen ? nameIn(names, as, chosen) : '';
      const found: Found =
        !chosen || !account
          ? nothing
          : by === 'report'
            ? await againstReport(account, name, chosen, zone, since, !reportsEvents && countsByClick(account.kind))
            : await againstFiles(business.id, files, chosen, zone, since, role);
      return {
        sentence: compareSentence(
          chosen ?? null,
          by,
          found,
          { files: files.length > 0, report: reportsEvents || reported.length > 0 },
          nowMs(),
          (at) => dayWords(at, business.timeZone),
        ),
        tellings: tellings.map(({ rule: _rule, ...one }) => one),
        chosen: chosen?.key ?? '',
        against: by,
        reported: chosen?.of === 'event' ? names : reported,
        takesFiles,
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
      const known = rulesIn(edited).get(key);
      if (!known) throw new AvrixError('AVX_NOT_FOUND', { what: 'rule' });
      const { of, rule } = known;
      await draft.change(membership, personId, [
        {
          kind: of === 'event' ? 'wire' : 'telling',
          id: key,
          value: { ...rule, how: 'told', from: new Date(moment).toISOString().replace('.000', '') },
          from: rule,
        },
      ]);
    },
  };

  /** Has an account's report read anew, as nobody else asks for that of one that is only told events. */
  async function askReport({ businessId, id }: Account): Promise<void> {
    await inTransaction(db, (transaction) => markWork(db, 'platform_report', businessId, [id], now(), transaction));
  }

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
    const [ours, old] = [await readTold(businessId, chosen, since), await readOld(db, businessId, fileIds, since)];
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

  /** Our side, row by row: what would be told, and what is known of each click. */
  async function readTold(businessId: string, chosen: Chosen, since: Date): Promise<OurSide> {
    if (chosen.of === 'outcome') {
      const { told, known } = await readOurs(db, businessId, chosen, since);
      return {
        told,
        known: new Map([...known].map(([click, row]) => [click, { strandId: row.strandId, why: whyNot(row) }])),
        without: 'No outcome is counted by this click.',
      };
    }
    const told = await readWireRows(db, businessId, chosen, chosen.rule.kind, since);
    const why = 'The other way told it more than once.';
    return {
      told,
      known: new Map(told.map(({ clickId, strandId }) => [clickId, { strandId, why }])),
      without: 'It did not go off for a visitor with this click.',
    };
  }

  /** How many Avrix would tell, and how many of those that it told the account counts, by day. */
  async function readOurDays(
    { businessId, kind }: Account,
    name: string,
    chosen: Chosen,
    since: Date,
    { byClick, zone }: { byClick: boolean; zone: string },
  ): Promise<{ ours: Map<string, number>; booked: Map<string, number> }> {
    if (chosen.of === 'outcome') {
      const { told, booked } = await readOurs(db, businessId, chosen, since);
      const counted = told.flatMap(({ clickedAt, at }) => {
        const when = byClick ? clickedAt : at;
        return when === null ? [] : dayIn(zone, when);
      });
      const [ours, theirs] = [counted, booked].map((days) => timesByDay(days.map((one) => ({ day: one, times: 1 }))));
      return { ours: ours!, booked: theirs! };
    }
    const times = await readWireTimes(db, businessId, chosen, { name, platform: kind, since, byClick });
    const byDay = (some: typeof times) =>
      timesByDay(some.map((one) => ({ day: dayIn(zone, one.at), times: one.times })));
    return {
      ours: byDay(times.filter(({ way }) => way === 'ours')),
      booked: byDay(times.filter(({ isTold }) => isTold)),
    };
  }

  /**
   * With the account's own report: how many there were on each day, without those that Avrix told.
   * @param byClick whether it reports by the day of the click
   */
  async function againstReport(
    account: Account,
    outcome: string,
    chosen: Chosen,
    zone: string,
    since: Date,
    byClick: boolean,
  ): Promise<Found> {
    const { businessId, id: accountId } = account;
    const where = { businessId, accountId, outcome, day: { [Op.gte]: dayIn(zone, since.getTime()) } };
    const [rows, { ours, booked }] = await Promise.all([
      tables.outcomeReports.findAll({ where }),
      readOurDays(account, outcome, chosen, since, { byClick, zone }),
    ]);
    const days = reportedDays(plain(rows), ours, booked).filter((one) => one.day >= where.day[Op.gte]);
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
/** Whether a kind of platform counts an outcome on the day of its click. */
const countsByClick = (kind: string): boolean => contractOf(kind, [])?.report?.countsBy !== 'outcome day';

const nothing: Found = { as: '', days: [], differences: [], differing: 0, stillTold: 0 };

/** The name that an account's report is read by: the one asked for, else as it is told, else the first. */
const nameIn = (names: readonly string[], as: string, { of, rule, outcome }: Chosen): string =>
  [as, of === 'outcome' ? rule.as || outcome : ''].find((name) => names.includes(name)) ?? names[0] ?? '';

interface OurSide {
  told: ToldRow[];
  /** Of a click, its strand, and why Avrix would not tell what the other way told of it. */
  known: Map<string, { strandId: string | null; why: string }>;
  /** The same of a click of which nothing is known here. */
  without: string;
}

function toRow(one: Compared, { known, without }: OurSide, { seesMoney }: RoleRow): DifferenceRow {
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
    why: one.kind !== 'only old' ? '' : (ours?.why ?? without),
    path: ours?.strandId ? `/strands/${ours.strandId}` : '',
  };
}

const whyNot = ({ state, reason }: OurRow): string => {
  if (reason?.code === 'worked_out') return 'The other way told it more than once.';
  return state === 'held' || state === 'withdrawn' || state === 'refused'
    ? `${reason ? stoppedWords(reason).text : 'It is not told'}.`
    : 'Avrix told it itself, before it was only worked out.';
};
