import type { Sequelize } from 'sequelize';
import { originWords, type Release } from '../../core/releases';
import { likeText, pick, selectRows } from '../db';
import { touchDays } from '../rollups/table';
import { hashMail, hashTelephone } from '../secrets';

/** What a text that is looked for in the list of leads means. */
export interface LeadFinding {
  /** For LIKE, with single spaces. */
  like: string;
  /** Of a mail address or a telephone number; null where the text is none. */
  mailHash: string | null;
  telephoneHash: string | null;
  /** Forms whose words hold the text. */
  forms: string[];
  /** Sources and media that are shown in words that hold the text. */
  origins: [source: string, medium: string][];
}

const mostOrigins = 2000;
const plain = (text: string) => text.normalize('NFKC').replace(/\s+/g, ' ').trim().toLowerCase();

/** Reads what somebody looks for among leads: everything the list shows, and who wrote or rang. */
export async function readLeadFinding(
  db: Sequelize,
  businessId: string,
  release: Release,
  find: string,
  secretKey: Buffer,
): Promise<LeadFinding | null> {
  const text = plain(find);
  if (text === '') return null;
  const pairs = await selectRows(
    db,
    pick(touchDays, ['source', 'medium']),
    `FROM touch_days WHERE business_id = ? AND zone = '' GROUP BY source, medium LIMIT ${mostOrigins}`,
    [businessId],
  );
  return {
    like: likeText(find.replace(/\s+/g, ' ').trim()),
    mailHash: /^\S+@\S+$/.test(text) ? hashMail(secretKey, text) : null,
    telephoneHash: hashTelephone(secretKey, text) || null,
    forms: release.content.capture.forms.filter(({ words }) => plain(words).includes(text)).map(({ name }) => name),
    origins: [{ source: '', medium: '' }, ...pairs]
      .filter(({ source, medium }) => plain(originWords(release, source, medium)).includes(text))
      .map(({ source, medium }) => [source, medium]),
  };
}

type Condition = [sql: string, values: unknown[]];
/** Any of some conditions, as one. */
const anyOf = (conditions: Condition[]): Condition => [
  conditions.map(([sql]) => sql).join(' OR '),
  conditions.flatMap(([, values]) => values),
];
const where = (isMeant: boolean, sql: string, values: unknown[]): Condition[] => (isMeant ? [[sql, values]] : []);

/** Columns that are shown or known of an enquiry; they tell cases apart, whoever looks for something does not. */
const searched = ['s.click_id', 's.campaign', 's.source', 's.medium', 's.content', 'e.form', 'e.stage'];

/**
 * The condition over `enquiries e` with its strand `s`, and its values.
 *
 * @param seesPeople false: nothing is found by who somebody is
 */
export function findingCondition(
  businessId: string,
  { like, mailHash, telephoneHash, forms, origins }: LeadFinding,
  seesPeople: boolean,
): Condition {
  const known = (['mail', 'telephone'] as const).flatMap((kind) => {
    const hash = { mail: mailHash, telephone: telephoneHash }[kind];
    return hash === null ? [] : [[kind, hash]];
  });
  // Leads by themselves, which is twice as fast as joined to every enquiry.
  const byName =
    'e.lead_id IN (SELECT l.id FROM leads l WHERE l.business_id = ? AND (l.company LIKE ? OR l.name LIKE ?))';
  const byIdentity = `e.lead_id IN (SELECT other.id FROM identities i
    JOIN leads l ON l.business_id = i.business_id AND l.id = i.lead_id
    JOIN leads other ON other.business_id = l.business_id AND other.person_id = l.person_id
    WHERE i.business_id = ? AND (i.kind, i.hash) IN (?))`;
  return anyOf([
    ...where(seesPeople, byName, [businessId, like, like]),
    ...where(seesPeople && known.length > 0, byIdentity, [businessId, known]),
    [
      'e.id IN (SELECT d.enquiry_id FROM deals d WHERE d.business_id = ? AND LOWER(d.number) LIKE LOWER(?))',
      [businessId, like],
    ],
    ...searched.map((column): Condition => [`LOWER(${column}) LIKE LOWER(?)`, [like]]),
    ...where(forms.length > 0, 'e.form IN (?)', [forms]),
    ...where(origins.length > 0, '(s.source, s.medium) IN (?)', [origins]),
  ]);
}
