import { beforeAll, describe, expect, it } from 'vitest';
import type { ReportBackAct } from '../../src/core/reportbacks/acts';
import { queueListSchema } from '../../src/core/reportbacks/queue-schema';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { ask, larkmoor, move, outside, place, qualify, reportBackOf, rest, strandOf, takenBy, time } from './walks';

/* What people do with report-backs: held, let go, told at once, withdrawn and told again. */

let member: Membership;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  const { content } = await place.services.releases.live(larkmoor.id);
  const telling = content.telling.map((one) => ({ ...one, delayMinutes: 60 }));
  await place.services.releases.make(larkmoor.id, {
    name: 'An hour later',
    note: '',
    content: { ...content, telling },
  });
});

/** An enquiry that qualified, with its report-back, which waits for an hour. */
async function waiting() {
  move(time + 1000);
  const { number } = await place.services.releases.live(larkmoor.id);
  const { qsid, deal } = await ask({ release: number });
  await qualify(deal);
  const { id, state } = (await reportBackOf(qsid))!;
  expect(state).toBe('waiting');
  return { qsid, id };
}
const act = (name: ReportBackAct, ids: string[], isTried = false) =>
  place.services.queue.act(member, 'Maud', { act: name, ids, list: null, isTried });
const stateOf = async (qsid: string) => (await reportBackOf(qsid))!.state;
async function later(minutes: number): Promise<void> {
  move(time + minutes * 60_000);
  await rest();
}

describe('a report-back that waits', () => {
  it('is held by somebody, says by whom, stays so whatever happens, and is told once it is let go', async () => {
    const { qsid, id } = await waiting();
    expect(await act('hold', [id], true)).toEqual({ done: 1, left: [] });
    expect(await stateOf(qsid)).toBe('waiting');
    await act('hold', [id]);
    await later(120);
    expect(await reportBackOf(qsid)).toMatchObject({ state: 'held', reason: { code: 'held_by', by: 'Maud' } });
    expect(await strandOf(qsid)).toMatchObject({ reached: 6, state: 'waiting' });
    expect(await act('hold', [id])).toEqual({ done: 0, left: [{ because: 'held already', count: 1 }] });
    await act('let_go', [id]);
    await rest();
    expect(await stateOf(qsid)).toBe('confirmed');
    expect(await takenBy()).toBe(1);
  });

  it('is told at once where somebody says so', async () => {
    const { qsid, id } = await waiting();
    await act('tell_now', [id]);
    await rest();
    expect(await stateOf(qsid)).toBe('confirmed');
    // What was told is changed by nothing from here.
    for (const name of ['hold', 'withdraw', 'tell_again', 'tell_now'] as const)
      expect(await act(name, [id])).toEqual({ done: 0, left: [{ because: 'told already', count: 1 }] });
  });

  it('is withdrawn and told to nobody, and can be told again after all', async () => {
    const { qsid, id } = await waiting();
    await act('withdraw', [id]);
    await later(120);
    expect(await reportBackOf(qsid)).toMatchObject({
      state: 'withdrawn',
      reason: { code: 'withdrawn_by', by: 'Maud' },
    });
    expect(await strandOf(qsid)).toMatchObject({ state: 'left' });
    await act('tell_again', [id]);
    await rest();
    expect(await stateOf(qsid)).toBe('confirmed');
  });
});

describe('a row that the platform refused', () => {
  it('says why and what to do, is told again once, and is taken', async () => {
    await outside.quillsearch.app.request('/account/faults', {
      method: 'POST',
      body: new URLSearchParams({ kind: 'choosy', seconds: '0' }),
    });
    const all = [await waiting(), await waiting(), await waiting(), await waiting()];
    await later(120);
    await outside.quillsearch.app.request('/account/faults', {
      method: 'POST',
      body: new URLSearchParams({ kind: 'none', seconds: '0' }),
    });
    const states = await Promise.all(all.map(({ qsid }) => stateOf(qsid)));
    const refused = all.filter((_one, i) => states[i] === 'refused');
    expect(refused.length).toBeGreaterThan(0);
    const view = await place.services.queue.page(member, queueListSchema.parse({ state: 'refused' }));
    expect([view.total, view.groups[0]]).toMatchObject([refused.length, { state: 'refused', count: refused.length }]);
    const one = await place.services.queue.one(member, refused[0]!.id);
    expect([one.acts, one.attempts.length, one.mend === '']).toEqual([['withdraw', 'tell_again'], 1, false]);
    // The key that names somebody is nowhere in what is shown.
    expect(JSON.stringify(one)).not.toContain(refused[0]!.qsid);
    // All of a list at once.
    const list = { state: 'refused' };
    const again = await place.services.queue.act(member, 'Maud', { act: 'tell_again', ids: [], list, isTried: false });
    expect(again).toEqual({ done: refused.length, left: [] });
    await rest();
    for (const { qsid } of refused) expect(await stateOf(qsid)).toBe('confirmed');
    const [logged] = await rowsOf<{ became: string }>(
      place.db,
      "SELECT became FROM change_log WHERE kind = 'report-back' ORDER BY id DESC LIMIT 1",
    );
    expect(logged!.became).toMatch(/^told again: FLT-QUAL to quillsearch$/);
  });
});

it('a reader looks and changes nothing', async () => {
  const { id } = await waiting();
  const reader = { ...member, role: { ...member.role, role: 'reader' as const } };
  expect((await place.services.queue.one(reader, id)).acts).toEqual([]);
  await expect(
    place.services.queue.act(reader, 'Maud', { act: 'hold', ids: [id], list: null, isTried: true }),
  ).rejects.toMatchObject({ code: 'AVX_ROLE_TOO_SMALL' });
});
