/* eslint-disable no-await-in-loop -- releases are kept in memory; work that is due alike is marked together */
import type { Transaction } from 'sequelize';
import type { TellingRule } from '../../core/outcomes/schema';
import { contractOf, type PlatformContract, type TellingRow } from '../../core/platforms';
import type { PersonKey } from '../../core/platforms/contract';
import type { OwnPlatform } from '../../core/platforms/schema';
import { leftWithin, noStages, partOfMoney, reachedInTime, type StageChange } from '../../core/outcomes';
import type { Reason } from '../../core/reasons/codes';
import { tellingRules } from '../../core/releases';
import { decideTelling, tellingHops } from '../../core/reportbacks';
import { isOnlyWorkedOut } from '../../core/reportbacks/compare';
import { worthNow } from '../outcomes/worth-now';
import type { BrakeKey, Brakes } from './brakes';
import { correctionOf } from './correct';
import { readMayBeTaken } from './queries';
import { nilId, reportBackIdOf, type HopRow, type KnownConsent, type Mark, type Strand } from '../../core/strands';
import { groupBy } from '../../core/group-by';
import { writeGoals } from '../events/goals';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, plain, type BrakeRow, type OutcomeRow, type ReportBackRow } from '../db';
import { nextFile } from '../platforms/schedule';
import type { Releases } from '../releases/releases';

/** An outcome with all that says whether platforms are told of it. */
export interface Told {
  outcome: OutcomeRow;
  /** The clicks that it may be told by, one a platform. */
  strands: Strand[];
  /** The last paid touch before it; null where none was paid. */
  lastPaid: string | null;
  marked: Mark;
  consent: KnownConsent | null;
  /** The click ID in the CRM's record; null where no CRM carries it. */
  crmClickId: string | null;
  stageChanges: StageChange[];
  /** The number of the order that it is probably the same as; '' for none. */
  sameAs: string;
  /** By what beside a click the person is known: hashed, or '' where the CRM is asked for it when it is told. */
  knownBy: Partial<Record<PersonKey, string>>;
}

/**
 * Writes a report-back for each account to be told, with its work, in the same transaction as the outcomes. Which accounts
 * says the release under which the outcome was counted. One that is not connected yet is waited for: once it is, it takes
 * up the same report-back. What a platform has is corrected by a report-back of its own, once that was taken.
 */
