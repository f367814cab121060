/* eslint-disable no-await-in-loop -- one statement for each business */
import type { Transaction } from 'sequelize';
import { hostOf, pageOf, type Hit } from '../../../core/capture';
import { clockOf } from '../../../core/capture/schema';
import { now } from '../../clock';
import type { Context } from '../../context';
import { errorNumber, insertRows, inTransaction, markWork } from '../../db';
import { newId } from '../../ids';
import { readErasedVisitors } from '../../leads/erasing/marks';
import { log } from '../../log';
import { storeForms } from '../store-forms';

/** What a page sent at one time as it stands in the spool: its hits, all checked, with what the edge knew. Times in ms. */
export interface SpooledBatch {
  business: string;
  receivedAt: number;
  /** Added to the page's times where its clock is off. */
  correction: number;
  /** Places of the hits of hosts that are not the business's own. */
  foreign: number[];
  /** The program that sent it says of itself that it is a bot. */
  bot: boolean;
  /** It came from one of the business's own networks; the address itself is not kept. */
  ownNetwork: boolean;
  /** The engine of its browser. */
  browser: string;
  sent: { clock?: number; sentAt?: number; hits: Hit[] };
}

/** One hit of a batch. */
export interface SpooledHit {
  business: string;
  hit: Hit;
  /** The page's time, corrected by the collector's. */
  at: number;
  sentAt: number;
  receivedAt: number;
  /** True for hits of hosts that are not the business's own; they are kept apart. */
  foreign: boolean;
  bot: boolean;
  ownNetwork: boolean;
  browser: string;
}

export function hitsOf({ correction, foreign, sent, ...batch }: SpooledBatch): SpooledHit[] {
  return sent.hits.map((hit, index) => ({
    ...batch,
    hit,
    at: hit.at + correction,
    sentAt: clockOf(sent)!,
    foreign: foreign.includes(index),
  }));
}

/**
 * Stores hits, each once by its ID, and marks their visitors for deriving. A batch that the database refuses is halved
 * until the row that it refuses stands in `quarantine` with its reason; all others go in.
 * @throws where the database is away, so that the batch is tried again
 */
export async function storeHits(context: Context, hits: SpooledHit[]): Promise<void> {
  if (hits.length === 0) return;
  try {
    await inTransaction(context.db, (transaction) => insertHits(context, hits, transaction));
  } catch (error) {
    if (!isRefusal(error)) throw error;
    if (hits.length === 1) return quarantine(context, hits[0]!, error as Error);
    const half = hits.length >> 1;
    await storeHits(context, hits.slice(0, half));
    await storeHits(context, hits.slice(half));
  }
}

/**
 * Errors about the rows themselves; everything else (no connection, a full disk, a lock) may be over the next time.
 * From MariaDB's list: 1048 null, 1264 out of range, 1292 wrong value, 1366 wrong value, 1406 too long, 4025 check.
 */
const refusals = new Set([1048, 1264, 1292, 1366, 1406, 4025]);
const isRefusal = (error: unknown) => refusals.has(errorNumber(error) ?? 0);

/** Hits that are not from before their visitor was erased; what a browser sends of later visits is kept. */
async function withoutErased(context: Context, hits: SpooledHit[], transaction: Transaction): Promise<SpooledHit[]> {
  const gone = new Map<string, number>();
  for (const [business, visitors] of visitorsOf(hits))
    for (const [visitor, at] of await readErasedVisitors(context, business, visitors, transaction))
      gone.set(`${business} ${visitor}`, at);
  return gone.size === 0
    ? hits
    : hits.filter(({ business, hit, at }) => at > (gone.get(`${business} ${hit.visitor}`) ?? -Infinity));
}

async function insertHits(context: Context, given: SpooledHit[], transaction: Transaction): Promise<void> {
  const { db, tables } = context;
  const hits = await withoutErased(context, given, transaction);
  const own = hits.filter((row) => !row.foreign);
  await insertRows(
    tables.hits,
    own.map(({ business, hit, at, sentAt, receivedAt, bot, ownNetwork, browser }) => ({
      businessId: business,
      id: hit.id,
      visitorId: hit.visitor,
      kind: hit.kind,
      host: hostOf(hit.address),
      at: new Date(at),
      pageAt: new Date(hit.at),
      sentAt: new Date(sentAt),
      receivedAt: new Date(receivedAt),
      releaseNumber: hit.release,
      page: pageOf(hit.address),
      browser,
      bot,
      ownNetwork,
      body: hit,
    })),
    [],
    transaction,
  );
  await insertRows(
    tables.foreignHits,
    hits
      .filter((row) => row.foreign)
      .map(({ business, hit, receivedAt }) => ({
        businessId: business,
        id: hit.id,
        host: hostOf(hit.address),
        receivedAt: new Date(receivedAt),
        body: hit,
      })),
    [],
    transaction,
  );
  await storeForms(context, own, transaction);
  for (const [business, visitors] of visitorsOf(own))
    await markWork(db, 'visitor', business, visitors, now(), transaction);
}

function visitorsOf(hits: SpooledHit[]): Map<string, string[]> {
  const byBusiness = new Map<string, Set<string>>();
  for (const { business, hit } of hits)
    byBusiness.set(business, (byBusiness.get(business) ?? new Set()).add(hit.visitor));
  return new Map([...byBusiness].map(([business, visitors]) => [business, [...visitors].sort()]));
}

async function quarantine({ db }: Context, row: SpooledHit, error: Error): Promise<void> {
  const reason = error.message.split('\n')[0]!.slice(0, 500);
  log.warn({ hit: row.hit.id, reason }, 'hit put into quarantine');
  await db.query('INSERT INTO quarantine (business_id, id, received_at, reason, body) VALUES (?,?,?,?,?)', {
    replacements: [row.business, newId(), new Date(row.receivedAt), reason, JSON.stringify(row)],
  });
}
