import type { Reason } from '../../core/reasons/codes';
import { contractOf, type RowAnswer, type TellingRow } from '../../core/platforms';
import { readAnswer, readRepeats, writeBatch } from '../../core/platforms/quillsearch';
import { mayBeTaken, mayTell, tooLate, waitAfter } from '../../core/reportbacks';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import {
  insertRows,
  inTransaction,
  plain,
  type AttemptRow,
  type OutcomeRow,
  type ReportBackRow,
  type WorkItem,
} from '../db';
import { groupBy } from '../group-by';
import { newId } from '../ids';
import type { JobResult } from '../jobs/types';
import { dayOf, type Account, type Accounts } from '../platforms/accounts';
import { callAccount, ServiceAway } from '../platforms/call';
import type { Releases } from '../releases/releases';
import { settleReportBacks } from './settle';

interface Telling {
  item: WorkItem;
  reportBack: ReportBackRow;
  outcome: OutcomeRow;
  attempt: string;
  /** True where an earlier attempt may have been taken. */
  unclear: boolean;
  /** False where the person did not agree to it, or took it back since. */
  agreed: boolean;
}

/** Tells platforms what is due, in batches by account; every attempt is stored before it is made. */
export function makeTell(context: Context, accounts: Accounts, releases: Releases) {
  const { tables } = context;

  return async function tell(items: WorkItem[]): Promise<JobResult[]> {
    const results: JobResult[] = [];
    for (const [businessId, own] of groupBy(items, (item) => item.businessId)) {
      const rows = await readTellings(businessId, own);
      const found = new Set(rows.map((row) => row.item));
      results.push(...own.filter((item) => !found.has(item)).map((item) => ({ item, again: null })));
      for (const [accountId, tellings] of groupBy(rows, (row) => row.reportBack.accountId)) {
        const account = await accounts.byId(businessId, accountId);
        if (account) results.push(...(await tellAccount(context, account, tellings)));
        else results.push(...tellings.map(({ item }) => ({ item, again: null })));
      }
    }
    return results;
  };

  /** The rows that still wait to be told, with their outcomes. */
  async function readTellings(businessId: string, items: WorkItem[]): Promise<Telling[]> {
    const reportBacks = (await tables.reportBacks.findAll({
      where: { businessId, id: items.map((i) => i.subject), state: 'waiting' },
      raw: true,
    })) as unknown as ReportBackRow[];
    const outcomes = (await tables.outcomes.findAll({
      where: { businessId, id: reportBacks.map((r) => r.outcomeId) },
      raw: true,
    })) as unknown as OutcomeRow[];
    const attempts = (await tables.attempts.findAll({
      attributes: ['reportBackId', 'status'],
      where: { businessId, reportBackId: reportBacks.map((r) => r.id) },
      order: [['startedAt', 'ASC']],
      raw: true,
    })) as unknown as Pick<AttemptRow, 'reportBackId' | 'status'>[];
    const { required } = (await releases.live(businessId)).content.capture.consent;
    const enquiries = plain(
      await tables.enquiries.findAll({
        attributes: ['id', 'consent'],
        where: { businessId, id: reportBacks.map((r) => r.enquiryId) },
      }),
    );
    const consentOf = new Map(enquiries.map(({ id, consent }) => [id, consent]));
    const attemptsOf = groupBy(attempts, (attempt) => attempt.reportBackId);
    const itemOf = new Map(items.map((item) => [item.subject, item]));
    const outcomeOf = new Map(outcomes.map((outcome) => [outcome.id, outcome]));
    return reportBacks.map((reportBack) => ({
      reportBack,
      item: itemOf.get(reportBack.id)!,
      outcome: outcomeOf.get(reportBack.outcomeId)!,
      attempt: newId(),
      agreed: mayTell(consentOf.get(reportBack.enquiryId) ?? null, required),
      unclear: mayBeTaken((attemptsOf.get(reportBack.id) ?? []).map((attempt) => attempt.status)),
    }));
  }
}

async function tellAccount(context: Context, account: Account, tellings: Telling[]): Promise<JobResult[]> {
  const contract = contractOf(account.kind)!;
  const whyNot = (t: Telling): Reason | null =>
    t.agreed ? tooLate(t.outcome.happenedAt.getTime(), contract, nowMs()) : { code: 'no_consent' };
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
  const due = tellings.filter((t) => !isHeld.has(t));
  for (let at = 0; at < due.length; at += contract.rowsPerBatch)
    results.push(...(await tellBatch(context, account, due.slice(at, at + contract.rowsPerBatch))));
  return results;
}

async function tellBatch(context: Context, account: Account, tellings: Telling[]): Promise<JobResult[]> {
  const results: JobResult[] = [];
  let sending = tellings;
  try {
    const unclear = tellings.filter((t) => t.unclear);
    if (unclear.length > 0 && !(await recognisesRepeats(context, account))) {
      results.push(...(await leaveUnsure(context, account, unclear)));
      sending = tellings.filter((t) => !t.unclear);
    }
  } catch (error) {
    return putOff(tellings, error);
  }
  if (sending.length > 0) results.push(...(await send(context, account, sending)));
  return results;
}

