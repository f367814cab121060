import { isCurrency, postedAmount } from '../../core/outcomes';
import type { AccountName } from '../../core/connections/view';
import { faceOf } from '../../core/destinations/faces';
import { countedTwice, counterWords, ownTagWords } from '../../core/outcomes/counters';
import type { NamedThere, OutcomesView } from '../../core/outcomes/view';
import { evidenceWords, isQuiet, spanWords, type Evidence } from '../../core/evidence';
import { mayChange } from '../../core/people/rights';
import { pointerName } from '../../core/capture/pointer';
import type { ReleaseContent } from '../../core/releases';
import { ruleKinds } from '../../core/rules';
import { count, counted, type Sentence } from '../../core/strands';
import { listed } from '../../core/listed';
import { readPathsSeen } from '../capture/queries';
import type { Connections } from '../connections/connections';
import type { Context } from '../context';
import { selectRows, text, time, whole } from '../db';
import { readRecordNames } from '../leads/queries';
import { readSenders } from './notices/senders';
import type { Membership } from '../people/people';
import { observationStart } from '../plan/plan';
import { nowMs } from '../clock';
import type { Draft } from '../releases/draft';
import { readLives, type Lives } from '../releases/live-since';

/** Paths of the website that are offered. */
const mostPaths = 200;
/** The newest tellings of events from which names are offered. */
const mostTold = 5000;

