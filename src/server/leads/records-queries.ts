import type { Sequelize } from 'sequelize';
import type { CrmRecord } from '../../core/leads';
import { groupBy } from '../../core/group-by';
import { nilId } from '../../core/strands';
import { json, pick, selectOne, selectRows, text, uuid, whole } from '../db';
import { deals, identities, leads, type LeadRow } from './table';

/* Groups and windows that the models cannot say. */

/** Records that are what somebody sent on a platform, or a caller, not what the CRM keeps: each is of the record that came of it. */
const isOfNoCrm = `(l.account_id = '${nilId}'
  OR EXISTS (SELECT 1 FROM platform_leads p WHERE p.business_id = l.business_id AND p.lead_id = l.id))`;

/** Persons with several records in the CRM, the last joined first, and how many there are. */
export async function readJoinedPersons(
  db: Sequelize,
  businessId: string,
  most: number,
): Promise<{ personIds: string[]; total: number }> {
  const joined = `FROM (SELECT DISTINCT person_id FROM leads WHERE business_id = ? AND joined_at IS NOT NULL) j
    JOIN leads l ON l.business_id = ? AND l.person_id = j.person_id AND NOT ${isOfNoCrm}
    GROUP BY l.person_id HAVING COUNT(*) > 1`;
  const values = [businessId, businessId];
  const [rows, { total }] = await Promise.all([
    selectRows(
      db,
      { personId: uuid().of('l.person_id') },
      `${joined} ORDER BY MAX(l.joined_at) DESC LIMIT ${most}`,
      values,
    ),
    selectOne(db, { total: whole().of('COUNT(*)') }, `FROM (SELECT l.person_id ${joined}) joined`, values),
  ]);
  return { personIds: rows.map(({ personId }) => personId), total };
}

/** The records in the CRM of some persons. */
export async function readRecordsOf(db: Sequelize, businessId: string, personIds: string[]): Promise<LeadRow[]> {
  if (personIds.length === 0) return [];
  return selectRows(
    db,
    pick(leads, Object.keys(leads.columns) as (keyof LeadRow)[], 'l'),
    `FROM leads l WHERE l.business_id = ? AND l.person_id IN (?) AND NOT ${isOfNoCrm}`,
    [businessId, personIds],
  );
}

/** A record by which something is known that others are known by too. */
const bearer = {
  ...pick(identities, ['kind', 'hash', 'leadId'], 'i'),
  ...pick(leads, ['personId', 'mailDomain'], 'l'),
};

/** Mail addresses and telephone numbers of several persons, the most shared first, each with its records. */
export async function readShared(db: Sequelize, businessId: string, most: number) {
  // Only what several records have is looked up: most have their own.
  const shared = `FROM (SELECT kind, hash FROM identities WHERE business_id = ? AND kind <> 'record'
      GROUP BY kind, hash HAVING COUNT(*) > 1) several
    JOIN identities i ON i.business_id = ? AND i.kind = several.kind AND i.hash = several.hash
    JOIN leads l ON l.business_id = i.business_id AND l.id = i.lead_id
    GROUP BY i.kind, i.hash HAVING COUNT(DISTINCT l.person_id) > 1`;
  const [found, counts] = await Promise.all([
    selectRows(
      db,
      pick(identities, ['kind', 'hash'], 'i'),
      `${shared} ORDER BY COUNT(DISTINCT l.person_id) DESC, i.kind, i.hash LIMIT ${most}`,
      [businessId, businessId],
    ),
    selectRows(
      db,
      { ...pick(identities, ['kind']), total: whole().of('COUNT(*)') },
      `FROM (SELECT i.kind ${shared}) shared GROUP BY kind`,
      [businessId, businessId],
    ),
  ]);
  const rows =
    found.length === 0
      ? []
      : await selectRows(
          db,
          bearer,
          `FROM identities i JOIN leads l ON l.business_id = i.business_id AND l.id = i.lead_id
           WHERE i.business_id = ? AND (i.kind, i.hash) IN (?) ORDER BY i.lead_id LIMIT 5000`,
          [businessId, found.map(({ kind, hash }) => [kind, hash])],
        );
  const byIdentity = groupBy(rows, ({ kind, hash }) => `${kind} ${hash}`);
  const totalOf = (wanted: string) => counts.find(({ kind }) => kind === wanted)?.total ?? 0;
  return {
    shared: found.map(({ kind, hash }) => ({ kind, hash, records: byIdentity.get(`${kind} ${hash}`) ?? [] })),
    mailboxes: totalOf('mail'),
    telephones: totalOf('telephone'),
  };
}

/** The newest enquiry of each record about a person that has one. */
export async function readNewestEnquiries(
  db: Sequelize,
  businessId: string,
  leadIds: string[],
): Promise<Map<string, string>> {
  if (leadIds.length === 0) return new Map();
  const rows = await selectRows(
    db,
    { leadId: uuid(), id: uuid() },
    'FROM enquiries WHERE business_id = ? AND lead_id IN (?) ORDER BY sent_at, id',
    [businessId, leadIds],
  );
  return new Map(rows.map(({ leadId, id }) => [leadId, id]));
}

/** The newest deals with how they moved, and whose they are. */
export const readDealMoves = (db: Sequelize, businessId: string, most: number) =>
  selectRows(
    db,
    {
      ...pick(deals, ['id', 'number', 'enquiryId', 'goneAt', 'mergedInto'], 'd'),
      stageChanges: json<CrmRecord['stageChanges']>().of('d.stage_changes'),
      company: text().nullable().of('l.company'),
      name: text().nullable().of('l.name'),
    },
    `FROM (SELECT business_id, id, number, enquiry_id, lead_id, gone_at, merged_into,
        JSON_QUERY(record, '$.stageChanges') AS stage_changes
      FROM deals WHERE business_id = ? ORDER BY made_at DESC LIMIT ${most}) d
     LEFT JOIN leads l ON l.business_id = d.business_id AND l.id = d.lead_id`,
    [businessId],
  );
