import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Question } from '../../src/core/outgoing';
import { platformKinds } from '../../src/core/platforms';
import type { LeadFormsContract } from '../../src/core/platforms/contract';
import { setClock } from '../../standins/shared/clock';
import { noon, openWorld, type PlatformWorld, type World } from './world';

/* Forms of platforms' own: every kind that has some is held to the same rules against its service. */

const day = 86_400_000;
let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.end());

const kinds = platformKinds.flatMap(({ kind, leadForms }) => (leadForms ? [[kind, leadForms] as const] : []));

describe.each(kinds)('%s', (kind, contract: LeadFormsContract) => {
  const service = (): Required<PlatformWorld> => world.platforms[kind] as Required<PlatformWorld>;
  const ask = async <T>({ request, read }: Question<T>): Promise<T> =>
    read(JSON.parse((await service().ask(request)).body));
  /** Everything that was sent after a lead, answer by answer. */
  const allAfter = async (after: string) => {
    const { leads, more } = await ask(contract.sent(after));
    return more ? [...leads, ...(await ask(contract.sent(leads.at(-1)!.number))).leads] : leads;
  };
  const [place] = contract.places;

  it('gives out what was sent, the oldest first, each once, by answers that follow one another', async () => {
    for (let n = 1; n <= 60; n++) {
      setClock(noon + n * 60_000);
      await service().fillIn(`a${n}@many.example`, place!.place);
    }
    const first = await ask(contract.sent(''));
    expect(first.more).toBe(true);
    const rest = await ask(contract.sent(first.leads.at(-1)!.number));
    const all = [...first.leads, ...rest.leads];
    expect(all.map(({ answers }) => answers?.mail)).toEqual(
      Array.from({ length: 60 }, (_, n) => `a${n + 1}@many.example`),
    );
    expect(new Set(all.map(({ number }) => number)).size).toBe(60);
    expect(all.map(({ sentAt }) => sentAt)).toEqual(all.map(({ sentAt }) => sentAt).sort((a, b) => a - b));
    expect(all[0]).toMatchObject({ isTest: false, place: place!.place, answers: { name: 'Una', company: 'Sloan' } });
    expect(all[0]!.campaign).not.toBe('');
    expect(await ask(contract.sent(all.at(-1)!.number))).toEqual({ leads: [], more: false });
  });

  it('keeps what was sent for as long as it says, and then says only that it was', async () => {
    setClock(noon + day);
    await service().fillIn('old@kept.example', place!.place);
    const [old] = (await allAfter('')).slice(-1);
    setClock(noon + day + contract.keptDays * day - 60_000);
    expect((await allAfter('')).find(({ number }) => number === old!.number)?.answers?.mail).toBe('old@kept.example');
    setClock(noon + day + contract.keptDays * day + 60_000);
    expect((await allAfter('')).find(({ number }) => number === old!.number)).toEqual({ ...old, answers: null });
  });

  it('passes test leads on from the places it says, marked, and from no other', async () => {
    const last = (await allAfter('')).at(-1)?.number ?? '';
    for (const { place: at } of contract.places) await service().fillIn(`test@${at}.example`, at, true);
    expect((await allAfter(last)).map(({ answers, isTest }) => [answers?.mail, isTest])).toEqual(
      contract.places.filter(({ passesTests }) => passesTests).map(({ place: at }) => [`test@${at}.example`, true]),
    );
  });

  it('lists its forms with where they lead, and leads there from then on where it is told to', async () => {
    const [form, ...others] = await ask(contract.forms);
    const link = `${form!.link}?utm_source=${kind}`;
    expect((await service().ask(contract.writeLink(form!.form, link))).status).toBeLessThan(300);
    expect(await ask(contract.forms)).toEqual([{ ...form, link }, ...others]);
  });

  it('takes no error for an empty list', () => {
    for (const body of [{}, { leads: [{}] }, { leads: 'none', more: false }, null])
      expect(() => contract.sent('').read(body)).toThrow();
  });
});
