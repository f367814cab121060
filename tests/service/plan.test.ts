import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { arrive, nothingKept, type Hit } from '../../src/core/capture';
import { rules } from '../../src/core/capture/rules.fixture';
import type { Campaign } from '../../src/core/plan/campaign';
import { campaignFields } from '../../src/core/plan/compare-campaigns';
import { offPlanListSchema } from '../../src/core/plan/list-schema';
import type { RuleChange } from '../../src/core/rules';
import { makeDeriveVisitors } from '../../src/server/capture/derive';
import { setClock } from '../../src/server/clock';
import type { Membership } from '../../src/server/people/people';
import { startOutside } from './outside';
import { addUp, idAt, makePlace, noon, rowsOf, setUpLarkmoor } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
let outside: Awaited<ReturnType<typeof startOutside>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
let editor: Membership;
let anna: string;

beforeAll(async () => {
  outside = await startOutside();
  place = await makePlace({ AVRIX_PRIVATE_HOSTS: outside.hosts });
  larkmoor = await setUpLarkmoor(place.services, outside.places);
  const { people } = place.services;
  anna = await people.create('anna@larkmoor.example', 'Anna', 'a long password');
  await people.grant({
    businessId: larkmoor.id,
    personId: anna,
    role: 'editor',
    mayRelease: true,
    seesPeople: true,
    seesMoney: true,
  });
  editor = (await people.memberships(anna))[0]!;
});
afterAll(async () => {
  await outside.end();
  await place.end();
});

const reader = (): Membership => ({ ...editor, role: { ...editor.role, role: 'reader', mayRelease: false } });
const alias = (value: string, means: string): RuleChange => ({
  kind: 'alias',
  id: `utm_medium=${value}`,
  value: { tag: 'utm_medium', value, means },
});
const change = (...changes: RuleChange[]) => place.services.draft.change(editor, anna, changes);
const seen = async () =>
  (await place.services.draft.view(editor)).changes.map(({ kind, id, changedAt }) => ({ kind, id, changedAt }));
const liveAliases = async () => {
  place.services.releases.forget(larkmoor.id);
  return (await place.services.releases.live(larkmoor.id)).content.plan.aliases.map(({ value }) => value);
};

