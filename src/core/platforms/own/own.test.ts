import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ruleKinds } from '../../rules';
import { contractOf } from '..';
import { ownPlatformSchema, type OwnPlatform, type PlatformTelling } from '../schema';

const row = (n: number) => ({
  eventId: `e${n}`,
  key: { kind: 'click_id' as const, value: `c${n}` },
  outcome: 'FLT-QUAL',
  happenedAt: Date.UTC(2027, 1, 15, 9, 42),
  worth: { minor: 124_950, currency: 'GBP' },
});
const own = (telling: Partial<PlatformTelling> = {}): OwnPlatform => {
  const start = ruleKinds.platform.start!({}, []);
  return ownPlatformSchema.parse({
    ...start,
    kind: 'fair-lead',
    words: 'Fair Lead',
    clickParameters: ['flid', 'flid_app'],
    telling: { ...start.telling, path: '/take', ...telling },
  });
};
const contract = (telling: Partial<PlatformTelling> = {}) => contractOf('fair-lead', [own(telling)])!;
const answer = (body: unknown, status = 200) => ({ status, headers: {}, body: JSON.stringify(body) });
const byWords = { rowsAt: '', idAt: '', saysAt: '/said', taken: ['ok'], toldBefore: ['again'] };

describe('a platform that a business describes itself', () => {
  it('is told one row as its rule says, each reading in its own place and form', () => {
    const readings = [
      ...(['click_id', 'outcome', 'event_id', 'happened_at', 'happened_at_seconds', 'happened_at_ms'] as const),
      ...(['worth', 'worth_text', 'worth_minor', 'currency'] as const),
    ];
    const fields = [
      ...readings.map((reading) => ({ at: `/row/${reading}`, reading, text: '' })),
      { at: '/account', reading: 'text' as const, text: 'A-1' },
    ];
    expect(contract({ fields }).writeBatch([row(1)])).toEqual({
      method: 'POST',
      path: '/take',
      headers: {},
      body: {
        account: 'A-1',
        row: {
          click_id: 'c1',
          outcome: 'FLT-QUAL',
          event_id: 'e1',
          happened_at: '2027-02-15T09:42:00.000Z',
          happened_at_seconds: 1_802_684_520,
          happened_at_ms: 1_802_684_520_000,
          worth: 1249.5,
          worth_text: '1249.50',
          worth_minor: 124_950,
          currency: 'GBP',
        },
      },
    });
  });

  it('takes many rows in a list where its rule says so, else one a call', () => {
    expect(contract().limits.rowsPerCall).toBe(1);
    const many = contract({ many: true, rowsAt: '/rows' });
    expect(many.limits.rowsPerCall).toBe(100);
    expect((many.writeBatch([row(1), row(2)]).body as { rows: object[] }).rows).toHaveLength(2);
    expect(contract({ many: true }).writeBatch([row(1)]).body).toHaveLength(1);
  });

  it('that answers by its status alone took what it answered 2xx', () => {
    const { readAnswer } = contract();
    expect(readAnswer(answer('fine', 201), [row(1)])).toEqual({
      kind: 'rows',
      rows: [{ eventId: 'e1', taken: true, day: '' }],
    });
    expect(readAnswer(answer('no', 422), [row(1)]).kind).toBe('refused');
    expect(readAnswer(answer('later', 429), [row(1)]).kind).toBe('away');
  });

  it.each([
    ['ok', true],
    ['again', true],
    ['too old', false],
  ])('that says %j of a row took it: %s', (said, taken) => {
    const read = contract({ answer: byWords }).readAnswer(answer({ said }), [row(1)]);
    expect(read).toMatchObject({ kind: 'rows', rows: [{ eventId: 'e1', taken }] });
    // A call of one row may say so by its status too.
    expect(contract({ answer: byWords }).readAnswer(answer({ said }, 409), [row(1)])).toMatchObject({
      kind: 'rows',
      rows: [{ taken }],
    });
  });

  it('answers rows by our event ID, or in the order they were sent', () => {
    const rows = [row(1), row(2)];
    const byId = contract({ many: true, answer: { ...byWords, rowsAt: '/all', idAt: '/id' } });
    expect(byId.readAnswer(answer({ all: [{ id: 'e2', said: 'ok' }] }), rows)).toEqual({
      kind: 'rows',
      rows: [{ eventId: 'e2', taken: true, day: '' }],
    });
    const inOrder = contract({ many: true, answer: byWords });
    expect(inOrder.readAnswer(answer([{ said: 'no' }, { said: 'ok' }]), rows)).toMatchObject({
      rows: [
        { eventId: 'e1', taken: false, answer: 'no' },
        { eventId: 'e2', taken: true },
      ],
    });
  });

  it.each([
    ['no JSON', { status: 200, headers: {}, body: '<html>' }],
    ['another JSON', answer({ hello: 1 })],
    ['a list where one answer was wanted', answer([1, 2])],
    ['nothing', { status: 200, headers: {}, body: '' }],
  ])('whose answer is %s took nothing that is known of', (_, given) =>
    expect(contract({ answer: byWords }).readAnswer(given, [row(1)])).toMatchObject({
      kind: 'away',
      status: 'answer not understood',
    }),
  );

  it('is never thought to have taken a row by an answer that is anything at all', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.integer({ min: 200, max: 599 }), (body, status) => {
        const read = contract({ answer: byWords }).readAnswer(answer(body, status), [row(1)]);
        const taken = read.kind === 'rows' && read.rows.some((one) => one.taken);
        const said = (body as { said?: unknown } | null)?.said;
        expect(taken && said !== 'ok' && said !== 'again').toBe(false);
      }),
    );
  });
});
