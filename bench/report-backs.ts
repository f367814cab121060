import { v7 } from 'uuid';
import { claimWork, finishWork, renewWork } from '../src/server/db';
import type { HttpClient } from '../src/server/http';
import { makeBrakes } from '../src/server/reportbacks/brakes';
import { makeTell } from '../src/server/reportbacks/tell';
import { compareRates, tell } from './lib/measure';
import { makeBenchPlace } from './lib/place';

const rows = 50_000;
const atOnce = 1500;

const { services, business, plain } = await makeBenchPlace();
const account = (await services.accounts.byKey(business, 'quillsearch'))!;

/** Takes every row and says so; nothing goes over a wire. */
const sink: HttpClient = async (_url, asked) => {
  const { rows: told } = JSON.parse(asked!.body!) as { rows: { order: string }[] };
  const answer = { rows: told.map(({ order }) => ({ order, answer: 'taken', day: '2027-02-15' })) };
  return { status: 200, headers: {}, body: JSON.stringify(answer) };
};
/** A fast machine would wait for the platform's calls a minute. */
const noLimit = { take: () => 0 };
const brakes = makeBrakes(services.context);
const tellDue = makeTell(
  { ...services.context, http: sink },
  services.accounts,
  services.releases,
  brakes,
  noLimit,
  // All of them are told by a click.
  (tellings) => Promise.resolve({ known: tellings, nobody: [], away: [] }),
);

/** Outcomes that were just counted, each with its report-back and its work; MariaDB makes them itself. */
async function makeDue(): Promise<void> {
  for (const table of ['outcomes', 'report_backs', 'attempts', 'work']) await plain.query(`TRUNCATE ${table}`);
  await plain.query(`CREATE OR REPLACE TEMPORARY TABLE due (id UUID PRIMARY KEY)`);
  for (let from = 0; from < rows; from += 5000)
    await plain.query(`INSERT INTO due VALUES ${Array.from({ length: 5000 }, () => `('${v7()}')`).join(',')}`);
  await plain.query(
    `INSERT INTO outcomes (business_id, id, code, version, dedupe_key, subject_kind, subject_id, happened_at, evidence,
       amount_minor, worth_minor, currency, win_rate_won, win_rate_of, counted_at, release_number)
     SELECT '${business}', id, 'FLT-QUAL', 1, CONCAT('enquiry ', id), 'enquiry', id, UTC_TIMESTAMP(3),
       '{"kind":"stage","stage":"Fleet assessed","skipped":false}', 54000, 13500, 'GBP', 1, 4, UTC_TIMESTAMP(3), 1 FROM due`,
  );
  await plain.query(
    `INSERT INTO report_backs (business_id, id, outcome_id, subject_kind, subject_id, account_id, account, platform,
       told_as, state, key_kind, key_value, due_at, made_at)
     SELECT '${business}', id, id, 'enquiry', id, '${account.id}', 'quillsearch', 'quillsearch', 'FLT-QUAL', 'waiting',
       'click_id', CONCAT('Qs', id), UTC_TIMESTAMP(3), UTC_TIMESTAMP(3) FROM due`,
  );
  await plain.query(
    `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts)
     SELECT '${business}', 'report_back', id, UTC_TIMESTAMP(3) - INTERVAL 1 SECOND, 1, 0 FROM due`,
  );
}

/** The same claim, attempt and state, as one would write it by hand for this one case. */
async function tellPlainly(): Promise<number> {
  await plain.beginTransaction();
  const claimed = (await plain.query(
    `SELECT subject FROM work WHERE kind = 'report_back' AND due_at <= UTC_TIMESTAMP(3)
       AND (lease_until IS NULL OR lease_until < UTC_TIMESTAMP(3)) ORDER BY due_at LIMIT ${atOnce} FOR UPDATE SKIP LOCKED`,
  )) as { subject: string }[];
  const ids = claimed.map(({ subject }) => subject);
  if (ids.length === 0) {
    await plain.commit();
    return 0;
  }
  await plain.query(
    `UPDATE work SET owner = 'bare', lease_until = UTC_TIMESTAMP(3) + INTERVAL 60 SECOND
     WHERE business_id = ? AND kind = 'report_back' AND subject IN (?)`,
    [business, ids],
  );
  await plain.commit();
  const due = (await plain.query(
    `SELECT r.id, r.key_value, r.subject_id, o.code, o.happened_at, o.worth_minor, o.currency FROM report_backs r
     JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
     WHERE r.business_id = ? AND r.id IN (?) AND r.state = 'waiting'`,
    [business, ids],
  )) as Record<string, unknown>[];
  const attempts = due.map((row) => ({ id: v7(), row }));
  const at = new Date();
  const places = attempts.map(() => '(?,?,?,?,?,?,?,?,?)').join(',');
  await plain.query(
    `INSERT INTO attempts (business_id, id, report_back_id, started_at, ended_at, status, worth_minor, sent, answer)
     VALUES ${places}`,
    attempts.flatMap(({ id, row }) => [
      ...[business, id, row.id, at, at, 'no answer yet'],
      ...[row.worth_minor, JSON.stringify(row), ''],
    ]),
  );
  await plain.beginTransaction();
  await plain.query(
    "UPDATE attempts SET ended_at = ?, status = '200', answer = 'taken' WHERE business_id = ? AND id IN (?)",
    [at, business, attempts.map(({ id }) => id)],
  );
  await plain.query(
    `UPDATE report_backs r JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
     SET r.state = 'told', r.answered_at = ?, r.booked_on = '2027-02-15', r.told_minor = o.worth_minor
     WHERE r.business_id = ? AND r.id IN (?)`,
    [at, business, ids],
  );
  await plain.query(
    `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts) VALUES ${due.map(() => "(?,'enquiry',?,?,1,0)").join(',')}
     ON DUPLICATE KEY UPDATE marks = marks + 1`,
    due.flatMap((row) => [business, row.subject_id, at]),
  );
  await plain.query("DELETE FROM work WHERE business_id = ? AND kind = 'report_back' AND subject IN (?)", [
    business,
    ids,
  ]);
  await plain.commit();
  return ids.length;
}

async function tellOurs(): Promise<number> {
  const items = await claimWork(services.context.db, 'report_back', atOnce);
  const results = await tellDue(items, { still: (all) => renewWork(services.context.db, all) });
  await finishWork(
    services.context.db,
    results.filter((result) => 'again' in result),
  );
  return items.length;
}

async function rateOf(step: () => Promise<number>): Promise<number> {
  await makeDue();
  const began = performance.now();
  while ((await step()) > 0);
  const rate = rows / ((performance.now() - began) / 1000);
  const [told] = (await plain.query("SELECT COUNT(*) AS n FROM report_backs WHERE state = 'told'")) as { n: number }[];
  if (Number(told!.n) !== rows) throw new Error(`${told!.n} of ${rows} rows were told`);
  return rate;
}

tell([
  await compareRates(
    'report-backs',
    0.6,
    'rows',
    () => rateOf(tellPlainly),
    () => rateOf(tellOurs),
  ),
]);
