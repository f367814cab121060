import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { placeOfLarkmoor } from './place';

/* Tabs that see through the website's pages: each link lets one in, and what a tab knows is of use to no other business. */

let { place, larkmoor, member } = {} as Awaited<ReturnType<typeof placeOfLarkmoor>>;
beforeAll(async () => {
  ({ place, larkmoor, member } = await placeOfLarkmoor());
});
afterAll(() => place.end());

const linkNow = async () => {
  const { trial } = await place.services.trials.view(member);
  return new URL(trial!.links[0]!.link).searchParams.get('avx_try')!;
};
const rules = (name: string, business = larkmoor.id) => place.services.trials.rules(business, name);

describe('a link into a trial', () => {
  it('lets one tab in, which goes on by what it was given; the next tab needs the next link', async () => {
    await place.services.trials.begin(member, 'live');
    const first = await linkNow();
    const one = (await rules(first))!;
    expect([one.seen.rules, one.tab === first, await rules(first)]).toEqual(['live', false, null]);
    expect((await rules(one.tab))!.tab).toBe(one.tab);
    const second = await linkNow();
    expect(second).not.toBe(first);
    expect((await rules(second))!.tab).not.toBe(one.tab);
  });

  it('lets only one of two in that come at once', async () => {
    const link = await linkNow();
    const both = await Promise.all([rules(link), rules(link)]);
    expect(both.filter(Boolean)).toHaveLength(1);
  });

  it('is nothing at another business, and its tabs end with the trial', async () => {
    const link = await linkNow();
    expect(await rules(link, '0198c0de-0000-7000-8000-000000000001')).toBeNull();
    const { tab } = (await rules(link))!;
    await place.services.trials.end(member);
    expect(await rules(tab)).toBeNull();
  });
});
