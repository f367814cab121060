import { expect, it } from 'vitest';
import { freshCondition } from '../../src/core/leads/segments/condition';
import { everything, strandListSchema } from '../../src/core/strands/schema';
import { makeEditor } from './place';
import { ask, larkmoor, place, qualify } from './walks';

/* The line, and the clicks behind its numbers, narrowed to a segment. */

const choice = (segment: string) => ({ range: 'weeks4' as const, way: 'form' as const, ...everything, segment });

it('shows of a segment only the clicks that brought its enquiries, where they were lost, and the rows behind', async () => {
  const { member } = await makeEditor(place.services, larkmoor.id);
  const { business, role } = member;
  await qualify((await ask({ form: 'call-back' })).deal);
  const lost = await ask({ form: 'call-back' });
  const { deal } = await ask({ form: 'test-ride' });
  await qualify(deal);
  await ask({ form: 'test-ride' });
  const save = async (name: string, form: string, isShared = true) =>
    (
      await place.services.segments.save(member, 'Maud', {
        ...{ id: '', isShared, seen: '', name },
        means: { match: 'all', conditions: [{ ...freshCondition('form'), values: [form] }] },
      })
    ).id;
  const callBacks = await save('Call backs', 'call-back');
  const rides = await save('Test rides', 'test-ride', false);

  const line = await place.services.strands.line(business, role, choice(callBacks));
  const made = (of: typeof line) => of.columns.map(({ hop, count, lost }) => [hop, count, lost]);
  // Nobody counts the clicks of a segment; both numbers died on the way into the CRM (the wrong field's name).
  expect(made(line).slice(0, 5)).toEqual([
    ['clicked', null, 0],
    ['landed', 2, 0],
    ['kept', 2, 0],
    ['form_sent', 2, 2],
    ['in_crm', 0, 0],
  ]);
  expect(line.sentence.title).toMatch(/^In “Call backs”: /);
  expect(line.segments.map(({ name }) => name)).toEqual(['Call backs', 'Test rides']);
  expect(made(await place.services.strands.line(business, role, choice(rides))).slice(3, 6)).toEqual([
    ['form_sent', 2, 0],
    ['in_crm', 2, 0],
    ['qualified', 1, 0],
  ]);

  const asked = strandListSchema.parse({ hop: 'in_crm', state: 'lost' });
  const list = await place.services.strands.strands(business, role, choice(callBacks), asked);
  expect([list.total, list.rows.map(({ clickId }) => clickId)]).toEqual([2, expect.arrayContaining([lost.qsid])]);
  expect(list.sentence.title).toContain('in “Call backs”');
  expect((await place.services.strands.strands(business, role, choice(rides), asked)).total).toBe(0);

  // A segment that only its owner sees narrows nobody else's line.
  const other = await makeEditor(place.services, larkmoor.id, 'Nell');
  await expect(place.services.strands.line(business, other.member.role, choice(rides))).rejects.toMatchObject({
    code: 'AVX_NOT_FOUND',
  });
});
