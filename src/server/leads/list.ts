import type { Reason } from '../../core/reasons/codes';
import { reasonWords } from '../../core/reasons/words';
import { formWordsOf, originWords, type Release } from '../../core/releases';
import { qualityWords, type LeadListQuery, type Quality } from '../../core/leads';
import { mayChange } from '../../core/people/rights';
import { noStages } from '../../core/outcomes';
import {
  count,
  counted,
  hopWords,
  isAlone,
  type LeadFileRow,
  type LeadListView,
  type LeadListRow,
} from '../../core/strands';
import { waysIn, type WayIn } from '../../core/ways-in';
import type { Context } from '../context';
import type { BusinessRow, RoleRow } from '../db';
import type { Releases } from '../releases/releases';
import { inParts, mostInFile, pageSize } from '../lists';
import { called, erasedName, nameless } from './called';
import { readLeadFinding } from './find';
import { readChoices, readNarrowing } from './segments/segments';
import { countQualities } from './answers-queries';
import { countEnquiries, findEnquiries, readEnquiries, type LeadOrder, type LeadQueryRow } from './queries';

/** Enquiries as the Leads station lists them. */
export function makeLeadList(context: Context, releases: Releases) {
  const { db, config } = context;
  return {
    async page(business: BusinessRow, role: RoleRow, query: LeadListQuery): Promise<LeadListView> {
      const part = { limit: pageSize, offset: (query.page - 1) * pageSize };
      const release = await releases.live(business.id);
      const finding = await readLeadFinding(db, business.id, release, query.find, config.secretKey);
      const segment = await readNarrowing(context, business, role, release, query.segment);
      const narrowing = { quality: query.quality, segment };
      const [ids, { total, lost }, ofEach, segments] = await Promise.all([
        findEnquiries(db, business.id, orderOf(query, release), finding, role.seesPeople, part, narrowing),
        countEnquiries(db, business.id, finding, role.seesPeople, narrowing),
        countQualities(db, business.id, segment),
        readChoices(context, business.id, role.personId, query.segment),
      ]);
      const rows = await readEnquiries(db, business.id, ids);
      return {
        rows: rows.map((row) => toListRow(row, release, role.seesPeople)),
        total,
        sentence: leadsSentence(total, lost, query, role, segment?.name ?? ''),
        segments,
        qualities: ofEach,
        mayChange: mayChange(role),
        pageSize,
        timeZone: business.timeZone,
      };
    },

    /** All rows of the list, in its order, part by part. */
    async *all(business: BusinessRow, role: RoleRow, query: LeadListQuery): AsyncGenerator<LeadFileRow[]> {
      const release = await releases.live(business.id);
      const finding = await readLeadFinding(db, business.id, release, query.find, config.secretKey);
      const ids = await findEnquiries(
        db,
        business.id,
        orderOf(query, release),
        finding,
        role.seesPeople,
        { limit: mostInFile },
        { quality: query.quality, segment: await readNarrowing(context, business, role, release, query.segment) },
      );
      yield* inParts(ids, async (part) =>
        (await readEnquiries(db, business.id, part)).map((row) => ({
          ...toListRow(row, release, role.seesPeople),
          campaign: row.campaign ?? '',
          clickId: row.clickId ?? '',
          crmDeal: row.crmDeal ?? '',
        })),
      );
    },
  };
}

const orderOf = ({ sort, descending }: LeadListQuery, { content }: Release): LeadOrder => {
  const { inOrder, ended } = content.crm?.stages ?? noStages;
  return { sort, descending, stages: [...inOrder, ...ended] };
};

