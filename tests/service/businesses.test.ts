import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { NewBusiness } from '../../src/core/businesses/schema';
import { captureRules } from '../../src/core/releases';
import { setClock } from '../../src/server/clock';
import type { SignedIn } from '../../src/server/people/people';
import { makePlace, noon, rowsOf } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
const people: Record<'maud' | 'declan', SignedIn> = {} as never;
const bakery: NewBusiness = {
  name: 'Bakery Oriel',
  website: 'https://www.oriel.example/bread',
  timeZone: 'Europe/Dublin',
  currency: 'EUR',
};
const make = async (who: SignedIn, wanted: NewBusiness = bakery) => {
  const { businessMaking, people: book } = place.services;
  return businessMaking.make(who, await book.memberships(who.id), wanted);
};
const mayMake = async (who: SignedIn) =>
  place.services.businessMaking.mayMake(await place.services.people.memberships(who.id));

beforeAll(async () => {
  place = await makePlace();
  setClock(noon);
  for (const name of ['maud', 'declan'] as const) {
    const mail = `${name}@larkmoor.example`;
    const id = await place.services.people.create(mail, name, 'a long password');
    people[name] = { id, sessionId: id, name, mail, preferences: { theme: 'system', singleKeys: true } };
  }
});
afterAll(async () => {
  setClock(null);
  await place.end();
});

describe('a business made in the interface', () => {
  it('may be made by anybody who signed in, where there is none', async () => {
    expect([await mayMake(people.maud), await mayMake(people.declan)]).toEqual([true, true]);
    expect(await make(people.maud)).toBe('bakery-oriel');
  });

  it('belongs to who made it alone, with release 1 and its own website', async () => {
    const { people: book, releases } = place.services;
    const [mine] = await book.memberships(people.maud.id);
    expect(mine).toMatchObject({
      business: { name: 'Bakery Oriel', timeZone: 'Europe/Dublin', currency: 'EUR' },
      role: { role: 'owner', mayRelease: true, seesPeople: true, seesMoney: true },
    });
    expect(await book.memberships(people.declan.id)).toEqual([]);
    const release = await releases.live(mine!.business.id);
    expect([release.number, release.madeBy, captureRules(release).touch.ownHosts]).toEqual([
      1,
      people.maud.id,
      ['oriel.example'],
    ]);
    expect(await rowsOf(place.db, 'SELECT host, registrable FROM websites')).toEqual([
      { host: 'www.oriel.example', registrable: 'oriel.example' },
    ]);
  });

  it('may be a further one only for who owns one, and never takes a key that is taken', async () => {
    expect(await mayMake(people.declan)).toBe(false);
    await expect(make(people.declan)).rejects.toMatchObject({ code: 'AVX_MAY_NOT_MAKE' });
    expect(await make(people.maud, { ...bakery, website: 'oriel-two.example' })).toBe('bakery-oriel-2');
  });

  it('takes no website that another business has, also below another name of it', async () => {
    for (const website of ['oriel.example', 'shop.oriel.example'])
      await expect(make(people.maud, { ...bakery, website })).rejects.toMatchObject({
        fields: [{ field: 'website', was: 'the website oriel.example belongs to another business here' }],
      });
  });

  it('takes no name below which everybody may have one', async () => {
    await expect(make(people.maud, { ...bakery, website: 'co.uk' })).rejects.toMatchObject({
      fields: [{ field: 'website', fix: 'Write it with its name before, such as bakery.co.uk.' }],
    });
  });

  it('is made whole or not at all', async () => {
    const [counts] = await rowsOf<object>(
      place.db,
      `SELECT (SELECT COUNT(*) FROM businesses) AS businesses, (SELECT COUNT(*) FROM releases) AS releases,
         (SELECT COUNT(*) FROM roles) AS roles, (SELECT COUNT(*) FROM websites) AS websites`,
    );
    expect(counts).toEqual({ businesses: 2, releases: 2, roles: 2, websites: 2 });
  });
});
