import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, pollCrm, rowsOf } from './place';
import { letters, onForm, begin, step, mails } from './routine-walks';
import { ask, crm, deliver, larkmoor, move, place, qualify, rest, time } from './walks';

/* A person is erased everywhere; what counts stays without them, and nothing brings them back. */

const day = 86_400_000;
let member: Membership;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id, 'Maud'));
});

/** Columns of all tables, and files, in which a text stands. */
async function placesOf(text: string): Promise<string[]> {
  const columns = await rowsOf<{ t: string; c: string }>(
    place.db,
    `SELECT TABLE_NAME AS t, COLUMN_NAME AS c FROM information_schema.COLUMNS
     WHERE TABLE_SCHEMA = DATABASE() AND GENERATION_EXPRESSION IS NULL`,
  );
  const found: string[] = [];
  for (const { t, c } of columns) {
    const [row] = await rowsOf<{ n: number }>(
      place.db,
      `SELECT COUNT(*) AS n FROM \`${t}\` WHERE CAST(\`${c}\` AS CHAR) LIKE ?`,
      [`%${text}%`],
    );
    if (row!.n > 0) found.push(`${t}.${c}`);
  }
  const spool = join(place.services.config.dataDir, 'spool');
  for (const file of readdirSync(spool))
    if (readFileSync(join(spool, file), 'latin1').includes(text)) found.push(`spool/${file}`);
  return found;
}
const enquiryOf = async (deal: string) =>
  (
    await rowsOf<{ id: string; lead: string; token: string; visitor: string; strand: string }>(
      place.db,
      `SELECT e.id, e.lead_id AS lead, e.lead_token AS token, e.visitor_id AS visitor, e.strand_id AS strand
       FROM deals d JOIN enquiries e ON e.id = d.enquiry_id WHERE d.number = ?`,
      [deal],
    )
  )[0]!;
const sums = async () =>
  (
    await rowsOf(
      place.db,
      `SELECT COUNT(*) AS outcomes, SUM(worth_minor) AS worth,
         (SELECT COUNT(*) FROM enquiries) AS enquiries, (SELECT COUNT(*) FROM strands) AS strands,
         (SELECT COUNT(*) FROM strands WHERE campaign = 'uk-27q1-fleet-winterproof') AS ofCampaign,
         (SELECT COUNT(*) FROM hops WHERE state = 'made_it') AS hops FROM outcomes`,
    )
  )[0];

describe('Who is erased', () => {
  it('stands nowhere any more, while outcomes, amounts and the line stay', async () => {
    await begin('Emails', [step({ mail: mails.ride })], onForm('test-ride'));
    const walk = await ask();
    await qualify(walk.deal);
    await ask();
    expect((await letters()).length).toBeGreaterThan(0);
    const { id, token, visitor } = await enquiryOf(walk.deal);
    const [lead] = await rowsOf<{ name: string; company: string }>(
      place.db,
      'SELECT l.name, l.company FROM leads l JOIN deals d ON d.lead_id = l.id WHERE d.number = ?',
      [walk.deal],
    );
    const before = await sums();
    // Something of theirs is still on its way.
    const late = { release: 1, visitor, visit: visitor, address: 'http://larkmoor.localhost/care', referrer: '' };
    const hit = { ...late, id: visitor.replace(/^.{8}/, '018f3c1e'), at: time, kind: 'seen', kept: { works: true } };
    await place.services.collect(larkmoor.known, JSON.stringify({ clock: time, hits: [hit] }));
    for (const text of [lead!.name, walk.qsid, token, visitor, walk.deal])
      expect(await placesOf(text), text).not.toEqual([]);

    const erased = await place.services.erase.ofEnquiry(member, id);
    expect(erased.words).toMatch(/^1 enquiry, 1 record, 1 deal, 1 visit, \d hits? and 1 email$/);
    await rest();
    for (const text of [lead!.name, lead!.company, walk.qsid, token, visitor, walk.deal])
      expect(await placesOf(text), text).toEqual([]);
    expect(await sums()).toEqual(before);
    const changes = await place.services.changes.page(member, {
      find: 'A person',
      kind: '',
      page: 1,
      descending: 'yes',
    });
    expect(changes.rows[0]).toMatchObject({ was: erased.words, by: 'Maud', became: expect.stringContaining('erased') });
    const trace = await place.services.traces.ofEnquiry(member.business, member.role, id);
    expect(trace.card.title).toBe('erased');
    await expect(place.services.erase.ofEnquiry(member, id)).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
  });

  it('is not brought back by a webhook, a poll, a page that sends late, or following', async () => {
    const walk = await ask();
    const { id, visitor } = await enquiryOf(walk.deal);
    move(time + 60_000);
    await place.services.erase.ofEnquiry(member, id);
    const before = await sums();
    // The CRM goes on with the record, as it was not told.
    await crm(`/api/deals/${walk.deal}/stage`, { stage: 'Signed' });
    await deliver();
    await rest();
    const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
    await place.db.query('UPDATE polls SET polled_to = ?', { replacements: [new Date(time - day)] });
    await pollCrm(place.services, larkmoor.id, account.id);
    const early = { release: 1, visitor, visit: visitor, address: 'http://larkmoor.localhost/care', referrer: '' };
    const hit = {
      ...early,
      id: visitor.replace(/^.{8}/, '018f3c1d'),
      at: time - 120_000,
      kind: 'seen',
      kept: { works: true },
    };
    await place.services.collect(larkmoor.known, JSON.stringify({ clock: time, hits: [hit] }));
    await rest();
    expect(await sums()).toEqual(before);
    expect(await placesOf(visitor)).toEqual([]);
    expect(await placesOf(walk.deal)).not.toContain('deals.number');
  });

  it('leaves whoever enquired from the same browser', async () => {
    const [one, other] = [await ask(), await ask()];
    const [first, second] = [await enquiryOf(one.deal), await enquiryOf(other.deal)];
    await place.db.query('UPDATE enquiries SET visitor_id = ? WHERE id = ?', {
      replacements: [second.visitor, first.id],
    });
    const erased = await place.services.erase.ofEnquiry(member, first.id);
    expect(erased.sharedBrowsers).toBe(1);
    expect(await placesOf(second.visitor)).toContain('hits.visitor_id');
    expect(await placesOf(other.qsid)).toContain('strands.click_id');
  });

  it('can be erased only by who may change leads and see people', async () => {
    const { deal } = await ask();
    const { id } = await enquiryOf(deal);
    const blind = { ...member, role: { ...member.role, seesPeople: false } };
    await expect(place.services.erase.ofEnquiry(blind, id)).rejects.toMatchObject({ code: 'AVX_ROLE_TOO_SMALL' });
  });
});
