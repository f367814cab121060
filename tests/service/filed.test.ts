import { beforeAll, describe, expect, it } from 'vitest';
import type { OutcomeRule, TellingRule } from '../../src/core/outcomes';
import type { FiledHow, FiledListQuery } from '../../src/core/outcomes/filed';
import { makeTakeFiled } from '../../src/server/outcomes/filed/take';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { clickOn, makeBrowser } from './shop';
import { ask, larkmoor, move, outside, place, rest, time } from './walks';

/* Conversions that happened elsewhere and come as a file: read, taken as a whole, told, corrected, and answered row by row. */

let member: Membership;
const signed: OutcomeRule = {
  ...{ code: 'FLT-SIGNED', version: 1, words: 'Lease signed', kind: 'agreement', clickDays: 80 },
  reachedBy: { kind: 'file', says: 'lease signed' },
  worth: { kind: 'realised', field: 'amount', less: [] },
  countedOnceFor: 'order',
};
/** Counted, and told to nobody. */
const untold: OutcomeRule = { ...signed, code: 'FLT-LIST', reachedBy: { kind: 'file', says: 'listed' } };

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  const { content } = await place.services.releases.live(larkmoor.id);
  const [telling] = content.telling.filter((one) => one.outcome === 'FLT-QUAL' && one.platform === 'quillsearch');
  const tells: TellingRule = { ...telling!, outcome: signed.code, letsItBid: false };
  move(time + 1000);
  await place.services.releases.make(larkmoor.id, {
    name: 'Leases are signed on paper',
    note: '',
    content: {
      ...content,
      outcomes: [...content.outcomes, signed, untold],
      telling: [...content.telling, tells],
      qualified: { ...content.qualified, conversion: signed.code },
    },
  });
  await outside.quillsearch.app.request('/account/outcomes', {
    method: 'POST',
    body: new URLSearchParams({ code: signed.code }),
  });
  move(time + 86_400_000);
});

const all: FiledListQuery = { page: 1, find: '', answer: '' };
async function bring(text: string | Buffer, name = 'leases.csv') {
  const request = new Request('http://avrix.localhost/', { method: 'POST', body: new Uint8Array(Buffer.from(text)) });
  const { id } = await place.services.filed.bring(member, 'Anna', { name, compares: '' }, request);
  return id;
}
const one = (id: string, query = all) => place.services.filed.one(member, id, query);
/** Brings a file and has it taken as its columns are guessed. */
async function take(text: string, part: Partial<FiledHow> = {}) {
  const id = await bring(text);
  const { how } = await one(id);
  await place.services.filed.take(member, id, { ...how, agreed: 'yes', ...part });
  await rest();
  move(time + 60_000);
  await rest();
  return id;
}
/** Somebody who came by a click on an ad. */
async function click(): Promise<string> {
  const browser = makeBrowser();
  const address = await clickOn('quillsearch');
  await browser.lands(address);
  await browser.hands();
  move(time + 120_000);
  return new URL(address).searchParams.get('qsid')!;
}
const at = (ms: number) => new Date(ms).toISOString();
const minuteOf = (ms: number) => Math.floor(ms / 60_000) * 60_000;
/** As clocks in London show it in winter: 01/02/2027 09:30. */
const local = (ms: number) => at(ms).replace(/^(\d+)-(\d+)-(\d+)T(\d+:\d+).*/, '$3/$2/$1 $4');
const header = 'click_id,outcome,happened_at,amount,currency,order_id,change';
const toldOf = (order: string) =>
  rowsOf<{ state: string; correction: number; told: number | null; worth: number; now: number | null; how: string }>(
    place.db,
    `SELECT r.state, r.correction, r.told_minor AS told, o.worth_minor AS worth, o.corrected_minor AS now, o.worth_change AS how
     FROM conversions c JOIN outcomes o ON o.subject_id = c.id JOIN report_backs r ON r.outcome_id = o.id
     WHERE c.order_id = ? ORDER BY r.correction`,
    [order],
  );

