import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { setClock } from '../../src/server/clock';
import { AvrixError } from '../../src/core/errors';
import type { Membership, SignedIn } from '../../src/server/people/people';
import { day, makePlace, noon } from './place';

/* People of a business: invited by a link, changed, taken out, leaving; passwords. */

let place: Awaited<ReturnType<typeof makePlace>>;
let maud: SignedIn;
let mine: Membership;
const rights = { role: 'editor' as const, mayRelease: false, seesPeople: true, seesMoney: false };
const code = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'nothing',
    (error: unknown) => (error instanceof AvrixError ? error.code : String(error)),
  );
const members = () => place.services.members;
const tokenOf = (link: string) => link.split('/').at(-1)!;
const invite = async (mail: string) => tokenOf((await members().invite(mine, { mail, ...rights })).link);
const signedIn = async (mail: string, password: string): Promise<SignedIn> => {
  const { people } = place.services;
  const { token } = await people.signIn(mail, password, { address: '192.0.2.1', agent: 'test' });
  return (await people.bySession(token))!;
};

beforeAll(async () => {
  place = await makePlace();
  setClock(noon);
  await place.services.people.create('maud@bakery.example', 'Maud', 'a long password');
  maud = await signedIn('maud@bakery.example', 'a long password');
  await place.services.businessMaking.make(maud, [], {
    name: 'Bakery Oriel',
    website: 'https://oriel.example',
    timeZone: 'UTC',
    currency: 'EUR',
  });
  mine = (await place.services.people.memberships(maud.id))[0]!;
});
afterAll(() => place.end());

describe('an invitation', () => {
  it('makes somebody new an account and a role, once', async () => {
    const token = await invite('anna@bakery.example');
    expect(await members().invited(token)).toEqual({
      business: 'Bakery Oriel',
      mail: 'anna@bakery.example',
      invitedBy: 'Maud',
      rights: 'editor, sees people',
      isKnown: false,
    });
    expect(await members().join(token, null, { name: 'Anna', password: 'another long one' })).toBe('bakery-oriel');
    expect(await code(members().join(token, null, { name: 'Eve', password: 'another long one' }))).toBe(
      'AVX_INVITATION_USED',
    );
    const anna = await signedIn('anna@bakery.example', 'another long one');
    expect((await place.services.people.memberships(anna.id))[0]!.role).toMatchObject(rights);
  });

  it('of somebody known is for them alone, whoever has the link', async () => {
    await place.services.people.create('bo@bakery.example', 'Bo', 'a long password');
    const bo = await signedIn('bo@bakery.example', 'a long password');
    const token = await invite('bo@bakery.example');
    expect(await code(members().join(token, null, { name: 'Eve', password: 'another long one' }))).toBe(
      'AVX_INVITATION_OTHER',
    );
    expect(await code(members().join(token, maud, null))).toBe('AVX_INVITATION_OTHER');
    expect(await members().join(token, bo, null)).toBe('bakery-oriel');
    expect(await code(members().invite(mine, { mail: 'bo@bakery.example', ...rights }))).toBe('AVX_FIELD_WRONG');
  });

  it('ends after 7 days, and at once where it is withdrawn; a link of nobody’s leads nowhere', async () => {
    const [late, gone] = [await invite('late@bakery.example'), await invite('gone@bakery.example')];
    const { invitations } = await members().view(mine);
    await members().withdraw(mine, invitations.find(({ mail }) => mail === 'gone@bakery.example')!.id);
    expect(await code(members().invited(gone))).toBe('AVX_INVITATION_UNKNOWN');
    expect(await code(members().invited('nonsense'))).toBe('AVX_INVITATION_UNKNOWN');
    setClock(noon + 7 * day + 60_000);
    expect(await code(members().invited(late))).toBe('AVX_INVITATION_OVER');
  });
});

describe('who has a role', () => {
  it('is changed and taken out by owners alone, with their tokens', async () => {
    const anna = await signedIn('anna@bakery.example', 'another long one');
    const [hers] = await place.services.people.memberships(anna.id);
    for (const work of [
      () => members().invite(hers!, { mail: 'x@bakery.example', ...rights }),
      () => members().change(hers!, maud.id, { ...rights, role: 'reader' }),
      () => members().remove(hers!, maud.id),
    ])
      expect(await code(work())).toBe('AVX_ROLE_TOO_SMALL');
    await members().change(mine, anna.id, { ...rights, mayRelease: true });
    expect((await place.services.people.memberships(anna.id))[0]!.role.mayRelease).toBe(true);
    const token = await place.services.tokens.make(hers!, {
      name: 'export',
      rights: 'read',
      seesPeople: 'off',
      seesMoney: 'off',
      days: 30,
    });
    await members().remove(mine, anna.id);
    expect(await place.services.people.memberships(anna.id)).toEqual([]);
    const { rows } = await place.services.tokens.view(mine);
    expect(rows.some(({ state, begins }) => token.startsWith(begins) && state === 'runs')).toBe(false);
  });

  it('may leave, but for the last owner', async () => {
    expect(await code(members().remove(mine, maud.id))).toBe('AVX_LAST_OWNER');
    expect(await code(members().change(mine, maud.id, { ...rights, role: 'editor' }))).toBe('AVX_LAST_OWNER');
    const bo = await signedIn('bo@bakery.example', 'a long password');
    const [his] = await place.services.people.memberships(bo.id);
    await members().remove(his!, bo.id);
    expect(await place.services.people.memberships(bo.id)).toEqual([]);
  });

  it('stands in the change log with what they could before and after', async () => {
    const { rows } = await place.services.changes.page(mine, {
      find: 'Anna',
      kind: 'person',
      descending: 'yes',
      page: 1,
    });
    expect(rows.map(({ by, was, became }) => [by, was, became])).toEqual([
      ['Maud', 'editor, may release, sees people', ''],
      ['Maud', 'editor, sees people', 'editor, may release, sees people'],
      ['Anna', '', 'editor, sees people'],
    ]);
  });
});

describe('a password', () => {
  it('is changed by who knows it, and ends every other session', async () => {
    const other = await signedIn('maud@bakery.example', 'a long password');
    expect(await code(members().setPassword(maud, 'not it', 'quite another one'))).toBe('AVX_FIELD_WRONG');
    await members().setPassword(maud, 'a long password', 'quite another one');
    const running = await place.services.people.sessionsOf(maud.id);
    expect(running.map(({ id }) => id)).toEqual([maud.sessionId]);
    expect(running.map(({ id }) => id)).not.toContain(other.sessionId);
    await signedIn('maud@bakery.example', 'quite another one');
  });

  it('that was forgotten is replaced by the operator’s command', async () => {
    expect(await members().resetPassword('nobody@bakery.example')).toBeNull();
    const { password } = (await members().resetPassword('maud@bakery.example'))!;
    expect((await signedIn('maud@bakery.example', password)).name).toBe('Maud');
  });
});
