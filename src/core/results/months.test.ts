import { describe, expect, it } from 'vitest';
import type { FigureRow } from './figures';
import { monthsTable, type MonthFigures } from './months';
import type { Measure } from './measures';

const row = (stage: string, channel: string, ...values: number[]): FigureRow => ({ cells: [stage, channel], values });
const month = (
  name: string,
  now: FigureRow[],
  kept: FigureRow[] | null = null,
  measures: Measure[] = ['leads'],
): MonthFigures => ({
  ...{ month: name, now },
  kept: kept && { measures, rows: kept },
});
const january = month('2027-01', [row('win enquiries', 'Paid search', 3000), row('sell', 'Email', 1000)]);
const february = month(
  '2027-02',
  [row('win enquiries', 'Paid search', 5000), row('win enquiries', 'Email', 1000)],
  [row('win enquiries', 'Paid search', 4000), row('sell', 'Email', 1000)],
);

describe('months', () => {
  it('stand beside each other by stage and channel, the most first, each closed one as it was kept', () => {
    expect(monthsTable('leads', [[january], [february]])).toEqual({
      stages: [
        {
          ...{ stage: 'win enquiries', figures: [3000, 4000], total: 7000 },
          channels: [{ channel: 'Paid search', figures: [3000, 4000], total: 7000 }],
        },
        {
          ...{ stage: 'sell', figures: [1000, 1000], total: 2000 },
          channels: [{ channel: 'Email', figures: [1000, 1000], total: 2000 }],
        },
      ],
      sums: { figures: [4000, 5000], total: 9000 },
      since: [null, 1000],
    });
  });

  it('are added up to quarters, of which some months may be closed', () => {
    const { sums, since } = monthsTable('leads', [[january, february]]);
    expect([sums, since]).toEqual([{ figures: [9000], total: 9000 }, [1000]]);
  });

  it('of what was not kept count as now, and a ratio is that of its sums', () => {
    expect(
      monthsTable('won', [[month('2027-02', [row('sell', 'Email', 2000)], [row('sell', 'Email', 9000)])]]).sums.total,
    ).toBe(2000);
    const both: Measure[] = ['qualified', 'leads'];
    const kept = month('2027-02', [row('sell', 'Email', 3000, 4000)], [row('sell', 'Email', 1000, 2000)], both);
    const open = month('2027-03', [row('sell', 'Email', 1000, 6000)]);
    const { sums, since } = monthsTable('qualified_per_lead', [[kept], [open]]);
    expect([sums.figures, sums.total, since]).toEqual([[0.5, 1 / 6], 0.25, [null, null]]);
  });

  it('have no line of what a closed month counted none of', () => {
    const kept = month(
      '2027-01',
      [],
      [row('sell', 'Email', 0, 9), row('sell', 'Partners', 2000, 9)],
      ['leads', 'visits'],
    );
    const [sell] = monthsTable('leads', [[kept]]).stages;
    expect(sell!.channels.map(({ channel }) => channel)).toEqual(['Partners']);
  });

  it('of nothing are empty', () => {
    expect(monthsTable('leads', [[month('2027-01', [])]])).toEqual({
      stages: [],
      sums: { figures: [0], total: 0 },
      since: [null],
    });
  });
});
