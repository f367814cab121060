import { beforeAll, describe, expect, it } from 'vitest';
import type { ImportHow } from '../../src/core/leads/imports-view';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { ask, crm, deliver, larkmoor, move, outside, place, qualify, rest, time } from './walks';

/* Leads that somebody brings in: from a list, or by hand. */

let member: Membership;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
});

const how: ImportHow = { list: 'Cargo fair', handsOver: 'no', agreed: 'yes', platform: '' };
const bring = (text: string, given: Partial<ImportHow> = {}) =>
  place.services.imports.readFile(
    member,
    { ...how, ...given },
    new Request('http://avrix.localhost/', { method: 'POST', body: text }),
  );
const listOf = async (name: string) =>
  (await place.services.imports.view(member)).lists.find((list) => list.name === name);
const enquiries = (list: string) =>
  rowsOf<{ id: string; strand: string; quality: string; source: string | null; company: string }>(
    place.db,
    `SELECT e.id, e.strand_id AS strand, e.quality, t.source, l.company FROM enquiries e
     LEFT JOIN touches t ON t.id = e.touch_id LEFT JOIN leads l ON l.id = e.lead_id
     WHERE e.way_in = 'import' AND e.form = ? ORDER BY e.sent_at`,
    [list],
  );
const hopsOf = (enquiry: string) =>
  rowsOf<{ hop: string; state: string }>(
    place.db,
    "SELECT hop, state FROM hops WHERE subject_id = ? AND hop <> 'onward' ORDER BY at",
    [enquiry],
  );

describe('A list', () => {
  it('is brought in by what its columns are called; rows that cannot be read are named, and the rest goes on', async () => {
    const done = await bring(
      [
        'Company,Contact,Email,Phone,Date,Source,Medium,Campaign,Shoe size',
        'Quince Wheels,Ines Quince,ines@quince.example,01632 960123,2027-02-01,cargo-fair,fair,uk-27q1-fleet-winterproof,41',
        'Nobody,,,,2027-02-01,cargo-fair,fair,,',
        'Rue Bakery,Bo Rue,bo at rue,,2027-02-01,cargo-fair,fair,,',
        'Sedge & Co,Cal Sedge,cal@sedge.example,,soon,cargo-fair,fair,,',
        'Tansy Parcels,Di Tansy,di@tansy.example,,2027-02-02,,,,',
      ].join('\n'),
    );
    expect(done).toMatchObject({ taken: 2, known: 0, notRead: ['shoe size'] });
    expect(done.refused.map(({ row }) => row)).toEqual(['row 3', 'row 4', 'row 5']);
    await rest();
    expect(await enquiries('Cargo fair')).toMatchObject([
      { company: 'Quince Wheels', source: 'cargo-fair', quality: 'unanswered' },
      { company: 'Tansy Parcels', source: null },
    ]);
    const trace = await place.services.traces.ofEnquiry(
      member.business,
      member.role,
      (await enquiries('Cargo fair'))[0]!.id,
    );
    expect(trace.events.map(({ text }) => text)).toContain('Brought in from “Cargo fair”');
  });

  it('is known when it is brought in again, and nothing of it is changed', async () => {
    const text =
      'id,company,name,email\n1,Vetch Florists,Eve Vetch,eve@vetch.example\n2,Yarrow Bread,Flo Yarrow,flo@yarrow.example';
    expect(await bring(text, { list: 'Older list' })).toMatchObject({ taken: 2, known: 0 });
    expect(await bring(text.replace('Eve Vetch', 'Eva Vetch'), { list: 'Older list' })).toMatchObject({
      taken: 0,
      known: 2,
    });
    await rest();
    expect(await listOf('Older list')).toMatchObject({ leads: 2, inCrm: 0 });
  });

  it('names its click IDs as not read where nobody says whose they are, and takes those of known platforms alone', async () => {
    const text = 'email,click_id\nkit@vale.example,Qs1';
    expect(await bring(text, { list: 'Whose' })).toMatchObject({ taken: 1, notRead: ['click_id'] });
    await expect(bring(text, { list: 'Whose', platform: 'nobody' })).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG' });
  });

  it('is refused as a whole where no column says who somebody is', async () => {
    await expect(bring('colour,size\nred,1')).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG' });
  });
});

describe('An imported lead', () => {
  it('is handed over to the CRM, carries its click there, qualifies, and is told', async () => {
    const { headers } = await outside.quillsearch.app.request('/click/uk-27q1-fleet-winterproof.hill-video');
    const qsid = new URL(headers.get('location')!).searchParams.get('qsid')!;
    move(time + 60_000);
    const when = new Date(time).toISOString().slice(0, 16);
    await bring(`company,name,email,date,click_id\nOsier Couriers,Gus Osier,gus@osier.example,${when},${qsid}`, {
      list: 'With clicks',
      handsOver: 'yes',
      platform: 'quillsearch',
    });
    await rest();
    await deliver();
    await rest();
    expect(await listOf('With clicks')).toMatchObject({ leads: 1, inCrm: 1, waiting: 0 });
    const [one] = await enquiries('With clicks');
    const [deal] = await rowsOf<{ number: string }>(place.db, 'SELECT number FROM deals WHERE enquiry_id = ?', [
      one!.id,
    ]);
    await qualify(deal!.number);
    await rest();
    const hops = await hopsOf(one!.id);
    expect(hops).toContainEqual({ hop: 'imported', state: 'made_it' });
    expect(hops).toContainEqual({ hop: 'in_crm', state: 'made_it' });
  });

  it('is joined to the record that sales makes by hand, by its email', async () => {
    await bring('company,name,email,date\nMarram Bikes,Hal Marram,hal@marram.example,2027-02-01', { list: 'By email' });
    await rest();
    await crm('/api/deals', {
      person: { name: 'Hal Marram', mail: 'hal@marram.example', telephone: '', company: 'Marram Bikes' },
      fields: {},
      amounts: {},
    });
    await deliver();
    await rest();
    expect(await listOf('By email')).toMatchObject({ leads: 1, inCrm: 1 });
  });

  it('is typed in by hand, what is wrong named at its field, and not twice', async () => {
    const given = {
      ...how,
      list: 'By hand',
      name: 'Ida Fennel',
      company: 'Fennel & Daughters',
      mail: 'ida at fennel',
      telephone: '',
      enquiredAt: '2027-02-01 10:00',
      source: 'letter',
      medium: 'letter',
      campaign: '',
      content: '',
      clickId: '',
    };
    await expect(place.services.imports.add(member, given)).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG' });
    const right = { ...given, mail: 'ida@fennel.example' };
    await place.services.imports.add(member, right);
    await expect(place.services.imports.add(member, right)).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG' });
    expect(await listOf('By hand')).toMatchObject({ leads: 1 });
  });

  it('stays erased when its list is brought in again', async () => {
    const text = 'company,name,email\nWren Deliveries,Jo Wren,jo@wren.example';
    await bring(text, { list: 'Erased' });
    await rest();
    const [one] = await enquiries('Erased');
    await place.services.erase.ofEnquiry(member, one!.id);
    expect(await bring(text, { list: 'Erased' })).toMatchObject({ taken: 0, erased: 1 });
    await rest();
    expect((await enquiries('Erased'))[0]!.company).toBeNull();
    await ask();
  });
});
