import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Answer } from '../../src/core/outgoing';
import { destinationKinds, type EventRow } from '../../src/core/destinations';
import { noon, openWorld, type World } from './world';

/* Every kind of place that takes events is held to the same rules: as pure functions, and against the service itself. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.end());

describe.each(destinationKinds.map((contract) => [contract.kind, contract] as const))('%s', (kind, contract) => {
  const row = (n: number, change: Partial<EventRow> = {}): EventRow => ({
    eventId: `enquiry_sent.${n}`,
    name: contract.named.example,
    happenedAt: noon - 60_000,
    fields: [['bikes', `${n} é&=`]],
    ...change,
  });
  const rows = (count: number) => Array.from({ length: count }, (_, n) => row(n));
  const tell = async (told: EventRow[], token?: string) =>
    contract.readAnswer(await world.destinations[kind]!.ask(contract.writeBatch(told), token), told);

  it('names events in a form of its own, which any value can be brought into', () => {
    expect(contract.named.problem(contract.named.example)).toBe('');
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (value) => {
        expect(contract.named.problem(contract.named.clean(value))).toBe('');
      }),
    );
  });

  it('writes the same request for the same events, and reads any answer without an error', () => {
    expect(contract.writeBatch(rows(3))).toEqual(contract.writeBatch(rows(3)));
    const answers: fc.Arbitrary<Answer> = fc.record({
      status: fc.constantFrom(200, 204, 400, 401, 404, 429, 500),
      headers: fc.constant({}),
      body: fc.oneof(
        fc.string(),
        fc.json(),
        fc.constantFrom('{"said":[{"id":"x","word":"counted"}]}', '{"said":[null]}'),
      ),
    });
    fc.assert(
      fc.property(answers, (answer) => {
        const said = contract.readAnswer(answer, rows(2));
        if (said.kind === 'rows')
          for (const { eventId } of said.rows) expect(['enquiry_sent.0', 'enquiry_sent.1']).toContain(eventId);
      }),
    );
  });

  it('is counted once however often it is told, and says what it does not take', async () => {
    const { counted } = world.destinations[kind]!;
    const before = await counted();
    const taken = { kind: 'rows', rows: [{ eventId: 'enquiry_sent.0', taken: true }] };
    expect(await tell([row(0)])).toMatchObject(taken);
    expect(await tell([row(0)])).toMatchObject(taken);
    expect(await counted()).toBe(before + 1);
    const old = noon - (contract.limits.tellWithinHours + 1) * 3_600_000;
    expect(await tell([row(1, { happenedAt: old })])).toMatchObject({ kind: 'rows', rows: [{ taken: false }] });
    expect(await tell([row(2, { name: 'No Such Form!' })])).toMatchObject({ kind: 'refused', status: '400' });
    expect(await tell([row(3)], 'wrong key')).toMatchObject({ kind: 'away', status: '401' });
    expect(await counted()).toBe(before + 1);
  });

  it('takes as many at a time as its limits say', async () => {
    const many = Array.from({ length: contract.limits.rowsPerCall }, (_, n) => row(100 + n));
    expect(await tell(many)).toMatchObject({ kind: 'rows', rows: { length: many.length } });
  });
});
