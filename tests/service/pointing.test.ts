import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { setClock } from '../../src/server/clock';
import { noon, placeOfLarkmoor } from './place';

/* Tabs in which somebody points: a link works once, a tab's secret is of use to nobody else, and neither for long. */

let { place, larkmoor, member } = {} as Awaited<ReturnType<typeof placeOfLarkmoor>>;
beforeAll(async () => {
  ({ place, larkmoor, member } = await placeOfLarkmoor());
});
afterAll(() => place.end());

const pointed = {
  page: 'http://larkmoor.localhost/fleet',
  candidates: [{ kind: 'leaves_for', text: 'bellhour.localhost', lasts: 'lasts', here: 1 }],
};
const begin = async () => {
  const { id, link } = await place.services.pointing.begin(member, '/fleet');
  return { id, token: new URL(link).searchParams.get('avx_try')!.slice(1) };
};
const say = (what: object, business = larkmoor.id) => place.services.pointing.take(business, JSON.stringify(what));
const gone = { code: 'AVX_NOT_FOUND' };

describe('a tab that points', () => {
  it('begins by its link once, and chooses once', async () => {
    const { id, token } = await begin();
    expect((await place.services.pointing.view(member, id)).state).toBe('waits');
    const { tab } = await say({ says: 'begin', token });
    await expect(say({ says: 'begin', token })).rejects.toMatchObject(gone);
    await expect(say({ says: 'go on', tab: token })).rejects.toMatchObject(gone);
    expect(await say({ says: 'go on', tab })).toEqual({ tab });
    await say({ says: 'chosen', tab, pointed });
    await expect(say({ says: 'chosen', tab, pointed })).rejects.toMatchObject(gone);
    expect(await place.services.pointing.view(member, id)).toMatchObject({
      state: 'chosen',
      page: pointed.page,
      candidates: [{ text: 'bellhour.localhost', here: 1, elsewhere: { presses: 0, pages: 0 } }],
    });
  });

  it('is nobody’s at another business, after its time, and after the next one began', async () => {
    const { token } = await begin();
    await expect(say({ says: 'begin', token }, '0198c0de-0000-7000-8000-000000000001')).rejects.toMatchObject(gone);
    const { tab } = await say({ says: 'begin', token });
    setClock(noon + 21 * 60_000);
    await expect(say({ says: 'go on', tab })).rejects.toMatchObject(gone);
    setClock(noon);
    await begin();
    await expect(say({ says: 'go on', tab })).rejects.toMatchObject(gone);
  });

  it('begins on pages of the business alone, and takes nothing that is no choice', async () => {
    await expect(place.services.pointing.begin(member, 'https://elsewhere.example/')).rejects.toMatchObject({
      code: 'AVX_FIELD_WRONG',
    });
    const { token } = await begin();
    const { tab } = await say({ says: 'begin', token });
    await expect(say({ says: 'chosen', tab, pointed: { page: 'javascript:1', candidates: [] } })).rejects.toMatchObject(
      {
        code: 'AVX_FIELD_WRONG',
      },
    );
  });
});
