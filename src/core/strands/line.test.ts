import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Reason } from '../reasons/codes';
import { countLine, drawLine, followStrand, hops, nilId, noOutcome, type FollowedGroup, type HopRow } from '.';

const group = (change: Partial<FollowedGroup>): FollowedGroup => ({
  reached: 2,
  state: 'left',
  reason: { code: 'visit_ended' },
  source: 'quillsearch',
  campaign: 'c1',
  strands: 1,
  withClickId: 1,
  ...change,
});
const reasons: Reason[] = [
  { code: 'cookies_blocked' },
  { code: 'crm_value_empty', read: 'click_id' },
  { code: 'visit_ended' },
  { code: 'not_qualified_yet', stage: 'Asked' },
];
const groups = fc.array(
  fc
    .record({
      reached: fc.integer({ min: 2, max: 8 }),
      state: fc.constantFrom('lost' as const, 'left' as const, 'waiting' as const, 'unknown' as const),
      reason: fc.constantFrom(...reasons),
      source: fc.constantFrom('quillsearch', 'letter'),
      campaign: fc.constantFrom('c1', 'c2'),
      strands: fc.integer({ min: 1, max: 500 }),
      withClickId: fc.constant(0),
    })
    .map((g): FollowedGroup => (g.reached === 8 ? { ...g, state: null, reason: null } : g)),
  { maxLength: 20 },
);
const reported = fc.array(
  fc.record({
    source: fc.constantFrom('quillsearch', 'letter'),
    campaign: fc.constantFrom('c1', 'c2', 'c3'),
    clicks: fc.nat(900),
  }),
  { maxLength: 5 },
);

describe('the line', () => {
  it('subtracts from Landed on: each column is the next one and all that stopped between', () => {
    fc.assert(
      fc.property(groups, reported, (rows, clicks) => {
        const { columns } = countLine(rows, clicks);
        for (let i = 1; i < columns.length - 1; i++) {
          const { count, lost, left, waiting, unknown } = columns[i]!;
          expect(count).toBe(columns[i + 1]!.count! + lost + left + waiting + unknown);
        }
      }),
    );
  });

  it('has every lost strand in exactly one reason', () => {
    fc.assert(
      fc.property(groups, reported, (rows, clicks) => {
        const { columns, losses } = countLine(rows, clicks);
        const inColumns = columns.reduce((sum, column) => sum + column.lost, 0);
        expect(losses.reduce((sum, loss) => sum + loss.strands, 0)).toBe(inColumns);
      }),
    );
  });

  it('says clicks that never landed as inferred, and never a negative number', () => {
    const line = countLine([group({ strands: 7 })], [{ source: 'quillsearch', campaign: 'c1', clicks: 10 }]);
    expect(line.columns[0]).toMatchObject({ count: 10, lost: 3 });
    expect(line.losses).toMatchObject([{ from: 'clicked', to: 'landed', strands: 3, kind: 'inferred' }]);
    const more = countLine([group({ strands: 7 })], [{ source: 'quillsearch', campaign: 'c1', clicks: 5 }]);
    expect([more.columns[0]!.lost, more.surplus]).toEqual([0, 2]);
  });

  it('leaves Clicked empty where nobody reports clicks, and says how many landings nobody counts', () => {
    const line = countLine([group({ strands: 7 })], []);
    expect([line.columns[0]!.count, line.landedUncounted]).toEqual([null, 7]);
  });

  it('keeps one row for each reason, whatever the age of each click', () => {
    const old = (days: number) =>
      group({ reached: 5, state: 'lost', reason: { code: 'click_too_old', days, limit: 80 } });
    expect(countLine([old(81), old(96)], []).losses).toHaveLength(1);
  });
});

describe('following a strand', () => {
  const row = (hop: HopRow['hop'], state: HopRow['state'], subject = nilId): HopRow => ({
    ...{ strand: 's', wayIn: subject === nilId ? 'none' : 'form', subject, outcome: noOutcome },
    ...{ hop, state, reason: null, evidence: 'none', at: null, release: 1 },
  });

  it('counts it at none after the first hop it did not make', () => {
    const rows = [
      row('clicked', 'made_it'),
      row('landed', 'made_it'),
      row('kept', 'lost'),
      row('form_sent', 'made_it', 'e'),
    ];
    expect(followStrand(rows)).toMatchObject({ reached: 2, stop: { hop: 'kept', state: 'lost' } });
  });

  it('lets an unknown Clicked pass: the landing proves that it came', () => {
    expect(followStrand([row('clicked', 'unknown'), row('landed', 'made_it'), row('kept', 'made_it')]).reached).toBe(3);
  });

  it('lets the enquiry that came furthest speak for it', () => {
    const up = ['clicked', 'landed', 'kept'] as const;
    const rows = [
      ...up.map((hop) => row(hop, 'made_it')),
      row('form_sent', 'lost', 'a'),
      row('form_sent', 'made_it', 'b'),
      row('in_crm', 'waiting', 'b'),
    ];
    expect(followStrand(rows)).toMatchObject({ reached: 4, stop: { hop: 'in_crm', state: 'waiting' } });
  });

  it('has no stop where every hop was made', () => {
    expect(followStrand(hops.map((hop) => row(hop, 'made_it')))).toEqual({ reached: 8, stop: null });
  });
});

describe('the drawing', () => {
  it('shows every hop and every fate that has a count, however small', () => {
    fc.assert(
      fc.property(groups, reported, (rows, clicks) => {
        const { columns } = countLine(rows, clicks);
        const { strands } = drawLine(columns, 1232, 150);
        columns.slice(0, -1).forEach((column, stretch) => {
          const drawn = (fate: string) => strands.filter((s) => s.stretch === stretch && s.fate === fate).length;
          for (const fate of ['lost', 'left', 'waiting', 'unknown'] as const)
            expect(drawn(fate) > 0).toBe(column[fate] > 0);
          if (stretch > 0) expect(drawn('through') > 0).toBe(columns[stretch + 1]!.count! > 0);
        });
      }),
    );
  });

  it('stays within its width and height', () => {
    const { columns } = countLine([group({ strands: 100_000 }), group({ reached: 4, state: 'lost', strands: 1 })], []);
    for (const { path } of drawLine(columns, 640, 150).strands)
      for (const number of path.match(/-?\d+(\.\d+)?/g)!.map(Number)) {
        expect(number).toBeGreaterThanOrEqual(-12);
        expect(number).toBeLessThanOrEqual(640);
      }
  });
});
