import { beforeAll, expect, it } from 'vitest';
import { funnelBehindSchema, funnelQuerySchema } from '../../src/core/results/funnel-view';
import { day, idAt, makeEditor } from './place';
import { larkmoor, move, opened, place, tell, time } from './walks';

/* A funnel of more browsers than are looked up one by one, over more days than are read at once. */

const many = 360;
const begun = time;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
const paths = ['/repairs', '/prices', '/'];
/** Each begins on the fleet page, over nine days; every fourth goes on to lease, the others elsewhere after an hour, or nowhere. */
const fateOf = (n: number) => (n % 4 === 0 ? '/fleet/lease' : n % 4 === 1 ? '' : paths[n % 3]!);

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  move(begun + 20 * day);
  const hits = Array.from({ length: many }, (_, n) => {
    const visitor = idAt(begun, 100_000 + n);
    const at = begun + (n % 9) * day + n * 1000;
    const fate = fateOf(n);
    // What comes before the first step, and what comes after its time, is nobody's next page.
    return [
      opened(visitor, at - 60_000, '/prices', 4 * n),
      opened(visitor, at, '/fleet', 4 * n + 1),
      ...(fate === '' ? [] : [opened(visitor, at + 3_600_000, fate, 4 * n + 2)]),
      opened(visitor, at + 3 * day, '/repairs', 4 * n + 3),
    ];
  }).flat();
  await tell(hits);
});

/** A page without its host; '' for none. */
const pathOf = (page: string) => page.replace(/^[^/]+/, '');

const steps = JSON.stringify([
  { kind: 'page', test: 'equals', value: '/fleet', skip: false },
  { kind: 'page', test: 'begins', value: '/fleet/lease', skip: false },
]);
const asked = funnelQuerySchema.parse({ steps, within: '2', range: 'weeks13' });

it('counts them, and says where each of the lost went within its time', async () => {
  const found = await place.services.funnel.view(member, asked);
  const fates = Array.from({ length: many }, (_, n) => fateOf(n));
  const count = (fate: string) => fates.filter((one) => one === fate).length;
  expect(found.steps.map(({ made, lost, open }) => [made, lost, open])).toEqual([
    [many, 0, 0],
    [count('/fleet/lease'), many - count('/fleet/lease'), 0],
  ]);
  const { instead, left } = found.steps[1]!;
  expect(left).toBe(count(''));
  expect(Object.fromEntries(instead.map(({ page, count: n }) => [pathOf(page), n]))).toEqual(
    Object.fromEntries(paths.map((path) => [path, count(path)])),
  );
});

it('says the same of each behind a figure, which are looked up one by one', async () => {
  const lost = funnelBehindSchema.parse({ step: '1', end: 'lost' });
  const { rows, total } = await place.services.funnel.behind(member, asked, lost);
  expect(total).toBe(many - many / 4);
  for (const { visitor, instead } of rows) {
    const n = Array.from({ length: many }, (_, i) => i).find((i) => idAt(begun, 100_000 + i) === visitor)!;
    expect(pathOf(instead)).toBe(fateOf(n));
  }
});
