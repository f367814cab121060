import { countOutcome, noStages, worthOf, type Counted, type Happening, type OutcomeRule } from '../../core/outcomes';
import type { OutcomeEffectView, OutcomesView } from '../../core/outcomes/view';
import { dedupeKey } from '../../core/outcomes';
import { evidenceWords, isQuiet, spanWords, type Evidence } from '../../core/evidence';
import { mayChange } from '../../core/people/rights';
import { pointerName } from '../../core/capture/pointer';
import { platformName } from '../../core/platforms/links';
import type { ReleaseContent } from '../../core/releases';
import { ruleKinds } from '../../core/rules';
import { count, counted, type Sentence } from '../../core/strands';
import { listed } from '../../core/listed';
import type { Connections } from '../connections/connections';
import type { Context } from '../context';
import { plain, selectRows, text, time, uuid, whole, type OrderRow } from '../db';
import { happeningsOf, readDeals, readPersonOf } from '../leads/deals-of';
import { hiddenName } from '../leads/called';
import { readRecordNames } from '../leads/queries';
import { orderHappenings } from '../orders/follow';
import { readNotices } from './notices/posted';
import { readSenders } from './notices/senders';
import type { Membership } from '../people/people';
import { observationStart, weeks } from '../plan/plan';
import { nowMs } from '../clock';
import type { Draft } from '../releases/draft';
import { readLives, type Lives } from '../releases/live-since';
import { moneyWords } from '../strands/trace-events';

/** Records and orders that an effect is worked out from, the newest first; more are not read. */
const mostSubjects = 20_000;
const newestFew = 5;

