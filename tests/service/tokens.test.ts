import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { setClock } from '../../src/server/clock';
import type { Membership } from '../../src/server/people/people';
import { day, makePlace, noon, rowsOf, setUpLarkmoor } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
let maker: Membership;
const wanted = { name: 'nightly export', rights: 'change', seesPeople: 'on', seesMoney: 'on', days: 30 } as const;

beforeAll(async () => {
  place = await makePlace();
  const nowhere = 'http://nowhere.localhost:1';
  const { id } = await setUpLarkmoor(place.services, { quillsearch: nowhere, oakledger: nowhere, key: (name) => name });
  const { people } = place.services;
  const personId = await people.create('anna@larkmoor.example', 'Anna', 'a long password');
  await grant(id, personId, {});
  maker = (await people.memberships(personId))[0]!;
});
afterAll(() => place.end());

const grant = (businessId: string, personId: string, change: object) =>
  place.services.people.grant({
    businessId,
    personId,
    role: 'editor',
    mayRelease: true,
    seesPeople: true,
    seesMoney: true,
    ...change,
  });
const open = (token: string) => place.services.tokens.open(maker.business, token);

describe('a token', () => {
  it('is stored hashed only, and lists by its beginning', async () => {
    const token = await place.services.tokens.make(maker, wanted);
    const stored = JSON.stringify(await rowsOf(place.db, 'SELECT * FROM tokens'));
    expect(stored).not.toContain(token);
    expect(stored).toContain(token.slice(0, 10));
    const { rows } = await place.services.tokens.view(maker);
    expect(rows[0]).toMatchObject({ begins: token.slice(0, 10), maker: 'Anna', usedAt: null, state: 'runs' });
    expect(rows[0]!.rights).toBe('reads and changes, sees people, sees money');
  });

  it('has the rights of its maker or fewer, as they are now', async () => {
    const token = await place.services.tokens.make(maker, wanted);
    expect((await open(token))!.role).toMatchObject({ role: 'editor', seesPeople: true, mayRelease: false });
    const { businessId, personId } = maker.role;
    await grant(businessId, personId, { role: 'reader', seesMoney: false });
    expect((await open(token))!.role).toMatchObject({ role: 'reader', seesPeople: true, seesMoney: false });
    await place.db.query('DELETE FROM roles WHERE person_id = ?', { replacements: [personId] });
    expect(await open(token)).toBeNull();
    await grant(businessId, personId, {});
  });

  it('cannot be made with more rights than its maker has', async () => {
    const reader = { ...maker, role: { ...maker.role, role: 'reader' as const } };
    const { tokens } = place.services;
    await expect(tokens.make(reader, wanted)).rejects.toMatchObject({ code: 'AVX_ROLE_TOO_SMALL' });
    const blind = { ...maker, role: { ...maker.role, seesPeople: false } };
    await expect(tokens.make(blind, wanted)).rejects.toMatchObject({ message: /see people/ });
    const poor = { ...maker, role: { ...maker.role, seesMoney: false } };
    await expect(tokens.make(poor, wanted)).rejects.toMatchObject({ message: /see money/ });
  });

  it('is over after its days, and at once when it is revoked, by its maker or an owner only', async () => {
    const { tokens } = place.services;
    const token = await tokens.make(maker, wanted);
    setClock(noon + 30 * day + 1000);
    expect(await open(token)).toBeNull();
    expect((await tokens.view(maker)).rows[0]!.state).toBe('expired');
    setClock(noon);
    const id = (await tokens.view(maker)).rows[0]!.id;
    const other = { ...maker, role: { ...maker.role, personId: maker.business.id } };
    await expect(tokens.revoke(other, id)).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
    expect((await tokens.view(other)).rows).toEqual([]);
    await tokens.revoke({ ...other, role: { ...other.role, role: 'owner' } }, id);
    expect(await open(token)).toBeNull();
    await expect(tokens.revoke(maker, id)).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
  });

  it('says when it was last used, to the minute', async () => {
    const token = await place.services.tokens.make(maker, wanted);
    const used = async () => {
      const { rows } = await place.services.tokens.view(maker);
      return Date.parse(rows.find(({ begins }) => token.startsWith(begins))!.usedAt ?? '');
    };
    expect(await used()).toBeNaN();
    await open(token);
    const first = await used();
    expect(first).toBeGreaterThanOrEqual(noon);
    await open(token);
    expect(await used()).toBe(first);
    setClock(noon + 120_000);
    await open(token);
    expect(await used()).toBeGreaterThan(first);
    setClock(noon);
  });
});
