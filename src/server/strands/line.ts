import { readSetupSteps } from './setting-up';
import { lossStation, missingLandings, reasonWords } from '../../core/reasons/words';
import { formWordsOf, originWords, waysInOf, type Release } from '../../core/releases';
import {
  countLine,
  hopWords,
  isAlone,
  happenedSentence,
  happeningHops,
  lineOfDays,
  lineSentence,
  unbegunSentence,
  noClicks,
  canReach,
  groupsToward,
  type FollowedGroup,
  type ColumnView,
  type Hop,
  type LineView,
  type RangeChoice,
  type StopNote,
  type StrandListQuery,
  type StrandListRow,
  type StrandListView,
} from '../../core/strands';
import type { Reason } from '../../core/reasons/codes';
import { beginsElsewhere, waysIn, type WayIn } from '../../core/ways-in';
import type { Context } from '../context';
import type { BusinessRow, RoleRow } from '../db';
import { readLeadFinding } from '../leads/find';
import { hiddenName } from '../leads/called';
import { standingWords } from '../leads/list';
import { isRecorded } from '../capture/queries';
import { inParts, mostInFile, pageSize } from '../lists';
import { readChoices, readNarrowing } from '../leads/segments/segments';
import type { Cursor } from '../cursor';
import type { Releases } from '../releases/releases';
import { compareClicked, readArrived, type Arrived } from './clicked';
import { platformName } from '../../core/platforms/links';
import type { CampaignNames } from '../plan/campaign-names';
import type { Narrowing } from './narrowing';
import {
  countBeside,
  countStrands,
  findStrands,
  readGroups,
  readStrands,
  type Days,
  type StrandQueryRow,
} from './queries';
import { makeLatest } from './latest';
import { countSegmentBeside, readSegmentGroups } from './in-segment';
import type { Range } from './range';
import { filterOn, followed, madeIt, makeChosen, narrowedBy, newestFirst, ownOutcome } from './chosen';
import { strandsSentence, wordsOfNarrowing } from './strands-sentence';

/** Campaigns that are offered, those with the most clicks. */
const mostCampaigns = 300;
/** A line that begins elsewhere has every row of its own. */
const nothingBeside = { alone: 0, noCustomers: 0, counted: 0 };
/** Confirmed, and told another worth since. */
const sinceCorrected = { ...madeIt, hop: 'confirmed', corrected: 'yes' } as const;

