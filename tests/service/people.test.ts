import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { setClock } from '../../src/server/clock';
import { day, makePlace, noon, rowsOf } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
beforeAll(async () => {
  place = await makePlace();
  await place.services.people.create('anna@larkmoor.example', 'Anna', 'one long password');
});
afterAll(() => place.end());

const from = { address: '127.0.0.1', agent: 'a test' };
const signIn = (mail: string, password: string, address = from.address) =>
  place.services.people.signIn(mail, password, { ...from, address });

describe('signing in', () => {
  it('gives a session whose token stands nowhere in the database', async () => {
    const { token } = await signIn('Anna@Larkmoor.example', 'one long password');
    expect(await place.services.people.bySession(token)).toMatchObject({ name: 'Anna' });
    const dump =
      JSON.stringify(await rowsOf(place.db, 'SELECT * FROM sessions')) +
      JSON.stringify(await rowsOf(place.db, 'SELECT * FROM people'));
    expect(dump).not.toContain(token);
    expect(dump).not.toContain('one long password');
    expect(dump).toContain('$argon2id$');
  });

  it('answers a wrong password and an unknown address alike', async () => {
    await expect(signIn('anna@larkmoor.example', 'wrong')).rejects.toMatchObject({ code: 'AVX_SIGN_IN_WRONG' });
    await expect(signIn('nobody@larkmoor.example', 'wrong')).rejects.toMatchObject({ code: 'AVX_SIGN_IN_WRONG' });
  });

  it('slows down after eight wrong tries for one address, and lets go after a quarter of an hour', async () => {
    for (let i = 0; i < 8; i++) await signIn('eve@larkmoor.example', 'wrong', '10.0.0.1').catch(() => undefined);
    await expect(signIn('eve@larkmoor.example', 'right?', '10.0.0.2')).rejects.toMatchObject({
      code: 'AVX_SIGN_IN_SLOW_DOWN',
      status: 429,
    });
    await expect(signIn('anna@larkmoor.example', 'one long password', '10.0.0.2')).resolves.toHaveProperty('token');
    setClock(noon + 16 * 60_000);
    await expect(signIn('eve@larkmoor.example', 'wrong', '10.0.0.3')).rejects.toMatchObject({
      code: 'AVX_SIGN_IN_WRONG',
    });
    setClock(noon);
  });
});

describe('many tries at once', () => {
  afterAll(() => place.db.query('DELETE FROM sign_in_tries'));
  const wrong = (count: number, mail: string, address = '10.9.0.1') =>
    Promise.all(
      Array.from({ length: count }, () =>
        signIn(mail, 'wrong', address).catch((error: { code: string }) => error.code),
      ),
    );

  it('are no more than eight that are looked at', async () => {
    const codes = await wrong(40, 'many@larkmoor.example');
    expect(codes.filter((code) => code === 'AVX_SIGN_IN_WRONG').length).toBeLessThanOrEqual(8);
    expect(codes.filter((code) => code === 'AVX_SIGN_IN_SLOW_DOWN').length).toBeGreaterThanOrEqual(32);
  });

  it('lock nobody out of a browser that signed in before, and its own wrong tries are counted too', async () => {
    const { people } = place.services;
    const mail = 'anna@larkmoor.example';
    const { pass } = await signIn(mail, 'one long password', '10.9.0.2');
    for (let turn = 0; turn < 9; turn++) await wrong(1, mail, `10.9.1.${turn}`);
    await expect(signIn(mail, 'one long password', '10.9.0.2')).rejects.toMatchObject({
      code: 'AVX_SIGN_IN_SLOW_DOWN',
    });
    const known = (password: string, given = pass) =>
      people.signIn(mail, password, { ...from, address: '10.9.0.2', pass: given });
    await expect(known('one long password')).resolves.toHaveProperty('token');
    await expect(known('one long password', `${pass.slice(0, -2)}xx`)).rejects.toMatchObject({ status: 429 });
    for (let i = 0; i < 8; i++) await known('wrong').catch(() => undefined);
    await expect(known('one long password')).rejects.toMatchObject({ code: 'AVX_SIGN_IN_SLOW_DOWN' });
    setClock(noon + 20 * 60_000);
    await expect(signIn(mail, 'one long password')).resolves.toHaveProperty('token');
    setClock(noon);
  });

  it('from one place are thirty, for however many mail addresses', async () => {
    for (let n = 0; n < 30; n++) await signIn(`one${n}@larkmoor.example`, 'wrong', '10.9.9.9').catch(() => undefined);
    await expect(signIn('another@larkmoor.example', 'wrong', '10.9.9.9')).rejects.toMatchObject({ status: 429 });
    await expect(signIn('another@larkmoor.example', 'wrong', '10.9.9.10')).rejects.toMatchObject({ status: 401 });
  });
});

describe('a session', () => {
  it('ends by its time, and at once when it is revoked', async () => {
    const { people } = place.services;
    const { token } = await signIn('anna@larkmoor.example', 'one long password');
    setClock(noon + 31 * day);
    expect(await people.bySession(token)).toBeNull();
    setClock(noon);
    const { id, sessionId } = (await people.bySession(token))!;
    await people.revoke(id, sessionId);
    expect(await people.bySession(token)).toBeNull();
  });

  it('cannot be ended by somebody else', async () => {
    const { people } = place.services;
    const { token } = await signIn('anna@larkmoor.example', 'one long password');
    const other = await people.create('ben@larkmoor.example', 'Ben', 'another password');
    const { sessionId } = (await people.bySession(token))!;
    await expect(people.revoke(other, sessionId)).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
    expect(await people.bySession(token)).not.toBeNull();
  });

  it('is unknown for a made-up token', async () => {
    expect(await place.services.people.bySession('made-up')).toBeNull();
    expect(await place.services.people.bySession(null)).toBeNull();
  });
});
