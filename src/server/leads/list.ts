import type { Reason } from '../../core/reasons/codes';
import { reasonWords } from '../../core/reasons/words';
import { originWords, type Release } from '../../core/releases';
import { counted, hops, hopWords, type LeadListRow, type Sentence } from '../../core/strands';
import type { Context } from '../context';
import type { BusinessRow, RoleRow } from '../db';
import type { Releases } from '../releases/releases';
import { listEnquiries, type LeadListQuery, type LeadQueryRow } from './queries';

export type LeadList = ReturnType<typeof makeLeadList>;

/** The words a form goes by, else its name. */
export const formWordsOf = (release: Release) => (form: string) => {
  const words = release.content.capture.forms.find((f) => f.name === form)?.words;
  return words ? `the form “${words}”` : `the form \`${form}\``;
};

export const hiddenName = 'name hidden';

/** Enquiries as the Leads station lists them. */
export function makeLeadList({ db }: Context, releases: Releases) {
  return async function list(
    business: BusinessRow,
    role: RoleRow,
    query: LeadListQuery,
  ): Promise<{ rows: LeadListRow[]; total: number; sentence: Sentence; timeZone: string }> {
    const release = await releases.live(business.id);
    const { rows, total } = await listEnquiries(db, business.id, role.seesPeople ? query : { ...query, find: '' });
    return {
      rows: rows.map((row) => toListRow(row, release, role.seesPeople)),
      total,
      sentence: leadsSentence(rows, total, query.find),
      timeZone: business.timeZone,
    };
  };
}

function leadsSentence(rows: LeadQueryRow[], total: number, find: string): Sentence {
  if (total === 0)
    return find
      ? { title: `No lead matches “${find}”.`, under: 'Company, name, click ID, campaign and CRM number are searched.' }
      : {
          title: 'No lead yet.',
          under: 'A lead appears with the first form sent on a page that carries the snippet, or the first CRM record.',
        };
  const lost = rows.filter((row) => row.state === 'lost').length;
  return {
    title: find ? `${counted(total, 'lead matches', 'leads match')} “${find}”.` : `${counted(total, 'enquiry', 'enquiries')}, newest first unless you sort them.`,
    under:
      lost > 0
        ? `${lost} of the ${rows.length} on this page lost a value on the way.`
        : 'Nothing was lost on the way of those on this page.',
  };
}

/** How a strand stands, in words: the last hop made and what follows. */
export function standing(reached: number, state: string | null, reason: string | null, release: Release) {
  const why = reason ? reasonWords(JSON.parse(reason) as Reason, formWordsOf(release)).text : '';
  const last = hops[Math.min(reached, hops.length) - 1];
  return { lastHop: last ? hopWords[last] : 'not known', why, state: state ?? 'done' };
}

export function toListRow(row: LeadQueryRow, release: Release, seesPeople: boolean): LeadListRow {
  const { lastHop, why, state } = standing(row.reached ?? 0, row.state, row.reason, release);
  const known = row.source !== null;
  return {
    id: row.id,
    name: seesPeople ? (row.name ?? '') : '',
    company: row.company === null ? 'not in the CRM yet' : seesPeople ? row.company || row.name || 'no name' : hiddenName,
    cameFrom: known ? originWords(release, row.source!, row.medium ?? '', row.referrer ?? '') : 'not known',
    form: row.form ? formWordsOf(release)(row.form).replace(/^the form /, '') : 'no form seen',
    sentAt: row.sentAt.toISOString(),
    stage: row.stage ?? 'not in the CRM yet',
    lastHop,
    state: state as LeadListRow['state'],
    why,
  };
}
