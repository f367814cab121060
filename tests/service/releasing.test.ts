import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RuleChange } from '../../src/core/rules';
import type { Membership } from '../../src/server/people/people';
import { makeServices, type Services } from '../../src/server/services';
import { startOutside } from './outside';
import { makePlace, setUpLarkmoor } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
let outside: Awaited<ReturnType<typeof startOutside>>;
/** Another process on the same database. */
let other: Services;
let larkmoor: { id: string };
let editor: Membership;
let anna: string;
let maud: string;

beforeAll(async () => {
  outside = await startOutside();
  place = await makePlace({ AVRIX_PRIVATE_HOSTS: outside.hosts });
  other = makeServices({ ...place.services.context.config, dataDir: `${place.services.context.config.dataDir}-other` });
  larkmoor = await setUpLarkmoor(place.services, outside.places);
  const { people } = place.services;
  anna = await people.create('anna@larkmoor.example', 'Anna', 'a long password');
  maud = await people.create('maud@larkmoor.example', 'Maud', 'a long password');
  for (const personId of [anna, maud])
    await people.grant({
      businessId: larkmoor.id,
      personId,
      role: 'editor',
      mayRelease: true,
      seesPeople: true,
      seesMoney: true,
    });
  editor = (await people.memberships(anna))[0]!;
});
afterAll(async () => {
  await other.spool.close();
  await other.context.db.close();
  await outside.end();
  await place.end();
});

const alias = (value: string, means = 'email'): RuleChange => ({
  kind: 'alias',
  id: `utm_medium=${value}`,
  value: { tag: 'utm_medium', value, means },
});
const change = (...changes: RuleChange[]) => place.services.draft.change(editor, anna, changes);
const seen = async (id?: string) =>
  (await place.services.draft.view(editor)).changes
    .filter((one) => !id || one.id === id)
    .map(({ kind, id: name, changedAt }) => ({ kind, id: name, changedAt }));
const live = async () => {
  place.services.releases.forget(larkmoor.id);
  return (await place.services.releases.live(larkmoor.id)).content;
};
const release = async (name: string, services: Services = place.services, id?: string) =>
  services.releasing.release(editor, anna, { name, seen: await seen(id) });

describe('two releases made at once', () => {
  it.each(Array.from({ length: 6 }, (_, n) => n))('from two processes build on one another (%i)', async (n) => {
    const [one, two] = [`one-${n}`, `two-${n}`];
    await change(alias(one), alias(two));
    const [first, second] = await Promise.all([seen(`utm_medium=${one}`), seen(`utm_medium=${two}`)]);
    const made = await Promise.all([
      place.services.releasing.release(editor, anna, { name: one, seen: first }),
      other.releasing.release(editor, maud, { name: two, seen: second }),
    ]);
    expect(new Set(made).size).toBe(2);
    const values = (await live()).plan.aliases.map(({ value }) => value);
    expect(values).toEqual(expect.arrayContaining([one, two]));
    expect(await seen()).toEqual([]);
  });
});

describe('a rule that others need', () => {
  const table = { name: 'countries', rows: [], otherwise: { gives: '', take: 'itself' } };
  const through = async () => {
    const { capture } = await live();
    const [rule] = capture.fill;
    return { kind: 'fill' as const, id: rule!.id, value: { ...rule!, swap: 'countries' } };
  };

  it('is not taken out, and those that need it are named', async () => {
    await change({ kind: 'swap', id: 'countries', value: table }, await through());
    await release('With a table');
    await expect(change({ kind: 'swap', id: 'countries', value: null })).rejects.toMatchObject({
      code: 'AVX_RULES_BROKEN',
      message: expect.stringMatching(/needs the swap table “countries”, which is not there/) as string,
      fields: [{ field: (await through()).id }],
    });
  });

  it('goes together with them', async () => {
    const { value, ...name } = await through();
    await change({ ...name, value: { ...value, swap: '' } }, { kind: 'swap', id: 'countries', value: null });
    await expect(
      place.services.draft.drop(editor, [name]),
      'the rule that needs it does not come back alone',
    ).rejects.toMatchObject({ code: 'AVX_RULES_BROKEN' });
    await expect(release('Half of it', place.services, 'countries')).rejects.toMatchObject({
      code: 'AVX_RULES_BROKEN',
    });
    await release('Without the table');
    expect((await live()).capture.swaps.map(({ name: one }) => one)).not.toContain('countries');
  });

  it('such as the click ID of a platform that is told is said', async () => {
    const { telling } = await live();
    const platform = telling[0]!.platform;
    // Its carry names need it too.
    const carries = (await live()).capture.carry.filter((one) => one.platform === platform);
    const out: RuleChange[] = carries.map(({ name }) => ({ kind: 'carry', id: name, value: null }));
    const fills = (await live()).capture.fill.filter((one) => one.reading === 'click_id' && one.platform === platform);
    const any = fills.map((rule): RuleChange => ({ kind: 'fill', id: rule.id, value: { ...rule, platform: '' } }));
    const warned = await change(...out, ...any, { kind: 'click_id', id: platform, value: null });
    expect(warned).toMatchObject([{ weighs: 'warns', was: expect.stringMatching(/it can be told nothing/) as string }]);
    expect((await place.services.draft.view(editor)).findings).toMatchObject([{ weighs: 'warns' }]);
    await place.services.draft.drop(editor, []);
  });
});

