/* eslint-disable no-await-in-loop -- batches of one account go one after the other, as its platform counts them */
import type { Reason } from '../../core/reasons/codes';
import type { PlatformCall } from '../../core/platforms/contract';
import {
  contractOf,
  type BatchAnswer,
  type ChangeRow,
  type PlatformContract,
  type TellingRow,
} from '../../core/platforms';
import { retryAfter, tooLate } from '../../core/reportbacks';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { insertRows, inTransaction, plain, renewWork, type WorkItem } from '../db';
import { groupBy } from '../../core/group-by';
import { newId } from '../ids';
import { putBack } from '../jobs/handlers';
import type { Held, JobResult } from '../jobs/job';
import { dayOf, type Accounts } from '../platforms/accounts';
import { askAccount, carryOut, ServiceAway } from '../platforms/call';
import type { CallLimit } from '../platforms/call-limit';
import type { Releases } from '../releases/releases';
import type { Brakes } from './brakes';
import { lockWaiting } from './queries';
import { withoutPerson, type AskKeys } from './person-keys';
import { settleReportBacks } from './settle';
import { takeAnswers, testedChange, type AnsweredBatch } from './take-answers';
import { readTellings, toTellingRow, type Telling } from './tellings';

/** What a batch works with: the account it is told to, what is held, and how its rows are read anew. */
interface Batch extends AnsweredBatch {
  /** How its rows are told, and the answer is read: what is new, or corrections of what the platform has. */
  call: PlatformCall;
  limit: CallLimit;
  held: Held;
  askKeys: AskKeys;
  /** Whether nothing was told since the rows were read. */
  isFresh: boolean;
  read(items: WorkItem[]): Promise<Telling[]>;
}

/**
 * Tells platforms what is due, in batches by account. Every attempt is stored before it is made, and only for rows that
 * are still held and have no attempt that was not known: a process that stood still begins nothing that another one did.
 */
export function makeTell(
  context: Context,
  accounts: Accounts,
  releases: Releases,
  brakes: Pick<Brakes, 'lookFirst'>,
  limit: CallLimit,
  askKeys: AskKeys,
) {
  return async function tell(items: WorkItem[], held: Held): Promise<JobResult[]> {
    const results: JobResult[] = [];
    const gone = (rows: { item: WorkItem }[]) => rows.map(({ item }) => ({ item, again: null }));
    for (const [businessId, own] of groupBy(items, (item) => item.businessId)) {
      const read = (wanted: WorkItem[]) => readTellings(context, releases, businessId, wanted);
      await brakes.lookFirst(businessId);
      const rows = await read(own);
      const found = new Set(rows.map((row) => row.item));
      results.push(...gone(own.flatMap((item) => (found.has(item) ? [] : [{ item }]))));
      let isFresh = true;
      const alike = groupBy(
        rows,
        ({ reportBack: { accountId, correction }, isTest }) => `${accountId} ${correction > 0} ${isTest}`,
      );
      for (const tellings of alike.values()) {
        const { reportBack, isTest } = tellings[0]!;
        const { accountId, correction } = reportBack;
        const account = await accounts.byId(businessId, accountId);
        const own = (await releases.live(businessId)).content.platforms;
        const contract = account && contractOf(account.kind, own);
        const call = contract && (isTest ? contract.tests : correction > 0 ? changesOf(contract) : contract);
        const common = { limit, held, read, isFresh, isTest, askKeys };
        const batch = account && contract && call && { ...common, account, contract, call };
        results.push(...(batch ? await tellAccount(context, batch, tellings) : gone(tellings)));
        if (contract && !call) await (isTest ? workOutOnly : holdChanges)(context, contract, tellings);
        isFresh = false;
      }
    }
    return results;
  };
}

/** How a platform is told corrections: as outcomes, each with how it changed. Undefined where it takes none. */
const changesOf = ({ changes }: PlatformContract): Batch['call'] | undefined =>
  changes && {
    writeBatch: (rows) => changes.writeBatch(rows as ChangeRow[]),
    readAnswer: (answer, rows) => changes.readAnswer(answer, rows as ChangeRow[]),
  };

/** Holds corrections of a platform that takes none any more. */
const holdChanges = (context: Context, { words: platform }: PlatformContract, tellings: Telling[]) =>
  settleReportBacks(
    context,
    tellings.map(({ reportBack }) => ({
      reportBack,
      change: { state: 'held', reason: { code: 'change_not_taken', platform } },
    })),
  );

/** Leaves it at working out what a platform would have been told that takes no tests any more. */
const workOutOnly = (context: Context, _contract: PlatformContract, tellings: Telling[]) =>
  settleReportBacks(
    context,
    tellings.map(({ reportBack }) => ({
      reportBack,
      change: { state: 'withdrawn', reason: { code: 'worked_out' } },
    })),
  );

