import { beforeAll, expect, it } from 'vitest';
import { costQuerySchema, type CostView } from '../../src/core/results/cost-view';
import { figuresQuerySchema } from '../../src/core/results/figures-view';
import { makeEditor, rowsOf } from './place';
import { ask, larkmoor, move, outside, place, rest, time } from './walks';

/* What ads cost: read from the account's own report and from files, as the business counts it. */

const day = 86_400_000;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  for (let i = 0; i < 3; i++) {
    await ask();
    move(time + day);
  }
  await rest();
});
const parse = (given: Record<string, string>) => costQuerySchema.parse(given);
const view = (given: Record<string, string> = {}): Promise<CostView> =>
  place.services.cost.view(member, parse({ range: 'weeks4', ...given }));
const figures = async (count: string, by: string, more: Record<string, string> = {}) =>
  place.services.figures.view(
    member,
    figuresQuerySchema.parse({ count, by, range: 'weeks4', against: 'none', ...more }),
  );
/** What Quillsearch itself says was spent, in cents. */
async function spent(): Promise<number> {
  const answer = await outside.quillsearch.app.request('/api/report/spend?from=2027-01-01&to=2027-12-31', {
    headers: { authorization: `Bearer ${outside.around.key('quillsearch token')}` },
  });
  const { rows } = (await answer.json()) as { rows: { spend_cents: number }[] };
  return rows.reduce((sum, { spend_cents: cents }) => sum + cents, 0);
}

it('is read from the account, left out without a rate, and exchanged once there is one', async () => {
  const first = await view();
  expect(first.rows).toMatchObject([
    { campaign: 'uk-27q1-fleet-winterproof', amount: null, clicks: 3, match: { by: 'name' } },
  ]);
  expect(first.rows[0]!.own).toEqual({ amount: await spent(), currency: 'USD' });
  expect(first.sentence.under).toContain('exchange rate for USD');
  expect((await figures('cost', 'source')).notes.join()).toContain('Cost in USD is left out');

  await place.services.costRules.addRate(member, 'Ines', { currency: 'USD', day: '2027-01-01', rate: '0.5' });
  const exchanged = Math.round((await spent()) / 2);
  const { rows } = await view();
  // Each day of the account is rounded by itself.
  expect(Math.abs(rows[0]!.amount! - exchanged)).toBeLessThanOrEqual(3);
  await expect(
    place.services.costRules.addRate(member, 'Ines', { currency: 'USD', day: '2027-01-01', rate: '0.6' }),
  ).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG' });
});

it('stands in figures beside what it brought, with the measured share, and opens its campaigns', async () => {
  const cost = (await view()).rows[0]!.amount!;
  const { rows, sums, counted } = await figures('cost,clicks,leads,cost_per_lead', 'source,campaign');
  expect(counted).toEqual(['cost', 'clicks', 'leads', 'cost_per_lead']);
  expect(rows.map(({ cells, figures: f, measured }) => [cells[0]!.text, f, measured])).toEqual([
    ['quillsearch', [cost, 3, 3000, cost / 3], 1],
  ]);
  expect(sums).toMatchObject({ figures: [cost, 3, 3000, cost / 3], measured: 1 });
  const ofDay = await figures('cost', 'day');
  for (const { row, figures: f } of ofDay.rows) {
    const opened = await view({ by: 'day', row });
    expect(opened.rows.reduce((sum, { amount }) => sum + amount!, 0)).toBe(f[0]);
  }
  const blind = { ...member, role: { ...member.role, seesMoney: false } };
  const hidden = await place.services.figures.view(
    blind,
    figuresQuerySchema.parse({ count: 'cost,return_on_cost,cost_per_lead,clicks' }),
  );
  expect(hidden.counted).toEqual(['clicks']);
  expect((await place.services.cost.view(blind, parse({}))).rows).toEqual([]);
});

it('has fees added on their days, which can be taken out and brought back', async () => {
  const before = (await view()).rows[0]!.amount!;
  const fee = { account: 'quillsearch', percent: '100', firstDay: '2027-01-01', lastDay: '' };
  await place.services.costRules.addFee(member, 'Ines', fee);
  const shown = await view();
  expect(shown.rows[0]!.amount).toBe(2 * before);
  await place.services.costRules.retireFee(member, shown.fees[0]!.id, true);
  expect((await view()).rows[0]!.amount).toBe(before);
  const reader = { ...member, role: { ...member.role, role: 'reader' as const } };
  await expect(place.services.costRules.addFee(reader, 'Ines', fee)).rejects.toThrow(/right to change/);
  await expect(place.services.costRules.addFee(member, 'Ines', { ...fee, account: 'nobody' })).rejects.toMatchObject({
    code: 'AVX_FIELD_WRONG',
  });
});

