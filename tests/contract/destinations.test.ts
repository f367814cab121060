import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Answer } from '../../src/core/outgoing';
import { shippedDestinations, type EventRow } from '../../src/core/destinations';
import { faceOf } from '../../src/core/destinations/faces';
import { cleanValue } from '../../src/core/events/clean-value';
import { noon, openWorld, type World } from './world';

/* Every kind of place that takes events is held to the same rules: as pure functions, and against the service itself. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.end());

const hour = 3_600_000;
const all = shippedDestinations().map((contract) => [contract.kind, contract] as const);

describe.each(all)('%s', (kind, contract) => {
  const row = (n: number, clickId: string, change: Partial<EventRow> = {}): EventRow => ({
    eventId: `enquiry_sent.${n}`,
    name: world.destinations[kind]!.name,
    happenedAt: noon + 60_000,
    fields: contract.fields.length === 0 ? [['bikes', `${n} é&=`]] : [['worth', '1.249,50']],
    clickId,
    ...change,
  });
  const rows = (count: number) => Array.from({ length: count }, (_, n) => row(n, 'a click'));
  const tell = async (told: EventRow[], token?: string) =>
    contract.readAnswer(await world.destinations[kind]!.ask(contract.writeBatch(told, 'GBP'), token), told);

  it('is known to rules by what the server tells it by', () => {
    const face = faceOf(kind, [])!;
    expect([face.toldOf, face.named.example, face.page]).toEqual([
      contract.toldOf,
      contract.named.example,
      contract.page,
    ]);
    expect(face.hasCatalogue).toBe(contract.catalogue !== undefined);
  });

  it('names events in a form of its own, which any value can be brought into', () => {
    const { example, problem, cleaning } = contract.named;
    expect(problem(example)).toBe('');
    if (!cleaning) return;
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (value) => {
        expect(problem(cleanValue(value, cleaning))).toBe('');
      }),
    );
  });

  it('writes the same request for the same events, and reads any answer without an error', () => {
    const { rowsPerCall } = contract.limits;
    const some = rows(Math.min(3, rowsPerCall));
    expect(contract.writeBatch(some, 'GBP')).toEqual(contract.writeBatch(some, 'GBP'));
    const answers: fc.Arbitrary<Answer> = fc.record({
      status: fc.constantFrom(200, 204, 400, 401, 404, 409, 429, 500),
      headers: fc.constant({}),
      body: fc.oneof(
        fc.string(),
        fc.json(),
        fc.constantFrom('{"said":[{"id":"x","word":"counted"}]}', '{"said":[null]}', '{"word":"noted"}'),
      ),
    });
    fc.assert(
      fc.property(answers, (answer) => {
        const said = contract.readAnswer(answer, some);
        if (said.kind === 'rows')
          for (const { eventId } of said.rows) expect(some.map((one) => one.eventId)).toContain(eventId);
      }),
    );
  });

  it('says of an event that it cannot be told why, before it is', () => {
    if (contract.toldOf !== 'every event') expect(contract.problem(row(0, ''), 'GBP')).toContain('no click of');
    if (contract.fields.some(({ name }) => name === 'worth'))
      expect(contract.problem(row(0, 'a click', { fields: [['worth', 'much']] }), 'GBP')).toContain('no amount');
    expect(contract.problem(row(0, 'a click'), 'GBP')).toBe('');
  });

  it('is counted once however often it is told, where it knows repeats, and says what it does not take', async () => {
    const { counted, click } = world.destinations[kind]!;
    const clickId = await click();
    const before = await counted();
    const long = row(0, clickId, { eventId: `enquiry_sent.${'0'.repeat(70)}` });
    const taken = { kind: 'rows', rows: [{ eventId: long.eventId, taken: true }] };
    expect(await tell([long])).toMatchObject(taken);
    expect(await tell([long])).toMatchObject(taken);
    const once = before + (contract.repeatsHours === 0 ? 2 : 1);
    expect(await counted()).toBe(once);
    const old = noon - (contract.limits.tellWithinHours + 1) * hour;
    if (contract.repeatsHours !== 0)
      expect(await tell([row(1, clickId, { happenedAt: old })])).toMatchObject({
        kind: 'rows',
        rows: [{ taken: false }],
      });
    expect((await tell([row(3, clickId)], 'wrong key')).kind).toBe('away');
    expect(await counted()).toBe(once);
  });

  it('reports how many it counted under each name, by day, where it has a report of its own', async () => {
    if (!contract.report) return;
    const { ask, click } = world.destinations[kind]!;
    const day = new Date(noon).toISOString().slice(0, 10);
    const counted = async () => {
      const { request, read } = contract.report!(day, day, 'Europe/London');
      const rows = read(JSON.parse((await ask(request)).body));
      return rows.find((one) => one.day === day && one.outcome === row(0, '').name)?.counted ?? 0;
    };
    const before = await counted();
    await tell([row(50, await click()), row(51, await click())]);
    expect(await counted()).toBe(before + 2);
  });

  it('takes as many at a time as its limits say', async () => {
    const clickId = await world.destinations[kind]!.click();
    const many = Array.from({ length: contract.limits.rowsPerCall }, (_, n) => row(100 + n, clickId));
    expect(await tell(many)).toMatchObject({ kind: 'rows', rows: { length: many.length } });
  });

  it('has names made that it has to know first', async () => {
    const { catalogue } = contract;
    if (!catalogue) return;
    const { ask } = world.destinations[kind]!;
    const names = async () => catalogue.list.read(JSON.parse((await ask(catalogue.list.request)).body));
    expect(await names()).not.toContain('FLT-ASK-2');
    expect((await ask(catalogue.make('FLT-ASK-2'))).status).toBeLessThan(300);
    expect(await names()).toContain('FLT-ASK-2');
  });
});
