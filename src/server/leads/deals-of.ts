/* eslint-disable no-await-in-loop -- what was merged into a deal may have taken in others before */
import type { Transaction } from 'sequelize';
import { groupBy } from '../../core/group-by';
import { inOrderOfProgress, type Deal } from '../../core/leads';
import { dealHappenings, fieldsWanted, noStages, type Happening } from '../../core/outcomes';
import type { ReleaseContent } from '../../core/releases';
import { crmEnquiryIdOf } from '../../core/strands';
import type { Context } from '../context';
import { plain, type DealRow, type LeadRow } from '../db';

/** A deal with its rows and what was merged into it. */
export interface KnownDeal extends Deal {
  id: string;
  leadId: string;
  accountId: string;
  /** Its number, and those of deals that were merged into it, with their enquiries, and when (ms). */
  number: string;
  took: { number: string; enquiryId: string; at: number }[];
}

/** Mergers that are followed from one deal to the next. */
const mostMergers = 20;

/** The deals of enquiries, by enquiry, in the order of their progress by the stages of a release. */
export async function readDeals(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  enquiryIds: string[],
  { crm }: Pick<ReleaseContent, 'crm'>,
  transaction: Transaction | null = null,
): Promise<Map<string, KnownDeal[]>> {
  if (enquiryIds.length === 0) return new Map();
  const rows = plain(await tables.deals.findAll({ where: { businessId, enquiryId: enquiryIds }, transaction }));
  const took = await readTook(tables, businessId, rows, transaction);
  const byEnquiry = groupBy(rows, (row) => row.enquiryId);
  return new Map(
    [...byEnquiry].map(([enquiryId, own]) => [
      enquiryId,
      inOrderOfProgress(
        own.map((row): KnownDeal => ({
          id: row.id,
          leadId: row.leadId,
          accountId: row.accountId,
          number: row.number,
          record: row.record,
          took: took(row),
          goneAt: row.goneAt?.getTime() ?? null,
          mergedInto: row.mergedInto,
        })),
        crm?.stages ?? noStages,
      ),
    ]),
  );
}

/** What was merged into deals, and into what was merged into them. */
async function readTook(
  tables: Context['tables'],
  businessId: string,
  rows: DealRow[],
  transaction: Transaction | null,
): Promise<(deal: DealRow) => KnownDeal['took']> {
  const keyOf = (accountId: string, number: string) => `${accountId} ${number}`;
  const gone = new Map<string, DealRow>();
  let next = rows;
  for (let round = 0; next.length > 0 && round < mostMergers; round++) {
    const found = plain(
      await tables.deals.findAll({
        where: {
          businessId,
          accountId: [...new Set(next.map(({ accountId }) => accountId))],
          mergedInto: next.map(({ number }) => number),
        },
        transaction,
      }),
    );
    next = found.filter((row) => !gone.has(row.id));
    for (const row of next) gone.set(row.id, row);
  }
  const into = groupBy(gone.values(), (row) => keyOf(row.accountId, row.mergedInto));
  const tookOf = (deal: DealRow, depth = 0): KnownDeal['took'] =>
    depth > mostMergers
      ? []
      : (into.get(keyOf(deal.accountId, deal.number)) ?? []).flatMap((row) => [
          { number: row.number, enquiryId: row.enquiryId, at: row.goneAt!.getTime() },
          ...tookOf(row, depth + 1),
        ]);
  return (deal) => tookOf(deal);
}

/**
 * What happened to an enquiry that outcomes may be reached by: the moves of its deals, by the stages of a release, and the
 * values of fields that its outcomes name, in the order of time.
 *
 * @param personOf the person that a record about people belongs to, with its other records
 */
export const happeningsOf = (
  businessId: string,
  enquiryId: string,
  deals: readonly KnownDeal[],
  { crm, outcomes }: Pick<ReleaseContent, 'crm' | 'outcomes'>,
  personOf: (leadId: string) => { id: string; records: string[] },
): Happening[] =>
  deals
    .flatMap(({ record, number, leadId, accountId, took }) => {
      const person = personOf(leadId);
      const formerly = {
        deal: took.map((one) => one.number),
        // It may have been counted before it named this enquiry's lead token.
        enquiry: [crmEnquiryIdOf(businessId, accountId, number), ...took.map((one) => one.enquiryId)],
        lead: person.records.filter((id) => id !== person.id),
      };
      const keys = { deal: number, lead: person.id };
      return dealHappenings(enquiryId, record, keys, crm?.stages ?? noStages, formerly, fieldsWanted(outcomes));
    })
    .sort((a, b) => a.at - b.at);

/** The persons that records about people belong to, with all records of each. */
export async function readPersonOf(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  leadIds: string[],
  transaction: Transaction | null = null,
): Promise<(leadId: string) => { id: string; records: string[] }> {
  const asked = [...new Set(leadIds)];
  if (asked.length === 0) return (id) => ({ id, records: [id] });
  const attributes: ('id' | 'personId')[] = ['id', 'personId'];
  const own = plain(await tables.leads.findAll({ attributes, where: { businessId, id: asked }, transaction }));
  const all = plain(
    await tables.leads.findAll({
      attributes,
      where: { businessId, personId: [...new Set(own.map(({ personId }) => personId))] },
      transaction,
    }),
  );
  const records = groupBy(all, (row: Pick<LeadRow, 'id' | 'personId'>) => row.personId);
  const person = new Map(own.map(({ id, personId }) => [id, personId]));
  return (id) => {
    const personId = person.get(id) ?? id;
    return { id: personId, records: (records.get(personId) ?? []).map((row) => row.id) };
  };
}