/** The outcomes of a business: its rules, and what they would have counted. */
export function makeOutcomesStation(context: Context, draft: Draft, connections: Connections) {
  const { db, tables } = context;
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

  /** Names of amounts of the newest records, with those that orders say. */
  async function readAmounts(businessId: string, { capture }: ReleaseContent): Promise<string[]> {
    const ofRecords = await readRecordNames(db, businessId, 'amounts');
    const ofOrders = capture.orders.flatMap(({ amounts }) => amounts.map(pointerName));
    return [...new Set([...ofRecords, ...ofOrders])].sort();
  }

  return {
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
      const { outcomes, telling, crm, platforms } = edited;
      return {
        sentence: outcomesSentence(live, edited, known, evidence),
        outcomes,
        telling,
        qualified: ruleKinds.qualified.at.read(edited).map(([, rule]) => rule),
        beside: {
          crm,
          outcomes,
          platforms,
          accounts,
          senders: senders.map(({ key, name, steps }) => ({
            key,
            name,
            steps: steps.filter(({ means }) => means === 'happens').map(({ says }) => says),
          })),
        },
        amounts: await readAmounts(business.id, edited),
        evidence: Object.fromEntries(
          [...evidence].map(([code, one]) => [code, { count: one.total, words: factsOf(one) }]),
        ),
        retired: known
          .flatMap(({ code, count: times }) => {
            const since = lives.until.get(code);
            return since === undefined ? [] : [{ code, count: times, since: new Date(since).toISOString() }];
          })
          .sort((a, b) => (a.since < b.since ? 1 : -1)),
        currency: business.currency,
        changed,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /** What an outcome as it is written would have counted of the enquiries or orders of the last weeks. */
    async effect(membership: Membership, rule: OutcomeRule): Promise<OutcomeEffectView> {
      const { business, role } = membership;
      const { live, draft: edited } = await draft.content(business.id);
      const subjects = await (rule.reachedBy.kind === 'stage' ? readEnquiries : readOrders)(business.id, edited);
      const before = live.outcomes.find(({ code }) => code === rule.code);
      const stages = (content: ReleaseContent) => content.crm?.stages ?? noStages;
      const written = countAll(subjects, rule, stages(edited));
      const sums = new Map<string, number>();
      for (const { counted: one } of written)
        if (one.worth) sums.set(one.worth.currency, (sums.get(one.worth.currency) ?? 0) + one.worth.minor);
      const platforms = await readPlatforms(
        business.id,
        written.flatMap(({ subject }) => subject.strands),
      );
      const clicks = new Map<string, number>();
      for (const { subject } of written)
        for (const platform of new Set(subject.strands.flatMap((id) => platforms.get(id) ?? [])))
          clicks.set(platform, (clicks.get(platform) ?? 0) + 1);
      return {
        weeks,
        live: before ? countAll(subjects, before, stages(live)).length : 0,
        written: written.length,
        of: subjects.length,
        worth: role.seesMoney ? [...sums].map(([currency, minor]) => moneyWords({ minor, currency })) : null,
        withoutAmount: rule.worth.kind === 'none' ? 0 : written.filter((one) => one.counted.worth === null).length,
        newest: written.slice(0, newestFew).map(({ subject, counted: one }) => ({
          id: subject.id,
          words: subject.isPerson && !role.seesPeople ? hiddenName : subject.words,
          href: subject.href,
          at: new Date(one.at).toISOString(),
          worth: one.worth && role.seesMoney ? moneyWords(one.worth) : '',
        })),
        clicks: [...clicks].map(([platform, times]) => ({
          platform,
          words: platformName(platform, edited.platforms),
          count: times,
        })),
      };
    },
  };

  async function readEnquiries(businessId: string, edited: ReleaseContent): Promise<Subject[]> {
    const rows = await selectRows(
      db,
      {
        id: uuid(),
        strandId: uuid().nullable().of('enquiries.strand_id'),
      },
      `FROM enquiries WHERE business_id = ? AND sent_at >= ? AND deal_id IS NOT NULL AND marked = ''
       ORDER BY sent_at DESC LIMIT ${mostSubjects}`,
      [businessId, observationStart()],
    );
    const ids = rows.map(({ id }) => id);
    const deals = await readDeals(context, businessId, ids, edited);
    const leadIds = [...deals.values()].flatMap((own) => own.map(({ leadId }) => leadId));
    const personOf = await readPersonOf(context, businessId, leadIds);
    return rows.flatMap((row): Subject[] => {
      const own = deals.get(row.id) ?? [];
      const [furthest] = own;
      if (!furthest) return [];
      const { company, personName } = furthest.record;
      return [
        {
          id: row.id,
          words: company || personName || `record ${furthest.number}`,
          isPerson: true,
          href: `/leads/${row.id}`,
          strands: row.strandId ? [row.strandId] : [],
          happenings: happeningsOf(businessId, row.id, own, edited, personOf),
        },
      ];
    });
  }

  async function readOrders(businessId: string): Promise<Subject[]> {
    const rows = plain(
      await tables.orders.findAll({
        where: { businessId, marked: '' },
        order: [['at', 'DESC']],
        limit: mostSubjects,
      }),
    );
    const lately = rows.filter(({ at }) => at >= observationStart());
    const posted = await readNotices(
      context,
      businessId,
      'order',
      lately.map(({ number }) => number),
    );
    return lately.map((order: OrderRow) => ({
      id: order.id,
      words: `order ${order.number}`,
      isPerson: false,
      href: order.strands[0] ? `/strands/${order.strands[0]}?way=order` : '',
      strands: order.strands,
      happenings: orderHappenings(order, posted.get(order.number) ?? []).happenings,
    }));
  }

  /** The platform of each strand that is a click. */
  async function readPlatforms(businessId: string, ids: string[]): Promise<Map<string, string>> {
    if (ids.length === 0) return new Map();
    const rows = await tables.strands.findAll({
      attributes: ['id', 'platform'],
      where: { businessId, id: [...new Set(ids)], kind: 'click' },
    });
    return new Map(plain(rows).map(({ id, platform }) => [id, platform]));
  }
}

/** An enquiry or order with what happened to it. */
interface Subject {
  id: string;
  words: string;
  isPerson: boolean;
  href: string;
  strands: string[];
  happenings: Happening[];
}

/** What a rule counts of some subjects, each once by its key, the newest first. */
function countAll(subjects: Subject[], rule: OutcomeRule, stages: typeof noStages) {
  const found = new Map<string, { subject: Subject; counted: Counted }>();
  for (const subject of subjects)
    for (const happening of subject.happenings) {
      const one = countOutcome(happening, rule, stages);
      const key = dedupeKey(happening, rule);
      if (!one || key === null || found.has(key)) continue;
      const { amount, worth } = worthOf(subject.happenings.at(-1)!.amounts, rule.worth);
      found.set(key, { subject, counted: { ...one, amount, worth } });
    }
  return [...found.values()].sort((a, b) => b.counted.at - a.counted.at);
}

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
