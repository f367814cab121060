import { TZDate } from '@date-fns/tz';
import { AvrixError } from '../../core/errors';
import { groupBy } from '../../core/group-by';
import { answerTimesBy, minuteWords } from '../../core/leads/answer-times';
import type { AnswersQuery, AnswersView, CampaignQuality, QualityGiven } from '../../core/leads/answers-view';
import {
  makeWorkingTime,
  qualities,
  qualityWords,
  usualHours,
  type Quality,
  type WorkingHours,
} from '../../core/leads';
import { mayChange } from '../../core/people/rights';
import { originWords } from '../../core/releases';
import { counted, type Sentence } from '../../core/strands';
import type { Changes } from '../changes/changes';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, type WorkingHoursRow } from '../db';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { readChoices, readNarrowing } from './segments/segments';
import { readAnswered, type AnsweredRow } from './answers-queries';
import { called } from './called';
import type { SayQuality } from './say-quality';

/** Enquiries that are looked at, the newest. */
const mostLookedAt = 20_000;
const week = 7 * 86_400_000;

/** Who answers enquiries and how fast, what became of them, and what somebody says of one. */
export function makeAnswersStation(context: Context, releases: Releases, changes: Changes, say: SayQuality) {
  const { db, tables } = context;

  const hoursOf = async (businessId: string): Promise<WorkingHours> =>
    (await tables.workingHours.findOne({ where: { businessId } }))?.get({ plain: true }).hours ?? usualHours;

  async function view({ business, role }: Membership, { weeks, segment: id }: AnswersQuery): Promise<AnswersView> {
    const release = await releases.live(business.id);
    const segment = await readNarrowing(context, business, role, release, id);
    const [rows, hours, segments] = await Promise.all([
      readAnswered(db, business.id, new Date(nowMs() - weeks * week), mostLookedAt, segment),
      hoursOf(business.id),
      readChoices(context, business.id, role.personId, id),
    ]);
    const working = makeWorkingTime(hours, business.timeZone);
    const enquiries = rows.map((row) => ({
      sentAt: row.sentAt.getTime(),
      answeredAt: row.answeredAt?.getTime() ?? null,
      quality: row.quality,
      by: row.answeredBy,
      source:
        row.source === null ? 'not known' : originWords(release, row.source, row.medium ?? '', row.referrer ?? ''),
    }));
    const hourOf = (at: number) => String(new TZDate(at, business.timeZone).getHours()).padStart(2, '0');
    const waiting = enquiries.filter(({ quality }) => quality === 'unanswered');
    const all = answerTimesBy(enquiries, () => 'all', working)[0];
    return {
      sentence: sentenceOf(
        weeks,
        all,
        waiting.map(({ sentAt }) => working(sentAt, nowMs())),
      ),
      weeks,
      segment: id,
      segments,
      bySource: answerTimesBy(enquiries, ({ source }) => source, working),
      byPerson: answerTimesBy(
        enquiries,
        ({ by, answeredAt }) => (answeredAt === null ? null : by || 'moved in the CRM'),
        working,
      ),
      byHour: answerTimesBy(enquiries, ({ sentAt }) => hourOf(sentAt), working).sort((a, b) =>
        a.key < b.key ? -1 : 1,
      ),
      byCampaign: campaignsOf(rows),
      hours,
      lookedAt: rows.length === mostLookedAt ? mostLookedAt : null,
      mayChange: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  return {
    view,

    /**
     * Says of enquiries how far they were answered, or takes back what was said. What has qualified stays so.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND where none of them is there
     */
    async setQuality(membership: Membership, byName: string, { ids, quality, reason }: QualityGiven): Promise<void> {
      requireEditor(membership);
      const { business, role } = membership;
      const given = { ids, quality, reason };
      const rows = await say(business.id, byName, given, async (found, transaction) => {
        const leads = plain(
          await tables.leads.findAll({
            where: { businessId: business.id, id: found.flatMap(({ leadId }) => leadId ?? []) },
            transaction,
          }),
        );
        await changes.note(
          business.id,
          role.personId,
          found.map((row) => {
            const lead = leads.find(({ id }) => id === row.leadId);
            return {
              kind: 'lead' as const,
              subject: lead ? called(lead, false) : 'An enquiry',
              was: wordsOf(row.quality, row.qualityReason),
              became: quality === '' ? 'as the CRM says' : wordsOf(quality, quality === 'answering' ? '' : reason),
            };
          }),
          transaction,
        );
      });
      if (rows === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'enquiry' });
    },

    /** @throws AVX_ROLE_TOO_SMALL */
    async setHours(membership: Membership, hours: WorkingHours): Promise<void> {
      requireEditor(membership);
      const { business, role } = membership;
      const before = await hoursOf(business.id);
      await inTransaction(db, async (transaction) => {
        const row: WorkingHoursRow = { businessId: business.id, hours, changedAt: now() };
        await tables.workingHours.upsert(row, { transaction });
        const change = {
          kind: 'lead' as const,
          subject: 'Working hours',
          was: hourWords(before),
          became: hourWords(hours),
        };
        await changes.note(business.id, role.personId, [change], transaction);
      });
    },
  };
}

const wordsOf = (quality: Quality, reason: string): string => qualityWords[quality] + (reason ? `: ${reason}` : '');

const dayNames = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const hourWords = ({ days, from, to }: WorkingHours): string =>
  `${[...days]
    .sort()
    .map((day) => dayNames[day - 1])
    .join(' ')}, ${from} to ${to}`;

function campaignsOf(rows: AnsweredRow[]): CampaignQuality[] {
  const byCampaign = groupBy(rows, ({ campaign }) => campaign ?? '');
  return [...byCampaign]
    .map(([campaign, own]) => ({
      campaign,
      enquiries: own.length,
      of: Object.fromEntries(
        qualities.map((one) => [one, own.filter(({ quality }) => quality === one).length]),
      ) as Record<Quality, number>,
    }))
    .sort((a, b) => b.enquiries - a.enquiries || (a.campaign < b.campaign ? -1 : 1));
}

function sentenceOf(
  weeks: number,
  all: ReturnType<typeof answerTimesBy>[number] | undefined,
  waits: number[],
): Sentence {
  const span = weeks === 1 ? 'this week' : `the last ${weeks} weeks`;
  if (!all)
    return {
      title: `No enquiry came in ${span}.`,
      under: 'Each is unanswered until somebody says so, or its record in the CRM is moved on.',
    };
  const times =
    all.median === null
      ? 'None was answered yet.'
      : `Half of ${counted(all.answered, 'answered enquiry', 'answered enquiries')} waited no longer than ${minuteWords(all.median)} of working time, nine of ten no longer than ${minuteWords(all.slow!)}.`;
  if (waits.length === 0) return { title: `Every enquiry of ${span} is answered.`, under: times };
  return {
    title: `${counted(waits.length, 'enquiry is', 'enquiries are')} unanswered; the oldest has waited ${minuteWords(Math.max(...waits))} of working time.`,
    under: times,
  };
}
