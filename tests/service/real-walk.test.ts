import { expect, describe, it, beforeAll } from 'vitest';
import type { Hit } from '../../src/core/capture';
import type { Membership } from '../../src/server/people/people';
import { idAt, makeEditor } from './place';
import { countOf, crm, deliver, larkmoor, outside, place, rest, time } from './walks';

/* Somebody walks it for real: in a trial, with a form whose record the CRM really makes. */

let member: Membership;
let forms = 0;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
});

/** Opens a page and sends a form in a trial's tab. @returns the deal that the CRM made of it */
async function walk(): Promise<string> {
  forms += 1;
  const leadToken = idAt(time, 9000 + forms);
  const { realWalk, trials } = place.services;
  const begun = await realWalk.begin(member);
  const link = new URL(begun.isOn ? begun.link : '');
  const { tab } = (await trials.rules(larkmoor.id, link.searchParams.get('avx_try')!))!;
  const click = { platform: 'quillsearch', clickId: `Qs-real-${forms}`, at: time };
  const common = {
    release: 1,
    visitor: idAt(time, 8000 + forms),
    visit: idAt(time, 8000 + forms),
    referrer: '',
    address: `${link.origin}/fleet?qsid=Qs-real-${forms}`,
    kept: { works: true, first: null, last: null, clicks: [click] },
  };
  const fills = [
    { rule: 'x', field: 'click_id', near: '', state: 'filled', reading: 'click_id', value: click.clickId },
  ];
  const hits = [
    {
      ...common,
      id: idAt(time, 100 + 2 * forms),
      at: time,
      kind: 'arrived',
      navigation: 'navigate',
      why: 'click_id_new',
    },
    {
      ...common,
      id: idAt(time + 1, 101 + 2 * forms),
      at: time + 1,
      kind: 'form_sent',
      form: 'test-ride',
      leadToken,
      fields: ['click_id'],
      fills,
    },
  ] as Hit[];
  await trials.take(larkmoor.id, tab, JSON.stringify({ clock: time, hits }));
  const made = await crm('/api/deals', {
    person: { name: 'A walker', mail: `walker${forms}@larkmoor.example`, telephone: '', company: 'Larkmoor' },
    fields: { click_id: click.clickId, avx_lead: leadToken },
    amounts: { lease_profit: { amount: '540', currency: 'GBP' } },
  });
  const { id } = (await made.json()) as { id: string };
  await deliver();
  await rest();
  return id;
}
const dealAt = async (deal: string) =>
  (
    await outside.oakledger.app.request(`/api/deals/${deal}`, {
      headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
    })
  ).status;

describe('a real walk', () => {
  it('ticks each hop up to the CRM and what would be told, and counts and tells nothing', async () => {
    const deal = await walk();
    await crm(`/api/deals/${deal}/stage`, { stage: 'Fleet assessed' });
    await deliver();
    await rest();
    const view = await place.services.realWalk.view(member);
    if (!view.isOn) throw new Error('the walk goes on');
    expect(view.trace!.hops.slice(0, 7).map(({ state }) => state)).toEqual(Array(7).fill('made_it'));
    const said = view.happened.map(({ text }) => text).join(' ');
    expect(said).toContain(`The CRM made the record \`${deal}\`.`);
    expect(said).toContain('would be told `FLT-QUAL` by the click ID');
    const [enquiry] = await place.services.context.tables.enquiries.findAll({ raw: true });
    expect((enquiry as unknown as { marked: string }).marked).toBe('browser');
    expect([await countOf('outcomes'), await countOf('report_backs'), await countOf('hits')]).toEqual([0, 0, 0]);
  });

  it('is cleaned up: the record in the CRM, and all that was stored of it', async () => {
    const [row] = await place.services.context.tables.deals.findAll({ raw: true });
    const { number } = row as unknown as { number: string };
    const { cleaned, left } = await place.services.realWalk.end(member);
    expect([cleaned.length, left]).toEqual([2, []]);
    expect(await dealAt(number)).toBe(404);
    const tables = ['enquiries', 'deals', 'leads', 'identities', 'hops', 'strands', 'trial_hits'];
    expect(await Promise.all(tables.map(countOf))).toEqual(tables.map(() => 0));
    expect(await place.services.realWalk.view(member)).toEqual({ isOn: false });
  });

  it('whose record was taken out by hand is cleaned up all the same; one that the CRM keeps stays marked', async () => {
    const gone = await walk();
    const headers = { authorization: `Bearer ${outside.around.key('oakledger token')}` };
    await outside.oakledger.app.request(`/api/deals/${gone}`, { method: 'DELETE', headers });
    expect((await place.services.realWalk.end(member)).left).toEqual([]);
    expect(await countOf('enquiries')).toBe(0);

    const kept = await walk();
    const account = (await place.services.accounts.byKey(larkmoor.id, 'oakledger'))!;
    const { tables } = place.services.context;
    await tables.accounts.update({ endpoint: 'http://nobody.example' }, { where: { id: account.id } });
    const { left } = await place.services.realWalk.end(member);
    expect(left).toHaveLength(1);
    expect(left[0]).toContain(`The record \`${kept}\` stays in`);
    const [row] = await tables.enquiries.findAll({ raw: true });
    expect((row as unknown as { marked: string }).marked).toBe('browser');
  });
});
