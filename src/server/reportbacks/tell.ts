import { contractOf, type RowAnswer, type TellingRow } from '../../core/platforms';
import { readAnswer, writeBatch } from '../../core/platforms/quillsearch';
import type { Reason } from '../../core/reasons/codes';
import { tooLate, waitAfter } from '../../core/reportbacks';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork, plain, type OutcomeRow, type ReportBackRow, type WorkItem } from '../db';
import { newId } from '../ids';
import type { JobResult } from '../jobs/types';
import type { Account, Accounts } from '../platforms/accounts';
import { callAccount, ServiceAway } from '../platforms/call';

interface Telling {
  item: WorkItem;
  reportBack: ReportBackRow;
  outcome: OutcomeRow;
  attempt: string;
}

/** Tells platforms what is due, in batches by account; every attempt is stored before it is made. */
export function makeTell(context: Context, accounts: Accounts) {
  const { tables } = context;

  return async function tell(items: WorkItem[]): Promise<JobResult[]> {
    const results: JobResult[] = [];
    for (const [businessId, own] of groupBy(items, (item) => item.businessId)) {
      const rows = await readTellings(businessId, own);
      const left = own.filter((item) => !rows.some((row) => row.item === item));
      results.push(...left.map((item) => ({ item, again: null })));
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
    const reportBacks = plain(
      await tables.reportBacks.findAll({ where: { businessId, id: items.map((i) => i.subject), state: 'waiting' } }),
    );
    const outcomes = plain(
      await tables.outcomes.findAll({ where: { businessId, id: reportBacks.map((r) => r.outcomeId) } }),
    );
    return reportBacks.map((reportBack) => ({
      reportBack,
      item: items.find((i) => i.subject === reportBack.id)!,
      outcome: outcomes.find((o) => o.id === reportBack.outcomeId)!,
      attempt: newId(),
    }));
  }
}

async function tellAccount(context: Context, account: Account, tellings: Telling[]): Promise<JobResult[]> {
  const contract = contractOf(account.kind)!;
  const lateOnes = tellings.filter((t) => tooLate(t.outcome.happenedAt.getTime(), contract, nowMs()));
  for (const { reportBack, outcome } of lateOnes)
    await settle(context, reportBack, {
      state: 'held',
      reason: tooLate(outcome.happenedAt.getTime(), contract, nowMs()),
    });
  const results: JobResult[] = lateOnes.map(({ item }) => ({ item, again: null }));
  const due = tellings.filter((t) => !lateOnes.includes(t));
  for (let at = 0; at < due.length; at += contract.rowsPerBatch)
    results.push(...(await tellBatch(context, account, due.slice(at, at + contract.rowsPerBatch))));
  return results;
}

async function tellBatch(context: Context, account: Account, tellings: Telling[]): Promise<JobResult[]> {
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
    return failBatch(context, tellings, error);
  }
  const results: JobResult[] = [];
  for (const telling of tellings) {
    const answer = answers.find((a) => a.eventId === telling.outcome.id);
    results.push(await takeAnswer(context, account, telling, answer));
  }
  const { businessId } = account;
  await markWork(context.db, 'platform_report', businessId, [account.id], now());
  return results;
}

/** Stores the attempts before they are made, so that one that never ends is known too. */
async function beginAttempts(
  { tables }: Context,
  tellings: Telling[],
  sent: ReturnType<typeof writeBatch>['rows'],
): Promise<void> {
  await tables.attempts.bulkCreate(
    tellings.map(({ reportBack, attempt }, i) => ({
      businessId: reportBack.businessId,
      id: attempt,
      reportBackId: reportBack.id,
      startedAt: now(),
      endedAt: now(),
      status: 'no answer yet',
      sent: sent[i],
      answer: '',
    })),
  );
}

/** No answer for the whole batch: every row waits and goes again under the same key. */
async function failBatch(context: Context, tellings: Telling[], error: unknown): Promise<JobResult[]> {
  const status = error instanceof ServiceAway ? error.status : 'answer not understood';
  const asked = error instanceof ServiceAway ? error.retryAfter : null;
  const message = (error as Error).message;
  for (const { attempt, reportBack } of tellings) {
    await endAttempt(context, reportBack, attempt, status, message);
    await settle(context, reportBack, { reason: { code: 'not_answered', status } });
  }
  return tellings.map(({ item }) => ({
    item,
    failed: message,
    retryAt: new Date(nowMs() + (asked ?? waitAfter(item.attempts + 1, Math.random()))),
  }));
}

async function takeAnswer(
  context: Context,
  account: Account,
  { item, reportBack, attempt }: Telling,
  answer: RowAnswer | undefined,
): Promise<JobResult> {
  const platform = contractOf(account.kind)!.words;
  if (!answer) {
    await endAttempt(context, reportBack, attempt, 'row not answered', '');
    return {
      item,
      failed: 'the answer did not name this row',
      retryAt: new Date(nowMs() + waitAfter(item.attempts + 1, Math.random())),
    };
  }
  await endAttempt(context, reportBack, attempt, '200', answer.taken ? 'taken' : answer.answer);
  await settle(
    context,
    reportBack,
    answer.taken
      ? { state: 'told', reason: null, answeredAt: now(), bookedOn: answer.day || null }
      : { state: 'refused', reason: { code: 'refused', platform, answer: answer.answer }, answeredAt: now() },
  );
  return { item, again: null };
}

async function endAttempt(
  { tables }: Context,
  { businessId }: ReportBackRow,
  id: string,
  status: string,
  answer: string,
): Promise<void> {
  await tables.attempts.update({ endedAt: now(), status, answer: answer.slice(0, 200) }, { where: { businessId, id } });
}

/** Changes a report-back and has its enquiry's hops written anew. */
async function settle(
  { db, tables }: Context,
  { businessId, id, enquiryId }: ReportBackRow,
  change: Partial<ReportBackRow> & { reason: Reason | null },
): Promise<void> {
  await inTransaction(db, async (transaction) => {
    await tables.reportBacks.update(change, { where: { businessId, id }, transaction });
    await markWork(db, 'enquiry', businessId, [enquiryId], now(), transaction);
  });
}

function groupBy<T>(items: T[], key: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of items) {
    const group = groups.get(key(item));
    if (group) group.push(item);
    else groups.set(key(item), [item]);
  }
  return groups;
}
