import type { Sequelize } from 'sequelize';
import { isReached } from '../../core/outcomes/reached';
import type { OutcomeRule } from '../../core/outcomes/schema';
import {
  bridgeOf,
  claimsOf,
  countedBy,
  type Bridge,
  type BridgeRow,
  type Claims,
  type Counter,
} from '../../core/results/bridge';
import type { BridgeAxis } from '../../core/results/three-counts-view';
import { readingOf } from '../../core/results/reading';
import type { Reading } from '../../core/results/dimensions';
import type { SubjectKind } from '../../core/strands';
import { groupBy } from '../../core/group-by';
import { dayIn } from '../days';
import { inParts } from '../lists';
import type { AskedOutcome } from './asked-business';
import {
  readCounted,
  readDealsOf,
  readReported,
  readToldOf,
  readUncounted,
  type CountedRow,
  type StagedDeal,
  type UncountedRow,
  type ToldOfRow,
} from './bridge-queries';
import { connected } from './connected';

const hour = 3_600_000;

/** An account that is told of the outcome. */
export interface BridgedAccount {
  id: string;
  key: string;
  /** The kind of platform. */
  platform: string;
  /** What it calls the outcome. */
  name: string;
  timeZone: string;
  /** On which day it counts an outcome; null where it has no report. */
  countsBy: 'click day' | 'outcome day' | null;
}

/** What a thread is asked: one outcome, as platforms, the website and the CRM count it on some days. */
export interface AskedBridge extends AskedOutcome {
  /** Whether the CRM holds what the outcome is of. */
  isHeld: boolean;
  accounts: BridgedAccount[];
  /** The account that is one of the two ends, or whose rows they are; '' for everyone's. */
  account: string;
  ends: { from: Counter; to: Counter };
  axis: BridgeAxis;
  /** When (ms) the first day begins. */
  from: number;
}

/** A row of the bridge with what it is of, and when it happened (ms). */
export interface BridgedRow extends BridgeRow {
  kind: SubjectKind;
  subjectId: string;
  /** The number of the deal that no outcome stands for; '' for an outcome. */
  deal: string;
  at: number;
}
export interface WorkedOutBridge extends Bridge<BridgedRow> {
  /** What each account says that it counted, or took; in the order of the accounts. */
  counts: number[];
  claims: Claims;
  /** What each end counts, one by one. */
  counted: { start: BridgedRow[]; end: BridgedRow[] };
  /** All of everyone, for what is claimed. */
  all: BridgedRow[];
}

/** What is known of one thing that somebody counts, before it is looked at from one account. */
interface Known {
  of: Omit<BridgedRow, 'day' | 'told' | 'hasClick'>;
  platform: string;
  /** The platform whose click brought it, and when (ms); null where no click ID is known. */
  click: { platform: string; at: number } | null;
  startedAt: number;
  told: ToldOfRow[];
}

/** How one count becomes another, and what all accounts claim together. */
export async function workOutBridge(asked: AskedBridge): Promise<WorkedOutBridge> {
  const db = connected(asked.databaseUrl);
  const { firstDay, lastDay, accounts } = asked;
  const known = await readKnown(db, asked, readingOf(asked.content));
  const isWithin = (day: string) => day >= firstDay && day <= lastDay;
  const account = accounts.find(({ key }) => key === asked.account) ?? null;
  const reported = await Promise.all(
    accounts.map(({ id, name, countsBy }) =>
      countsBy === null ? null : readReported(db, asked.businessId, id, name, firstDay, lastDay),
    ),
  );
  const rowsOf = (one: BridgedAccount | null) =>
    known.flatMap((row) => (one === null || isOf(row, one) ? toRow(row, one, asked) : []));
  const rows = rowsOf(account);
  const { from, to } = asked.ends;
  const bridge = bridgeOf(rows, from, to, account ? reported[accounts.indexOf(account)]! : null, isWithin);
  const confirmed = accounts.map((one) =>
    rowsOf(one).flatMap((row) => (countedBy(row, 'platform', isWithin) > 0 ? row.id : [])),
  );
  const everyone = rowsOf(null);
  const end = new Map(
    everyone.map((row) => [row.id, countedBy(row, asked.isHeld ? 'crm' : 'website', isWithin)] as const),
  );
  return {
    ...bridge,
    counts: accounts.map((_, i) => reported[i] ?? confirmed[i]!.length),
    claims: claimsOf(
      accounts.map((_, i) => ({ reported: reported[i]!, confirmed: confirmed[i]! })),
      end,
    ),
    counted: {
      start: rows.filter((row) => countedBy(row, from, isWithin) > 0),
      end: rows.filter((row) => countedBy(row, to, isWithin) > 0),
    },
    all: everyone,
  };
}

/** Whether something is an account's: it is told of it, or what brought it is its platform's. */
const isOf = ({ told, platform }: Known, { key, platform: kind }: BridgedAccount): boolean =>
  told.some(({ account }) => account === key) || platform === kind;

