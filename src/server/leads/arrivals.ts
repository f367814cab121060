/* eslint-disable no-await-in-loop -- each page says where the next one is */
import { readPointer } from '../../core/capture/pointer';
import { AvrixError } from '../../core/errors';
import type { ReadRecord } from '../../core/crms';
import { recordsIn } from '../../core/crms/own';
import { readOwnRecord } from '../../core/crms/own/record';
import type { OwnCrm, RecordReading } from '../../core/crms/schema';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, type CrmArrivalRow } from '../db';
import { newId } from '../ids';
import type { Crm } from '../crms/crm';
import type { Account } from '../platforms/accounts';
import type { Draft } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { isSealedBy, sameText, seal, unseal } from '../secrets';
import { storeRecords } from './records';

/** The newest arrivals of an account that are kept as they came. */
export const keptArrivals = 10;
/** Records that are stored in one transaction. */
const atOnce = 200;
/** Pages of a list that are read in one go; the next poll goes on from there. */
const mostPages = 200;
/** A record is kept as it came up to this many bytes. */
const largestRecord = 64 * 1024;

export type CrmArrivals = ReturnType<typeof makeCrmArrivals>;
type CameBy = CrmArrivalRow['cameBy'];

/** Whether something was sealed with an account's webhook secret: HMAC-SHA256 in hex. */
export const isSealed = ({ secrets }: Account, text: string, given: string): boolean =>
  isSealedBy(secrets.webhookSecret ?? '', text, given);

