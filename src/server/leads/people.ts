/* eslint-disable no-await-in-loop -- each round of records says who is looked at next */
import type { Transaction } from 'sequelize';
import { joinPeople, type Identity } from '../../core/leads';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, pick, plain, selectRows, uuid, type IdentityRow, type LeadRow } from '../db';
import { groupBy } from '../../core/group-by';
import { markEnquiriesOf } from './mark-enquiries';
import { identities } from './table';

/** What a mail address or telephone number of more records than this says of nobody is not looked at: it is shared. */
const mostBearers = 20;
/** Identities that are looked up by one statement. */
const atOnce = 200;

/** By what a record of a person is known now; what it was known by before is forgotten. */
export interface Known {
  leadId: string;
  identities: Identity[];
}

/**
 * Keeps by what records are known, and joins and parts people by it: who is one person follows from the records as they are
 * now, see `joinPeople`. Enquiries of people who changed are followed again.
 */
export async function storeIdentities(
  context: Context,
  businessId: string,
  known: Known[],
  transaction: Transaction,
): Promise<void> {
  const { db, tables } = context;
  const leadId = known.map((one) => one.leadId);
  const before = await readPersons(context, businessId, leadId, transaction);
  const rows = known.flatMap((one) =>
    one.identities.map((identity) => ({ businessId, ...identity, leadId: one.leadId })),
  );
  const keyOf = (row: Pick<IdentityRow, 'kind' | 'hash' | 'leadId'>) => `${row.kind} ${row.hash} ${row.leadId}`;
  const wanted = new Set(rows.map(keyOf));
  const stored = plain(await tables.identities.findAll({ where: { businessId, leadId }, transaction }));
  const gone = stored.filter((row) => !wanted.has(keyOf(row)));
  if (gone.length > 0)
    await db.query('DELETE FROM identities WHERE business_id = ? AND (kind, hash, lead_id) IN (?)', {
      replacements: [businessId, gone.map((row) => [row.kind, row.hash, row.leadId])],
      transaction,
    });
  await insertRows(tables.identities, rows, ['leadId'], transaction);
  await rejoinPeople(context, businessId, before, transaction);
}

/** Joins and parts the people that records belong to, and everybody who is known by the same. */
export async function rejoinPeople(
  context: Context,
  businessId: string,
  leadIds: string[],
  transaction: Transaction,
): Promise<void> {
  const { db, tables } = context;
  const { records, known, pairs } = await readNeighbours(context, businessId, leadIds, transaction);
  const identitiesOf = groupBy(known, (row) => row.leadId);
  const people = joinPeople(
    records.map(({ id, name, company }) => ({
      id,
      name,
      company,
      identities: identitiesOf.get(id) ?? [],
    })),
    {
      apart: pairs
        .filter(({ kind }) => kind === 'apart')
        .map(({ leadId, otherId }) => ({ one: leadId, other: otherId })),
      joined: pairs
        .filter(({ kind }) => kind === 'joined')
        .map(({ leadId, otherId }) => ({ one: leadId, other: otherId })),
    },
  );
  const changed = records.filter(({ id, personId, joinedBy }) => {
    const { into, by } = people.get(id)!;
    return into !== personId || by !== joinedBy;
  });
  if (changed.length === 0) return;
  await insertRows(
    tables.leads,
    changed.map((row): LeadRow => {
      const { into, by } = people.get(row.id)!;
      return { ...row, personId: into, joinedBy: by, joinedAt: by === '' ? null : now() };
    }),
    ['personId', 'joinedBy', 'joinedAt'],
    transaction,
  );
  // Who they were joined to, or are now, gains or loses a touch by it as well.
  const affected = new Set(changed.flatMap(({ id, personId }) => [personId, people.get(id)!.into]));
  const ofAffected = records.filter(({ id, personId }) => affected.has(personId) || affected.has(people.get(id)!.into));
  const ofAffectedIds = ofAffected.map(({ id }) => id);
  await markEnquiriesOf(context, businessId, ofAffectedIds, [], transaction);
  const followed = await selectRows(
    db,
    { id: uuid().of('enquiry_id') },
    'FROM deals WHERE business_id = ? AND lead_id IN (?) GROUP BY enquiry_id ORDER BY enquiry_id',
    [businessId, ofAffectedIds],
    transaction,
  );
  await markWork(
    db,
    'enquiry',
    businessId,
    followed.map(({ id }) => id),
    now(),
    transaction,
  );
}