/** The line of a business, and the strands behind each of its numbers. */
export function makeStrandPages(context: Context, releases: Releases, campaignNames: CampaignNames) {
  const { db } = context;
  const latestOn = makeLatest(db);
  const { wayOf, rangeOf, narrowOf, towardOf } = makeChosen(context, releases);

  /** The figures of a line. Nobody counts the clicks of a segment; enquiries without a click are of no platform or campaign. */
  async function countFigures(
    business: BusinessRow,
    way: WayIn,
    range: Range,
    release: Release,
    arrived: Arrived,
    { segment, tags, toward }: Narrowing,
  ) {
    const { id } = business;
    const days = daysOf(business, range);
    const isAlone = !tags && !beginsElsewhere(way);
    const countedBy = (groups: FollowedGroup[]) =>
      toward ? groupsToward(groups, toward.strands.values(), way) : groups;
    if (segment) {
      const [groups, alone] = await Promise.all([
        readSegmentGroups(db, id, range.period, way.kind, segment, tags),
        isAlone ? countSegmentBeside(db, id, range.period, way.kind, segment) : 0,
      ]);
      return { groups: countedBy(groups), clicked: noClicks, beside: { ...nothingBeside, alone } };
    }
    const [groups, clicked, beside] = await Promise.all([
      readGroups(db, id, days, way.kind, tags),
      compareClicked(context, id, release, range, arrived, tags),
      isAlone ? countBeside(db, id, days, range.period, way.kind) : nothingBeside,
    ]);
    return { groups: countedBy(groups), clicked, beside };
  }

  /** How many strands made each hop of a way in some days, whenever they were first seen. */
  async function countHappened({ id }: BusinessRow, way: WayIn, { period }: Range, narrowing: Narrowing) {
    const counts = happeningHops(way).map(async (hop): Promise<[Hop, number]> => {
      const filter = filterOn(way, { ...madeIt, hop }, narrowing, { view: 'happened' });
      return [hop, await countStrands(db, id, period, filter, null, false)];
    });
    return new Map(await Promise.all(counts));
  }

  /** Strands are found as leads are: by what their lists show, and by who wrote or rang. */
  const findingOf = (business: BusinessRow, release: Release, { find }: StrandListQuery) =>
    readLeadFinding(db, business.id, release, find, context.config.secretKey);

  return {
    async line(business: BusinessRow, role: RoleRow, choice: RangeChoice): Promise<LineView> {
      const release = await releases.live(business.id);
      const way = wayOf(release, choice);
      const { cycle, range } = await rangeOf(business, release, wayOf(release, choice), choice);
      const [segment, arrived] = await Promise.all([
        readNarrowing(context, business, role, release, choice.segment),
        readArrived(db, business, range),
      ]);
      const { tags, campaigns } = narrowedBy(release, arrived, choice);
      const toward = await towardOf(business.id, release, choice, range, { segment, tags });
      const narrowing = { segment, tags, toward };
      const outcome = toward?.code ?? '';
      const [{ groups, clicked, beside }, latest, segments, corrected, namedAs] = await Promise.all([
        countFigures(business, way, range, release, arrived, narrowing),
        latestOn[way.kind](business, role, release, narrowing),
        readChoices(context, business.id, role.personId, choice.segment),
        countStrands(db, business.id, range.period, filterOn(way, sinceCorrected, narrowing, followed), null, false),
        campaignNames.get(business.id),
      ]);
      const cohort = countLine(groups, clicked, way);
      const line =
        choice.view === 'followed'
          ? cohort
          : lineOfDays(cohort, await countHappened(business, way, range, narrowing), way);
      const isEmpty = line.columns[1]!.count === 0 && beside.alone === 0;
      const isUnbegun = isEmpty && !(await isRecorded(db, business.id));
      const forms = formWordsOf(release);
      const narrowedWords = wordsOfNarrowing(narrowing, release, namedAs);
      const notes = (list: { reason: Reason; strands: number }[]): StopNote[] =>
        list.map(({ reason, strands }) => ({
          words: reasonWords(reason, forms, way).short,
          code: reason.code,
          strands,
        }));
      return {
        way: way.kind,
        view: choice.view,
        ways: waysInOf(release),
        segment: choice.segment,
        outcome,
        qualified: ownOutcome(release, way),
        outcomes: release.content.outcomes
          .filter(({ code, reachedBy }) => code !== ownOutcome(release, way) && canReach(way, reachedBy))
          .map(({ code, words }) => ({ id: code, name: `${code}: ${words}` })),
        segments,
        platform: choice.platform,
        platforms: release.content.capture.keep.clickIds.map(({ platform }) => ({
          id: platform,
          name: platformName(platform, release.content.platforms),
        })),
        campaign: narrowing.tags?.to.campaign ?? '',
        campaigns: campaigns
          .slice(0, mostCampaigns)
          .map(({ campaign, strands }) => ({ campaign, name: namedAs(campaign), strands })),
        sentence: isUnbegun
          ? unbegunSentence
          : choice.view === 'followed'
            ? lineSentence(line, beside.alone, way, forms, narrowedWords, outcome)
            : happenedSentence(line, way, narrowedWords, outcome),
        setup: await readSetupSteps(db, business.id, release),
        range: {
          choice: range.choice,
          firstDay: range.firstDay,
          lastDay: range.lastDay,
          cycleDays: cycle,
          release: release.number,
        },
        columns: line.columns.map(({ leftReasons, waitingReasons, ...column }): ColumnView => ({
          ...column,
          leftNotes: notes(leftReasons),
          waitingNotes: notes(waitingReasons),
        })),
        losses: line.losses.map((loss) => ({
          ...loss,
          words: loss.kind === 'inferred' ? missingLandings : reasonWords(loss.reason, forms, way),
          station: lossStation(loss.to),
        })),
        landedUncounted: line.landedUncounted,
        surplus: line.surplus,
        beside: beside.alone,
        corrected,
        noCustomers: beside.noCustomers,
        counted: beside.counted,
        latest,
        timeZone: business.timeZone,
      };
    },

    /** The rows behind a number of the line. */
    async strands(
      business: BusinessRow,
      role: RoleRow,
      choice: RangeChoice,
      query: StrandListQuery,
    ): Promise<StrandListView> {
      const release = await releases.live(business.id);
      const { range } = await rangeOf(business, release, wayOf(release, choice), choice);
      const part = { limit: pageSize, offset: (query.page - 1) * pageSize };
      const finding = await findingOf(business, release, query);
      const way = wayOf(release, choice);
      const narrowing = await narrowOf(business, role, release, choice, range);
      const filter = filterOn(way, query, narrowing, choice);
      const [ids, total] = await Promise.all([
        findStrands(db, business.id, range.period, filter, finding, role.seesPeople, part),
        countStrands(db, business.id, range.period, filter, finding, role.seesPeople),
      ]);
      const rows = standingToward(await readStrands(db, business.id, ids, way.kind), narrowing);
      return {
        way: way.kind,
        sentence: strandsSentence(
          { ...filter, of: wordsOfNarrowing(narrowing, release, await campaignNames.get(business.id)) },
          way,
          total,
          range,
          formWordsOf(release),
          rows[0],
        ),
        total,
        pageSize,
        timeZone: business.timeZone,
        rows: rows.map((row) => toStrandRow(row, way, release, role.seesPeople)),
      };
    },

    /** All rows behind a number of the line, in the list's order, part by part. */
    async *allStrands(
      business: BusinessRow,
      role: RoleRow,
      choice: RangeChoice,
      query: StrandListQuery,
    ): AsyncGenerator<StrandListRow[]> {
      const release = await releases.live(business.id);
      const { range } = await rangeOf(business, release, wayOf(release, choice), choice);
      const finding = await findingOf(business, release, query);
      const part = { limit: mostInFile };
      const way = wayOf(release, choice);
      const narrowing = await narrowOf(business, role, release, choice, range);
      const filter = filterOn(way, query, narrowing, choice);
      const ids = await findStrands(db, business.id, range.period, filter, finding, role.seesPeople, part);
      yield* inParts(ids, async (part) =>
        standingToward(await readStrands(db, business.id, part, way.kind), narrowing).map((row) =>
          toStrandRow(row, way, release, role.seesPeople),
        ),
      );
    },

    /** Part of the strands behind a number, newest first, as they are stored. */
    async part(
      business: BusinessRow,
      role: RoleRow,
      choice: RangeChoice,
      filter: Pick<StrandListQuery, 'hop' | 'state' | 'reason' | 'mark'>,
      limit: number,
      after: Cursor | null,
    ): Promise<StrandQueryRow[]> {
      const release = await releases.live(business.id);
      const { range } = await rangeOf(business, release, wayOf(release, choice), choice);
      const way = wayOf(release, choice);
      const query: StrandListQuery = { ...filter, ...newestFirst };
      const narrowing = await narrowOf(business, role, release, choice, range);
      const filtered = filterOn(way, query, narrowing, choice);
      const ids = await findStrands(db, business.id, range.period, filtered, null, false, { limit, after });
      return standingToward(await readStrands(db, business.id, ids, way.kind), narrowing);
    },

    /** Strands lost in the default range, by the station whose node shows them. */
    async losses(business: BusinessRow): Promise<Record<string, number>> {
      const release = await releases.live(business.id);
      const ways = waysInOf(release);
      const { range } = await rangeOf(business, release, waysIn[ways[0]!], { range: 'weeks4' });
      const days = daysOf(business, range);
      const clicked = await compareClicked(
        context,
        business.id,
        release,
        range,
        await readArrived(db, business, range),
      );
      const groups = await Promise.all(ways.map((way) => readGroups(db, business.id, days, way)));
      const lost: Record<string, number> = {};
      for (const [i, kind] of ways.entries()) {
        const way = waysIn[kind];
        for (const loss of countLine(groups[i]!, clicked, way).losses) {
          // What is lost before the ways part is the same on each.
          if (i > 0 && way.hops.indexOf(loss.to) < way.hops.indexOf(way.own)) continue;
          const station = lossStation(loss.to);
          lost[station] = (lost[station] ?? 0) + loss.strands;
        }
      }
      return lost;
    },
  };
}

