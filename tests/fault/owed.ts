import { v7 } from 'uuid';
import type { makeFaultPlace } from './place';

interface World {
  place: Pick<Awaited<ReturnType<typeof makeFaultPlace>>, 'run'>;
  outside: { quillsearch: { app: { request(path: string): Response | Promise<Response> } } };
}

/**
 * Clicks at Quillsearch, each with an outcome counted and its report-back due.
 * @param accounts the account that each is told to
 * @param after how long after now the outcome happens, so that it comes after its click
 * @returns the IDs of the report-backs
 */
export async function oweReportBacks(
  { place, outside }: World,
  business: string,
  accounts: string[],
  after = '1 HOUR',
): Promise<string[]> {
  const made = await Promise.all(
    accounts.map(async (account) => {
      const { headers } = await outside.quillsearch.app.request('/click/uk-27q1-fleet-winterproof.hill-video');
      return { id: v7(), account, key: new URL(headers.get('location')!).searchParams.get('qsid')! };
    }),
  );
  const values = (row: (one: (typeof made)[number]) => string) => made.map((one) => `(${row(one)})`).join(',');
  const now = 'UTC_TIMESTAMP(3)';
  const evidence = '{"kind":"stage","stage":"Fleet assessed","skipped":false}';
  await place.run(
    `INSERT INTO outcomes (business_id, id, code, version, dedupe_key, subject_kind, subject_id, happened_at, evidence,
       amount_minor, worth_minor, currency, win_rate_won, win_rate_of, counted_at, release_number) VALUES
     ${values(({ id }) => `'${business}','${id}','FLT-QUAL',1,'enquiry ${id}','enquiry','${id}',${now} + INTERVAL ${after},'${evidence}',400,100,'GBP',1,4,${now},1`)}`,
  );
  await place.run(
    `INSERT INTO report_backs (business_id, id, outcome_id, subject_kind, subject_id, account_id, account, platform,
       told_as, state, key_kind, key_value, due_at, made_at) VALUES
     ${values(({ id, key, account }) => `'${business}','${id}','${id}','enquiry','${id}','${account}','${account}','quillsearch','FLT-QUAL','waiting','click_id','${key}',${now},${now}`)}`,
  );
  await place.run(
    `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts) VALUES
     ${values(({ id, account }) => `'${business}','report_back','${id}','${account}',${now},1,0`)}`,
  );
  return made.map(({ id }) => id);
}