it('comes from files too: each wrong row is named, the rest is taken, and the same file again changes nothing', async () => {
  const today = new Date(time - 2 * day).toISOString().slice(0, 10);
  const text = [
    'day,campaign,campaign_id,ad,clicks,cost,currency',
    `${today},Nobody knows,N-1,still,4,10.00,GBP`,
    `${today},Nobody knows,N-1,video,1,3.00,`,
    // A file by the hour has several rows of a day: they are one.
    `${today},Nobody knows,N-1,video,1,2.50,`,
    `15.02.2027,x,,,1,1,`,
    `${today},x,,,1,much,`,
    `${today},,,,1,1,`,
  ].join('\n');
  const bring = () =>
    place.services.cost.takeFile(member, 'quillsearch', new Request('http://x', { method: 'POST', body: text }));
  const answer = await bring();
  expect(answer.taken).toBe(3);
  expect(answer.refused.map(({ row }) => row)).toEqual(['Row 5', 'Row 6', 'Row 7']);
  expect(answer.refused[1]!.was).toContain('much');
  await bring();
  const row = (await view()).rows.find(({ number }) => number === 'N-1')!;
  expect(row).toMatchObject({ campaign: 'Nobody knows', match: null, clicks: 6 });
  expect(row.ads.map(({ ad }) => ad)).toEqual(['still', 'video']);
  const [heading, ...lines] = await place.services.cost.table(member, parse({ range: 'weeks4' }));
  expect(heading).toContain('cost (GBP)');
  expect(lines.filter(([, campaign]) => campaign === 'Nobody knows').map((cells) => cells.slice(4))).toEqual([
    ['still', '4', '10.00'],
    ['video', '2', '5.50'],
  ]);
  await expect(
    place.services.cost.takeFile(member, 'nobody', new Request('http://x', { method: 'POST', body: text })),
  ).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
});

it('is matched by hand once, also under another name, and that is taken back', async () => {
  const match = (campaign: string) =>
    place.services.costRules.match(member, 'Ines', { account: 'quillsearch', key: 'id N-1', campaign });
  await match('uk-27q1-fleet-winterproof');
  const found = async () => (await view()).rows.find(({ number }) => number === 'N-1')!.match;
  expect(await found()).toEqual({ campaign: 'uk-27q1-fleet-winterproof', by: 'hand' });
  const { rows } = await figures('clicks', 'campaign');
  expect(rows.map(({ cells }) => cells[0]!.text)).toEqual(['uk-27q1-fleet-winterproof']);
  await match('');
  expect(await found()).toBeNull();
  const noted = await rowsOf<{ was: string }>(
    place.db,
    "SELECT was FROM change_log WHERE kind = 'result' AND became = ''",
  );
  expect(noted.map(({ was }) => was)).toContain('uk-27q1-fleet-winterproof');
});

it('what the account reports of the last days is put in place of what it did before', async () => {
  const rowsBefore = await rowsOf(place.db, "SELECT id FROM costs WHERE came_by = 'report'");
  await ask();
  move(time + 120_000);
  await rest();
  const rows = await rowsOf<{ clicks: number }>(place.db, "SELECT id, clicks FROM costs WHERE came_by = 'report'");
  expect(rows.reduce((sum, { clicks }) => sum + clicks, 0)).toBe(4);
  expect(rows.length).toBeGreaterThanOrEqual(rowsBefore.length);
  expect((await view()).rows.find(({ campaign }) => campaign === 'uk-27q1-fleet-winterproof')!.own.amount).toBe(
    await spent(),
  );
});

it('is brought for a source without an account too, and is no part of the measured share', async () => {
  const source = (await view()).accounts.find(({ key }) => key === 'source cargo-fair')!;
  expect(source.isSource).toBe(true);
  const today = new Date(time - 2 * day).toISOString().slice(0, 10);
  const text = `day,campaign,cost\n${today},uk-27q2-fleet-cargo-fair,250.00`;
  await place.services.cost.takeFile(member, source.key, new Request('http://x', { method: 'POST', body: text }));
  const of = async (measure: string) => {
    const { rows } = await figures(measure, 'source');
    return rows.find(({ cells }) => cells[0]!.text === 'cargo-fair')!;
  };
  expect((await of('cost')).figures).toEqual([25_000]);
  expect((await of('cost_per_lead')).measured).toBeNull();
});