/** Records with all others of the same persons. */
async function readPersons(
  { db }: Context,
  businessId: string,
  leadIds: string[],
  transaction: Transaction,
): Promise<string[]> {
  if (leadIds.length === 0) return [];
  const rows = await selectRows(
    db,
    { id: uuid().of('other.id') },
    `FROM leads own JOIN leads other ON other.business_id = own.business_id AND other.person_id = own.person_id
     WHERE own.business_id = ? AND own.id IN (?) GROUP BY other.id`,
    [businessId, leadIds],
    transaction,
  );
  return [...new Set([...leadIds, ...rows.map(({ id }) => id)])];
}

/**
 * Records with everybody who is known by the same, directly or by others, with what they are known by. What so many are
 * known by that it is shared is left out.
 */
async function readNeighbours(context: Context, businessId: string, leadIds: string[], transaction: Transaction) {
  const { tables } = context;
  const all = new Set<string>();
  const seen = new Set<string>();
  const shared = new Set<string>();
  const known: IdentityRow[] = [];
  const pairs = new Map<string, { leadId: string; otherId: string; kind: 'apart' | 'joined' }>();
  const keyOf = ({ kind, hash }: Identity) => `${kind} ${hash}`;
  let next = leadIds;
  while (next.length > 0) {
    const fresh = (await readPersons(context, businessId, next, transaction)).filter((id) => !all.has(id));
    for (const id of fresh) all.add(id);
    const rows = plain(await tables.identities.findAll({ where: { businessId, leadId: fresh }, transaction }));
    known.push(...rows);
    const unseen = [...new Map(rows.map((row) => [keyOf(row), row])).values()].filter((row) => !seen.has(keyOf(row)));
    for (const row of unseen) seen.add(keyOf(row));
    const found = await readBearers(context, businessId, unseen, transaction);
    next = [];
    for (const [key, bearers] of groupBy(found, keyOf)) {
      if (bearers.length > mostBearers && !key.startsWith('record ')) shared.add(key);
      else next.push(...bearers.map(({ leadId }) => leadId));
    }
    for (const pair of await readPairs(context, businessId, fresh, transaction)) {
      pairs.set(`${pair.leadId} ${pair.otherId}`, pair);
      next.push(pair.leadId, pair.otherId);
    }
    next = [...new Set(next)].filter((id) => !all.has(id));
  }
  const records = plain(
    await tables.leads.findAll({
      where: { businessId, id: [...all] },
      order: [['id', 'ASC']],
      transaction,
      lock: transaction.LOCK.UPDATE,
    }),
  );
  return { records, known: known.filter((row) => !shared.has(keyOf(row))), pairs: [...pairs.values()] };
}

/** The records that are known by each of some identities, at most one more than one person can have of each. */
async function readBearers(
  { db }: Context,
  businessId: string,
  wanted: Identity[],
  transaction: Transaction,
): Promise<IdentityRow[]> {
  const found: IdentityRow[] = [];
  for (let from = 0; from < wanted.length; from += atOnce) {
    const part = wanted.slice(from, from + atOnce);
    const each = `(SELECT business_id, kind, hash, lead_id FROM identities
      WHERE business_id = ? AND kind = ? AND hash = ? LIMIT ${mostBearers + 1})`;
    found.push(
      ...(await selectRows(
        db,
        pick(identities, ['businessId', 'kind', 'hash', 'leadId']),
        `FROM (${part.map(() => each).join(' UNION ALL ')}) bearers`,
        part.flatMap(({ kind, hash }) => [businessId, kind, hash]),
        transaction,
      )),
    );
  }
  return found;
}

async function readPairs({ tables }: Context, businessId: string, ids: string[], transaction: Transaction) {
  const [first, second] = [
    await tables.leadPairs.findAll({ where: { businessId, leadId: ids }, transaction }),
    await tables.leadPairs.findAll({ where: { businessId, otherId: ids }, transaction }),
  ];
  return plain([...first, ...second]);
}