describe('a file of conversions', () => {
  it('is looked at first, and then each row is counted, told and answered', async () => {
    const [first, second] = [await click(), await click()];
    const text = [
      'Lease;Click ref;Goal;Won on;Lease value;Cur',
      `L-1;${first};lease signed;${at(time)};1.249,50;GBP`,
      `L-2;${second};lease signed;${local(time)};"980,00";GBP`,
      `L-2;${second};lease signed;${local(time)};980,00;GBP`,
      `L-3;${second};lease sent;${at(time)};10,00;GBP`,
      `L-4;nobody;lease signed;${at(time)};10,00;GBP`,
      `L-5;${first};lease signed;soon;10,00;GBP`,
    ].join('\n');
    const id = await bring(text);
    const before = await one(id);
    expect(before).toMatchObject({
      file: { state: 'open' },
      columns: ['lease', 'click ref', 'goal', 'won on', 'lease value', 'cur'],
      how: { decimals: 'comma', columns: { click_id: 'click ref', outcome: 'goal', happened_at: 'won on' } },
      total: 0,
    });
    const how: FiledHow = { ...before.how, agreed: 'yes', columns: { ...before.how.columns, order_id: 'lease' } };
    const sample = await place.services.filed.tryOut(member, id, how);
    expect(sample).toMatchObject({ of: 6, wrong: 3 });
    expect(sample.rows[1]!.parts).toMatchObject({ happened_at: at(minuteOf(time)), amount: '980.00' });

    await place.services.filed.take(member, id, how);
    await rest();
    move(time + 60_000);
    await rest();
    const after = await one(id);
    expect(after.file).toMatchObject({ state: 'taken', rows: 6, counts: { taken: 2, repeated: 1, refused: 3 } });
    expect(after.rows.map(({ row, answer, why, standing }) => [row, answer, why.slice(0, 35), standing])).toEqual([
      [2, 'taken', '', expect.stringMatching(/^(told|confirmed) at Quillsearch/)],
      [3, 'taken', '', expect.stringMatching(/^(told|confirmed) at Quillsearch/)],
      [4, 'repeated', 'It is known already. To change it, ', expect.anything()],
      [5, 'refused', 'No live outcome is reached by a row', ''],
      [6, 'refused', 'No click with this ID is known. Say', ''],
      [7, 'refused', '`soon` is no time. Write it as 2027', ''],
    ]);
    expect(await toldOf('L-1')).toMatchObject([{ worth: 124_950, correction: 0 }]);
    expect(await toldOf('L-2')).toMatchObject([{ worth: 98_000, correction: 0 }]);
    await expect(place.services.filed.take(member, id, how)).rejects.toMatchObject({ code: 'AVX_FILE_TAKEN' });
    // The next file of that program is read in the same way.
    expect(await one(await bring(text.split('\n')[0]!))).toMatchObject({ isRemembered: true, how });
  });

  it('that comes again changes nothing, and is said to be the same', async () => {
    const text = `${header}\n${await click()},lease signed,${at(time)},10.00,GBP,A-1,\n`;
    await take(text);
    const before = await toldOf('A-1');
    const id = await bring(text, 'leases again.csv');
    expect((await one(id)).sameAs).toMatchObject({ name: 'leases.csv' });
    await place.services.filed.take(member, id, (await one(id)).how);
    await rest();
    expect((await one(id)).file.counts).toEqual({ taken: 0, repeated: 1, refused: 0 });
    expect(await toldOf('A-1')).toEqual(before);
  });

  it('revalues and takes back what an earlier one, or an earlier row, said', async () => {
    const [first, second] = [await click(), await click()];
    await take(
      [
        header,
        `${first},lease signed,${at(time)},100.00,GBP,B-1,new`,
        `${second},lease signed,${at(time)},50.00,GBP,B-2,new`,
      ].join('\n'),
    );
    const id = await take(
      [
        header,
        `,lease signed,${at(time)},80.00,GBP,B-1,revalued`,
        `,lease signed,${at(time)},,,B-2,taken-back`,
        `,lease signed,${at(time)},80.00,GBP,B-9,revalued`,
      ].join('\n'),
    );
    expect((await one(id)).rows.map(({ answer, why }) => [answer, why])).toEqual([
      ['taken', ''],
      ['taken', ''],
      ['refused', 'No conversion with the order `B-9` is known that it could change. Send it as new first.'],
    ]);
    expect(await toldOf('B-1')).toMatchObject([
      { worth: 10_000, now: 8000, how: 'revalued', correction: 0 },
      { correction: 1, state: 'confirmed', told: 8000 },
    ]);
    expect(await toldOf('B-2')).toMatchObject([
      { worth: 5000, now: 0, how: 'taken_back', correction: 0 },
      { correction: 1, state: 'confirmed', told: 0 },
    ]);
  });

  it('names clicks that never landed, where it says of which platform they are; their line begins unknown', async () => {
    const address = await clickOn('quillsearch');
    const qsid = new URL(address).searchParams.get('qsid')!;
    move(time + 120_000);
    const id = await take(`${header}\n${qsid},lease signed,${at(time)},10.00,GBP,C-1,\n`, { platform: 'quillsearch' });
    expect((await one(id)).rows).toMatchObject([
      { answer: 'taken', standing: expect.stringMatching(/^(told|confirmed)/) },
    ]);
    const hops = await rowsOf<{ hop: string; state: string }>(
      place.db,
      `SELECT h.hop, h.state FROM hops h JOIN strands s ON s.id = h.strand_id WHERE s.click_id = ?
       ORDER BY FIELD(h.hop, 'clicked', 'landed', 'kept', 'converted', 'told', 'confirmed')`,
      [qsid],
    );
    expect(hops.slice(0, 5)).toMatchObject([
      { hop: 'clicked', state: 'unknown' },
      { hop: 'landed', state: 'unknown' },
      { hop: 'kept', state: 'unknown' },
      { hop: 'converted', state: 'made_it' },
      { hop: 'told', state: 'made_it' },
    ]);
  });

  it('is never half taken: a process that ends in its midst leaves nothing counted, the next one goes on', async () => {
    const rows = Array.from({ length: 4500 }, (_, n) => `click-${n},listed,${at(time - n)},1.00,GBP,D-${n},`);
    const id = await bring(`${header}\n${rows.join('\n')}\n`);
    await place.services.filed.take(member, id, { ...(await one(id)).how, platform: 'quillsearch' });
    const takeFiled = makeTakeFiled(place.services.context, place.services.releases);
    /** Ends after some batches, as a process that is killed between two transactions. */
    const endsAfter = (batches: number) => async () => batches-- > 0;
    const counted = () =>
      rowsOf<{ n: number }>(
        place.db,
        "SELECT COUNT(*) AS n FROM outcomes o JOIN conversions c ON c.id = o.subject_id WHERE c.order_id LIKE 'D-%'",
        [],
      );
    for (const batches of [1, 1, 2]) {
      await expect(takeFiled(larkmoor.id, id, endsAfter(batches))).rejects.toThrow(/somebody else/);
      expect(await counted()).toEqual([{ n: 0 }]);
    }
    await rest();
    expect((await one(id)).file).toMatchObject({ state: 'taken', rows: 4500, counts: { taken: 4500 } });
    expect(await counted()).toEqual([{ n: 4500 }]);
  });

  it('that breaks off in its midst takes nothing, and says why', async () => {
    const qsid = await click();
    const good = Array.from({ length: 2500 }, (_, n) => `${qsid},lease signed,${at(time)},1.00,GBP,E-${n},\n`).join('');
    const id = await bring(`${header}\n${good}"${qsid}`);
    await place.services.filed.take(member, id, (await one(id)).how);
    await rest();
    expect(await one(id)).toMatchObject({
      file: { state: 'failed', problem: expect.stringMatching(/no CSV/) },
      total: 0,
      sentence: { title: 'Nothing of “leases.csv” was taken.' },
    });
    expect(await toldOf('E-0')).toEqual([]);
  });

  it('is answered as a file, row by row', async () => {
    const id = await take(`${header}\n${await click()},lease signed,${at(time)},10.00,GBP,F-1,\n,lease signed,,,,,\n`);
    const answers = [];
    for await (const part of place.services.filed.answers(member, id, all)) answers.push(...part);
    expect(answers).toMatchObject([
      { row: 2, answer: 'taken', order: 'F-1', written: '10.00', currency: 'GBP' },
      {
        row: 3,
        answer: 'refused',
        why: 'It has no click ID. Only rows that name the click can be told to its platform.',
      },
    ]);
  });

  it('tells nobody of those who said no on the website, whatever the file says of all', async () => {
    const { qsid } = await ask({ advertising: 'no' });
    move(time + 120_000);
    const id = await take(`${header}\n${qsid},lease signed,${at(time)},60.00,GBP,H-1,\n`);
    expect((await one(id)).rows).toMatchObject([{ answer: 'taken', standing: expect.stringMatching(/^held/) }]);
  });

  it('forgets whose click and order it was when that person is erased; the amount stays', async () => {
    const { deal, qsid } = await ask();
    await take(`${header}\n${qsid},lease signed,${at(time)},70.00,GBP,G-1,\n`);
    expect(await toldOf('G-1')).toMatchObject([{ worth: 7000 }]);
    const [enquiry] = await rowsOf<{ id: string }>(place.db, 'SELECT enquiry_id AS id FROM deals WHERE number = ?', [
      deal,
    ]);
    await place.services.erase.ofEnquiry(member, enquiry!.id);
    await rest();
    const left = await rowsOf<{ table: string }>(
      place.db,
      `SELECT 'rows' AS \`table\` FROM filed_rows WHERE click_id = ? OR order_id = 'G-1' UNION
       SELECT 'conversions' FROM conversions WHERE order_id = 'G-1' UNION
       SELECT 'report-backs' FROM report_backs WHERE key_value = ? UNION
       SELECT 'outcomes' FROM outcomes WHERE dedupe_key LIKE '%G-1%'`,
      [qsid, qsid],
    );
    expect(left).toEqual([]);
    expect(
      await rowsOf(place.db, "SELECT 1 FROM outcomes WHERE code = 'FLT-SIGNED' AND worth_minor = 7000", []),
    ).toHaveLength(1);
  });
});