describe('the draft', () => {
  it('holds rules that are otherwise, with both sentences, until they are live or dropped', async () => {
    await change(alias('ppc', 'paid-search'));
    const { changes, sentence } = await place.services.draft.view(editor);
    expect(sentence.title).toBe('1 rule is not live yet.');
    expect(changes).toMatchObject([
      { live: null, draft: '`ppc` in `utm_medium` is read as `paid-search`.', by: 'Anna', station: 'Plan' },
    ]);
    await place.services.draft.drop(editor, [{ kind: 'alias', id: 'utm_medium=ppc' }]);
    expect((await place.services.draft.view(editor)).sentence.title).toBe('Everything is live.');
  });

  it('lets go of a rule that comes to be as it is live', async () => {
    const { live } = await place.services.draft.content(larkmoor.id);
    const rule = live.plan.tags[3]!;
    const put = (value: unknown) => change({ kind: 'tag', id: rule.tag, value });
    await put({ ...rule, longest: 12 });
    expect(await place.services.draft.count(larkmoor.id)).toBe(1);
    await put(rule);
    expect(await place.services.draft.count(larkmoor.id)).toBe(0);
  });

  it('refuses what cannot be used, naming the field, and keeps nothing of it', async () => {
    const { live } = await place.services.draft.content(larkmoor.id);
    const rule = live.plan.tags[3]!;
    const tag = (part: object): RuleChange => ({ kind: 'tag', id: rule.tag, value: { ...rule, ...part } });
    await expect(change(alias('a', 'email'), tag({ longest: 0 }))).rejects.toMatchObject({
      code: 'AVX_FIELD_WRONG',
      fields: [{ field: 'longest', was: 'must be at least 1' }],
    });
    await expect(change(tag({ pattern: '(' }))).rejects.toMatchObject({ fields: [{ field: 'pattern' }] });
    await expect(change(tag({ entry: 'picked', values: [], example: '' }))).rejects.toMatchObject({
      fields: [{ field: 'values' }],
    });
    await expect(change(tag({ tag: 'utm_other' }))).rejects.toMatchObject({
      fields: [{ field: 'tag', was: 'utm_other is none of the six UTM tags' }],
    });
    await expect(change({ ...tag({}), id: 'utm_term' })).rejects.toMatchObject({ code: 'AVX_RULE_NAME_TAKEN' });
    expect(await place.services.draft.count(larkmoor.id)).toBe(0);
  });

  it('is made live as it was seen: what was changed since stays in it', async () => {
    await change(alias('one', 'email'), alias('two', 'email'));
    const looked = await seen();
    setClock(noon + 1000);
    await change(alias('two', 'fair'));
    const before = await liveAliases();
    const number = await place.services.releasing.release(editor, anna, { name: 'Only one', seen: looked });
    expect(await liveAliases()).toEqual([...before, 'one']);
    expect(await seen()).toMatchObject([{ id: 'utm_medium=two' }]);
    expect((await place.services.releases.numbered(larkmoor.id, number)).name).toBe('Only one');
    await expect(
      place.services.releasing.release(editor, anna, {
        name: 'Again',
        seen: looked.filter(({ id }) => id.endsWith('one')),
      }),
    ).rejects.toMatchObject({ code: 'AVX_NOTHING_TO_RELEASE' });
    await place.services.draft.drop(editor, []);
    setClock(noon);
  });

  it('made live by two at once becomes one release, and nothing twice', async () => {
    await change(alias('both', 'email'));
    const looked = await seen();
    const made = await Promise.allSettled(
      ['One', 'Other'].map((name) => place.services.releasing.release(editor, anna, { name, seen: looked })),
    );
    expect(made.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    expect((await liveAliases()).filter((value) => value === 'both')).toHaveLength(1);
  });

  it('is changed by nobody who only reads, and made live by nobody who may not release', async () => {
    await expect(place.services.draft.change(reader(), anna, [alias('x', 'email')])).rejects.toMatchObject({
      code: 'AVX_ROLE_TOO_SMALL',
    });
    await expect(
      place.services.releasing.release(reader(), anna, {
        name: 'X',
        seen: [{ kind: 'alias', id: 'x', changedAt: '' }],
      }),
    ).rejects.toMatchObject({ code: 'AVX_ROLE_TOO_SMALL' });
  });
});

describe('which tags arrived', () => {
  const visitor = idAt(noon, 70);
  const hit = (n: number, query: string): Hit => {
    const at = noon + n * 3_600_000;
    const address = `http://larkmoor.localhost/fleet?${query}`;
    const arrival = { at, address, referrer: 'https://bakerweekly.example/cargo', navigation: 'navigate' } as const;
    const { kept, decision } = arrive(nothingKept(), arrival, rules, { visitor, visit: visitor });
    return {
      id: idAt(at, n),
      at,
      release: 1,
      visitor,
      visit: visitor,
      address,
      referrer: arrival.referrer,
      kind: 'arrived',
      navigation: 'navigate',
      why: decision.because,
      kept: { works: true, first: kept.first, last: kept.last, clicks: kept.clicks },
    } as Hit;
  };
  const stored = () =>
    rowsOf<{ tag: string; value: string; host: string }>(
      place.db,
      'SELECT tag, value, host FROM touch_tags ORDER BY at, tag',
    );
  const send = async (hits: Hit[], agent = '') => {
    await place.services.collect(larkmoor.known, JSON.stringify({ clock: noon, hits }), { agent });
    await place.services.spoolWriter.drain();
    await makeDeriveVisitors(place.services.context, place.services.releases)(larkmoor.id, [hits[0]!.visitor]);
    await addUp(place, larkmoor.id);
  };

  it('is kept for each touch as it came, own tags too, once however often it is derived', async () => {
    setClock(noon + 86_400_000);
    const tagged = 'utm_source=baker-weekly&utm_medium=Paid_Social&utm_campaign=uk-27q1-fleet-x&market=uk&other=1';
    await send([hit(1, tagged), hit(2, tagged.replace('Paid_Social', 'paid social'))]);
    await send([hit(1, tagged)]);
    const rows = await stored();
    expect(rows).toHaveLength(8);
    expect(rows.filter(({ tag }) => tag === 'utm_medium').map(({ value, host }) => [value, host])).toEqual([
      ...[
        ['Paid_Social', 'bakerweekly.example'],
        ['paid social', 'bakerweekly.example'],
      ],
    ]);
  });

  it('is not looked at where a bot brought it', async () => {
    const before = (await stored()).length;
    const bot = { ...hit(3, 'utm_source=quillsearch&utm_medium=scan'), visitor: idAt(noon, 71) };
    await send([bot], 'LinkScanner/1.0 (bot)');
    expect(await stored()).toHaveLength(before);
  });

  it('is held against the plan, with where it came from and what it should have been', async () => {
    const { rows } = await place.services.plan.offPlan(editor, offPlanListSchema.parse({}));
    expect(rows.map(({ value, nearest, host, campaign }) => [value, nearest, host, campaign]).sort()).toEqual([
      ...[
        ['Paid_Social', 'paid-social', 'bakerweekly.example', 'uk-27q1-fleet-x'],
        ['paid social', 'paid-social', 'bakerweekly.example', 'uk-27q1-fleet-x'],
      ],
    ]);
  });

  it('shows what a rule would do before it is kept', async () => {
    const { live } = await place.services.draft.content(larkmoor.id);
    const medium = live.plan.tags.find(({ tag }) => tag === 'utm_medium')!;
    const values = [...medium.values, { value: 'Paid_Social', label: '' }];
    const effect = await place.services.plan.effect(editor, [
      { kind: 'tag', id: 'utm_medium', value: { ...medium, values } },
    ]);
    expect(effect).toMatchObject({
      takenIn: { values: 1, arrivals: 1, first: [{ value: 'Paid_Social' }] },
      off: { values: 1, first: [{ value: 'paid social' }] },
      recordedSince: expect.stringMatching(/^2027-02-0\dT13:00/),
    });
    expect(await place.services.draft.count(larkmoor.id)).toBe(0);
  });
});

describe('links, results and CRM', () => {
  it('are compared with the campaign types that the CRM itself names', async () => {
    const { crm, rows } = await place.services.channels.view(editor);
    expect(crm.types).toContain('Workshop days');
    expect(rows.at(-1)).toMatchObject({ medium: '', crmTypes: ['Workshop days'] });
  });
});

describe('campaigns', () => {
  /** What of a row is the campaign itself. */
  const bare = (row: Campaign): Campaign =>
    Object.fromEntries(campaignFields.map((field) => [field, row[field]])) as Campaign;

  it('are pulled with what is new, changed and vanished, and taken only as they were shown', async () => {
    const { campaigns } = place.services;
    const first = await campaigns.pull(editor);
    expect([first.fresh.length, first.changed, first.vanished, first.refused]).toEqual([9, [], [], []]);
    await campaigns.take(
      editor,
      first.fresh.map(({ campaign }) => campaign),
      [],
    );
    expect(await campaigns.pull(editor)).toMatchObject({ fresh: [], changed: [], vanished: [], same: 9 });

    const stored = (await campaigns.view(editor)).rows;
    const letter = stored.find(({ crmId }) => crmId === 'C-105')!;
    expect(letter).toMatchObject({ retired: false, arrivals: 0, links: 0, wrong: '', parts: { line: 'fleet' } });
    const rest = bare(letter);
    await campaigns.save(editor, letter.id, { ...rest, friendly: 'Another name', stage: 'staying', note: 'ours' });
    await campaigns.save(editor, null, { ...rest, name: 'uk-27q1-fleet-gone', crmId: 'C-999' });
    const again = await campaigns.pull(editor);
    expect(again.changed).toMatchObject([{ key: 'C-105', changes: [{ field: 'friendly', was: 'Another name' }] }]);
    expect(again.vanished.map(({ key }) => key)).toEqual(['C-999']);
    await campaigns.take(editor, [], ['C-999']);
    expect((await campaigns.view(editor)).rows.find(({ crmId }) => crmId === 'C-999')!.retired).toBe(true);
  });

  it('from outside are all taken, or none where one cannot be', async () => {
    const { campaigns } = place.services;
    const { rows } = await campaigns.view(editor);
    const [known] = rows;
    const fresh = { ...bare(known!), crmId: '', name: 'uk-27q3-shop-a' };
    await expect(
      campaigns.take(editor, [fresh, { ...fresh, name: known!.name, crmId: 'C-77' }, fresh], []),
    ).rejects.toMatchObject({ code: 'AVX_CAMPAIGN_TAKEN' });
    expect((await campaigns.view(editor)).rows).toEqual(rows);
  });

  it('may change names among them', async () => {
    const { campaigns } = place.services;
    const [a, b] = (await campaigns.view(editor)).rows.filter(({ crmId }) => crmId);
    await campaigns.take(
      editor,
      [
        { ...bare(a!), name: b!.name },
        { ...bare(b!), name: a!.name },
      ],
      [],
    );
    const named = async () => {
      const { rows } = await campaigns.view(editor);
      return [a!, b!].map(({ id }) => rows.find((row) => row.id === id)!.name);
    };
    expect(await named()).toEqual([b!.name, a!.name]);
    await campaigns.take(editor, [bare(a!), bare(b!)], []);
    expect(await named()).toEqual([a!.name, b!.name]);
  });

  it('have a number of the CRM of their own', async () => {
    const { campaigns } = place.services;
    const numbered = (await campaigns.view(editor)).rows.find(({ crmId }) => crmId)!;
    const other = { ...bare(numbered), name: 'uk-27q3-shop-b' };
    await expect(campaigns.save(editor, null, other)).rejects.toMatchObject({
      message: `Another campaign has the number “${numbered.crmId}” already. Give this one its own.`,
    });
  });

  it('that are not there are not changed: that is said', async () => {
    const { campaigns } = place.services;
    const [row] = (await campaigns.view(editor)).rows;
    const nowhere = idAt(noon, 999);
    const gone = { code: 'AVX_NOT_FOUND' };
    await expect(campaigns.save(editor, nowhere, bare(row!))).rejects.toMatchObject(gone);
    await expect(campaigns.retire(editor, nowhere, true)).rejects.toMatchObject(gone);
  });

  it('have a tracking name of their own', async () => {
    const [row] = (await place.services.campaigns.view(editor)).rows;
    await expect(place.services.campaigns.save(editor, null, { ...bare(row!), crmId: '' })).rejects.toMatchObject({
      code: 'AVX_CAMPAIGN_TAKEN',
      message: `Another campaign has the tracking name “${row!.name}” already. Give this one its own.`,
    });
  });
});