/** The outcomes of a business: its rules, and what they would have counted. */
export function makeOutcomesStation(context: Context, draft: Draft, connections: Connections) {
  const { db } = context;
  const readCounted = (businessId: string) =>
    selectRows(
      db,
      {
        code: text(),
        count: whole().of('COUNT(*)'),
        lastAt: time().of('MAX(happened_at)'),
        lately: whole().of('SUM(happened_at >= ?)'),
        firstAt: time().of('MIN(CASE WHEN happened_at >= ? THEN happened_at END)').nullable(),
      },
      'FROM outcomes WHERE business_id = ? GROUP BY code',
      [observationStart(), observationStart(), businessId],
    );

  /** Names of amounts of the newest records, with those that orders and postbacks say and events take along. */
  async function readAmounts(
    businessId: string,
    { capture, events }: ReleaseContent,
    isPosted: boolean,
  ): Promise<string[]> {
    const ofRecords = await readRecordNames(db, businessId, 'amounts');
    const ofEvents = events.readings.flatMap(({ id, as, unit }) => (as === 'number' && isCurrency(unit) ? [id] : []));
    const ofOrders = capture.orders.flatMap(({ amounts }) => amounts.map(pointerName));
    return [...new Set([...ofRecords, ...ofOrders, ...ofEvents, ...(isPosted ? [postedAmount] : [])])].sort();
  }

  /** Names of events that places were told lately which count everything that they are told, the commonest first. */
  async function namesTold({ business: { id: businessId } }: Membership): Promise<NamedThere[]> {
    const [{ draft: edited }, accounts] = await Promise.all([draft.content(businessId), connections.names(businessId)]);
    const { goals, platforms } = edited;
    const places = accounts.filter(({ kind }) => faceOf(kind, platforms)?.toldOf === 'every event');
    if (places.length === 0) return [];
    const rows = await selectRows(
      db,
      { account: text(), event: text(), name: text().of("JSON_VALUE(sent, '$.name')"), times: whole().of('COUNT(*)') },
      `FROM (SELECT account, event, sent FROM event_tellings WHERE business_id = ? AND happened_at >= ? AND state = 'told'
         AND told_by = 'server' ORDER BY happened_at DESC LIMIT ${mostTold}) AS lately
       WHERE account IN (?) GROUP BY account, event, JSON_VALUE(sent, '$.name') ORDER BY times DESC LIMIT 50`,
      [businessId, observationStart(), places.map(({ key }) => key)],
    );
    // What is there as a goal is an outcome already.
    return rows
      .filter(({ account, event }) => !goals.some((goal) => goal.outcome === event && goal.account === account))
      .map((row) => ({ ...row, accountName: nameOf(accounts, row.account) }));
  }

  /** What accounts count several times, and what platforms count without being told of it. */
  async function countersOf(
    businessId: string,
    content: ReleaseContent,
    accounts: readonly AccountName[],
  ): Promise<OutcomesView['counters']> {
    const told = countedTwice(content).map(({ account, thing, counters }) => ({
      key: `${account} ${thing}`,
      ...counterWords(nameOf(accounts, account), counters),
    }));
    const reported = await selectRows(
      db,
      { account: text().of('a.`key`'), outcome: text().of('r.outcome'), counted: whole().of('SUM(r.counted)') },
      `FROM outcome_reports r JOIN accounts a ON a.business_id = r.business_id AND a.id = r.account_id
       WHERE r.business_id = ? AND r.day >= ? GROUP BY a.\`key\`, r.outcome HAVING SUM(r.counted) > 0 LIMIT 200`,
      [businessId, observationStart()],
    );
    const isTold = ({ account, outcome }: { account: string; outcome: string }) =>
      content.telling.some((rule) => rule.account === account && (rule.as || rule.outcome) === outcome);
    const own = reported.filter(
      (one) => !isTold(one) && content.telling.some(({ account }) => account === one.account),
    );
    return [
      ...told,
      ...own.map(({ account, outcome, counted: times }) => ({
        key: `${account} own ${outcome}`,
        ...ownTagWords(nameOf(accounts, account), outcome, times),
      })),
    ];
  }

  return {
    namesTold,
    async view(membership: Membership): Promise<OutcomesView> {
      const { business, role } = membership;
      const [{ draft: edited, live, changed }, accounts, known, lives, senders] = await Promise.all([
        draft.content(business.id),
        connections.names(business.id),
        readCounted(business.id),
        readLives(db, business.id, '$.outcomes[*].code'),
        readSenders(context, business.id),
      ]);
      const evidence = evidenceOf(edited, known, lives);
      const { outcomes, telling, crm, platforms, events } = edited;
      return {
        sentence: outcomesSentence(live, edited, known, evidence),
        outcomes,
        telling,
        ladders: edited.ladders,
        goals: edited.goals,
        qualified: ruleKinds.qualified.at.read(edited).map(([, rule]) => rule),
        beside: {
          crm,
          outcomes,
          platforms,
          events,
          accounts,
          senders: senders.map(({ key, name, steps }) => ({
            key,
            name,
            steps: steps.filter(({ means }) => means !== 'nothing').map(({ says }) => says),
          })),
        },
        amounts: await readAmounts(business.id, edited, senders.length > 0),
        crmFields: await readRecordNames(db, business.id, 'fields'),
        paths: await readPathsSeen(db, business.id, observationStart(), mostPaths),
        evidence: Object.fromEntries(
          [...evidence].map(([code, one]) => [code, { count: one.total, words: factsOf(one) }]),
        ),
        retired: known
          .flatMap(({ code, count: times }) => {
            const since = lives.until.get(code);
            return since === undefined ? [] : [{ code, count: times, since: new Date(since).toISOString() }];
          })
          .sort((a, b) => (a.since < b.since ? 1 : -1)),
        counters: await countersOf(business.id, edited, accounts),
        currency: business.currency,
        beginnings: edited.plan.outcomeCodes.beginnings,
        changed,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },
  };
}

const nameOf = (accounts: readonly AccountName[], key: string): string =>
  accounts.find((one) => one.key === key)?.name ?? key;

/** What is known of how often an outcome was counted, and how often in all. */
interface OutcomeEvidenceNow extends Evidence {
  total: number;
}

function evidenceOf(
  { outcomes }: ReleaseContent,
  known: { code: string; count: number; lastAt: Date; lately: number; firstAt: Date | null }[],
  { since, until }: Lives,
): Map<string, OutcomeEvidenceNow> {
  const countOf = new Map(known.map((one) => [one.code, one]));
  return new Map(
    outcomes.map(({ code }): [string, OutcomeEvidenceNow] => {
      const one = countOf.get(code);
      return [
        code,
        {
          total: one?.count ?? 0,
          count: one?.lately ?? 0,
          firstAt: one?.firstAt?.getTime() ?? null,
          lastAt: one?.lastAt.getTime() ?? null,
          liveSince: until.has(code) ? null : (since.get(code) ?? null),
        },
      ];
    }),
  );
}

/** Usual waits after which an outcome is quiet: nobody moves deals on a weekend. */
const quietAfter = 8;
/** How long (ms) it is said of an outcome since when it is live. */
const young = 60 * 86_400_000;

/** Dated facts of an outcome: "live 6 days, last counted 2 h ago". */
function factsOf(evidence: Evidence): string {
  const { lastAt, liveSince } = evidence;
  const words = evidenceWords(evidence, nowMs(), quietAfter);
  const age = liveSince === null ? null : nowMs() - liveSince;
  return lastAt !== null && age !== null && age < young ? `live ${spanWords(age)}, ${words}` : words;
}

function outcomesSentence(
  live: ReleaseContent,
  edited: ReleaseContent,
  known: { code: string; count: number }[],
  evidence: Map<string, OutcomeEvidenceNow>,
): Sentence {
  const { outcomes, telling, crm } = edited;
  if (outcomes.length === 0)
    return {
      title: 'Nothing counts as a conversion yet.',
      under: crm
        ? 'Say which stage of a deal, or which order, is an outcome; then say which platforms are told of it.'
        : 'Say that an order is an outcome, or connect the CRM and say which of its stages is one.',
    };
  const quiet = outcomes.filter(({ code }) => isQuiet(evidence.get(code)!, nowMs(), quietAfter));
  const [first] = quiet;
  if (first)
    return {
      title: `${quiet.length === 1 ? `${first.code} has` : `${quiet.length} outcomes have`} gone quiet.`,
      under: `${first.code}: ${evidenceWords(evidence.get(first.code)!, nowMs(), quietAfter)}. Look whether what reaches it still happens.`,
    };
  const silent = outcomes.filter(({ code }) => !telling.some(({ outcome }) => outcome === code));
  const total = known.reduce((sum, one) => sum + one.count, 0);
  const isLive = live.outcomes.length > 0;
  return {
    title: `${counted(outcomes.length, 'outcome', 'outcomes')}, counted ${count(total)} ${total === 1 ? 'time' : 'times'} so far.`,
    under:
      silent.length > 0
        ? `No platform is told of ${listed(silent.map(({ code }) => code))}.`
        : isLive
          ? 'Each is told to at least one platform.'
          : 'Nothing is counted until they are live.',
  };
}