function leadsSentence(
  total: number,
  lost: number,
  { find, quality }: LeadListQuery,
  role: RoleRow,
  segment: string,
): LeadListView['sentence'] {
  if (segment !== '') return segmentSentence(segment, total, lost, { find, quality });
  const under = 'Each opens its trace: the values it came with, hop by hop.';
  if (quality !== '')
    return {
      title:
        total === 0
          ? `No enquiry is ${qualityTitle[quality]}${find ? ` and matches “${find}”` : ''}.`
          : `${counted(total, 'enquiry', 'enquiries')} ${total === 1 ? 'is' : 'are'} ${qualityTitle[quality]}${find ? ` and ${total === 1 ? 'matches' : 'match'} “${find}”` : ''}.`,
      under:
        quality === 'no_enquiry'
          ? 'Counted nowhere else. Take it back where somebody was wrong.'
          : mayChange(role)
            ? 'Mark a row by j and k; a: being answered, d: disqualified, x: no enquiry.'
            : under,
    };
  if (total === 0)
    return find
      ? {
          title: `No lead matches “${find}”.`,
          under: `Searched: ${role.seesPeople ? 'company, name, whole email or telephone number, ' : ''}where it came from, click ID, form, stage and CRM number.`,
        }
      : {
          title: 'No lead yet.',
          under: 'A lead appears with the first form sent on a page that carries the snippet, or the first CRM record.',
        };
  const many = counted(total, 'enquiry', 'enquiries');
  if (find) return { title: `${many} ${total === 1 ? 'matches' : 'match'} “${find}”.`, under };
  return {
    title:
      lost === 0
        ? `None of ${many} lost its value on the way.`
        : `Of ${many}, ${count(lost)} lost ${lost === 1 ? 'its value' : 'their value'} on the way.`,
    under,
  };
}

function segmentSentence(
  segment: string,
  total: number,
  lost: number,
  { find, quality }: Pick<LeadListQuery, 'find' | 'quality'>,
): LeadListView['sentence'] {
  const more = [quality === '' ? '' : `is ${qualityTitle[quality]}`, find ? `matches “${find}”` : ''].filter(Boolean);
  const also = more.length > 0 ? ` that ${more.join(' and ')}` : '';
  return {
    title:
      total === 0
        ? `No enquiry${also} is in “${segment}” now.`
        : total === 1
          ? `1 enquiry${also} is in “${segment}”.`
          : `${count(total)} enquiries in “${segment}”${more.length > 0 ? `, each of which ${more.join(' and ')}` : ''}.`,
    under:
      total === 0
        ? 'Who is in a segment is looked at anew each time.'
        : lost === 0
          ? 'None of them lost its value on the way.'
          : `${count(lost)} of them lost ${lost === 1 ? 'its value' : 'their values'} on the way.`,
  };
}

/** What enquiries are, in the sentence of a list of them. */
const qualityTitle: Record<Quality, string> = { ...qualityWords, no_enquiry: 'no enquiry at all' };

/** How a strand stands on a way in, in words. */
export function standingWords(
  way: WayIn,
  reached: number,
  state: string | null,
  reason: string | null,
  release: Release,
) {
  const why = reason ? reasonWords(JSON.parse(reason) as Reason, formWordsOf(release), way).short : '';
  const { hops } = way;
  const last = hops[Math.min(reached, hops.length) - 1];
  return { lastHop: last ? hopWords[last] : 'not known', why, state: (state ?? 'done') as LeadListRow['state'] };
}

export function toListRow(row: LeadQueryRow, release: Release, seesPeople: boolean): LeadListRow {
  const { lastHop, why, state } =
    row.kind && isAlone({ kind: row.kind })
      ? {
          lastHop: row.stage ? hopWords.in_crm : hopWords[waysIn[row.wayIn].own],
          why: 'no click known',
          state: 'unknown' as const,
        }
      : standingWords(waysIn[row.wayIn], row.reached, row.state, row.reason, release);
  const known = row.source !== null;
  return {
    id: row.id,
    name: seesPeople ? (row.name ?? '') : '',
    company: row.erasedAt
      ? erasedName
      : row.company === null
        ? 'not in the CRM yet'
        : called(row, seesPeople, nameless(row.wayIn)),
    cameFrom: known ? originWords(release, row.source!, row.medium ?? '', row.referrer ?? '') : 'not known',
    form: release.content.capture.forms.find((f) => f.name === row.form)?.words ?? (row.form || 'no form seen'),
    sentAt: row.sentAt.toISOString(),
    stage: row.stage ?? 'not in the CRM yet',
    quality: row.quality,
    qualityReason: row.qualityReason,
    answeredAt: row.answeredAt?.toISOString() ?? '',
    lastHop,
    state,
    why,
  };
}
