import type { PlatformContract, RowAnswer } from '../../core/platforms';
import { now } from '../clock';
import type { Context } from '../context';
import { putBack } from '../jobs/handlers';
import type { JobResult } from '../jobs/job';
import { dayOf, type Account } from '../platforms/accounts';
import { settleReportBacks, type Settled } from './settle';
import type { Telling } from './tellings';

/** What a batch was told to, and whether that was a test. */
export interface AnsweredBatch {
  account: Account;
  contract: PlatformContract;
  isTest: boolean;
}

/** What becomes of a report-back that was only tested. */
export const testedChange = ({ words: platform }: PlatformContract, answer: string): Settled['change'] => ({
  state: 'withdrawn',
  reason: { code: 'tested', platform, answer },
});

/** The day that a platform counts it on although it does not say so, in its account's zone; null where that cannot be told. */
const bookedBy = (account: Account, { report }: PlatformContract, { happenedAt }: Telling['reportBack']) =>
  report?.countsBy === 'outcome day' ? dayOf(account, happenedAt) : null;

/** Settles the rows that a platform answered for; the others go on waiting. */
export async function takeAnswers(
  context: Context,
  { account, contract, isTest }: AnsweredBatch,
  tellings: Telling[],
  answers: RowAnswer[],
): Promise<JobResult[]> {
  const platform = contract.words;
  const answerOf = new Map(answers.map((answer) => [answer.eventId, answer]));
  const answeredAt = now();
  await settleReportBacks(
    context,
    tellings.map(({ reportBack, attempt }): Settled => {
      const answer = answerOf.get(reportBack.outcomeId);
      if (!answer) return { reportBack, change: {}, attempt: { id: attempt, status: 'row not answered', answer: '' } };
      const ended = { id: attempt, status: '200', answer: answer.taken ? 'taken' : answer.answer };
      if (isTest) return { reportBack, change: testedChange(contract, ended.answer), attempt: ended };
      return answer.taken
        ? {
            reportBack,
            // Without a report that confirms it, its answer is all that ever will. Nor does any report say what one row is worth.
            change: {
              reason: null,
              answeredAt,
              bookedOn: answer.day || bookedBy(account, contract, reportBack),
              ...(contract.report?.confirms && reportBack.correction === 0
                ? { state: 'told' }
                : { state: 'confirmed', confirmedAt: answeredAt }),
            },
            attempt: ended,
          }
        : {
            reportBack,
            change: { state: 'refused', reason: { code: 'refused', platform, answer: answer.answer }, answeredAt },
            attempt: ended,
          };
    }),
    isTest ? undefined : contract.report?.confirms ? account : undefined,
  );
  return tellings.map(({ item, reportBack }) =>
    answerOf.has(reportBack.outcomeId)
      ? { item, again: null }
      : putBack(item, new Error('the answer did not name this row')),
  );
}
