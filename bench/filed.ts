import { randomUUID } from 'node:crypto';
import { stringify } from 'csv-stringify/sync';
import { parse } from 'csv-parse';
import { Readable } from 'node:stream';
import { v7 } from 'uuid';
import { fileParts, type FiledHow } from '../src/core/outcomes/filed';
import { makeTakeFiled } from '../src/server/outcomes/filed/take';
import { compareRates, tell } from './lib/measure';
import { makeBenchPlace } from './lib/place';

/* A hundred thousand offline conversions in a CSV file: read, decided and stored, against parsing and plain inserts. */

const rows = 100_000;
const atOnce = 2000;
const { services, business, plain } = await makeBenchPlace();
const { context, releases } = services;

const live = await releases.live(business);
await releases.make(business, {
  name: 'Leases come as files',
  note: '',
  content: {
    ...live.content,
    outcomes: [
      ...live.content.outcomes,
      {
        code: 'FLT-SIGNED',
        version: 1,
        words: 'Lease signed',
        reachedBy: { kind: 'file', says: 'FLT-SIGNED' },
        worth: { kind: 'realised', field: 'amount', less: [] },
        countedOnceFor: 'order',
        kind: 'agreement',
        clickDays: 80,
      },
    ],
  },
});

const happenedAt = new Date(Date.now() - 86_400_000).toISOString();
const text = stringify([
  [...fileParts],
  ...Array.from({ length: rows }, (_, n) => [
    `Qs${n}-bench`,
    'FLT-SIGNED',
    happenedAt,
    (1000 + (n % 900) / 100).toFixed(2),
    'GBP',
    `L-${n}`,
    'new',
  ]),
]);
const bytes = Buffer.from(text);
const how: FiledHow = {
  columns: Object.fromEntries(fileParts.map((part) => [part, part])) as FiledHow['columns'],
  timeZone: 'Europe/London',
  dates: 'day first',
  decimals: 'point',
  currency: 'GBP',
  says: '',
  platform: 'quillsearch',
  agreed: 'yes',
  compares: '',
};
const take = makeTakeFiled(context, releases);
let most = 0;
const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 50);

async function clear(): Promise<void> {
  for (const table of ['filed_files', 'filed_chunks', 'filed_rows', 'conversions', 'work'])
    await plain.query(`TRUNCATE ${table}`);
  await plain.query("DELETE FROM strands WHERE click_id LIKE 'Qs%-bench'");
}

async function rateOf(step: () => Promise<void>): Promise<number> {
  await clear();
  const began = performance.now();
  await step();
  const rate = rows / ((performance.now() - began) / 1000);
  const [stored] = (await plain.query('SELECT COUNT(*) AS n FROM conversions')) as { n: number }[];
  if (Number(stored!.n) !== rows) throw new Error(`${stored!.n} of ${rows} rows were stored`);
  return rate;
}

async function ours(): Promise<void> {
  const id = v7();
  await context.tables.filedFiles.create({
    businessId: business,
    id,
    name: 'bench.csv',
    byName: '',
    at: new Date(),
    hash: '',
    columns: [...fileParts],
    how,
    state: 'reading',
    problem: '',
    rowsRead: 0,
    rowsAll: null,
    rowsStored: 0,
    counts: { taken: 0, repeated: 0, refused: 0 },
    ruledAt: null,
    takenAt: null,
  });
  const size = 2 ** 19;
  for (let n = 0; n * size < bytes.length; n += 1)
    await context.tables.filedChunks.create({
      businessId: business,
      fileId: id,
      n,
      bytes: bytes.subarray(n * size, (n + 1) * size),
    });
  await take(business, id, async () => true);
}

/**
 * Parses the same bytes and inserts what they say into the same tables, as one would write it by hand for this one case. Its
 * IDs lie as far apart as ours, which are hashes: indexes have the same work.
 */
async function plainly(): Promise<void> {
  const file = v7();
  let waiting: string[][] = [];
  let line = 1;
  const at = new Date();
  const store = async () => {
    const part = waiting.map((cells) => ({ cells, id: randomUUID(), strand: randomUUID(), line: (line += 1) }));
    waiting = [];
    await plain.beginTransaction();
    await plain.query(
      `INSERT INTO filed_rows (business_id, file_id, line, answer, why, conversion_id, strand_id, platform, click_id, says, at,
         amount, currency, order_id, revision) VALUES ${part.map(() => "(?,?,?,'taken','',?,?,'quillsearch',?,?,?,?,?,?,'new')").join(',')}`,
      part.flatMap(({ cells, id, strand, line: n }) => [
        ...[business, file, n, id, strand, cells[0], cells[1], new Date(cells[2]!)],
        ...[cells[3], cells[4], cells[5]],
      ]),
    );
    await plain.query(
      `INSERT INTO strands (business_id, id, kind, platform, click_id, first_at, source, medium, campaign, content, utm_id,
         visitor_id, marked) VALUES ${part.map(() => "(?,?,'click','quillsearch',?,?,'','','','','',?,'')").join(',')}`,
      part.flatMap(({ cells, id, strand }) => [business, strand, cells[0], new Date(cells[2]!), id]),
    );
    await plain.query(
      `INSERT INTO conversions (business_id, id, kind, name, fields, amounts, visitor_id, hit_id, page, at, visit_number,
         strands, last_paid, marked, consent, release_number, order_id, ruled_at)
       VALUES ${part.map(() => "(?,?,'file',?,'{}',?,?,?,'',?,0,?,?,'',NULL,1,?,?)").join(',')}`,
      part.flatMap(({ cells, id, strand }) => [
        ...[
          business,
          id,
          cells[1],
          JSON.stringify([{ name: 'amount', amount: cells[3], currency: cells[4] }]),
          id,
          file,
        ],
        ...[new Date(cells[2]!), JSON.stringify([strand]), strand, cells[5], at],
      ]),
    );
    await plain.query(
      `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts)
       VALUES ${part.map(() => "(?,'conversion',?,'',?,1,0)").join(',')}`,
      part.flatMap(({ id }) => [business, id, at]),
    );
    await plain.commit();
  };
  for await (const cells of Readable.from([bytes]).pipe(parse({ from: 2 })) as AsyncIterable<string[]>) {
    waiting.push(cells);
    if (waiting.length === atOnce) await store();
  }
  if (waiting.length > 0) await store();
}

const before = process.memoryUsage().rss;
const measured = await compareRates(
  'filed',
  0.6,
  'rows',
  () => rateOf(plainly),
  () => rateOf(ours),
);
clearInterval(watch);
console.log(`   memory: ${Math.round(before / 2 ** 20)} MB before, ${Math.round(most / 2 ** 20)} MB at most`);
tell([measured]);
