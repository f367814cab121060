import { beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { LeadPullGiven } from '../../src/core/leads/forms-view';
import type { Membership } from '../../src/server/people/people';
import { everything, strandListSchema } from '../../src/core/strands/schema';
import { makeEditor, pollCrm, rowsOf } from './place';
import { crm, deliver, larkmoor, move, outside, place, qualify, rest, time } from './walks';

/* Forms of a platform's own: what people sent there is fetched, handed over to the CRM, followed and told. */

const day = 86_400_000;
let member: Membership;
let account = '';
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  account = (await place.services.accounts.byKey(larkmoor.id, 'tessaloop'))!.id;
});
beforeEach(async () => {
  // Webhooks of the day before are too old to be taken.
  await outside.oakledger.rest();
  outside.webhooks.length = 0;
  move(time + day);
});

/** Fills in Tessaloop's form, as a person does. */
const fillIn = (mail: string, more: Record<string, string> = {}) =>
  outside.tessaloop.app.request('/form/F-1', {
    method: 'POST',
    body: new URLSearchParams({
      name: 'Una Sloan',
      company: 'Sloan Bread',
      telephone: '',
      mail,
      ad: 'rain-still',
      ...more,
    }),
  });
const given = (more: Partial<LeadPullGiven> = {}): LeadPullGiven => ({
  account,
  take: 'all',
  medium: 'paid-social',
  handsOver: true,
  agreed: true,
  ...more,
});
const begin = async (more: Partial<LeadPullGiven> = {}) => {
  await place.services.leadForms.begin(member, 'Owner', given(more));
  await rest();
};
/** Asks the platform again, once it is time to. */
const fetchAgain = async () => {
  move(time + 6 * 60_000);
  await rest();
};
interface Row {
  number: string;
  handed: string;
  deal: string;
  answer: string;
  enquiry: string;
  kept: number;
  fetched: number;
}
const leadOf = async (mail: string): Promise<Row | undefined> => {
  const domain = mail.split('@')[1]!;
  const [row] = await rowsOf<Row>(
    place.db,
    `SELECT p.number, p.handed, p.deal, p.answer, p.enquiry_id AS enquiry, p.answers IS NOT NULL AS kept,
       p.fetched_at IS NOT NULL AS fetched
     FROM platform_leads p JOIN leads l ON l.id = p.lead_id WHERE l.mail_domain = ? ORDER BY p.sent_at DESC`,
    [domain],
  );
  return row;
};
const hopsOf = (enquiry: string) =>
  rowsOf<{ hop: string; state: string; code: string | null }>(
    place.db,
    `SELECT hop, state, JSON_VALUE(reason, '$.code') AS code FROM hops
     WHERE subject_id = ? AND way_in = 'lead_form'
     ORDER BY FIELD(hop, 'sent_there', 'fetched', 'in_crm', 'qualified', 'told', 'confirmed')`,
    [enquiry],
  );
const dealsOf = async (mail: string) => {
  const answer = await outside.oakledger.app.request(`/api/deals?mail=${encodeURIComponent(mail)}`, {
    headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
  });
  return ((await answer.json()) as { deals: { id: string; fields: Record<string, string> }[] }).deals;
};
const crmFault = (kind: string, seconds = 1) =>
  outside.oakledger.app.request('/faults', {
    method: 'POST',
    body: new URLSearchParams({ kind, seconds: String(seconds) }),
  });

