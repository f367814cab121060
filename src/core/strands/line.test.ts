import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Reason } from '../reasons/codes';
import {
  countLine,
  drawLine,
  followStrand,
  speakingRows,
  standingsOf,
  nilId,
  noOutcome,
  type ClickComparison,
  type FollowedGroup,
  type HopRow,
} from '.';
import { waysIn } from '../ways-in';

const group = (change: Partial<FollowedGroup>): FollowedGroup => ({
  reached: 2,
  state: 'left',
  reason: { code: 'visit_ended' },
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
      strands: fc.integer({ min: 1, max: 500 }),
      withClickId: fc.constant(0),
    })
    .map((g): FollowedGroup => (g.reached === 8 ? { ...g, state: null, reason: null } : g)),
  { maxLength: 20 },
);
const noClicks: ClickComparison = { clicks: null, missing: 0, surplus: 0, uncounted: 0 };
const clicked: fc.Arbitrary<ClickComparison> = fc.record({
  clicks: fc.option(fc.nat(900)),
  missing: fc.nat(300),
  surplus: fc.nat(300),
  uncounted: fc.nat(300),
});

describe('the line', () => {
  it('subtracts from Landed on: each column is the next one and all that stopped between', () => {
    fc.assert(
      fc.property(groups, clicked, (rows, clicks) => {
        const { columns } = countLine(rows, clicks, waysIn.form);
        for (let i = 1; i < columns.length - 1; i++) {
          const { count, lost, left, waiting, unknown } = columns[i]!;
          expect(count).toBe(columns[i + 1]!.count! + lost + left + waiting + unknown);
        }
      }),
    );
  });

  it('has every lost strand in exactly one reason', () => {
    fc.assert(
      fc.property(groups, clicked, (rows, clicks) => {
        const { columns, losses } = countLine(rows, clicks, waysIn.form);
        const inColumns = columns.reduce((sum, column) => sum + column.lost, 0);
        expect(losses.reduce((sum, loss) => sum + loss.strands, 0)).toBe(inColumns);
      }),
    );
  });

  it('says clicks that never landed as inferred, and lets landings without a click count join', () => {
    const line = countLine([group({ strands: 7 })], { clicks: 10, missing: 4, surplus: 2, uncounted: 1 }, waysIn.form);
    expect(line.columns[0]).toMatchObject({ count: 10, lost: 4 });
    expect(line.losses).toMatchObject([{ from: 'clicked', to: 'landed', strands: 4, kind: 'inferred' }]);
    expect([line.surplus, line.landedUncounted]).toEqual([2, 1]);
  });

  it('leaves Clicked empty where nobody reports clicks', () => {
    const line = countLine([group({ strands: 7 })], { ...noClicks, uncounted: 7 }, waysIn.form);
    expect([line.columns[0]!.count, line.landedUncounted]).toEqual([null, 7]);
  });

  it('keeps one row for each reason, whatever the age of each click', () => {
    const old = (days: number) =>
      group({ reached: 5, state: 'lost', reason: { code: 'click_too_old', days, limit: 80 } });
    expect(countLine([old(81), old(96)], noClicks, waysIn.form).losses).toHaveLength(1);
  });
});