export async function writeReportBacks(
  { db, tables }: Context,
  releases: Releases,
  brakes: Brakes,
  businessId: string,
  told: Told[],
  transaction: Transaction,
): Promise<void> {
  if (told.length === 0) return;
  const accounts = plain(await tables.accounts.findAll({ where: { businessId }, limit: 200, transaction }));
  const accountOf = new Map(accounts.map((account) => [account.key, account]));
  const { capture, platforms } = (await releases.live(businessId)).content;
  const { required } = capture.consent;
  const known = await lockReportBacks(tables, businessId, told, transaction);
  // One that is probably the same as another counts as soon as somebody let it go.
  const isOne = ({ outcome, sameAs }: Told) => sameAs === '' || known.get(outcome.id)?.some(({ letGoBy }) => letGoBy);
  const forGoals = told.filter((one) => one.marked === '' && isOne(one)).map(({ outcome }) => outcome);
  await writeGoals({ db, tables }, releases, businessId, forGoals, transaction);
  const unclear = await readMayBeTaken(
    tables,
    businessId,
    [...known.values()].flat().flatMap(({ id, state }) => (state === 'waiting' ? id : [])),
    transaction,
  );
  const keys = new Map<string, BrakeKey>();
  for (const { outcome, ...of } of told) {
    const { code, version, releaseNumber } = outcome;
    const release = await releases.numbered(businessId, releaseNumber);
    for (const telling of tellingRules(release, code)) {
      const { account, firstLook, platform } = telling;
      const contract = contractOf(platform, platforms);
      // Of what nobody is told, nobody has to look at the first ones.
      if (isOnlyWorkedOut(telling, outcome.happenedAt.getTime())) continue;
      if (of.strands.some((strand) => strand.platform === platform) || (contract && personOf(telling, contract, of)))
        keys.set(`${code} ${account}`, { outcome: code, version, account, firstLook });
    }
  }
  const open = await brakes.open(businessId, [...keys.values()], transaction);
  let hasNew = false;
  const rows: ReportBackRow[] = [];
  const due: ReportBackRow[] = [];
  for (const { outcome, strands, lastPaid, ...of } of told) {
    const release = await releases.numbered(businessId, outcome.releaseNumber);
    const rule = release.content.outcomes.find(({ code }) => code === outcome.code);
    const happenedAt = outcome.happenedAt.getTime();
    for (const telling of rule ? tellingRules(release, outcome.code) : []) {
      const contract = contractOf(telling.platform, platforms);
      const own = known.get(outcome.id)?.filter(({ account }) => account === telling.account) ?? [];
      const before = own.find(({ correction }) => correction === 0);
      if (!contract) continue;
      const account = accountOf.get(telling.account);
      const accountState = !account ? 'none' : account.retiredAt ? 'retired' : account.pausedAt ? 'paused' : 'ready';
      const inFile = (dueAt: number) => nextFile(contract.files, dueAt, account?.settings.timeZone ?? 'UTC');
      const take = (row: ReportBackRow, was: ReportBackRow | undefined) => {
        rows.push(row);
        if (row.dueAt && (was?.state !== 'waiting' || was.accountId !== row.accountId)) due.push(row);
      };
      if (before?.state === 'told' || before?.state === 'confirmed') {
        const newest = own.findLast(({ correction }) => correction > 0);
        const row = correctionOf(outcome, before, newest, unclear, contract, accountState, telling.percent);
        const isNext = row?.id !== newest?.id;
        if (row?.dueAt && isNext) row.dueAt = new Date(inFile(row.dueAt.getTime()));
        if (row) take(row, isNext ? undefined : newest);
        continue;
      }
      const person = personOf(telling, contract, { strands, ...of });
      const strand = strands.find(({ platform }) => platform === telling.platform) ?? (person ? strands[0] : undefined);
      if (!strand || (before && !isOpen(before))) continue;
      const stages = release.content.crm?.stages ?? noStages;
      // What it may have already is asked for to the end, and corrected then.
      const mayHave = before !== undefined && unclear.has(before.id);
      const decision = decideTelling(
        {
          outcome: rule!,
          telling,
          happenedAt,
          strand,
          stoppedBy: before?.stoppedBy ?? '',
          sameAs: before?.letGoBy ? '' : of.sameAs,
          earlier: reachedInTime(rule!, of.stageChanges, stages, strand.firstAt, contract.limits.clickDays),
          marked: of.marked,
          leftFor: leftWithin(rule!, of.stageChanges, stages, happenedAt, telling.delayMinutes * 60_000),
          crmClickId: of.crmClickId,
          takenBack: outcome.worthChange === 'taken_back' && !mayHave ? outcome.changeCause : '',
          hasWorth: mayHave || rule!.worth.kind === 'none' || worthNow(outcome).minor > 0,
          contract,
          person,
          isLastPaid: strand.id === lastPaid,
          account: accountState,
          brake: holds(open.get(`${outcome.code} ${telling.account}`), before, unclear),
          consent: of.consent,
          consentRequired: required,
        },
        nowMs(),
      );
      if (decision.state === 'none') continue;
      const row: ReportBackRow = {
        businessId,
        id: before?.id ?? reportBackIdOf(outcome.id, telling.account),
        outcomeId: outcome.id,
        correction: 0,
        subjectKind: outcome.subjectKind,
        subjectId: outcome.subjectId,
        accountId: account?.id ?? nilId,
        account: telling.account,
        platform: telling.platform,
        toldAs: telling.as || outcome.code,
        state: decision.state,
        reason: decision.state === 'waiting' ? waitsFor(before) : decision.reason,
        stoppedBy: before?.stoppedBy ?? '',
        letGoBy: before?.letGoBy ?? '',
        keyKind: decision.key.kind,
        keyValue: decision.key.value,
        tellsMinor: partOfMoney(worthNow(outcome), telling.percent, 100).minor,
        toldMinor: before?.toldMinor ?? null,
        dueAt: decision.state === 'waiting' ? soonest(before, new Date(inFile(decision.dueAt))) : null,
        answeredAt: null,
        bookedOn: null,
        confirmedAt: null,
        madeAt: before?.madeAt ?? now(),
      };
      take(row, before);
      hasNew ||= !before && row.state === 'waiting';
    }
  }
  await insertRows(
    tables.reportBacks,
    rows,
    ['state', 'reason', 'accountId', 'toldAs', 'keyKind', 'keyValue', 'tellsMinor', 'dueAt'],
    transaction,
  );
  for (const alike of groupBy(due, ({ dueAt, accountId }) => `${dueAt!.getTime()} ${accountId}`).values()) {
    const { dueAt, accountId } = alike[0]!;
    const ids = alike.map(({ id }) => id);
    await markWork(db, 'report_back', businessId, ids, dueAt!, transaction, accountId);
  }
  if (hasNew) await brakes.mark(businessId, transaction);
}

/** Whether it is decided anew whenever something happens: what was told, or taken out by a person, is not. */
const isOpen = ({ state, reason }: ReportBackRow): boolean =>
  state === 'waiting' || state === 'held' || (state === 'withdrawn' && reason?.code === 'worked_out');

