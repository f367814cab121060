import { contractOf } from '../../core/platforms';
import { crmContractOf } from '../../core/crms';
import type { OutcomeRule } from '../../core/outcomes/schema';
import type { Reason } from '../../core/reasons/codes';
import { stoppedWords } from '../../core/reasons/words';
import type {
  BridgedRowView,
  EndView,
  OpenedPart,
  StepView,
  ThreeCountsBehind,
  ThreeCountsBehindView,
  ThreeCountsQuery,
  ThreeCountsView,
} from '../../core/results/three-counts-view';
import { type MissingLandings, openedTitle, threeCountsSentence, unitOf } from '../../core/results/three-counts-words';
import { tellingRules, type Release } from '../../core/releases';
import type { Context } from '../context';
import { plain } from '../db';
import { inParts, pageSize } from '../lists';
import type { Membership } from '../people/people';
import { runInPool } from '../pool';
import type { Releases } from '../releases/releases';
import { narrowedBy } from '../strands/chosen';
import { compareClicked, readArrived } from '../strands/clicked';
import { periodOf, type DaySpan } from '../strands/range';
import { longest, makeAsked } from './asked';
import { askedOfOutcome } from './asked-business';
import { readRipe } from './ripe-days';
import { readAccountsTold, readLostReasons } from './bridge-queries';
import { outcomeAsked } from './outcome-asked';
import { readSubjectNames } from './subject-names';
import { claimsView, counterOf, endView, nothing, openedRows, stepsOf, type CountsPlace } from './three-counts-show';
import type { AskedBridge, BridgedRow, WorkedOutBridge } from './work-out-bridge';

/** What outcomes of are held in the CRM: nobody writes an order or a subscription there. */
const heldInCrm: readonly OutcomeRule['countedOnceFor'][] = ['enquiry', 'deal', 'lead'];