describe('following a strand', () => {
  const row = (hop: HopRow['hop'], state: HopRow['state'], subject = nilId): HopRow => ({
    strand: 's',
    wayIn: subject === nilId ? 'none' : 'form',
    subject,
    outcome: noOutcome,
    hop,
    state,
    reason: null,
    evidence: 'none',
    at: null,
    release: 1,
  });

  it('counts it at none after the first hop it did not make', () => {
    const rows = [
      row('clicked', 'made_it'),
      row('landed', 'made_it'),
      row('kept', 'lost'),
      row('form_sent', 'made_it', 'e'),
    ];
    expect(followStrand(rows, waysIn.form)).toMatchObject({ reached: 2, stop: { hop: 'kept', state: 'lost' } });
  });

  it('lets an unknown Clicked pass: the landing proves that it came', () => {
    expect(
      followStrand([row('clicked', 'unknown'), row('landed', 'made_it'), row('kept', 'made_it')], waysIn.form).reached,
    ).toBe(3);
  });

  it('lets the enquiry that came furthest speak for it', () => {
    const up = ['clicked', 'landed', 'kept'] as const;
    const rows = [
      ...up.map((hop) => row(hop, 'made_it')),
      row('form_sent', 'lost', 'a'),
      row('form_sent', 'made_it', 'b'),
      row('in_crm', 'waiting', 'b'),
    ];
    expect(followStrand(rows, waysIn.form)).toMatchObject({ reached: 4, stop: { hop: 'in_crm', state: 'waiting' } });
  });

  const up = (['clicked', 'landed', 'kept'] as const).map((hop) => row(hop, 'made_it'));
  const lost = (reason: Reason, subject: string, hop: HopRow['hop'] = 'form_sent') => ({
    ...row(hop, 'lost', subject),
    reason,
  });

  it('takes of several losses at one hop the first by the order of `lossClasses`, however its rows lie', () => {
    const faults: Reason[] = [
      { code: 'click_too_old', days: 96, limit: 80 },
      { code: 'form_field_missing', form: 'call-back', field: 'click_id' },
      { code: 'form_value_differs', form: 'call-back', field: 'click_id' },
      { code: 'unexplained' },
    ];
    const rows = [...up, ...faults.map((reason, n) => lost(reason, `e${n}`))];
    fc.assert(
      fc.property(fc.shuffledSubarray(rows, { minLength: rows.length }), (shuffled) => {
        expect(followStrand(shuffled, waysIn.form)).toEqual({
          reached: 3,
          stop: { hop: 'form_sent', state: 'lost', reason: faults[2] },
        });
      }),
    );
  });

  it('takes of several outcomes of one enquiry the one that came furthest', () => {
    const outcome = (code: string, hop: HopRow['hop'], state: HopRow['state']) => ({
      ...row(hop, state, 'e'),
      outcome: code,
    });
    const rows = [
      ...[...up, row('form_sent', 'made_it', 'e'), row('in_crm', 'made_it', 'e')],
      ...[outcome('FLT-ASK', 'qualified', 'made_it'), outcome('FLT-ASK', 'told', 'lost')],
      ...(['qualified', 'told', 'confirmed'] as const).map((hop) => outcome('FLT-QUAL', hop, 'made_it')),
    ];
    fc.assert(
      fc.property(fc.shuffledSubarray(rows, { minLength: rows.length }), (shuffled) => {
        expect(followStrand(shuffled, waysIn.form)).toEqual({ reached: 8, stop: null });
        expect(speakingRows(shuffled, waysIn.form).filter(({ outcome: code }) => code === 'FLT-ASK')).toEqual([]);
      }),
    );
    // What one outcome made does not help another on.
    const apart = rows.filter(({ outcome: code, hop }) => code !== 'FLT-QUAL' || hop === 'confirmed');
    expect(followStrand(apart, waysIn.form)).toMatchObject({ reached: 6, stop: { hop: 'told', state: 'lost' } });
  });

  it('says the same of rows in any order', () => {
    const any = fc.record({
      hop: fc.constantFrom(...waysIn.form.hops),
      state: fc.constantFrom('made_it', 'waiting', 'lost', 'left', 'unknown'),
      subject: fc.constantFrom(nilId, 'a', 'b'),
      outcome: fc.constantFrom(noOutcome, 'FLT-ASK', 'FLT-QUAL'),
      reason: fc.constantFrom(null, ...reasons),
    });
    const unique = fc.uniqueArray(any, {
      maxLength: 30,
      selector: ({ hop, subject, outcome }) => `${hop} ${subject} ${outcome}`,
    });
    const shuffled = unique.chain((rows) =>
      fc.tuple(fc.constant(rows), fc.shuffledSubarray(rows, { minLength: rows.length })),
    );
    fc.assert(
      fc.property(shuffled, (both) => {
        const [one, other] = both.map((rows) =>
          followStrand(
            rows.map((one) => ({ ...row(one.hop, 'made_it', one.subject), ...one }) as HopRow),
            waysIn.form,
          ),
        );
        expect(one).toEqual(other);
      }),
      { numRuns: 1000 },
    );
  });

  it('stands on each way in for itself, and on those on which nothing came in as on all', () => {
    const onward = { ...row('onward', 'left'), reason: { code: 'visit_ended' } as const };
    const kept = [...up, onward];
    const shared = { wayIn: 'none', reached: 3, state: 'left', reason: { code: 'visit_ended' } };
    expect(standingsOf(kept)).toEqual([shared]);
    expect(standingsOf([...kept, row('form_sent', 'made_it', 'e'), row('in_crm', 'waiting', 'e')])).toEqual([
      shared,
      { wayIn: 'form', reached: 4, state: 'waiting', reason: null },
    ]);
    const ordered: HopRow = { ...row('ordered', 'made_it', 'o'), wayIn: 'order' };
    expect(standingsOf([...kept, ordered, row('form_sent', 'made_it', 'e')])).toEqual([
      shared,
      { wayIn: 'form', reached: 4, state: 'unknown', reason: null },
      { wayIn: 'order', reached: 4, state: 'unknown', reason: null },
    ]);
    // Lost before the ways part: on each of them as on all.
    const lostBefore = [...up.slice(0, 2), row('kept', 'lost'), row('form_sent', 'made_it', 'e')];
    expect(standingsOf(lostBefore)).toEqual([{ wayIn: 'none', reached: 2, state: 'lost', reason: null }]);
  });

  it('has no stop where every hop was made', () => {
    expect(
      followStrand(
        waysIn.form.hops.map((hop) => row(hop, 'made_it')),
        waysIn.form,
      ),
    ).toEqual({ reached: 8, stop: null });
  });
});

