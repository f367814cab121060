import { expect, it } from 'vitest';
import { ripenessQuerySchema } from '../../src/core/results/ripeness-view';
import { makeEditor } from './place';
import { ask, larkmoor, move, place, qualify, rest, time } from './walks';

/* How long after their click outcomes come, with what comes later than a platform takes it. */

const day = 86_400_000;

it('what comes later than the platform’s window names the stage that came in time; few say nothing of the others', async () => {
  const { member } = await makeEditor(place.services, larkmoor.id);
  const read = (given: Record<string, string> = {}) =>
    place.services.ripeness.view(member, ripenessQuerySchema.parse(given));
  const before = await read();
  expect(before.sentence).toEqual({
    title: 'Too few FLT-QUAL have come to say how long they take.',
    under: 'None came from a click that is known.',
  });
  const begun = time;
  const late = await ask();
  move(begun + 5 * day);
  await qualify(late.deal, 'Spoken');
  const soon = [];
  for (let i = 0; i < 10; i++) soon.push(await ask());
  move(begun + 8 * day);
  for (const { deal } of soon) await qualify(deal);
  move(begun + 96 * day);
  await qualify(late.deal);
  await rest();
  const shown = await read();
  expect(shown.all).toMatchObject({ count: 11, half: 3, nine: 3 });
  expect(shown.all.curve).toHaveLength(97);
  expect(shown.sentence.title).toBe('Nine in ten FLT-QUAL come within 3 days.');
  expect(shown.rows).toMatchObject([{ text: 'quillsearch', count: 11 }]);
  expect(shown.limits.find(({ key }) => key === 'quillsearch')).toMatchObject({
    days: 80,
    late: 1,
    of: 11,
    earlier: { stage: 'Spoken', count: 1 },
  });
  const table = await place.services.ripeness.table(member, ripenessQuerySchema.parse({}));
  expect(table).toEqual([
    ['source', 'FLT-QUAL', 'days until half came', 'days until nine in ten came'],
    ['quillsearch', '11', '3', '3'],
    ['all together', '11', '3', '3'],
  ]);
});