/** How a platform's count, the website's and the CRM's of one outcome become one another. */
export function makeThreeCountsStation(context: Context, releases: Releases) {
  const { resultsDb: db, tables } = context;
  const { daysOf } = makeAsked(context, releases);

  async function read(membership: Membership, query: ThreeCountsQuery) {
    const { business } = membership;
    const release = await releases.live(business.id);
    const { days, cycle } = await daysOf(membership, release, { ...query, against: 'none' });
    const rule = outcomeAsked(release, query.outcome);
    if (!rule) return { release, days, cycle, rule: null };
    const { from } = periodOf(days.firstDay, days.lastDay, business.timeZone);
    const [accounts, crm] = await Promise.all([
      placesOf(business, release, rule, new Date(from)),
      crmWords(business.id, release),
    ]);
    const isHeld = crm !== '' && (rule.reachedBy.kind === 'stage' || heldInCrm.includes(rule.countedOnceFor));
    const ends = endsOf(query, accounts, isHeld, usualAccount(release, rule, accounts));
    const asked: AskedBridge = {
      ...askedOfOutcome(context, business, release, rule, days),
      isHeld,
      accounts: accounts.map(({ accountName: __, words: ___, ...account }) => account),
      account: accountIn(ends),
      ends: { from: counterOf(ends.start), to: counterOf(ends.end) },
      axis: query.axis,
      from,
    };
    const found = await runInPool('workOutBridge', asked, longest);
    return { release, days, cycle, rule, accounts, crm: isHeld ? crm : '', ends, found };
  }

  /** Accounts that are told of an outcome, or were of those since some time, with what they call it. */
  async function placesOf(
    business: Membership['business'],
    { content }: Release,
    rule: OutcomeRule,
    since: Date,
  ): Promise<CountsPlace[]> {
    const told = new Map(
      (await readAccountsTold(db, business.id, rule.code, since)).map(({ account, name }) => [account, name]),
    );
    for (const { outcome, account, as } of content.telling)
      if (outcome === rule.code) told.set(account, as || rule.code);
    const rows = plain(
      await tables.accounts.findAll({
        where: { businessId: business.id, key: [...told.keys()] },
        order: [['name', 'ASC']],
      }),
    );
    return rows.flatMap(({ id, key, kind, name: accountName, settings }) => {
      const contract = contractOf(kind, content.platforms);
      if (!contract) return [];
      const { words, report } = contract;
      const timeZone = settings.timeZone ?? 'UTC';
      const countsBy = report?.countsBy ?? null;
      return [{ id, key, platform: kind, name: told.get(key)!, timeZone, countsBy, accountName, words }];
    });
  }

  /** What the CRM is called that a business's rules name; '' without one. */
  async function crmWords(businessId: string, { content }: Release): Promise<string> {
    if (!content.crm) return '';
    const account = await tables.accounts.findOne({ where: { businessId, key: content.crm.account } });
    const kind = account?.get({ plain: true }).kind;
    return kind === undefined ? '' : (crmContractOf(kind, content.crms)?.words ?? '');
  }

  /** Clicks that a platform's account reports, and how many of them never landed; null where it reports none. */
  async function missingOf(
    business: Membership['business'],
    release: Release,
    { platform }: CountsPlace,
    days: DaySpan,
  ): Promise<MissingLandings | null> {
    const arrived = await readArrived(db, business, days);
    const { tags } = narrowedBy(release, arrived, { platform, campaign: '' });
    const { clicks, missing } = await compareClicked(context, business.id, release, days, arrived, tags);
    return clicks === null || clicks === 0 ? null : { clicks, missing };
  }

  /** The bridge as it is shown, without what is said beside it. */
  async function bridge(membership: Membership, query: ThreeCountsQuery) {
    const { business } = membership;
    const { release, days, cycle, ...of } = await read(membership, query);
    const outcomes = release.content.outcomes.map(({ code, words }) => ({ code, words }));
    const range = { choice: query.range, ...days, cycleDays: cycle, release: release.number };
    const beside = { outcomes, range, timeZone: business.timeZone };
    if (of.rule === null) return { found: null, shown: { ...nothing, ...beside } };
    const { rule, accounts, crm, ends, found } = of;
    const place = accounts.find(({ key }) => key === accountIn(ends)) ?? null;
    const lost = await readLost(business.id, found);
    const end = (which: 'start' | 'end'): EndView =>
      endView(ends[which], which === 'start' ? found.from : found.to, found.counted[which].length > 0, {
        place,
        crm,
        rule,
      });
    const shown = {
      asked: { outcome: rule.code, ...ends, axis: query.axis },
      accounts: accounts.map(({ key, accountName }) => ({ key, name: accountName })),
      crm,
      unit: unitOf(rule.countedOnceFor),
      start: end('start'),
      end: end('end'),
      steps: stepsOf(found, place?.words ?? '', crm, lost, release),
      claims: accounts.length > 0 ? claimsView(found, accounts, crm) : null,
      ...beside,
    };
    return { found, shown, of: { release, rule, place, days } };
  }

  /** Why click IDs were lost before the CRM, by what they are of. */
  async function readLost(businessId: string, { steps }: WorkedOutBridge): Promise<Map<string, Reason>> {
    const rows = steps.find(({ key }) => key === 'lost_before_crm')?.rows ?? [];
    if (rows.length === 0) return new Map();
    const ids = rows.map(({ subjectId }) => subjectId);
    const found = await readLostReasons(db, businessId, ids);
    return new Map(found.flatMap(({ subjectId, reason }) => (reason ? [[subjectId, reason] as const] : [])));
  }

  async function rowsOf(membership: Membership, rows: readonly BridgedRow[]): Promise<BridgedRowView[]> {
    const names = await readSubjectNames(context, membership, rows);
    return rows.map(({ id, subjectId, deal, at, day, told }) => {
      const { name, path } = names.get(subjectId) ?? { name: 'no name', path: null };
      return {
        id,
        path,
        name: deal === '' ? name : `${name}, ${deal}`,
        at: new Date(at).toISOString(),
        day,
        dayThere: told?.day ?? '',
        told: told?.state ?? '',
        why: told?.reason ? stoppedWords(told.reason).text : '',
      };
    });
  }

  /** Those behind a number, the newest first. */
  async function opened(membership: Membership, query: ThreeCountsQuery, part: OpenedPart) {
    const { found, shown } = await bridge(membership, query);
    const rows = found ? openedRows(found, part) : [];
    return { shown, rows: [...rows].sort((a, b) => b.at - a.at || (a.id < b.id ? -1 : 1)) };
  }

  return {
    async view(membership: Membership, query: ThreeCountsQuery): Promise<ThreeCountsView> {
      const { business } = membership;
      const { found, shown, of } = await bridge(membership, query);
      if (found === null) return shown;
      const { release, rule, place, days } = of;
      const [missing, ripe] = await Promise.all([
        place ? missingOf(business, release, place, days) : null,
        query.axis === 'click' ? readRipe(context, business, release, rule, days) : null,
      ]);
      return { ...shown, sentence: threeCountsSentence(shown, shown.asked, missing), ripe };
    },

    /** One page of those behind a number. */
    async behind(
      membership: Membership,
      query: ThreeCountsQuery,
      { of, page }: ThreeCountsBehind,
    ): Promise<ThreeCountsBehindView> {
      const { shown, rows } = await opened(membership, query, of);
      return {
        sentence: {
          title: openedTitle(of, rows.length, shown),
          under: `${shown.asked.outcome}. Each opens its trace.`,
        },
        rows: await rowsOf(membership, rows.slice((page - 1) * pageSize, page * pageSize)),
        total: rows.length,
        page,
        pageSize,
        timeZone: membership.business.timeZone,
      };
    },

    /** All of them for a file, part by part. */
    async *all(membership: Membership, query: ThreeCountsQuery, { of }: ThreeCountsBehind) {
      const { rows } = await opened(membership, query, of);
      yield* inParts(rows, (part) => rowsOf(membership, part));
    },

    /** The bridge for a file: a row for each step. */
    async table(membership: Membership, query: ThreeCountsQuery): Promise<string[][]> {
      const { start, end, steps } = (await bridge(membership, query)).shown;
      const row = ({ words, why }: EndView | StepView, text: string) => [words, text, why.replaceAll('`', '')];
      return [
        ['step', 'count', 'why'],
        row(start, String(start.count)),
        ...steps.map((step) => row(step, String(step.count))),
        row(end, String(end.count)),
      ];
    },
  };
}