describe('the drawing', () => {
  it('shows every hop and every fate that has a count, however small', () => {
    fc.assert(
      fc.property(groups, clicked, (rows, clicks) => {
        const { columns, landedUncounted, surplus } = countLine(rows, clicks, waysIn.form);
        const joined = landedUncounted + surplus;
        const { strands, losses } = drawLine(columns, joined, 1232, 196);
        expect(strands.some(({ fate }) => fate === 'joins')).toBe(joined > 0 && columns[1]!.count! > 0);
        for (const { stretch, frays } of losses)
          expect(frays).toHaveLength(strands.filter((s) => s.stretch === stretch && s.fate === 'lost').length);
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
    const { columns } = countLine(
      [group({ strands: 100_000 }), group({ reached: 4, state: 'lost', strands: 1 })],
      noClicks,
      waysIn.form,
    );
    for (const { path } of drawLine(columns, 100_000, 640, 196).strands)
      for (const number of path.match(/-?\d+(\.\d+)?/g)!.map(Number)) {
        expect(number).toBeGreaterThanOrEqual(-12);
        expect(number).toBeLessThanOrEqual(640);
      }
  });
});

describe('a line that begins elsewhere', () => {
  it('has rows for each of its hops, and no clicks or landings', () => {
    const gone: Reason = { code: 'gone_there', platform: 'Tessaloop', days: 60 };
    const line = countLine(
      [
        group({ reached: 1, state: 'lost', reason: gone, strands: 2 }),
        group({ reached: 3, state: 'waiting', reason: { code: 'not_qualified_yet', stage: 'Asked' }, strands: 5 }),
        group({ reached: 6, state: null, reason: null, strands: 1 }),
      ],
      { clicks: 900, missing: 40, surplus: 7, uncounted: 9 },
      waysIn.lead_form,
    );
    expect(line.columns.map(({ hop, count, lost, waiting }) => [hop, count, lost, waiting])).toEqual([
      ['sent_there', 8, 2, 0],
      ['fetched', 6, 0, 0],
      ['in_crm', 6, 0, 5],
      ['qualified', 1, 0, 0],
      ['told', 1, 0, 0],
      ['confirmed', 1, 0, 0],
    ]);
    expect(line.losses).toEqual([{ from: 'sent_there', to: 'fetched', reason: gone, strands: 2, kind: 'proven' }]);
    expect([line.surplus, line.landedUncounted]).toEqual([0, 0]);
  });
});