async function tellAccount(context: Context, batch: Batch, tellings: Telling[]): Promise<JobResult[]> {
  const { rowsPerCall } = batch.contract.limits;
  const results: JobResult[] = [];
  for (let at = 0; at < tellings.length; at += rowsPerCall) {
    const part = tellings.slice(at, at + rowsPerCall);
    if (at === 0 && batch.isFresh) {
      results.push(...(await tellRows(context, batch, part)));
      continue;
    }
    // Batches before took their time: what others hold by now is theirs, and the rest may have changed.
    const mine = await batch.held.still(part.map(({ item }) => item));
    const rows = await batch.read(mine);
    const waiting = new Set(rows.map(({ item }) => item));
    results.push(...mine.filter((item) => !waiting.has(item)).map((item) => ({ item, again: null })));
    results.push(...(await tellRows(context, batch, rows)));
  }
  return results;
}

/** Tells one batch, without the rows that are held back for a reason of their own. */
async function tellRows(context: Context, batch: Batch, tellings: Telling[]): Promise<JobResult[]> {
  const { contract } = batch;
  const whyNot = (t: Telling): Reason | null =>
    // Of what was told nobody is asked again, and its age is another one.
    t.reportBack.correction > 0
      ? null
      : t.agreed
        ? tooLate(t.reportBack.happenedAt.getTime(), contract, nowMs())
        : { code: 'no_consent' };
  const held = tellings.flatMap((telling) => {
    const reason = whyNot(telling);
    return reason ? [{ telling, reason }] : [];
  });
  await settleReportBacks(
    context,
    held.map(({ telling, reason }) => ({ reportBack: telling.reportBack, change: { state: 'held', reason } })),
  );
  const results: JobResult[] = held.map(({ telling }) => ({ item: telling.item, again: null }));
  const isHeld = new Set(held.map(({ telling }) => telling));
  let sending = tellings.filter((t) => !isHeld.has(t));
  // A correction sets the worth: told twice it changes nothing more.
  const isUnclear = (t: Telling) => t.unclear && t.reportBack.correction === 0;
  const unclear = sending.filter(isUnclear);
  try {
    if (unclear.length > 0 && !(await recognisesRepeats(context, batch))) {
      results.push(...(await leaveUnsure(context, batch, unclear)));
      sending = sending.filter((t) => !isUnclear(t));
    }
  } catch (error) {
    return [...results, ...sending.map(({ item }) => putBack(item, error))];
  }
  const asked = await batch.askKeys(sending, contract);
  await settleReportBacks(
    context,
    asked.nobody.map(({ telling, reason }) => ({ reportBack: telling.reportBack, change: { state: 'held', reason } })),
  );
  results.push(
    ...asked.nobody.map(({ telling: { item } }) => ({ item, again: null })),
    ...asked.away.map(({ telling: { item }, error }) => putBack(item, error)),
  );
  if (asked.known.length > 0) results.push(...(await send(context, batch, asked.known)));
  return results;
}

/** Whether a row may be told again without being counted twice: by the contract, and by what the account says now. */
async function recognisesRepeats(context: Context, { account, contract }: Batch): Promise<boolean> {
  if (contract.repeats === 'nothing') return false;
  if (!contract.recognisesRepeats) return true;
  const { request, read } = contract.recognisesRepeats;
  return read(await askAccount(context, account, contract.authorised, request));
}

async function leaveUnsure(context: Context, { account, contract }: Batch, tellings: Telling[]): Promise<JobResult[]> {
  const reason = { code: 'maybe_taken', platform: contract.words } as const;
  const clicks = plain(
    await context.tables.strands.findAll({
      attributes: ['clickId', 'firstAt'],
      where: {
        businessId: account.businessId,
        platform: account.kind,
        clickId: tellings.map(({ reportBack }) => reportBack.keyValue),
      },
    }),
  );
  const clickDays = new Map(clicks.map(({ clickId, firstAt }) => [clickId, dayOf(account, firstAt)]));
  await settleReportBacks(
    context,
    tellings.map(({ reportBack }) => ({
      reportBack,
      // The day it would be booked on, to be looked for in the platform's own report.
      change: { state: 'unsure', reason, bookedOn: clickDays.get(reportBack.keyValue) ?? null },
    })),
  );
  return tellings.map(({ item }) => ({ item, again: null }));
}

/** Tries after which a row that is refused alone is refused for good, where nothing shows that others get through. */
const triesAlone = 5;

/**
 * Tells rows. A batch that is refused as a whole for one of its rows is halved, down to that row: it is refused, the
 * others are told. Where nothing at all gets through, the platform is what is wrong, and all wait.
 */
