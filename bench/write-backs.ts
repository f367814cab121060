import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { Pool } from 'undici';
import { v7 } from 'uuid';
import { makeCrms } from '../src/server/crms/crm';
import { claimWork, finishWork, renewWork } from '../src/server/db';
import type { HttpClient } from '../src/server/http';
import { crmWriteJob } from '../src/server/jobs/crm-write';
import { makeWriteBack } from '../src/server/leads/write-back';
import { compareRates, tell } from './lib/measure';
import { makeBenchPlace } from './lib/place';

/* Ten thousand values written into the records of a CRM, beside a loop written by hand for this one case that makes the same
   calls over loopback. */

const rows = 10_000;
const sideBySide = 6;

const { services, business, plain } = await makeBenchPlace();
const { context, releases } = services;
const account = (await services.accounts.byKey(business, 'oakledger'))!;

const crm = new Worker(new URL('./bare-crm.js', import.meta.url));
const [port] = (await once(crm, 'message')) as [number];
const endpoint = `http://127.0.0.1:${port}`;
await context.tables.accounts.update({ endpoint }, { where: { businessId: business, id: account.id } });
/** The same calls by the same client in both, over connections that stay open: a new one for each call runs out of ports. */
const pool = new Pool(endpoint, { connections: sideBySide });
const http: HttpClient = async (url, { method = 'GET', headers = {}, body } = {}) => {
  const answer = await pool.request({ path: new URL(url).pathname, method, headers, body: body ?? null });
  return { status: answer.statusCode, headers: {}, body: await answer.body.text() };
};

const outside = { ...context, http };
const crms = makeCrms(outside, services.accounts, releases);
const names = { get: async () => () => '', forget: () => undefined };
const job = crmWriteJob(makeWriteBack(outside, crms, releases, names));

/** Enquiries with one record each, for which one value waits, with its work; MariaDB makes them itself. */
async function makeDue(): Promise<void> {
  for (const table of ['crm_writes', 'deals', 'enquiries', 'work']) await plain.query(`TRUNCATE ${table}`);
  await plain.query('CREATE OR REPLACE TEMPORARY TABLE due (n INT PRIMARY KEY, id UUID)');
  for (let from = 0; from < rows; from += 5000)
    await plain.query(
      `INSERT INTO due VALUES ${Array.from({ length: 5000 }, (_, i) => `(${from + i}, '${v7()}')`).join(',')}`,
    );
  const of = `'${business}'`;
  await plain.query(
    `INSERT INTO enquiries (business_id, id, lead_id, form, page, sent_at, fields, marked, stage, release_number, way_in,
       quality, quality_reason, answered_by, said_quality, said_reason, said_by, said_answered_by)
     SELECT ${of}, id, id, 'test-ride', '', '2027-02-01 09:00:00', '[]', '', 'Asked', 1, 'form', 'unanswered', '', '', '',
       '', '', '' FROM due`,
  );
  const record = JSON.stringify({ deal: 'D', stage: 'Asked', madeAt: 0, changedAt: 0, fields: {}, amounts: {} });
  await plain.query(
    `INSERT INTO deals (business_id, id, account_id, number, enquiry_id, lead_id, record, stage, made_at, merged_into)
     SELECT ${of}, id, '${account.id}', CONCAT('D-', n), id, id, ?, 'Asked', '2027-02-01 09:00:00', '' FROM due`,
    [record],
  );
  const fields = [{ rule: 'words', field: 'source_words', was: '', becomes: 'paid search on Quillsearch, hill video' }];
  await plain.query(
    `INSERT INTO crm_writes (business_id, id, account_id, enquiry_id, deal_id, number, cause, fields, state, answer,
       by_name, made_at, release_number)
     SELECT ${of}, id, '${account.id}', id, id, CONCAT('D-', n), 'rule', ?, 'waiting', '', '', UTC_TIMESTAMP(3), 1 FROM due`,
    [JSON.stringify(fields)],
  );
  await plain.query(
    `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts)
     SELECT ${of}, 'crm_write', id, '${account.id}', UTC_TIMESTAMP(3) - INTERVAL 1 SECOND, 1, 0 FROM due`,
  );
  for (const table of ['crm_writes', 'deals', 'work']) await plain.query(`ANALYZE TABLE ${table}`);
}

interface Due {
  id: string;
  number: string;
  fields: { field: string; was: string; becomes: string }[];
}

/** The same claim, reading, calls and state, as one would write it by hand for this one case. */
async function writePlainly(): Promise<number> {
  await plain.beginTransaction();
  const claimed = (await plain.query(
    `SELECT subject FROM work WHERE kind = 'crm_write' AND due_at <= UTC_TIMESTAMP(3)
       AND (lease_until IS NULL OR lease_until < UTC_TIMESTAMP(3)) ORDER BY due_at LIMIT ${job.claim} FOR UPDATE SKIP LOCKED`,
  )) as { subject: string }[];
  const ids = claimed.map(({ subject }) => subject);
  if (ids.length > 0)
    await plain.query(
      `UPDATE work SET owner = 'bare', lease_until = UTC_TIMESTAMP(3) + INTERVAL 60 SECOND
       WHERE business_id = ? AND kind = 'crm_write' AND subject IN (?)`,
      [business, ids],
    );
  await plain.commit();
  if (ids.length === 0) return 0;
  const due = (await plain.query(
    `SELECT w.id, w.number, w.fields FROM crm_writes w
     JOIN deals d ON d.business_id = w.business_id AND d.id = w.deal_id AND d.gone_at IS NULL
     WHERE w.business_id = ? AND w.enquiry_id IN (?) AND w.state = 'waiting' ORDER BY w.id`,
    [business, ids],
  )) as Due[];
  const left = [...due];
  const hand = async () => {
    for (let row = left.shift(); row; row = left.shift()) {
      const at = `${endpoint}/api/deals/${row.number}`;

      const { fields } = JSON.parse((await http(at)).body) as { fields: Record<string, string> };
      if (row.fields.some(({ field, was }) => fields[field] !== was)) continue;
      const body = JSON.stringify({ fields: Object.fromEntries(row.fields.map((one) => [one.field, one.becomes])) });

      await http(`${at}/fields`, { method: 'POST', body });
    }
  };
  await Promise.all(Array.from({ length: sideBySide }, hand));
  await plain.query(
    "UPDATE crm_writes SET state = 'written', written_at = UTC_TIMESTAMP(3) WHERE business_id = ? AND id IN (?)",
    [business, due.map(({ id }) => id)],
  );
  await plain.query("DELETE FROM work WHERE business_id = ? AND kind = 'crm_write' AND subject IN (?)", [
    business,
    ids,
  ]);
  return ids.length;
}

async function writeOurs(): Promise<number> {
  const items = await claimWork(context.db, 'crm_write', job.claim);
  const results = items.length === 0 ? [] : await job.run(items, { still: (all) => renewWork(context.db, all) });
  await finishWork(
    context.db,
    results.filter((result) => 'again' in result),
  );
  return items.length;
}

async function rateOf(step: () => Promise<number>): Promise<number> {
  await makeDue();
  const began = performance.now();
  while ((await step()) > 0);
  const rate = rows / ((performance.now() - began) / 1000);
  const [done] = (await plain.query("SELECT COUNT(*) AS n FROM crm_writes WHERE state = 'written'")) as { n: number }[];
  if (Number(done!.n) !== rows) throw new Error(`${done!.n} of ${rows} values were written`);
  return rate;
}

tell([
  await compareRates(
    'write-backs',
    0.6,
    'values',
    () => rateOf(writePlainly),
    () => rateOf(writeOurs),
  ),
]);