describe('leads of a platform’s own forms', () => {
  it('are taken with all that is still kept; what was sent 60 days ago or more is lost, and said to be', async () => {
    await fillIn('gone@early.example');
    move(time + day);
    await fillIn('kept@edge.example');
    // A minute less than 60 days after the second one.
    move(time + 60 * day - 60_000);
    await begin();
    expect(await leadOf('kept@edge.example')).toMatchObject({ fetched: 1, handed: 'made' });
    const view = await place.services.leadForms.view(member);
    expect(view.sentence.title).toBe('The one lead fetched from platforms’ own forms is in the CRM.');
    expect(view.sentence.under).toBe('1 was gone before it was fetched.');
    const gone = view.leads.find(({ state }) => state === 'gone')!;
    expect(await hopsOf(gone.enquiryId)).toEqual([
      { hop: 'sent_there', state: 'made_it', code: null },
      { hop: 'fetched', state: 'lost', code: 'gone_there' },
    ]);
  });

  it('become records of the CRM that carry what they came by, and are told once they qualify', async () => {
    await fillIn('una@sloan.example');
    await fetchAgain();
    await deliver();
    await rest();
    const lead = (await leadOf('una@sloan.example'))!;
    const [deal] = await dealsOf('una@sloan.example');
    expect(deal).toMatchObject({
      id: lead.deal,
      fields: { source: 'tessaloop', medium: 'paid-social', content: 'rain-still', campaign: 'uk-27q1-fleet-wint' },
    });
    expect(deal!.fields.click_id).toMatch(/^tl-/);
    // With the CRM it is the CRM's.
    expect(lead).toMatchObject({ handed: 'made', kept: 0 });
    await outside.oakledger.app.request(`/deals/${deal!.id}/amount`, {
      method: 'POST',
      body: new URLSearchParams({ amount: '540', currency: 'GBP' }),
    });
    await qualify(deal!.id);
    expect((await hopsOf(lead.enquiry)).map(({ hop, state }) => [hop, state])).toEqual([
      ['sent_there', 'made_it'],
      ['fetched', 'made_it'],
      ['in_crm', 'made_it'],
      ['qualified', 'made_it'],
      ['told', 'made_it'],
      ['confirmed', 'made_it'],
    ]);
    const line = await place.services.strands.line(member.business, member.role, {
      range: 'week',
      way: 'lead_form',
      ...everything,
    });
    expect(line.columns.map(({ count }) => count)).toEqual([1, 1, 1, 1, 1, 1]);
    // Its rows stand behind each number, though they are of no click.
    for (const hop of ['sent_there', 'in_crm', 'confirmed'] as const) {
      const asked = strandListSchema.parse({ hop });
      const choice = { range: 'week', way: 'lead_form', ...everything } as const;
      const { total, rows } = await place.services.strands.strands(member.business, member.role, choice, asked);
      expect([hop, total, rows[0]?.enquiryId]).toEqual([hop, 1, lead.enquiry]);
    }
    // Narrowed to where it came from it is the same, though nothing of it ever landed; to another platform it is empty.
    const { campaign } = line.campaigns[0]!;
    const narrowed = async (to: { platform?: string; campaign?: string }) => {
      const choice = { range: 'week', way: 'lead_form', ...everything, ...to } as const;
      const { columns, latest } = await place.services.strands.line(member.business, member.role, choice);
      return [columns[0]!.count, latest.length];
    };
    expect(campaign).toMatch(/^uk-27q1-fleet-/);
    expect(await narrowed({ platform: 'tessaloop', campaign })).toEqual([1, line.latest.length]);
    expect(await narrowed({ platform: 'quillsearch' })).toEqual([0, 0]);
    expect(await place.services.traces.ofEnquiry(member.business, member.role, lead.enquiry)).toMatchObject({
      way: 'lead_form',
      crumb: 'Sloan Bread',
    });
  });

  it('that are tests are kept apart: not counted, not handed over', async () => {
    await fillIn('try@forms.example', { test: 'on' });
    await fetchAgain();
    expect(await leadOf('try@forms.example')).toMatchObject({ handed: 'no', kept: 0, deal: '' });
    expect(await dealsOf('try@forms.example')).toEqual([]);
    const { leads, sentence } = await place.services.leadForms.view(member);
    expect(leads.filter(({ state }) => state === 'test')).toHaveLength(1);
    expect(sentence.under).toContain('1 test lead is left out.');
    const list = await place.services.leads.page(member.business, member.role, {
      find: 'Sloan Bread',
      sort: 'sentAt',
      descending: 'yes',
      page: 1,
      quality: '',
      segment: '',
    });
    expect(list.total).toBe(2);
  });

  it('that staff sent, to try a place that passes no test lead on, are not counted on the line', async () => {
    const countOn = async () =>
      (
        await place.services.strands.line(member.business, member.role, {
          range: 'week',
          way: 'lead_form',
          ...everything,
        })
      ).columns[0]!.count;
    const before = await countOn();
    await fillIn('una@larkmoor.example', { place: 'chat' });
    await fetchAgain();
    await deliver();
    await rest();
    const lead = (await leadOf('una@larkmoor.example'))!;
    expect(lead).toMatchObject({ fetched: 1, handed: 'made' });
    expect(await rowsOf(place.db, 'SELECT marked FROM enquiries WHERE id = ?', [lead.enquiry])).toEqual([
      { marked: 'mail' },
    ]);
    expect(await countOn()).toBe(before);
  });

  it('are fetched twice without being there twice', async () => {
    const count = async () => (await rowsOf(place.db, 'SELECT id FROM platform_leads')).length;
    const before = await count();
    await begin();
    expect(await count()).toBe(before);
  });
});

