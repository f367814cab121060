import { describe, expect, it } from 'vitest';
import { makeEditor } from './place';
import { ask, larkmoor, place, qualify } from './walks';

/* Anything of a business, found by what somebody pastes; its answer stands in the row. */

type Member = Awaited<ReturnType<typeof makeEditor>>['member'];
let editor: Member | undefined;
const memberOf = async () => (editor ??= (await makeEditor(place.services, larkmoor.id)).member);
const find = async (text: string, role: Partial<Member['role']> = {}) => {
  const member = await memberOf();
  const { rows } = await place.services.find({ ...member, role: { ...member.role, ...role } }, text);
  return rows;
};
const shown = async (...asked: Parameters<typeof find>) =>
  (await find(...asked)).map(({ kind, title, answer, standing }) => [kind, title, answer, standing].join(' | '));

describe('somebody who enquired', () => {
  it('is found by email, name, company, CRM number and click ID, and the row says where from and how far', async () => {
    const { deal, qsid } = await ask();
    await qualify(deal);
    const row = ['lead | Bakery 1 · Anna 1 | Paid search on Quillsearch | Confirmed'];
    expect(await shown(' ANNA1@oriel.example ')).toEqual(row);
    expect(await shown('anna 1')).toEqual(row);
    expect(await shown('bakery 1')).toEqual(row);
    expect(await shown(deal)).toEqual(row);
    // The click is the lead's, and stands there once.
    expect(await shown(qsid)).toEqual(row);
    const [found] = await find(qsid);
    expect(found!.path).toMatch(/^\/leads\/[0-9a-f-]{36}$/);
    expect(found!.isLost).toBe(false);
  });

  it('whose click ID was lost is said to be, with the reason', async () => {
    const { qsid } = await ask({ form: 'call-back' });
    const [row] = await find(qsid);
    expect(row).toMatchObject({ kind: 'lead', isLost: true });
    expect(row!.standing).toMatch(/^Form sent, .+/);
  });

  it('is found by nothing that says who it is, by somebody who may not see people', async () => {
    const blind = { seesPeople: false };
    const { qsid } = await ask();
    expect(await shown('anna3@oriel.example', blind)).toEqual([]);
    expect(await shown('Bakery 3', blind)).toEqual([]);
    expect((await find(qsid, blind)).map(({ title }) => title)).toEqual(['name hidden']);
  });
});

describe('what is no person', () => {
  it('is found too: a click of which no enquiry came, by its whole click ID', async () => {
    const { qsid } = await ask({ reaches: false });
    expect((await find(qsid)).map(({ kind }) => kind)).toEqual(['lead']);
    await place.services.context.tables.enquiries.destroy({ where: { businessId: larkmoor.id, leadId: null } });
    expect(await shown(qsid)).toEqual([
      `click | Click \`${qsid}\` | Paid search on Quillsearch, \`uk-27q1-fleet-winterproof\` | of Quillsearch`,
    ]);
    expect(await shown(qsid.slice(0, -1))).toEqual([]);
  });

  it('is not everything where somebody types what SQL reads as anything', async () => {
    expect(await find('%%')).toEqual([]);
    expect(await find('__')).toEqual([]);
  });
});

describe('a campaign', () => {
  it('comes before the leads it brought where the text is its whole name, and after them where it only holds it', async () => {
    await ask();
    const at = new Date();
    const of = { businessId: larkmoor.id, startsOn: null, endsOn: null, budgetMinor: null, currency: 'GBP', owner: '' };
    const rest = { note: '', crmAccount: null, crmId: null, crmType: '', madeAt: at, changedAt: at, retiredAt: null };
    await place.services.context.tables.campaigns.create({
      ...{ ...of, ...rest, id: larkmoor.id, name: 'uk-27q1-fleet-winterproof', friendly: 'Winterproof, winter' },
      stage: 'asking',
    } as never);
    const kinds = async (text: string) => [...new Set((await find(text)).map(({ kind }) => kind))];
    expect((await kinds('UK-27q1-fleet-winterproof'))[0]).toBe('campaign');
    expect((await kinds('Winterproof, winter'))[0]).toBe('campaign');
    expect(await kinds('winterproof')).toEqual(['lead', 'campaign']);
  });
});