const daysOf = ({ timeZone }: BusinessRow, { firstDay, lastDay }: Range): Days => ({
  zone: timeZone,
  firstDay,
  lastDay,
});

/** Strands as they stand toward the outcome that a line is narrowed to. */
const standingToward = (rows: StrandQueryRow[], { toward }: Narrowing): StrandQueryRow[] =>
  rows.map((row) => {
    const followed = toward?.strands.get(row.id)?.followed;
    if (!followed) return row;
    const { reached, stop } = followed;
    return { ...row, reached, state: stop?.state ?? null, reason: stop?.reason ? JSON.stringify(stop.reason) : null };
  });

function toStrandRow(row: StrandQueryRow, way: WayIn, release: Release, seesPeople: boolean): StrandListRow {
  const { lastHop, why } = isAlone(row)
    ? { lastHop: hopWords[way.subject === 'enquiry' ? 'in_crm' : way.own], why: 'no click known' }
    : standingWords(way, row.reached, row.state, row.reason, release);
  return {
    id: row.id,
    enquiryId: row.enquiryId,
    kind: row.kind,
    clickId: row.clickId,
    firstAt: row.firstAt.toISOString(),
    cameFrom: isAlone(row) ? 'not known' : originWords(release, row.source, row.medium),
    campaign: row.campaign,
    company: row.company === null ? '' : seesPeople ? row.company : hiddenName,
    lastHop,
    why,
  };
}
