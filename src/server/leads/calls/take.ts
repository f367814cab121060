import { AvrixError } from '../../../core/errors';
import { recordsIn } from '../../../core/crms/own';
import { readCall, type Call } from '../../../core/leads/calls';
import { callIdOf } from '../../../core/strands';
import { now } from '../../clock';
import type { Context } from '../../context';
import { instantIn } from '../../days';
import { inTransaction, insertRows, markWork, plain } from '../../db';
import { hashTelephone, isProvenBy, seal, unseal } from '../../secrets';
import { readErased } from '../erasing/marks';
import { readCallSettings } from './settings';
import type { CallRow, CallSettingsRow } from './table';

/** Calls that are stored in one transaction. */
const atOnce = 500;
/** What was sent last is kept as it came up to so many bytes. */
const largestKept = 3500;

/** What became of calls that were sent or stood in a file. */
export interface TakenCalls {
  /** How many were new, and how many were known already. */
  taken: number;
  known: number;
  refused: { at: number; was: string; fix: string }[];
}

/** Whether what was sent proves that it comes from the business's own telephone system. */
function isProven({ secret, proof }: CallSettingsRow, key: Buffer, body: string, given: string): boolean {
  if (!secret) return false;
  return isProvenBy(proof, String(unseal(key, secret)), body, given);
}

/** Takes calls in: each is stored once by its own number, and looked at by a job. */
export function makeTakeCalls(context: Context) {
  const { db, tables, config } = context;

  /** Stores calls. One that is told again, as it goes on, is known by its number and completed. */
  async function store(businessId: string, calls: Call[], cameBy: CallRow['cameBy']): Promise<{ taken: number }> {
    let taken = 0;
    for (let from = 0; from < calls.length; from += atOnce)
      // eslint-disable-next-line no-await-in-loop -- bounded statements, in order
      taken += await storePart(businessId, calls.slice(from, from + atOnce), cameBy);
    return { taken };
  }

  const storePart = (businessId: string, given: Call[], cameBy: CallRow['cameBy']): Promise<number> =>
    inTransaction(db, async (transaction) => {
      const erased = await readErased(
        context,
        businessId,
        'call',
        given.map(({ number }) => number),
        transaction,
      );
      const calls = given.filter(({ number }) => !erased.has(number));
      const id = [...new Set(calls.map(({ number }) => callIdOf(businessId, number)))];
      const stored = plain(await tables.calls.findAll({ where: { businessId, id }, transaction, lock: true }));
      const rows = new Map(stored.map((row) => [row.id, row]));
      for (const call of calls) {
        const before = rows.get(callIdOf(businessId, call.number));
        const row = toRow(businessId, call, cameBy);
        rows.set(
          row.id,
          before
            ? {
                ...before,
                seconds: Math.max(before.seconds, row.seconds),
                answered: before.answered || row.answered,
                reference: row.reference || before.reference,
                callerHash: before.callerHash || row.callerHash,
                caller: before.enquiryId ? before.caller : (before.caller ?? row.caller),
              }
            : row,
        );
      }
      await insertRows(
        tables.calls,
        [...rows.values()],
        ['seconds', 'answered', 'reference', 'callerHash', 'caller'],
        transaction,
      );
      await markWork(db, 'call', businessId, [...rows.keys()].sort(), now(), transaction);
      return rows.size - stored.length;
    });

  const toRow = (businessId: string, call: Call, cameBy: CallRow['cameBy']): CallRow => ({
    businessId,
    id: callIdOf(businessId, call.number),
    number: call.number,
    dialled: call.dialled,
    callerHash: hashTelephone(config.secretKey, call.caller),
    caller: call.caller ? seal(config.secretKey, call.caller) : null,
    startedAt: new Date(call.startedAt),
    seconds: call.seconds,
    answered: call.answered,
    reference: call.reference,
    cameBy,
    receivedAt: now(),
    became: 'waiting',
    found: 'nothing',
    enquiryId: null,
  });

  return {
    store,

    /**
     * Takes one webhook of a telephone system: a call or several, as JSON or as a form.
     * @throws AVX_NOT_FOUND where calls are not taken, AVX_SEAL_WRONG, AVX_BODY_NOT_JSON, AVX_RECORD_UNREAD where none could
     * be read
     */
    async webhook(
      business: { id: string; timeZone: string },
      body: string,
      header: (name: string) => string,
    ): Promise<TakenCalls> {
      const settings = await readCallSettings(context, business.id);
      if (!settings.secret) throw new AvrixError('AVX_NOT_FOUND', { what: 'address for calls' });
      if (!isProven(settings, config.secretKey, body, header(settings.header.toLowerCase())))
        throw new AvrixError('AVX_SEAL_WRONG');
      const document = readBody(body, header('content-type'));
      const documents = recordsIn(document, settings.reading.calls);
      const calls: Call[] = [];
      const refused: TakenCalls['refused'] = [];
      for (const [at, one] of documents.entries()) {
        const read = readCall(settings.reading, one, (text) => instantIn(business.timeZone, text));
        if (read.ok) calls.push(read.call);
        else refused.push({ at, was: read.was, fix: read.fix });
      }
      if (documents.length === 0)
        refused.push({
          at: 0,
          was: `there is no call at ${settings.reading.calls || 'the whole of it'}`,
          fix: 'Send a call, or a list of them, as an object.',
        });
      const { taken } = await store(business.id, calls, 'webhook');
      const [first] = refused;
      const sent = documents[0] ?? document;
      const fits = Buffer.byteLength(JSON.stringify(sent)) <= largestKept;
      await tables.callSettings.update(
        {
          lastAt: now(),
          lastSent: fits ? seal(config.secretKey, sent) : null,
          lastProblem: first ? `${first.was}. ${first.fix}`.slice(0, 500) : '',
        },
        { where: { businessId: business.id } },
      );
      if (calls.length === 0) throw new AvrixError('AVX_RECORD_UNREAD', first!);
      return { taken, known: calls.length - taken, refused };
    },
  };
}

function readBody(body: string, type: string): unknown {
  if (type.startsWith('application/x-www-form-urlencoded')) return Object.fromEntries(new URLSearchParams(body));
  try {
    return JSON.parse(body) as unknown;
  } catch {
    throw new AvrixError('AVX_BODY_NOT_JSON');
  }
}