describe('a CRM that', () => {
  it('is away gets them when it is back', async () => {
    await fillIn('away@moss.example');
    await crmFault('broken');
    await fetchAgain();
    expect(await leadOf('away@moss.example')).toMatchObject({ deal: '', kept: 1 });
    await crmFault('none');
    move(time + 30 * 60_000);
    await pollOakledger();
    move(time + 30 * 60_000);
    await rest();
    expect(await leadOf('away@moss.example')).toMatchObject({ handed: 'made', kept: 0 });
    expect(await dealsOf('away@moss.example')).toHaveLength(1);
  });

  it('made a record though its answer was lost makes no second one', async () => {
    await fillIn('twice@moss.example');
    await crmFault('lost');
    await fetchAgain();
    expect(await leadOf('twice@moss.example')).toMatchObject({ handed: 'asked', deal: '', kept: 1 });
    await crmFault('none');
    expect(await dealsOf('twice@moss.example')).toHaveLength(1);
    outside.webhooks.length = 0;
    move(time + 30 * 60_000);
    await pollOakledger();
    move(time + 30 * 60_000);
    await rest();
    expect(await dealsOf('twice@moss.example')).toHaveLength(1);
    expect(await leadOf('twice@moss.example')).toMatchObject({ deal: expect.stringMatching(/^D-/) as string, kept: 0 });
  });

  it('refuses one is asked for it again once somebody says so', async () => {
    await fillIn('no@osier.example');
    await place.db.query("UPDATE accounts SET endpoint = CONCAT(endpoint, '/nowhere') WHERE `key` = 'oakledger'");
    await fetchAgain();
    expect(await leadOf('no@osier.example')).toMatchObject({ handed: 'refused', kept: 1 });
    const { leads, sentence, refused } = await place.services.leadForms.view(member);
    expect(refused).toBe(1);
    expect(leads.find(({ state }) => state === 'refused')?.said).toContain('404');
    expect(sentence.under).toContain('The CRM refused 1.');
    await place.db.query("UPDATE accounts SET endpoint = REPLACE(endpoint, '/nowhere', '') WHERE `key` = 'oakledger'");
    await place.services.leadForms.askAgain(member);
    await rest();
    expect(await leadOf('no@osier.example')).toMatchObject({ handed: 'made', kept: 0 });
    expect(await dealsOf('no@osier.example')).toHaveLength(1);
  });

  it('gets them by itself has its records joined by email to what was sent', async () => {
    await begin({ handsOver: false });
    await fillIn('own@rook.example');
    await fetchAgain();
    expect(await leadOf('own@rook.example')).toMatchObject({ handed: 'no', deal: '', kept: 1 });
    move(time + 60_000);
    const person = { name: 'Una Sloan', mail: 'Own@rook.example', telephone: '', company: 'Sloan Bread' };
    const made = await crm('/api/deals', { person, fields: {}, amounts: {} });
    const { id } = (await made.json()) as { id: string };
    await deliver();
    await rest();
    const lead = (await leadOf('own@rook.example'))!;
    expect(lead).toMatchObject({ deal: id, kept: 0 });
    // The record lacks what it came by: that is lost there, and can be put back.
    expect((await hopsOf(lead.enquiry)).slice(0, 3)).toEqual([
      { hop: 'sent_there', state: 'made_it', code: null },
      { hop: 'fetched', state: 'made_it', code: null },
      { hop: 'in_crm', state: 'lost', code: 'crm_value_empty' },
    ]);
  });
});

describe('an account', () => {
  it('that is fetched from now on leaves what was sent before', async () => {
    await place.services.leadForms.end(member, account);
    await fillIn('before@quay.example');
    move(time + 60_000);
    await begin({ take: 'new' });
    await fillIn('after@linnet.example');
    await fetchAgain();
    expect(await leadOf('before@quay.example')).toBeUndefined();
    expect(await leadOf('after@linnet.example')).toMatchObject({ fetched: 1 });
  });

  it('is not fetched any more once somebody ends it', async () => {
    await place.services.leadForms.end(member, account);
    await fillIn('never@knapp.example');
    await fetchAgain();
    expect(await leadOf('never@knapp.example')).toBeUndefined();
  });

  it('has our tags put on the links of its forms beside those that are there, once', async () => {
    await begin();
    const before = await place.services.leadForms.links(member, account);
    expect(before.map(({ becomes }) => new URL(becomes).search)).toEqual([
      '?utm_source=tessaloop&utm_medium=paid-social&utm_campaign=~campaign-name~&utm_content=~ad-name~',
      '?utm_content=thank-you&utm_source=tessaloop&utm_medium=paid-social&utm_campaign=~campaign-name~',
    ]);
    expect(before[1]!.becomes).toMatch(/#contents$/);
    const after = await place.services.leadForms.tagLinks(member, account);
    expect(after.map(({ link }) => link)).toEqual(before.map(({ becomes }) => becomes));
    expect(after.every(({ link, becomes }) => link === becomes)).toBe(true);
  });

  it('is set up by who may edit, and of one’s own business only', async () => {
    const reader: Membership = { ...member, role: { ...member.role, role: 'reader' } };
    await expect(place.services.leadForms.begin(reader, 'R', given())).rejects.toMatchObject({
      code: 'AVX_ROLE_TOO_SMALL',
    });
    await expect(place.services.leadForms.begin(member, 'O', given({ account: larkmoor.id }))).rejects.toMatchObject({
      code: 'AVX_NOT_FOUND',
    });
  });
});

async function pollOakledger(): Promise<void> {
  const crmAccount = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
  await pollCrm(place.services, larkmoor.id, crmAccount.id);
  await rest();
}
