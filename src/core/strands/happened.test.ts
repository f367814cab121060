import { describe, expect, it } from 'vitest';
import { countLine, happenedSentence, lineOfDays, type FollowedGroup, type Hop } from '.';
import { waysIn } from '../ways-in';

const stopped = (
  reached: number,
  state: FollowedGroup['state'],
  code: 'cookies_blocked' | 'visit_ended',
): FollowedGroup => ({
  ...{ reached, state, strands: 10, withClickId: 10 },
  reason: { code },
});
const cohort = (way: (typeof waysIn)['form']) =>
  countLine(
    [stopped(2, 'lost', 'cookies_blocked'), stopped(3, 'left', 'visit_ended'), stopped(4, 'lost', 'cookies_blocked')],
    { clicks: 40, missing: 10, surplus: 0, uncounted: 0 },
    way,
  );
const made = new Map<Hop, number>([
  ['form_sent', 41],
  ['in_crm', 30],
  ['qualified', 52],
  ['told', 50],
  ['confirmed', 9],
]);

describe('the line of what happened in some days', () => {
  const line = lineOfDays(cohort(waysIn.form), made, waysIn.form);

  it('is that of the clicks of these days up to Kept, and counts each hop by itself from then on', () => {
    expect(line.columns.map(({ hop, count, lost, left }) => [hop, count, lost + left])).toEqual([
      ['clicked', 40, 10],
      ['landed', 30, 10],
      ['kept', 20, 0],
      ['form_sent', 41, 0],
      ['in_crm', 30, 0],
      ['qualified', 52, 0],
      ['told', 50, 0],
      ['confirmed', 9, 0],
    ]);
    expect(line.losses.map(({ to }) => to).sort()).toEqual(['kept', 'landed']);
  });

  it('opens with what happened, of what it is narrowed to', () => {
    expect(happenedSentence(line, waysIn.form).title).toBe(
      'In these days 30 clicks landed, 41 reached Form sent, 30 In CRM, 52 Qualified and 9 Confirmed.',
    );
    expect(happenedSentence(line, waysIn.form, 'of Winterproof').title).toMatch(
      /^In these days, of Winterproof, 30 clicks landed, /,
    );
  });

  it('follows nothing at all where people come in elsewhere', () => {
    const way = waysIn.lead_form;
    const elsewhere = lineOfDays(cohort(way), new Map<Hop, number>([['sent_there', 1]]), way);
    expect([elsewhere.losses, elsewhere.columns.map(({ count }) => count)]).toEqual([[], [1, 0, 0, 0, 0, 0]]);
    expect(happenedSentence(elsewhere, way).title).toBe(
      'In these days 1 platform lead reached Sent there, 0 Fetched, 0 In CRM, 0 Qualified and 0 Confirmed.',
    );
  });
});