/** Whether a row may be told again without being counted twice: by the contract, and by what the account says now. */
async function recognisesRepeats({ http }: Context, account: Account): Promise<boolean> {
  if (contractOf(account.kind)!.repeatsRecognisedBy === 'nothing') return false;
  return readRepeats(await callAccount(http, account, '/api/account'));
}

async function leaveUnsure(context: Context, account: Account, tellings: Telling[]): Promise<JobResult[]> {
  const reason = { code: 'maybe_taken', platform: contractOf(account.kind)!.words } as const;
  const clicks = plain(
    await context.tables.strands.findAll({
      attributes: ['clickId', 'firstAt'],
      where: {
        ...{ businessId: account.businessId, platform: account.kind },
        clickId: tellings.map(({ reportBack }) => reportBack.clickId),
      },
    }),
  );
  const clickDays = new Map(clicks.map(({ clickId, firstAt }) => [clickId, dayOf(account, firstAt)]));
  await settleReportBacks(
    context,
    tellings.map(({ reportBack }) => ({
      reportBack,
      // The day it would be booked on, to be looked for in the platform's own report.
      change: { state: 'unsure', reason, bookedOn: clickDays.get(reportBack.clickId) ?? null },
    })),
  );
  return tellings.map(({ item }) => ({ item, again: null }));
}

async function send(context: Context, account: Account, tellings: Telling[]): Promise<JobResult[]> {
  const rows = tellings.map(({ reportBack, outcome }): TellingRow => ({
    eventId: outcome.id,
    clickId: reportBack.clickId,
    outcome: outcome.code,
    happenedAt: outcome.happenedAt.getTime(),
    worth: { minor: Number(outcome.worthMinor), currency: outcome.currency },
  }));
  const body = writeBatch(rows);
  await beginAttempts(context, tellings, body.rows);
  let answers: RowAnswer[];
  try {
    answers = readAnswer(
      await callAccount(context.http, account, '/api/outcomes', { method: 'POST', body: JSON.stringify(body) }),
    );
  } catch (error) {
    const status = error instanceof ServiceAway ? error.status : 'answer not understood';
    const attempt = { status, answer: (error as Error).message };
    await settleReportBacks(
      context,
      tellings.map((t) => ({
        reportBack: t.reportBack,
        change: { reason: { code: 'not_answered', status } },
        attempt: { id: t.attempt, ...attempt },
      })),
    );
    return putOff(tellings, error);
  }
  return takeAnswers(context, account, tellings, answers);
}

/** Stores the attempts before they are made, so that one that never ends is known too. */
async function beginAttempts(
  { db, tables }: Context,
  tellings: Telling[],
  sent: ReturnType<typeof writeBatch>['rows'],
): Promise<void> {
  const rows = tellings.map(({ reportBack, attempt }, i) => ({
    ...{ businessId: reportBack.businessId, id: attempt, reportBackId: reportBack.id },
    ...{ startedAt: now(), endedAt: now(), status: 'no answer yet', sent: sent[i], answer: '' },
  }));
  await inTransaction(db, (transaction) => insertRows(tables.attempts, rows, [], transaction));
}

/** The whole batch goes again later, under the same keys. */
function putOff(tellings: Telling[], error: unknown): JobResult[] {
  const asked = error instanceof ServiceAway ? error.retryAfter : null;
  return tellings.map(({ item }) => ({
    item,
    failed: (error as Error).message,
    retryAt: new Date(nowMs() + (asked ?? waitAfter(item.attempts + 1, Math.random()))),
  }));
}

async function takeAnswers(
  context: Context,
  account: Account,
  tellings: Telling[],
  answers: RowAnswer[],
): Promise<JobResult[]> {
  const platform = contractOf(account.kind)!.words;
  const answerOf = new Map(answers.map((answer) => [answer.eventId, answer]));
  const answeredAt = now();
  await settleReportBacks(
    context,
    tellings.map(({ reportBack, outcome, attempt }) => {
      const answer = answerOf.get(outcome.id);
      if (!answer) return { reportBack, change: {}, attempt: { id: attempt, status: 'row not answered', answer: '' } };
      const ended = { id: attempt, status: '200', answer: answer.taken ? 'taken' : answer.answer };
      return answer.taken
        ? {
            reportBack,
            change: { state: 'told', reason: null, answeredAt, bookedOn: answer.day || null },
            attempt: ended,
          }
        : {
            reportBack,
            change: { state: 'refused', reason: { code: 'refused', platform, answer: answer.answer }, answeredAt },
            attempt: ended,
          };
    }),
    account,
  );
  return tellings.map(({ item, outcome }) =>
    answerOf.has(outcome.id)
      ? { item, again: null }
      : {
          item,
          failed: 'the answer did not name this row',
          retryAt: new Date(nowMs() + waitAfter(item.attempts + 1, Math.random())),
        },
  );
}