describe('two people on one rule', () => {
  it('the second is shown what the first one wrote, and chooses', async () => {
    const before = (await live()).plan.tags[0]!;
    const write = (longest: number, from: unknown): RuleChange => ({
      kind: 'tag',
      id: before.tag,
      value: { ...before, longest },
      from,
    });
    await place.services.draft.change(editor, maud, [write(50, before)]);
    const error = await change(write(60, before)).catch((one: unknown) => one);
    expect(error).toMatchObject({
      code: 'AVX_RULE_CHANGED',
      status: 409,
      message: expect.stringContaining('Maud changed this rule') as string,
      more: {
        conflicts: [
          {
            kind: 'tag',
            id: before.tag,
            theirs: { ...before, longest: 50 },
            by: 'Maud',
            theirSentence: expect.stringContaining('at most 50') as string,
            sentence: expect.stringContaining('at most 60') as string,
          },
        ],
      },
    });
    await change(write(60, { ...before, longest: 50 }));
    expect((await place.services.draft.content(larkmoor.id)).draft.plan.tags[0]!.longest).toBe(60);
    // Who wrote the same is told nothing.
    await change(write(60, before));
    await place.services.draft.drop(editor, []);
  });

  it('making one never overwrites another of its name', async () => {
    await change({ ...alias('mine'), from: null });
    await expect(change({ ...alias('mine', 'fair'), from: null })).rejects.toMatchObject({
      code: 'AVX_RULE_TAKEN',
      message: expect.stringContaining('`mine` in `utm_medium` is read as `email`.') as string,
    });
    await place.services.draft.drop(editor, []);
  });
});

describe('the history', () => {
  it('lists each release with who made it and what it changed, and takes one back', async () => {
    await change(alias('kept'));
    await release('Kept');
    await change(alias('gone'));
    const number = await release('Gone');
    const { releases, sentence } = await place.services.releasing.history(editor);
    expect(sentence.title).toBe(`Release ${number}, “Gone”, is live.`);
    expect(releases[0]).toMatchObject({
      number,
      name: 'Gone',
      by: 'Anna',
      isTakenBack: false,
      changes: [{ before: null, after: '`gone` in `utm_medium` is read as `email`.', station: 'Plan' }],
    });
    const made = await place.services.releasing.takeBack(editor, maud, number);
    const values = (await live()).plan.aliases.map(({ value }) => value);
    expect([values.includes('kept'), values.includes('gone')]).toEqual([true, false]);
    const [newest, before] = (await place.services.releasing.history(editor)).releases;
    expect(newest).toMatchObject({ number: made, name: `Takes back ${number}, Gone`, takesBack: number });
    expect([newest!.by, before!.isTakenBack]).toEqual(['Maud', true]);
  });

  it('does not take back what later releases changed again or rest on, and names it', async () => {
    await change(alias('twice'));
    const first = await release('First');
    await change(alias('twice', 'fair'));
    await release('Second');
    await expect(place.services.releasing.takeBack(editor, anna, first)).rejects.toMatchObject({
      code: 'AVX_RELEASE_LATER',
      message: expect.stringContaining('`twice` in `utm_medium`') as string,
    });
    const table = { name: 'words', rows: [], otherwise: { gives: '', take: 'itself' } };
    await change({ kind: 'swap', id: 'words', value: table });
    const swap = await release('A table');
    const [rule] = (await live()).capture.fill;
    await change({ kind: 'fill', id: rule!.id, value: { ...rule!, swap: 'words' } });
    await release('Used');
    await expect(place.services.releasing.takeBack(editor, anna, swap)).rejects.toMatchObject({
      code: 'AVX_RELEASE_LATER',
      message: expect.stringMatching(/needs the swap table “words”/) as string,
    });
  });

  it('is read in pages', async () => {
    const { releases } = await place.services.releasing.history(editor);
    const { releases: older } = await place.services.releasing.history(editor, releases[1]!.number);
    expect(older[0]!.number).toBe(releases[2]!.number);
  });

  it('is taken back by nobody who may not release', async () => {
    const reader: Membership = { ...editor, role: { ...editor.role, role: 'reader', mayRelease: false } };
    await expect(place.services.releasing.takeBack(reader, anna, 1)).rejects.toMatchObject({
      code: 'AVX_ROLE_TOO_SMALL',
    });
  });
});
