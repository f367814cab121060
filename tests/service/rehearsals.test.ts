import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Membership } from '../../src/server/people/people';
import { placeOfLarkmoor } from './place';

let place: Awaited<ReturnType<typeof placeOfLarkmoor>>['place'];
let owner: Membership;
let editor: Membership;
let anna: string;
beforeAll(async () => {
  const made = await placeOfLarkmoor();
  ({ place, member: editor } = made);
  anna = editor.role.personId;
  owner = { ...editor, role: { ...editor.role, role: 'owner' } };
});
afterAll(() => place.end());

const arrives = 'arrive /fleet?utm_source=quillsearch&utm_medium=paid-search&utm_campaign=winterproof';
const wanted = {
  name: 'A paid click is kept',
  lines: [arrives],
  traits: [],
  expected: [{ key: 'hop form kept', is: 'yes' }],
};
const walk = (lines: string[], editing: { kind: string; id: string; value: unknown }[] = []) =>
  place.services.rehearsals.walk(owner, { lines, traits: [], rules: 'draft', editing });
const consent = (required: boolean) => ({ kind: 'consent' as const, id: '', value: { required, count: false } });
/** The rule that keeps the click ID of Quillsearch, under another name in its links. */
const otherName = async () => {
  const { keep } = (await place.services.draft.content(owner.business.id)).draft.capture;
  const value = { ...keep.clickIds.find(({ platform }) => platform === 'quillsearch')!, parameter: 'qs_key' };
  return { kind: 'click_id' as const, id: 'quillsearch', value };
};
const seen = async () =>
  (await place.services.draft.view(owner)).changes.map(({ kind, id, changedAt }) => ({ kind, id, changedAt }));

describe('a rehearsal', () => {
  it('walks by the draft’s rules, with those that are being written among them', async () => {
    const { lines, trace } = await walk([arrives]);
    expect(lines[0]!.notes.map(({ text }) => text).join(' ')).toContain(
      'Keeps the click ID of Quillsearch, `Rehearsed1`.',
    );
    expect(trace!.hops.slice(0, 3).map(({ state }) => state)).toEqual(['made_it', 'made_it', 'made_it']);
    const unfinished = { kind: 'fill', id: 'x', value: { field: '' } };
    const [still] = (await walk([arrives], [unfinished])).lines;
    expect(still!.problem, 'what cannot be a rule yet is left out').toBe('');
    const written = await walk(['arrive /fleet?qs_key=Q9'], [await otherName()]);
    expect(written.lines[0]!.notes.map(({ text }) => text).join(' ')).toContain('`Q9`');
  });
  it('writes nothing', async () => {
    await walk([arrives, 'send test-ride', 'order 20 GBP']);
    const { tables } = place.services.context;
    const where = { businessId: owner.business.id };
    expect(await Promise.all([tables.strands.count({ where }), tables.outcomes.count({ where })])).toEqual([0, 0]);
  });
});

describe('a saved rehearsal', () => {
  it('comes out as expected, stops a release that breaks it, and is overruled by an owner with a reason alone', async () => {
    const { rehearsals, draft, releasing } = place.services;
    await rehearsals.save(owner, anna, wanted);
    expect((await rehearsals.list(owner)).sentence.title).toBe('The saved rehearsal comes out as expected.');
    await rehearsals.save(owner, anna, {
      ...wanted,
      name: 'The click alone',
      lines: ['arrive /fleet?qsid=Q1'],
      expected: [{ key: 'hop form kept', is: 'yes' }],
    });
    await draft.change(owner, anna, [await otherName()]);
    const list = await rehearsals.list(owner);
    expect(list.sentence.title).toBe('1 saved rehearsal would stop the next release.');
    const release = async (who: Membership, overrule = '') =>
      releasing.release(who, anna, { name: 'Another name', seen: await seen(), overrule });
    await expect(release(owner)).rejects.toMatchObject({
      code: 'AVX_REHEARSAL_FAILS',
      message: expect.stringContaining('The click alone') as string,
    });
    await expect(release(editor, 'It must')).rejects.toMatchObject({ code: 'AVX_ROLE_TOO_SMALL' });
    const number = await release(owner, 'Quillsearch renames it');
    const { note } = await place.services.releases.numbered(owner.business.id, number);
    expect(note).toBe('1 rule changed. Overruled “The click alone”: Quillsearch renames it');
  });

  it('has a name of its own among those in use', async () => {
    const { rehearsals } = place.services;
    const taken = { code: 'AVX_FIELD_WRONG', message: expect.stringContaining('already') as string };
    await expect(rehearsals.save(owner, anna, wanted)).rejects.toMatchObject(taken);
    const [first, second] = (await rehearsals.list(owner)).rehearsals;
    const change = rehearsals.change(owner, anna, second!.id, {
      ...wanted,
      name: first!.name,
      seen: second!.changedAt,
    });
    await expect(change).rejects.toMatchObject(taken);
  });

  it('is not written over by two, and is retired and taken back', async () => {
    const { rehearsals } = place.services;
    const [first] = (await rehearsals.list(owner)).rehearsals;
    const change = (seenAt: string, name: string) =>
      rehearsals.change(owner, anna, first!.id, { ...wanted, name, seen: seenAt });
    await change(first!.changedAt, 'Renamed');
    await expect(change(first!.changedAt, 'Other')).rejects.toMatchObject({ code: 'AVX_REHEARSAL_CHANGED' });
    await rehearsals.retire(owner, anna, first!.id, true);
    expect((await rehearsals.list(owner)).rehearsals.map(({ name }) => name)).not.toContain('Renamed');
    await rehearsals.retire(owner, anna, first!.id, false);
    expect((await rehearsals.list(owner)).rehearsals.map(({ name }) => name)).toContain('Renamed');
    const reader = { ...owner, role: { ...owner.role, role: 'reader' as const } };
    await expect(rehearsals.save(reader, anna, wanted)).rejects.toMatchObject({ code: 'AVX_ROLE_TOO_SMALL' });
  });

  it('consent that becomes required is walked as agreed', async () => {
    await place.services.draft.change(owner, anna, [consent(true)]);
    expect((await walk(['arrive /fleet?utm_campaign=x'])).trace!.hops[2]!.state).toBe('made_it');
  });
});