/** Whole records of CRMs that a business describes itself: sent, listed or in a file; read by its own rule. */
export function makeCrmArrivals(context: Context, releases: Releases, draft: Draft) {
  const { db, tables, config } = context;

  /** Takes records in, as far as they can be read; the newest are kept as they came, with what was wrong. */
  async function takeRecords(
    account: Account,
    reading: RecordReading | null,
    documents: unknown[],
    cameBy: CameBy,
  ): Promise<{ taken: number; problems: { at: number; was: string; fix: string }[] }> {
    const problems: { at: number; was: string; fix: string }[] = [];
    let taken = 0;
    for (let from = 0; from < documents.length; from += atOnce) {
      const part = documents.slice(from, from + atOnce);
      const read: ReadRecord[] = [];
      const arrivals: CrmArrivalRow[] = [];
      for (const [index, document] of part.entries()) {
        const one = reading
          ? readOwnRecord(reading, document, nowMs())
          : {
              ok: false as const,
              was: 'its rule is not live yet',
              fix: 'Make it live; what arrived can then be read again.',
            };
        if (one.ok) read.push(one.read);
        else problems.push({ at: from + index, was: one.was, fix: one.fix });
        if (documents.length - (from + index) <= keptArrivals)
          arrivals.push(
            toArrival(
              account,
              document,
              cameBy,
              one.ok ? one.read.record.deal : '',
              one.ok ? '' : `${one.was}. ${one.fix}`,
            ),
          );
      }
      await inTransaction(db, async (transaction) => {
        await storeRecords(context, releases, account, read, false, transaction);
        await tables.crmArrivals.bulkCreate(arrivals, { transaction });
      });
      taken += read.length;
    }
    await forgetOld(account);
    return { taken, problems };
  }

  const toArrival = (
    account: Account,
    document: unknown,
    cameBy: CameBy,
    deal: string,
    problem: string,
  ): CrmArrivalRow => ({
    businessId: account.businessId,
    id: newId(),
    accountId: account.id,
    receivedAt: now(),
    cameBy,
    record: seal(
      config.secretKey,
      JSON.stringify(document).length > largestRecord ? { cut: 'too large to be kept' } : document,
    ),
    deal,
    problem: problem.slice(0, 500),
  });

  async function newest({ businessId, id: accountId }: Pick<Account, 'businessId' | 'id'>): Promise<CrmArrivalRow[]> {
    const rows = await tables.crmArrivals.findAll({
      where: { businessId, accountId },
      order: [['id', 'DESC']],
      limit: keptArrivals,
    });
    return plain(rows);
  }

  async function forgetOld({ businessId, id: accountId }: Account): Promise<void> {
    const last = (await newest({ businessId, id: accountId })).at(-1);
    if (last)
      await db.query('DELETE FROM crm_arrivals WHERE business_id = ? AND account_id = ? AND id < ?', {
        replacements: [businessId, accountId, last.id],
      });
  }

  /** The rule of an own CRM: as it is live, else as it is being written. */
  async function ruleOf({ businessId, kind }: Account): Promise<{ rule: OwnCrm; isLive: boolean } | null> {
    const { live, draft: edited } = await draft.content(businessId);
    const of = (crms: OwnCrm[]) => crms.find((crm) => crm.kind === kind);
    const rule = of(live.crms);
    if (rule) return { rule, isLive: true };
    const written = of(edited.crms);
    return written ? { rule: written, isLive: false } : null;
  }

  return {
    takeRecords,
    newest,
    /** A record as it arrived. */
    recordOf: (row: CrmArrivalRow): unknown => unseal(config.secretKey, row.record),

    /**
     * Takes one webhook of an own CRM. One that comes before its rule is live is kept, so that there is an example.
     * @throws AVX_NOT_FOUND, AVX_SEAL_WRONG, AVX_BODY_NOT_JSON, AVX_RECORD_UNREAD where none of it could be read
     */
    async take(account: Account, body: string, header: (name: string) => string): Promise<void> {
      const known = await ruleOf(account);
      const webhook = known?.rule.webhook;
      if (!known || !webhook || account.retiredAt) throw new AvrixError('AVX_NOT_FOUND', { what: 'account' });
      const given = header(webhook.header.toLowerCase());
      const { webhookSecret } = account.secrets;
      const isProven =
        webhook.proof === 'hmac'
          ? isSealed(account, body, given)
          : webhookSecret !== '' && sameText(given.replace(/^Bearer /, ''), webhookSecret);
      if (!isProven) throw new AvrixError('AVX_SEAL_WRONG');
      const document = readDocument(body);
      const documents = recordsIn(document, webhook.recordsAt);
      if (documents.length === 0) {
        const was = `there is no record at ${webhook.recordsAt || 'the whole of it'}`;
        await tables.crmArrivals.create(toArrival(account, document, 'webhook', '', was));
        await forgetOld(account);
        throw new AvrixError('AVX_RECORD_UNREAD', { was, fix: 'Send a record, or a list of them, as an object.' });
      }
      const { taken, problems } = await takeRecords(
        account,
        known.isLive ? known.rule.reads : null,
        documents,
        'webhook',
      );
      const [first] = problems;
      if (taken === 0 && first && known.isLive) throw new AvrixError('AVX_RECORD_UNREAD', first);
    },

    /**
     * Reads a CRM's list of what changed since (ms), page by page.
     * @returns up to when (ms) it is known; null where it has no list
     */
    async readList({ account, contract, tell }: Crm, since: number): Promise<number | null> {
      if (contract.gives !== 'records' || !contract.list) return null;
      const began = nowMs();
      let request = contract.list.first(since);
      for (let page = 0; page < mostPages; page++) {
        const body = await tell(request);
        const found = readPointer(body, contract.list.recordsAt);
        if (!Array.isArray(found))
          throw new AvrixError('AVX_RECORD_UNREAD', {
            was: `the answer of ${account.name} has no list at ${contract.list.recordsAt || 'the whole of it'}`,
            fix: 'Correct where the records are in its answer.',
          });
        await takeRecords(account, contract.reads, found as unknown[], 'list');
        const next = contract.list.next(body);
        if (next === null) return began;
        request = { method: 'GET', path: pathBelow(account, request.path, next) };
      }
      return began;
    },

    /** Reads again what arrived lately and was not read, by the rule that is live now. @returns how many were read */
    async again(account: Account): Promise<number> {
      const known = await ruleOf(account);
      if (!known?.isLive) return 0;
      const waiting = (await newest(account)).filter(({ problem }) => problem !== '').reverse();
      if (waiting.length === 0) return 0;
      await tables.crmArrivals.destroy({ where: { businessId: account.businessId, id: waiting.map(({ id }) => id) } });
      let taken = 0;
      for (const row of waiting)
        taken += (await takeRecords(account, known.rule.reads, [unseal(config.secretKey, row.record)], row.cameBy))
          .taken;
      return taken;
    },
  };
}

function readDocument(body: string): unknown {
  try {
    return JSON.parse(body) as unknown;
  } catch {
    throw new AvrixError('AVX_BODY_NOT_JSON');
  }
}

/**
 * The path of a next page below an account's address.
 * @throws AVX_RECORD_UNREAD where it leads to another host: the account's token goes nowhere else
 */
function pathBelow({ endpoint, name }: Account, path: string, next: string): string {
  const base = new URL(endpoint + path);
  const url = URL.canParse(next, base.href) ? new URL(next, base.href) : null;
  const own = new URL(endpoint);
  const prefix = own.pathname.replace(/\/$/, '');
  if (!url || url.origin !== own.origin || !url.pathname.startsWith(`${prefix}/`))
    throw new AvrixError('AVX_RECORD_UNREAD', {
      was: `${name} names ${next.slice(0, 200)} as its next page, which is not below ${endpoint}`,
      fix: 'Correct where the next page is in its answer.',
    });
  return url.pathname.slice(prefix.length) + url.search;
}
