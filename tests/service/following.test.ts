import { describe, expect, it } from 'vitest';
import { day, idAt, makeEditor, rowsOf } from './place';
import {
  outside,
  place,
  larkmoor,
  visitors,
  time,
  move,
  rest,
  crm,
  deliver,
  ask,
  qualify,
  strandOf,
  reportBackOf,
  countOf,
  takenBy,
} from './walks';

describe('one click becomes one confirmed report-back', () => {
  it('hop by hop, with the worth of the deal times the win rate', async () => {
    const { deal, qsid } = await ask();
    expect(await strandOf(qsid)).toMatchObject({ reached: 5, state: 'waiting' });
    await qualify(deal);
    expect(await strandOf(qsid)).toMatchObject({ reached: 8, state: null });
    const [outcome] = await rowsOf<{ worth_minor: number; currency: string; win_rate: string }>(
      place.db,
      "SELECT worth_minor, currency, CONCAT(win_rate_won, ' of ', win_rate_of) AS win_rate FROM outcomes",
    );
    expect({ ...outcome, worth_minor: Number(outcome!.worth_minor) }).toEqual({
      worth_minor: 13_500,
      currency: 'GBP',
      win_rate: '1 of 4',
    });
    expect(await takenBy()).toBe(1);
  });

  it('once, although the webhook came twice, the deal went back and forth, and a later stage followed', async () => {
    const { deal, qsid } = await ask();
    await qualify(deal);
    const taken = await takenBy();
    const outcomes = await countOf('outcomes');
    await crm(`/api/deals/${deal}/stage`, { stage: 'Spoken' });
    await outside.oakledger.rest();
    outside.webhooks.push(...outside.webhooks);
    await deliver();
    await rest();
    await qualify(deal);
    await qualify(deal, 'Offer');
    expect([await takenBy(), await countOf('outcomes')]).toEqual([taken, outcomes]);
    expect(await strandOf(qsid)).toMatchObject({ reached: 8 });
    expect(await rowsOf(place.db, 'SELECT crm_event FROM crm_events GROUP BY crm_event HAVING COUNT(*) > 1')).toEqual(
      [],
    );
  });

  it('also where its stage was passed over', async () => {
    const { deal, qsid } = await ask();
    await qualify(deal, 'Offer');
    expect(await strandOf(qsid)).toMatchObject({ reached: 8 });
  });
});

