import { join } from 'node:path';
import { pageOf } from '../src/core/capture';
import { openSpool } from '../src/server/capture/spool/spool';
import { hitsOf, type SpooledBatch } from '../src/server/capture/spool/store';
import { makeSpoolWriter } from '../src/server/capture/spool/writer';
import { makeHits } from './lib/hits';
import { compareRates, tell } from './lib/measure';
import { makeBenchPlace } from './lib/place';

const rows = 20_000;
const hitsOfBody = 4;
/** As many as one batch of the writer has. */
const rowsOfInsert = 2000;

const { services, business, folder, plain } = await makeBenchPlace();
const spool = openSpool(join(folder, 'bench-spool'));
const writer = makeSpoolWriter(services.context, spool, services.releases);

function spooled(): SpooledBatch[] {
  const now = Date.now();
  const hits = makeHits(rows);
  return Array.from({ length: rows / hitsOfBody }, (_, i) => ({
    business,
    receivedAt: now,
    correction: 0,
    foreign: [],
    bot: false,
    ownNetwork: false,
    browser: 'Blink',
    sent: { clock: now, hits: hits.slice(i * hitsOfBody, (i + 1) * hitsOfBody) },
  }));
}

const inserts = `INSERT INTO hits (business_id, id, visitor_id, kind, host, at, page_at, sent_at, received_at,
  release_number, page, browser, bot, own_network, body) VALUES ${Array.from({ length: rowsOfInsert }, () => `(${Array(15).fill('?').join(',')})`).join(',')}`;

const result = await compareRates(
  'spool to MariaDB',
  0.8,
  'rows',
  async () => {
    const values = spooled()
      .flatMap(hitsOf)
      .map(({ hit, at, sentAt, receivedAt }) => [
        ...[business, hit.id, hit.visitor, hit.kind, 'larkmoor.localhost', new Date(at), new Date(hit.at)],
        ...[new Date(sentAt), new Date(receivedAt), hit.release, pageOf(hit.address), 'Blink', false, false],
        JSON.stringify(hit),
      ]);
    const began = performance.now();
    for (let from = 0; from < rows; from += rowsOfInsert) {
      await plain.beginTransaction();
      await plain.query(inserts, values.slice(from, from + rowsOfInsert).flat());
      await plain.commit();
    }
    return rows / ((performance.now() - began) / 1000);
  },
  async () => {
    await Promise.all(spooled().map((batch) => spool.append(JSON.stringify(batch))));
    const began = performance.now();
    await writer.drain();
    return rows / ((performance.now() - began) / 1000);
  },
);
tell([result]);
