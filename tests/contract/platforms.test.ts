import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { platformKinds, type ChangeRow, type PlatformContract, type TellingRow } from '../../src/core/platforms';
import type { Answer, OutgoingRequest } from '../../src/core/outgoing';
import { plainAds } from './plain-ads';
import { openWorld, type PlatformWorld, type World } from './world';

/* Every kind of platform, and one that a business describes itself, is held to the same rules: as pure functions, and against the service it is a contract with. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.end());

const row = (n: number, change: Partial<TellingRow> = {}): TellingRow => ({
  eventId: `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`,
  key: { kind: 'click_id', value: `click ${n} +/&=é` },
  outcome: 'FLT-QUAL',
  happenedAt: Date.UTC(2027, 1, 1, 12),
  worth: { minor: 13_500, currency: 'GBP' },
  ...change,
});
const answers: fc.Arbitrary<Answer> = fc.record({
  status: fc.constantFrom(200, 201, 204, 301, 400, 401, 404, 409, 413, 422, 429, 500, 503),
  headers: fc.constantFrom<Record<string, string>>({}, { 'retry-after': '30' }),
  body: fc.oneof(
    fc.string(),
    fc.json(),
    fc.constantFrom('', 'null', '{}', '[]', '{"rows":[]}', '{"rows":[{"order":"x"}]}', '{"said":1}'),
  ),
});

describe.each([...platformKinds, plainAds].map((contract) => [contract.kind, contract] as const))(
  '%s',
  (kind, contract) => {
    const rows = (count: number) => Array.from({ length: count }, (_, n) => row(n));
    const full = Math.min(contract.limits.rowsPerCall, 20);

    it('has limits that a batch can keep, and names what can be read', () => {
      const { clickDays, tellWithinDays, rowsPerCall, callsPerMinute } = contract.limits;
      for (const limit of [clickDays, tellWithinDays, rowsPerCall, callsPerMinute]) expect(limit).toBeGreaterThan(0);
      expect(Object.keys(contract.hashes ?? {})).toEqual(contract.knowsPeopleBy ?? []);
      expect(contract.tests !== undefined).toBe(contract.takesTests ?? false);
      expect(contract.words).not.toBe('');
      expect(contract.placeholders.filter(({ isClickId }) => isClickId).length).toBeLessThanOrEqual(1);
      for (const { text, words, example } of contract.placeholders)
        for (const said of [text, words, example]) expect(said).not.toBe('');
    });

    it('writes the same request for the same rows, with every key in it and no token', () => {
      const written = contract.writeBatch(rows(full));
      expect(contract.writeBatch(rows(full))).toEqual(written);
      const text = decodeURIComponent(written.path.replace(/\+/g, '%20')) + JSON.stringify(written.body ?? '');
      for (const { key, eventId } of rows(full)) for (const part of [key.value, eventId]) expect(text).toContain(part);
      expect(written.path.startsWith('/')).toBe(true);
      expect(contract.authorised === 'path').toBe(written.path.includes('{token}'));
    });

    it('reads any answer without an error, and answers only for rows that it was told', () => {
      fc.assert(
        fc.property(answers, (answer) => {
          const read = contract.readAnswer(answer, rows(full));
          if (read.kind === 'rows')
            for (const one of read.rows) expect(rows(full).map(({ eventId }) => eventId)).toContain(one.eventId);
          else expect(read.status).not.toBe('');
        }),
        { numRuns: 500 },
      );
    });

    it('takes no error of the platform for an answer to a row: it is away, and says how long', () => {
      for (const status of [429, 500, 502, 503]) {
        const answer = { status, headers: { 'retry-after': '30' }, body: 'no' };
        expect(contract.readAnswer(answer, rows(full))).toMatchObject({
          kind: 'away',
          status: String(status),
          retryAfter: '30',
        });
      }
    });

    describe('against the service', () => {
      let there: PlatformWorld;
      beforeAll(() => {
        there = world.platforms[kind]!;
      });
      const told = async (...all: TellingRow[]) => contract.readAnswer(await there.ask(contract.writeBatch(all)), all);
      const fresh = async (n: number) =>
        row(n, { ...there.outcome, key: { kind: 'click_id', value: await there.click() } });
      const states = (read: Awaited<ReturnType<typeof told>>) =>
        read.kind === 'rows' ? read.rows.map((one) => (one.taken ? 'taken' : one.answer)) : [read.kind, read.status];

      it('a row is taken, and one of a click that it does not know is refused by itself', async () => {
        expect(states(await told(await fresh(1)))).toEqual(['taken']);
        expect(states(await told(row(2, there.outcome)))).toEqual([there.unknown]);
      });

      it('a full call is taken whole, one row more is not', async () => {
        const { rowsPerCall } = contract.limits;
        const many = Array.from({ length: rowsPerCall }, (_, n) => row(1000 + n, there.outcome));
        const read = await told(...many);
        expect(read.kind === 'rows' && read.rows).toHaveLength(rowsPerCall);
      });

      it('a call that is wrong in itself is refused as a whole, so that it can be halved', async () => {
        const read = await told(row(3, { ...there.outcome, worth: { minor: -5, currency: 'GBP' } }));
        expect(read.kind).toBe('refused');
      });

      it('the same row again is recognised where the contract says so, and counted twice where it does not', async () => {
        const one = await fresh(4);
        const before = await there.counted();
        expect(states(await told(one))).toEqual(['taken']);
        expect(states(await told(one))).toEqual(['taken']);
        expect((await there.counted()) - before).toBe(contract.repeats === 'nothing' ? 2 : 1);
        if (contract.recognisesRepeats) {
          const { request, read } = contract.recognisesRepeats;
          expect(read(JSON.parse((await there.ask(request)).body))).toBe(contract.repeats !== 'nothing');
        }
      });

      it.runIf(contract.changes)(
        'what it took is changed to its new worth, once, also where it is told twice',
        async () => {
          const { writeBatch, readAnswer, withinDays } = contract.changes!;
          expect(withinDays).toBeGreaterThan(0);
          const change = async (one: TellingRow, minor: number) => {
            const how = { change: minor === 0 ? 'taken_back' : 'revalued', cause: 'refund' } as const;
            const changed: ChangeRow = { ...one, ...how, worth: { ...one.worth, minor } };
            return states(readAnswer(await there.ask(writeBatch([changed])), [changed]));
          };
          const one = await fresh(6);
          const before = await there.worth!();
          await told(one);
          expect((await there.worth!()) - before).toBe(13_500);
          for (const minor of [5000, 5000, 0, 0]) {
            expect(await change(one, minor)).toEqual(['taken']);
            expect((await there.worth!()) - before).toBe(minor);
          }
          const [unknown] = await change(await fresh(7), 100);
          expect(['taken', 'away', 'refused']).not.toContain(unknown);
        },
      );

      it.runIf(contract.tests)('asked as a test, it answers the same and counts nothing', async () => {
        const { writeBatch, readAnswer } = contract.tests!;
        const test = async (one: TellingRow) => states(readAnswer(await there.ask(writeBatch([one])), [one]));
        const one = await fresh(8);
        const before = await there.counted();
        expect(await test(one)).toEqual(['taken']);
        expect(await test(row(9, there.outcome))).toEqual([there.unknown]);
        expect(await there.counted()).toBe(before);
        expect(states(await told(one))).toEqual(['taken']);
        expect(await there.counted()).toBe(before + 1);
      });

      it.runIf(contract.hashes?.mail)('whoever it knows by an email address is told of without a click', async () => {
        const byMail = (n: number, mail: string) =>
          row(n, { ...there.outcome, key: { kind: 'mail_hash', value: contract.hashes!.mail!(mail) } });
        await there.clickAs?.('Ida@tern.example ');
        expect(states(await told(byMail(10, ' ida@TERN.example')))).toEqual(['taken']);
        // Where people are not known by their clicks, whoever is told of is somebody.
        if (there.clickAs) expect(states(await told(byMail(11, 'nobody@tern.example')))).toEqual([there.unknown]);
      });

      it('a wrong token is away, not an answer: nobody is refused for it', async () => {
        const answer = await there.ask(contract.writeBatch([row(5, there.outcome)]), 'wrong');
        expect(contract.readAnswer(answer, [row(5)])).toMatchObject({ kind: 'away', status: '401' });
      });

      const askThere = async <T>(question: { request: OutgoingRequest; read(body: unknown): T }) =>
        question.read(JSON.parse((await there.ask(question.request)).body));

      it.runIf(contract.report)('its report is read, clicks and outcomes by day', async () => {
        const { clicks, outcomes } = contract.report!;
        if (clicks) expect((await askThere(clicks('2027-01-01', '2027-02-28'))).length).toBeGreaterThan(0);
        const counted = await askThere(outcomes('2027-01-01', '2027-02-28'));
        expect(counted.length).toBeGreaterThan(0);
        for (const { day, outcome, counted: times } of counted) {
          expect(day).toMatch(/^\d{4}-\d\d-\d\d$/);
          expect(outcome).toBe(there.outcome.outcome);
          expect(times).toBeGreaterThan(0);
        }
        for (const asked of clicks ? [clicks, outcomes] : [outcomes])
          expect(() => asked('2027-01-01', '2027-02-28').read({ rows: 'none' })).toThrow();
      });

      it.runIf(contract.report?.costs)(
        'what its ads cost is read by day and ad, with as many clicks as it reports',
        async () => {
          const { clicks, costs } = contract.report!;
          const rows = await askThere(costs!('2027-01-01', '2027-02-28'));
          const sum = (all: { clicks: number }[]) => all.reduce((together, one) => together + one.clicks, 0);
          if (clicks) expect(sum(rows)).toBe(sum(await askThere(clicks('2027-01-01', '2027-02-28'))));
          expect(rows.length).toBeGreaterThan(0);
          for (const { day, currency, amount, campaign, ad } of rows) {
            expect([day, currency]).toEqual([
              expect.stringMatching(/^\d{4}-\d\d-\d\d$/),
              expect.stringMatching(/^[A-Z]{3}$/),
            ]);
            expect(Number.isSafeInteger(amount) && amount > 0).toBe(true);
            expect(campaign !== '' && ad !== '').toBe(true);
          }
          expect(() => costs!('2027-01-01', '2027-02-28').read({ rows: 'none' })).toThrow();
        },
      );
    });
  },
);

it('each kind is another one, with a click ID of its own', () => {
  const all = (read: (contract: PlatformContract) => string) => new Set(platformKinds.map(read)).size;
  expect([all(({ kind }) => kind), all(({ clickParameter }) => clickParameter)]).toEqual([
    platformKinds.length,
    platformKinds.length,
  ]);
});
