import { mayBeTaken, mayTell } from '../../core/reportbacks';
import type { ChangeRow, TellingRow } from '../../core/platforms';
import { tellingRules } from '../../core/releases';
import { groupBy } from '../../core/group-by';
import type { Context } from '../context';
import { plain, type AttemptRow, type WorkItem } from '../db';
import { newId } from '../ids';
import { worthNow } from '../outcomes/worth-now';
import type { Releases } from '../releases/releases';
import { readConsents } from './consents';
import { readWaiting, type WaitingRow } from './queries';

/** A report-back that is due, with what is told of it. */
export interface Telling {
  item: WorkItem;
  reportBack: WaitingRow;
  attempt: string;
  /** How many attempts there were before this one. */
  attempts: number;
  /** True where an earlier attempt may have been taken. */
  unclear: boolean;
  /** The worth (minor units) that is told. */
  worth: number;
  /** False where the person did not agree to it, or took it back since. */
  agreed: boolean;
  /** What it is told by; its value is '' until the CRM was asked for it. */
  key: TellingRow['key'];
  /** Whether the platform is asked as a test only. */
  isTest: boolean;
}

/** The report-backs that still wait to be told, with their outcomes. */
export async function readTellings(
  context: Context,
  releases: Releases,
  businessId: string,
  items: WorkItem[],
): Promise<Telling[]> {
  const { tables } = context;
  const ids = items.map((item) => item.subject);
  const [reportBacks, attempts] = await Promise.all([
    readWaiting(context.db, businessId, ids),
    tables.attempts
      .findAll({
        attributes: ['reportBackId', 'status', 'worthMinor'],
        where: { businessId, reportBackId: ids },
        order: [['startedAt', 'ASC']],
      })
      .then(plain),
  ]);
  const { required } = (await releases.live(businessId)).content.capture.consent;
  const consentOf = await readConsents(context, businessId, reportBacks);
  const attemptsOf = groupBy(attempts, (attempt) => attempt.reportBackId);
  const itemOf = new Map(items.map((item) => [item.subject, item]));
  const numbers = [...new Set(reportBacks.map(({ releaseNumber }) => releaseNumber))];
  const under = new Map(
    await Promise.all(numbers.map(async (number) => [number, await releases.numbered(businessId, number)] as const)),
  );
  const ruleOf = ({ releaseNumber, code, account }: WaitingRow) =>
    tellingRules(under.get(releaseNumber)!, code).find((rule) => rule.account === account);
  return reportBacks.map((reportBack) => {
    const own = attemptsOf.get(reportBack.id) ?? [];
    const rule = ruleOf(reportBack);
    const isTest = rule?.how === 'tested';
    const unclear = !isTest && mayBeTaken(own.map((attempt) => attempt.status));
    return {
      reportBack,
      unclear,
      item: itemOf.get(reportBack.id)!,
      attempt: newId(),
      agreed: mayTell(consentOf.get(reportBack.subjectId) ?? null, required, rule?.purpose),
      attempts: own.length,
      key: { kind: reportBack.keyKind, value: reportBack.keyValue },
      isTest,
      worth: Number(worthToTell(reportBack, unclear ? own.at(-1) : undefined)),
    };
  });
}

/**
 * The worth that is told. What the platform may have taken already it is told again as it was, and corrected once it says so;
 * a correction is the new worth as a whole, so it can be told anew whatever was taken.
 */
const worthToTell = (
  reportBack: WaitingRow,
  unclear: Pick<AttemptRow, 'worthMinor'> | undefined,
): number | string | null =>
  (reportBack.correction > 0 ? null : unclear?.worthMinor) ?? reportBack.tellsMinor ?? worthNow(reportBack).minor;

/** What a platform is told of it. */
export const toTellingRow = (telling: Telling): TellingRow | ChangeRow => {
  const { reportBack } = telling;
  const row = toNewRow(telling);
  if (reportBack.correction === 0) return row;
  return {
    ...row,
    change: telling.worth === 0 && reportBack.worthChange === 'taken_back' ? 'taken_back' : 'revalued',
    cause: reportBack.changeCause || 'amount',
  };
};

const toNewRow = ({ reportBack, worth, key }: Telling): TellingRow => ({
  eventId: reportBack.outcomeId,
  key,
  outcome: reportBack.toldAs,
  happenedAt: reportBack.happenedAt.getTime(),
  worth: { minor: worth, currency: reportBack.currency },
});
