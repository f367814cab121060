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
    origins: pairs.flatMap(({ source, medium }): LeadFinding['origins'] =>
      plain(originWords(release, source, medium)).includes(text) ? [[source, medium]] : [],
    ),
  };
}

/** The condition over `enquiries e` with its strand `s`, and its values. @param seesPeople false: by nothing of who somebody is */
export function findingCondition(
  businessId: string,
  { like, mailHash, telephoneHash, forms, origins }: LeadFinding,
  seesPeople: boolean,
): { where: string; values: unknown[] } {
  const people: [string, unknown[]][] = [
    ['l.company LIKE ? OR l.name LIKE ?', [like, like]],
    ...(mailHash ? [['l.mail_hash = ?', [mailHash]] as [string, unknown[]]] : []),
    ...(telephoneHash ? [['l.telephone_hash = ?', [telephoneHash]] as [string, unknown[]]] : []),
  ];
  const others = ['s.click_id', 's.campaign', 's.source', 's.medium', 's.content', 'e.crm_deal', 'e.form', 'e.stage'];
  const any: [string, unknown[]][] = [
    // Leads by themselves, which is twice as fast as joined to every enquiry.
    ...(seesPeople
      ? [
          [
            `e.lead_id IN (SELECT l.id FROM leads l WHERE l.business_id = ? AND (${people.map(([sql]) => sql).join(' OR ')}))`,
            [businessId, ...people.flatMap(([, values]) => values)],
          ] as [string, unknown[]],
        ]
      : []),
    // Whatever the case: their columns tell cases apart.
    [others.map((column) => `LOWER(${column}) LIKE LOWER(?)`).join(' OR '), others.map(() => like)],
    ...(forms.length > 0 ? [['e.form IN (?)', [forms]] as [string, unknown[]]] : []),
    ...origins.map((pair): [string, unknown[]] => ["(s.kind <> 'enquiry' AND s.source = ? AND s.medium = ?)", pair]),
  ];
  return { where: any.map(([sql]) => sql).join(' OR '), values: any.flatMap(([, values]) => values) };
}