async function send(context: Context, batch: Batch, wanted: Telling[]): Promise<JobResult[]> {
  const results: JobResult[] = [];
  const refused: { telling: Telling; error: ServiceAway }[] = [];
  let gotThrough = false;
  const parts = [wanted];
  for (let part = parts.shift(); part; part = parts.shift()) {
    const wait = batch.limit.take(batch.account.id, batch.contract.limits.callsPerMinute);
    if (wait > 0) {
      const again = new Date(nowMs() + wait);
      results.push(...[part, ...parts.splice(0)].flat().map(({ item }) => ({ item, again })));
      break;
    }
    const told = await sendOnce(context, batch, part);
    if (!('refused' in told)) {
      gotThrough ||= told.gotThrough;
      results.push(...told.results);
    } else if (told.tellings.length === 1) {
      refused.push({ telling: told.tellings[0]!, error: told.refused });
      // Two alone, and nothing yet that got through: it is not for these rows.
      if (!gotThrough && refused.length > 1) break;
    } else {
      const middle = told.tellings.length >> 1;
      const mine = new Set(await batch.held.still(told.tellings.map(({ item }) => item)));
      const again = told.tellings.map((one) => ({ ...one, attempt: newId(), attempts: one.attempts + 1 }));
      for (const half of [again.slice(middle), again.slice(0, middle)])
        parts.unshift(half.filter(({ item }) => mine.has(item)));
    }
  }
  const platform = batch.contract.words;
  const isFinal = (t: Telling) => gotThrough || t.item.attempts + 1 >= triesAlone;
  await settleReportBacks(
    context,
    refused.map(({ telling: { reportBack, ...t }, error: { status } }) => ({
      reportBack,
      change: isFinal({ reportBack, ...t })
        ? batch.isTest
          ? testedChange(batch.contract, status)
          : { state: 'refused', reason: { code: 'refused', platform, answer: status }, answeredAt: now() }
        : { reason: { code: 'not_answered', status } },
    })),
  );
  for (const { telling, error } of refused)
    results.push(isFinal(telling) ? { item: telling.item, again: null } : putBack(telling.item, error));
  const [first] = refused;
  for (const { item } of parts.flat()) results.push(putBack(item, first!.error));
  return results;
}

/** One call. What it answers for is settled; a batch that is refused as a whole is left to be halved. */
async function sendOnce(
  context: Context,
  batch: Batch,
  wanted: Telling[],
): Promise<{ results: JobResult[]; gotThrough: boolean } | { refused: ServiceAway; tellings: Telling[] }> {
  const tellings = await beginAttempts(context, batch, wanted);
  if (tellings.length === 0) return { results: [], gotThrough: false };
  const answer = await callPlatform(context, batch, tellings.map(toTellingRow));
  if (answer.kind === 'rows')
    return { results: await takeAnswers(context, batch, tellings, answer.rows), gotThrough: true };
  const { status } = answer;
  const isRefused = answer.kind === 'refused';
  await settleReportBacks(
    context,
    tellings.map((t) => ({
      reportBack: t.reportBack,
      change: isRefused ? {} : { reason: { code: 'not_answered', status } },
      attempt: { id: t.attempt, status, answer: answer.answer },
    })),
  );
  const wait = isRefused ? null : retryAfter(answer.retryAfter, nowMs());
  const error = new ServiceAway(status, wait, `${batch.account.name} answered ${status}: ${answer.answer}`);
  if (isRefused) return { refused: error, tellings };
  return { results: tellings.map(({ item }) => putBack(item, error)), gotThrough: false };
}

/** Calls the platform with rows and reads what it answers; a call that brought no answer leaves it away. */
async function callPlatform(
  context: Context,
  { account, contract, call }: Batch,
  rows: TellingRow[],
): Promise<BatchAnswer> {
  try {
    const request = call.writeBatch(rows);
    return call.readAnswer(await carryOut(context, account, contract.authorised, request), rows);
  } catch (error) {
    if (!(error instanceof ServiceAway)) throw error;
    return { kind: 'away', status: error.status, answer: error.message, retryAfter: undefined };
  }
}

/**
 * Stores attempts before they are made, so that one that never ends is known too.
 *
 * @returns those that may be made: their work is still held, and nobody began another one meanwhile
 */
async function beginAttempts({ db, tables }: Context, { call }: Batch, wanted: Telling[]): Promise<Telling[]> {
  return inTransaction(db, async (transaction) => {
    const held = new Set(
      await renewWork(
        db,
        wanted.map(({ item }) => item),
        transaction,
      ),
    );
    // Locked until the attempt is stored: somebody who holds one at this moment finds it being told.
    const waiting = await lockWaiting(
      db,
      wanted.map(({ reportBack }) => reportBack),
      transaction,
    );
    const tellings = wanted.filter(
      ({ item, attempts, reportBack }) => held.has(item) && waiting.get(reportBack.id) === attempts,
    );
    const rows = tellings.map((telling) => ({
      businessId: telling.reportBack.businessId,
      id: telling.attempt,
      reportBackId: telling.reportBack.id,
      startedAt: now(),
      endedAt: now(),
      status: 'no answer yet',
      worthMinor: telling.worth,
      // As it is sent alone, without what proves who tells, or by what else than a click a person is known.
      sent: call.writeBatch([toTellingRow(withoutPerson(telling))]),
      answer: '',
    }));
    await insertRows(tables.attempts, rows, [], transaction);
    return tellings;
  });
}
