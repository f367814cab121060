import { beforeAll, expect, it } from 'vitest';
import type { OutcomeRule } from '../../src/core/outcomes';
import { rowsOf } from './place';
import { ask, deliver, larkmoor, move, outside, place, qualify, rest, time } from './walks';

/* Outcomes that a deal reaches one after the other: what platforms are told of all of them is never more than the deal. */

const signed: OutcomeRule = {
  ...{ code: 'FLT-SIGNED', version: 1, words: 'Lease signed', kind: 'agreement', clickDays: 80 },
  reachedBy: { kind: 'stage', stage: 'Signed' },
  worth: { kind: 'realised', field: 'lease_profit', less: [] },
  countedOnceFor: 'enquiry',
};

beforeAll(async () => {
  const { content } = await place.services.releases.live(larkmoor.id);
  const [telling] = content.telling.filter((one) => one.outcome === 'FLT-QUAL' && one.platform === 'quillsearch');
  move(time + 1000);
  await place.services.releases.make(larkmoor.id, {
    name: 'A ladder',
    note: '',
    content: {
      ...content,
      outcomes: [...content.outcomes, signed],
      telling: [...content.telling, { ...telling!, outcome: signed.code }],
      ladders: [{ name: 'Fleet', steps: ['FLT-QUAL', 'FLT-SIGNED'], tells: 'what it adds' }],
    },
  });
  await outside.quillsearch.app.request('/account/outcomes', {
    method: 'POST',
    body: new URLSearchParams({ code: signed.code }),
  });
  move(time + 4 * 3_600_000);
});

const worths = () =>
  rowsOf<{ code: string; worth: number; now: number | null }>(
    place.db,
    'SELECT code, worth_minor AS worth, corrected_minor AS now FROM outcomes ORDER BY code',
    [],
  );
const atQuillsearch = () => outside.around.storeOf('quillsearch').rows<{ id: string }>('outcomes').all();
async function onward(minutes = 10): Promise<void> {
  move(time + minutes * 60_000);
  await rest();
}

it('each step tells what it adds, and what the deal is worth less takes it from both', async () => {
  const { deal } = await ask();
  await qualify(deal);
  await onward();
  expect(await worths()).toEqual([{ code: 'FLT-QUAL', worth: 13_500, now: null }]);
  await qualify(deal, 'Signed');
  await onward();
  expect(await worths()).toEqual([
    { code: 'FLT-QUAL', worth: 13_500, now: null },
    { code: 'FLT-SIGNED', worth: 40_500, now: null },
  ]);
  expect(atQuillsearch()).toHaveLength(2);
  // The lease came out smaller: its own expectation falls with it, and both are corrected.
  await outside.oakledger.app.request(`/deals/${deal}/amount`, {
    method: 'POST',
    body: new URLSearchParams({ amount: '100', currency: 'GBP' }),
  });
  await deliver();
  await onward(20);
  const now = await worths();
  expect(now).toEqual([
    { code: 'FLT-QUAL', worth: 13_500, now: 2500 },
    { code: 'FLT-SIGNED', worth: 40_500, now: 7500 },
  ]);
  const corrections = await rowsOf<{ code: string; told: number; state: string }>(
    place.db,
    `SELECT o.code, r.told_minor AS told, r.state FROM report_backs r JOIN outcomes o ON o.id = r.outcome_id
     WHERE r.correction = 1 ORDER BY o.code`,
    [],
  );
  expect(corrections).toEqual([
    { code: 'FLT-QUAL', told: 2500, state: 'confirmed' },
    { code: 'FLT-SIGNED', told: 7500, state: 'confirmed' },
  ]);
});