/** The account that is looked at first: the one that may bid for the outcome. */
function usualAccount(release: Release, { code }: OutcomeRule, accounts: readonly CountsPlace[]): CountsPlace | null {
  const bidding = tellingRules(release, code).find(({ letsItBid }) => letsItBid)?.account;
  return accounts.find(({ key }) => key === bidding) ?? accounts[0] ?? null;
}

type Ends = Record<'start' | 'end', string>;
const accountIn = ({ start, end }: Ends): string => [start, end].find((one) => one.startsWith('at:'))?.slice(3) ?? '';

/** The two ends that are asked for, as far as they are there; two that differ, and at most one account. */
function endsOf(query: Ends, accounts: readonly CountsPlace[], isHeld: boolean, usual: CountsPlace | null): Ends {
  const isThere = (end: string) =>
    end === 'website' || (end === 'crm' && isHeld) || accounts.some(({ key }) => end === `at:${key}`);
  const first = usual ? `at:${usual.key}` : 'website';
  const start = isThere(query.start) ? query.start : query.end === first ? 'website' : first;
  const isFit = (end: string) => isThere(end) && end !== start && !(start.startsWith('at:') && end.startsWith('at:'));
  const last = [query.end, isHeld ? 'crm' : 'website', 'website', first].find(isFit);
  return { start, end: last ?? 'website' };
}