/** Why it was not told yet, which it goes on waiting for. */
const waitsFor = (before: ReportBackRow | undefined): Reason | null =>
  before?.reason?.code === 'worked_out' ? null : (before?.reason ?? null);

/** By what an outcome is told of whom no click was ever known; null where it is told by a click, or not at all. */
function personOf(
  { secondKey }: TellingRule,
  { hashes = {} }: PlatformContract,
  { strands, crmClickId, knownBy }: Pick<Told, 'strands' | 'crmClickId' | 'knownBy'>,
): TellingRow['key'] | null {
  if (secondKey === 'none' || !hashes[secondKey] || crmClickId) return null;
  const value = knownBy[secondKey];
  const isKnown = value !== undefined && strands.every(({ kind }) => kind !== 'click');
  return isKnown ? { kind: `${secondKey}_hash`, value } : null;
}

/** Why a brake holds a report-back; null where it does not: one from before it, or that its platform may have. */
function holds(brake: BrakeRow | undefined, before: ReportBackRow | undefined, unclear: ReadonlySet<string>) {
  if (!brake || (before && (before.madeAt <= brake.since || unclear.has(before.id)))) return null;
  return brake.because;
}

/** When it is due: as its rule says, or as somebody said who had it told sooner. */
const soonest = (before: ReportBackRow | undefined, dueAt: Date): Date =>
  before?.state === 'waiting' && before.dueAt && before.dueAt < dueAt ? before.dueAt : dueAt;

async function readReportBacks(
  tables: Context['tables'],
  businessId: string,
  told: { outcome: OutcomeRow }[],
  transaction: Transaction,
): Promise<Map<string, ReportBackRow[]>> {
  const rows = await tables.reportBacks.findAll({
    where: { businessId, outcomeId: told.map(({ outcome }) => outcome.id) },
    order: inOrder,
    transaction,
  });
  return groupBy(plain(rows), ({ outcomeId }) => outcomeId);
}
/** As they were made, each correction after the one before it. */
const inOrder: [string, string][] = [
  ['madeAt', 'ASC'],
  ['correction', 'ASC'],
  ['id', 'ASC'],
];

/**
 * The same, as they are now, and so until the transaction ends: one that is being answered meanwhile is waited for, so that
 * its answer is not written over. What is not there yet locks nothing.
 */
async function lockReportBacks(...asked: Parameters<typeof readReportBacks>): Promise<Map<string, ReportBackRow[]>> {
  const [tables, businessId, , transaction] = asked;
  const known = [...(await readReportBacks(...asked)).values()].flat();
  if (known.length === 0) return new Map();
  const rows = plain(
    await tables.reportBacks.findAll({
      where: { businessId, id: known.map(({ id }) => id).sort() },
      order: [['id', 'ASC']],
      transaction,
      lock: transaction.LOCK.UPDATE,
    }),
  );
  return groupBy(
    rows.sort((a, b) => a.correction - b.correction),
    ({ outcomeId }) => outcomeId,
  );
}

/**
 * The hops Told and Confirmed of counted outcomes, from their report-backs.
 * @param platforms those that the business describes itself
 */
export async function readTellingHops(
  { tables }: Context,
  businessId: string,
  counted: {
    key: Pick<HopRow, 'strand' | 'wayIn' | 'subject' | 'release'>;
    outcome: OutcomeRow;
    /** Only what is told by this click; missing: all. */
    clickId?: string;
  }[],
  platforms: readonly OwnPlatform[],
  transaction: Transaction,
): Promise<HopRow[]> {
  if (counted.length === 0) return [];
  const known = await readReportBacks(tables, businessId, counted, transaction);
  return counted.flatMap(({ key, outcome, clickId }) =>
    hopsOfTellings(key, outcome, clickId, known.get(outcome.id) ?? [], platforms),
  );
}

/** The hops Told and Confirmed of one outcome. @param clickId only what is told by this click; undefined: all */
export const hopsOfTellings = (
  key: Pick<HopRow, 'strand' | 'wayIn' | 'subject' | 'release'>,
  { code }: OutcomeRow,
  clickId: string | undefined,
  reportBacks: readonly ReportBackRow[],
  platforms: readonly OwnPlatform[],
): HopRow[] =>
  tellingHops(
    { ...key, outcome: code },
    reportBacks
      .filter(
        ({ correction, keyKind, keyValue }) =>
          correction === 0 && (clickId === undefined || keyKind !== 'click_id' || keyValue === clickId),
      )
      .map(({ state, reason, platform, answeredAt, confirmedAt }) => {
        const contract = contractOf(platform, platforms);
        return {
          state,
          reason,
          platform: contract?.words ?? platform,
          answeredAt: answeredAt?.getTime() ?? null,
          confirmedAt: confirmedAt?.getTime() ?? null,
          hasReport: contract?.report?.confirms === true,
        };
      }),
  );