describe('where the value is lost', () => {
  it('by an address of one’s own is no customer’s only from the release on that says so', async () => {
    const { deal } = await ask();
    const n = visitors;
    const { content } = await place.services.releases.live(larkmoor.id);
    const noCustomer = { ...content.noCustomer, mailDomains: ['oriel.example'] };
    await place.services.releases.make(larkmoor.id, { name: 'Our own', note: '', content: { ...content, noCustomer } });
    await qualify(deal);
    // Both sides of the enquiry judge it alike, or they would call each other for ever.
    await place.services.runner.runToRest();
    const [row] = await rowsOf<{ marked: string }>(
      place.db,
      'SELECT marked FROM enquiries WHERE id = (SELECT enquiry_id FROM deals WHERE number = ?)',
      [deal],
    );
    expect([row, n]).toEqual([{ marked: '' }, visitors]);
    await place.services.releases.make(larkmoor.id, { name: 'As before', note: '', content });
  });

  it('of somebody who said no to advertising is held, and told to nobody', async () => {
    const { deal, qsid } = await ask({ advertising: 'no' });
    const before = await takenBy();
    await qualify(deal);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'held', reason: { code: 'no_consent' } });
    expect(await takenBy()).toBe(before);
  });

  it('of somebody who took it back before it was told is held too', async () => {
    const { deal, qsid, visitor } = await ask({ advertising: 'yes' });
    const hit = {
      id: idAt(time + 5, 60_000),
      at: time + 5,
      release: 1,
      visitor,
      visit: visitor,
      referrer: '',
      address: 'http://larkmoor.localhost/fleet',
      kept: { works: true, first: null, last: null, clicks: [] },
      kind: 'consent',
      consent: { measurement: 'no', advertising: 'no' },
    };
    expect(await place.services.collect(larkmoor.known, JSON.stringify({ clock: time, hits: [hit] }))).toEqual([]);
    await rest();
    await qualify(deal);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'held', reason: { code: 'no_consent' } });
  });

  it('a deal that leaves the stage within the delay is not told; one that comes back is', async () => {
    const { content } = await place.services.releases.live(larkmoor.id);
    const telling = content.telling.map((rule) => ({ ...rule, delayMinutes: 60 }));
    await place.services.releases.make(larkmoor.id, { name: 'An hour', note: '', content: { ...content, telling } });
    const { deal, qsid } = await ask();
    const before = await takenBy();
    await qualify(deal);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'waiting' });
    await qualify(deal, 'Not this time');
    const leftFor = 'Not this time';
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'held', reason: { code: 'left_stage', leftFor } });
    move(time + 2 * 3_600_000);
    await rest();
    expect(await takenBy()).toBe(before);
    await qualify(deal, 'Offer');
    move(time + 2 * 3_600_000);
    await rest();
    expect(await takenBy()).toBe(before + 1);
    await place.services.releases.make(larkmoor.id, { name: 'At once again', note: '', content });
  });

  it('the call-back form’s field dies in the CRM, which is named, and its report-back is held', async () => {
    const { deal, qsid } = await ask({ form: 'call-back' });
    const lost = await strandOf(qsid);
    expect(lost).toMatchObject({ reached: 4, state: 'lost' });
    expect(JSON.parse(lost!.reason!)).toEqual({
      code: 'crm_field_differs',
      form: 'call-back',
      sent: 'click_ref',
      read: 'click_id',
    });
    await qualify(deal);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'held', reason: { code: 'no_click_in_crm' } });
    expect(await strandOf(qsid)).toMatchObject({ reached: 4, state: 'lost' });
  });

  it('a click that the platform does not know is refused, and lost at Confirmed', async () => {
    const { deal, qsid } = await ask({ clickId: 'Qz-of-another-account' });
    await qualify(deal);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'refused' });
    const strand = await strandOf(qsid);
    expect([strand!.reached, strand!.state, JSON.parse(strand!.reason!).answer]).toEqual([7, 'lost', 'no such click']);
  });

  it('a form that never reaches the CRM is lost after a day', async () => {
    const { qsid } = await ask({ reaches: false });
    expect(await strandOf(qsid)).toMatchObject({ reached: 4, state: 'waiting' });
    move(time + day + 1);
    await rest();
    const strand = await strandOf(qsid);
    expect([strand!.reached, strand!.state, JSON.parse(strand!.reason!).code]).toEqual([4, 'lost', 'crm_never']);
  });
});

describe('joining an enquiry to its visit', () => {
  it('goes by the click ID where the CRM has no lead token', async () => {
    const { deal } = await ask({ token: false });
    const [row] = await rowsOf<{ joined_by: string }>(
      place.db,
      'SELECT joined_by FROM enquiries WHERE id = (SELECT enquiry_id FROM deals WHERE number = ?)',
      [deal],
    );
    expect(row!.joined_by).toBe('click ID');
  });

  it('leaves a deal without any trace of a visit beside the line', async () => {
    const made = await crm('/api/deals', {
      person: { name: 'Teun', mail: 'teun@vetch.example', telephone: '', company: 'Vetch' },
      fields: {},
      amounts: {},
    });
    const { id } = (await made.json()) as { id: string };
    await deliver();
    await rest();
    const [row] = await rowsOf<{ kind: string }>(
      place.db,
      'SELECT s.kind FROM deals d JOIN enquiries e ON e.id = d.enquiry_id JOIN strands s ON s.id = e.strand_id WHERE d.number = ?',
      [id],
    );
    expect(row!.kind).toBe('enquiry');
  });

  it('says of an enquiry that is listed but not followed yet that it is being followed', async () => {
    const made = await crm('/api/deals', {
      person: { name: 'Fenna', mail: 'fenna@sorrel.example', telephone: '', company: 'Sorrel' },
      fields: {},
      amounts: {},
    });
    const { id: deal } = (await made.json()) as { id: string };
    await deliver();
    await rest();
    const { member } = await makeEditor(place.services, larkmoor.id);
    const [enquiry] = await rowsOf<{ id: string }>(place.db, 'SELECT enquiry_id AS id FROM deals WHERE number = ?', [
      deal,
    ]);
    const open = () => place.services.traces.ofEnquiry(member.business, member.role, enquiry!.id);
    expect(await open()).toMatchObject({ crumb: 'Sorrel' });
    // As it stands between the job that takes the CRM's word and the one that follows the enquiry.
    await place.db.query('UPDATE enquiries SET strand_id = NULL WHERE id = ?', { replacements: [enquiry!.id] });
    await expect(open()).rejects.toMatchObject({ code: 'AVX_ENQUIRY_NEW' });
  });
});
