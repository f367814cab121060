import type { Transaction } from 'sequelize';
import type { Strand } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, type EnquiryRow, type LeadRow, type PlatformLeadRow, type TouchRow } from '../db';
import { toStrandRow } from '../strands/store';
import { storeIdentities, type Known } from './people';

/** What is stored of one lead that no page sent. */
export interface SentLead {
  strand: Strand;
  /** Null where nothing is known of what brought it. */
  touch: TouchRow | null;
  person: LeadRow;
  enquiry: Partial<EnquiryRow> & { id: string };
  lead: PlatformLeadRow;
  known: Known;
}

/** Stores leads that a platform took or somebody brought in, each once; has them followed, and handed over where that is wanted. */
export async function storeSent(
  context: Context,
  businessId: string,
  rows: readonly SentLead[],
  transaction: Transaction,
): Promise<void> {
  if (rows.length === 0) return;
  const { db, tables } = context;
  const all = <T>(of: (row: SentLead) => T | null): T[] => rows.flatMap((row) => of(row) ?? []);
  const strands = rows.map(({ strand }) => toStrandRow(businessId, strand));
  await insertRows(tables.strands, strands, [], transaction);
  await insertRows(
    tables.touches,
    all(({ touch }) => touch),
    [],
    transaction,
  );
  await insertRows(
    tables.leads,
    all(({ person }) => person),
    [],
    transaction,
  );
  await insertRows(
    tables.enquiries,
    all(({ enquiry }) => enquiry),
    [],
    transaction,
  );
  await insertRows(
    tables.platformLeads,
    all(({ lead }) => lead),
    [],
    transaction,
  );
  await storeIdentities(
    context,
    businessId,
    all(({ known }) => known),
    transaction,
  );
  await markWork(db, 'enquiry', businessId, all(({ enquiry }) => enquiry.id).sort(), now(), transaction);
  const waiting = rows.filter(({ lead }) => lead.handed === 'waiting').map(({ lead }) => lead.id);
  await markWork(db, 'hand_over', businessId, waiting, now(), transaction);
}
