import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PageCheckResult } from '../../src/core/links';
import type { Membership } from '../../src/server/people/people';
import { noon, placeOfLarkmoor } from './place';

/* What a rehearsal walks through is what was really seen: forms, links that send on, pages without the snippet, amounts. */

let { place, larkmoor, member } = {} as Awaited<ReturnType<typeof placeOfLarkmoor>>;
const website = 'https://larkmoor.localhost';
const at = new Date(noon);

const check = (url: string, result: Partial<PageCheckResult>, n: number) => ({
  ...{
    businessId: larkmoor.id,
    id: `0198c0de-0000-7000-8000-00000000000${n}`,
    url,
    urlHash: `${n}`,
    state: 'bad' as const,
  },
  askedAt: at,
  checkedAt: at,
  result: { steps: [], faults: [], snippets: 1, release: 1, ...result },
});

beforeAll(async () => {
  ({ place, larkmoor, member } = await placeOfLarkmoor());
  const { tables } = place.services.context;
  const seen = { businessId: larkmoor.id, fills: [], releaseNumber: 1, firstAt: at, lastAt: at };
  const fields = (...names: string[]) => names.map((name) => ({ name, hidden: true }));
  await tables.formsSeen.bulkCreate([
    { ...seen, form: 'test-ride', page: 'larkmoor.localhost/fleet', fields: fields('click_id', 'avx_lead') },
    { ...seen, form: 'call-back', page: 'larkmoor.localhost/fleet/call-back', fields: fields('click_ref', 'avx_lead') },
  ]);
  await tables.shortLinks.create({
    ...{
      businessId: larkmoor.id,
      id: '0198c0de-0000-7000-8000-0000000000aa',
      path: 'rain',
      host: '',
      wins: 'link' as const,
    },
    destination: `${website}/old?utm_campaign=rain`,
    status: 302,
    passwordHash: null,
    expiresAt: null,
    madeAt: at,
    changedAt: at,
    retiredAt: null,
    stamp: at,
  });
  await tables.pageChecks.bulkCreate([
    check(
      `${website}/old?x=1`,
      {
        steps: [
          { url: `${website}/old?x=1`, status: 302, to: `${website}/fleet` },
          { url: `${website}/fleet`, status: 200, to: '' },
        ],
        faults: [{ code: 'query_lost', names: ['x'], at: `${website}/old?x=1` }],
      },
      1,
    ),
    check(`${website}/bare`, { steps: [{ url: `${website}/bare`, status: 200, to: '' }], snippets: 0 }, 2),
  ]);
  await tables.orders.create({
    ...{
      businessId: larkmoor.id,
      id: '0198c0de-0000-7000-8000-0000000000bb',
      number: 'L-1',
      hitId: member.business.id,
    },
    visitorId: member.business.id,
    page: `${website}/order-received`,
    at,
    visitNumber: 1,
    releaseNumber: 1,
    currency: 'EUR',
    amounts: [{ name: 'total', amount: '49.50' }],
    strands: [],
    lastPaid: null,
    marked: '' as const,
    consent: null,
  } as never);
});
afterAll(() => place.end());

const said = async (lines: string[], who: Membership = member) => {
  const view = await place.services.rehearsals.walk(who, { lines, traits: [], rules: 'draft', editing: [] });
  return view.lines.map(({ notes, problem }) => [...notes.map(({ text }) => text), problem].join(' '));
};

describe('the world of a rehearsal', () => {
  it('has the forms of pages as browsers last told of them', async () => {
    const [, test, back] = await said([`${website}/fleet?qsid=Q1`, 'send test-ride', 'send call-back']);
    expect(test).toContain('Carries `Q1` in `click_id`');
    expect(back).toContain('This form was last seen on `/fleet/call-back`, not on `/fleet`.');
    expect(back).toContain('`Q1` in `click_ref`');
  });

  it('leads on by short links, and by redirects as the newest check saw them, with the query that they drop', async () => {
    const [line] = await said([`${website}/go/rain?utm_source=letter`]);
    expect(line).toContain(`Is sent on to \`${website}/old?utm_campaign=rain&utm_source=letter\`.`);
    expect(line).toContain(`Is sent on to \`${website}/fleet\`, without the query it was opened with.`);
  });

  it('knows which page the newest check found without the snippet', async () => {
    expect((await said(['/bare?qsid=Q2']))[0]).toContain('The snippet is not on this page');
  });

  it('takes amounts and currency of the newest order, and says so', async () => {
    expect((await said(['/fleet', 'order']))[1]).toContain('Worth what the newest order was.');
    const world = await place.services.rehearsals.offers(member);
    expect(world.forms.map(({ form }) => form).sort()).toEqual(['call-back', 'test-ride']);
    expect(world.stages).toContain('Fleet assessed');
  });
});