/** A row as one account sees it, or nobody's. */
function toRow(known: Known, account: BridgedAccount | null, asked: AskedBridge): BridgedRow {
  const { of, click, startedAt } = known;
  const told = account && known.told.find((one) => one.account === account.key);
  const clickedAt = told?.clickedAt?.getTime() ?? click?.at ?? startedAt;
  const dayBy = (axis: 'click day' | 'outcome day', zone: string) =>
    dayIn(zone, axis === 'click day' ? clickedAt : of.at);
  const there = account && account.countsBy !== null ? dayBy(account.countsBy, account.timeZone) : null;
  const day =
    asked.axis === 'reported' && there !== null
      ? (told?.bookedOn ?? there)
      : dayBy(asked.axis === 'click' ? 'click day' : 'outcome day', asked.timeZone);
  return {
    ...of,
    day,
    hasClick: account !== null && click?.platform === account.platform,
    told: told ? { state: told.state, reason: told.reason, day: told.bookedOn ?? there ?? day } : null,
  };
}

/** All that anyone counts since the first of the days: nothing happens before its click. */
async function readKnown(db: Sequelize, asked: AskedBridge, reading: Reading): Promise<Known[]> {
  const { businessId, rule, stages, now } = asked;
  const since = new Date(asked.from - 48 * hour);
  const stage = rule.reachedBy.kind === 'stage' ? rule.reachedBy.stage : null;
  const at = stage === null ? [] : stages.inOrder.filter((one) => isReached(stage, one, stages));
  const [outcomes, uncounted] = await Promise.all([
    readCounted(db, businessId, rule.code, since),
    at.length > 0 ? readUncounted(db, businessId, rule.code, at, since) : [],
  ]);
  const told = new Map<string, ToldOfRow[]>();
  for await (const part of inParts(
    outcomes.map(({ id }) => id),
    (ids) => readToldOf(db, businessId, ids),
  ))
    for (const [id, own] of groupBy(part, ({ outcomeId }) => outcomeId)) told.set(id, own);
  const dealsOf = new Map<string, StagedDeal[]>();
  const enquiries = outcomes.flatMap(({ subjectKind, subjectId }) => (subjectKind === 'enquiry' ? subjectId : []));
  for await (const part of inParts(enquiries, (ids) => readDealsOf(db, businessId, ids)))
    for (const [id, own] of groupBy(part, ({ enquiryId }) => enquiryId)) dealsOf.set(id, own);
  const isAt = (deal: StagedDeal) => stage === null || at.includes(deal.stage) || reachedAt(deal, at) !== null;
  return [
    ...outcomes.map((row) => {
      const deals = dealsOf.get(row.subjectId) ?? [];
      const isThere = (deal: StagedDeal) => deal.goneAt === null && isAt(deal);
      return ofOutcome(row, deals, deals.filter(isThere).length, told.get(row.id) ?? [], reading, now);
    }),
    ...uncounted
      .map((row) => ofDeal(row, reachedAt(row, at) ?? row.startedAt.getTime(), rule, reading))
      .filter(({ of }) => of.at >= since.getTime()),
  ];
}

/** An outcome, with its deals and how many of them are at the stage. */
function ofOutcome(
  row: CountedRow,
  deals: readonly StagedDeal[],
  there: number,
  told: ToldOfRow[],
  reading: Reading,
  now: number,
): Known {
  return {
    of: {
      id: row.id,
      kind: row.subjectKind,
      subjectId: row.subjectId,
      deal: '',
      at: row.happenedAt.getTime(),
      counted: row.isTakenBack ? 'taken back' : row.isNone ? 'no customer' : 'yes',
      deals: there,
      dealless: whyNoDeal(deals, row.startedAt.getTime(), now),
    },
    ...broughtBy(row, reading),
    told,
  };
}

/** A deal that no outcome stands for. @param at when (ms) it reached the stage */
function ofDeal(row: UncountedRow, at: number, { countedOnceFor }: OutcomeRule, reading: Reading): Known {
  const isOnce = row.isLeadCounted && countedOnceFor === 'lead';
  return {
    of: {
      id: row.id,
      kind: 'enquiry',
      subjectId: row.enquiryId,
      deal: row.number,
      at,
      counted: row.isNone ? 'no customer' : isOnce ? 'once' : 'no',
      deals: 1,
      dealless: 'never',
    },
    ...broughtBy(row, reading),
    told: [],
  };
}

type BroughtRow = Pick<CountedRow, 'kind' | 'platform' | 'source' | 'firstAt' | 'startedAt'>;
function broughtBy(
  { kind, platform, source, firstAt, startedAt }: BroughtRow,
  reading: Reading,
): Pick<Known, 'platform' | 'click' | 'startedAt'> {
  const values = { source: source ?? '', platform: platform ?? '', medium: '', campaign: '', content: '', term: '' };
  return {
    platform: reading.platformOf({ ...values, referrerHost: '', landing: '' }),
    click: kind === 'click' && platform !== null && firstAt ? { platform, at: firstAt.getTime() } : null,
    // A tagged landing is as old as what it brought began.
    startedAt: (firstAt ?? startedAt).getTime(),
  };
}

/** When (ms) a deal first came to one of some stages; null where it never did, or nobody knows. */
function reachedAt({ changes }: Pick<StagedDeal, 'changes'>, stages: readonly string[]): number | null {
  const own = (changes ?? []).filter((change) => stages.includes(change.stage)).map(({ at }) => at);
  return own.length > 0 ? Math.min(...own) : null;
}

function whyNoDeal(deals: readonly StagedDeal[], startedAt: number, now: number): BridgeRow['dealless'] {
  if (deals.length > 0) return deals.some(({ goneAt }) => goneAt === null) ? 'not at the stage' : 'gone';
  return now - startedAt < 24 * hour ? 'not yet' : 'never';
}
