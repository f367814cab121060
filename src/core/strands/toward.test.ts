import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  canReach,
  followStrand,
  followToward,
  groupsToward,
  hopNameOf,
  isBehind,
  lineSentence,
  countLine,
  noClicks,
  nilId,
  noOutcome,
  type Followed,
  type HopRow,
  type TowardOutcome,
} from '.';
import { waysIn } from '../ways-in';

const day = 86_400_000;
const clicked = { kind: 'click', firstAt: 0 } as const;
const rowOf = (change: Partial<HopRow>): HopRow => ({
  strand: 's',
  wayIn: 'none',
  subject: nilId,
  outcome: noOutcome,
  hop: 'landed',
  state: 'made_it',
  reason: null,
  evidence: 'none',
  at: 0,
  release: 1,
  ...change,
});
const untilKept = (['clicked', 'landed', 'kept'] as const).map((hop) => rowOf({ hop }));
const enquiry = (subject: string, inCrm: HopRow['state'] = 'made_it', qualified: Partial<HopRow> = {}) => [
  rowOf({ wayIn: 'form', subject, hop: 'form_sent' }),
  rowOf({
    wayIn: 'form',
    subject,
    hop: 'in_crm',
    state: inCrm,
    reason: inCrm === 'lost' ? { code: 'crm_never' } : null,
  }),
  rowOf({ wayIn: 'form', subject, hop: 'qualified', outcome: 'FLT-QUAL', state: 'waiting', ...qualified }),
];
const reached = (at: number | null, telling: HopRow[] = [], stage = 'Asked'): TowardOutcome => ({
  reachedAt: at,
  telling,
  stage,
});
const toward = (rows: HopRow[], of: Record<string, TowardOutcome>, now = 10 * day) =>
  followToward(clicked, rows, new Map(Object.entries(of)), { code: 'FLT-SIGNED', clickDays: 80 }, waysIn.form, now);
const atStop = ({ followed: { reached: hops, stop } }: ReturnType<typeof toward>) => [
  hops,
  stop?.hop,
  stop?.state,
  stop?.reason?.code,
];

describe('a strand on a line that is narrowed to an outcome', () => {
  it('waits for the outcome, reached it, or was too old for it, whatever the Qualified of its way says', () => {
    const rows = [...untilKept, ...enquiry('a', 'made_it', { state: 'made_it' })];
    expect(atStop(toward(rows, { a: reached(null) }))).toEqual([5, 'qualified', 'waiting', 'not_qualified_yet']);
    expect(atStop(toward(rows, { a: reached(null) }, 81 * day))).toEqual([5, 'qualified', 'lost', 'click_too_old']);
    expect(atStop(toward(rows, { a: reached(79 * day) }))).toEqual([6, 'told', 'unknown', undefined]);
    expect(atStop(toward(rows, { a: reached(80 * day) }))).toEqual([5, 'qualified', 'lost', 'click_too_old']);
  });

  it('is left where its deal ended before it came to it', () => {
    const ended = { state: 'left', reason: { code: 'disqualified', stage: 'Not this time' } } as const;
    const rows = [...untilKept, ...enquiry('a', 'made_it', ended)];
    expect(atStop(toward(rows, { a: reached(null) }))).toEqual([5, 'qualified', 'left', 'disqualified']);
    expect(atStop(toward(rows, { a: reached(day) }))[0]).toBe(6);
  });

  it('is spoken for by the enquiry that came furthest, and never by one that did not come to the CRM', () => {
    const rows = [...untilKept, ...enquiry('a', 'lost'), ...enquiry('b')];
    expect(atStop(toward(rows, { a: reached(day), b: reached(null) }))).toEqual([
      5,
      'qualified',
      'waiting',
      'not_qualified_yet',
    ]);
  });

  it('is followed to what was told of the outcome', () => {
    const told = (state: HopRow['state']) =>
      rowOf({ wayIn: 'form', subject: 'a', outcome: 'FLT-SIGNED', hop: 'told', state });
    const rows = [...untilKept, ...enquiry('a')];
    expect(atStop(toward(rows, { a: reached(day, [told('waiting')]) }))).toEqual([6, 'told', 'waiting', undefined]);
    expect(atStop(toward(rows, { a: reached(day, [told('made_it')]) }))[0]).toBe(7);
  });

  it('stands as it is stored where the outcome says the same as the Qualified of its way', () => {
    const state = fc.constantFrom<HopRow['state']>('made_it', 'lost');
    const enquiries = fc.array(fc.record({ inCrm: state, at: fc.option(fc.nat(90)) }), { minLength: 1, maxLength: 4 });
    fc.assert(
      fc.property(enquiries, fc.integer({ min: 0, max: 100 }), (all, days) => {
        const now = days * day;
        const rows = [...untilKept];
        const of: Record<string, TowardOutcome> = {};
        for (const [i, { inCrm, at }] of all.entries()) {
          const own = enquiry(`e${i}`, inCrm);
          const isLate = at === null ? days >= 80 : at >= 80;
          const stands = isLate ? 'lost' : at === null ? 'waiting' : 'made_it';
          const why = isLate
            ? ({ code: 'click_too_old', days: at ?? days, limit: 80 } as const)
            : stands === 'waiting'
              ? ({ code: 'not_qualified_yet', stage: 'Asked' } as const)
              : null;
          rows.push(...own.slice(0, 2), { ...own[2]!, state: stands, reason: why });
          of[`e${i}`] = reached(at === null ? null : at * day);
        }
        expect(toward(rows, of, now).followed).toEqual(followStrand(rows, waysIn.form));
      }),
    );
  });
});

describe('where what came in is counted itself', () => {
  const ordered = [...untilKept, rowOf({ wayIn: 'order', subject: 'o', hop: 'ordered' })];
  const follow = (own: TowardOutcome) =>
    followToward(clicked, ordered, new Map([['o', own]]), { code: 'SHP-BACK', clickDays: null }, waysIn.order, day)
      .followed;

  it('only what came to the outcome is on the line after Kept', () => {
    expect(follow(reached(null))).toEqual({ reached: 3, stop: { hop: 'ordered', state: 'left', reason: null } });
    expect(follow(reached(day)).reached).toBe(4);
    expect([hopNameOf(waysIn.order, 'SHP-BACK', 'ordered'), hopNameOf(waysIn.order, '', 'ordered')]).toEqual([
      'SHP-BACK',
      'Ordered',
    ]);
  });

  it('what can be reached is offered on each way in', () => {
    expect(canReach(waysIn.order, { kind: 'order' })).toBe(true);
    expect(canReach(waysIn.form, { kind: 'order' })).toBe(false);
    expect(canReach(waysIn.call, { kind: 'stage', stage: 'Signed' })).toBe(true);
  });
});

describe('the line that is narrowed to an outcome', () => {
  const stored = [
    { reached: 3, state: 'left', reason: { code: 'visit_ended' }, strands: 20, withClickId: 15 },
    { reached: 5, state: 'waiting', reason: { code: 'not_qualified_yet', stage: 'Asked' }, strands: 2, withClickId: 2 },
    { reached: 8, state: null, reason: null, strands: 1, withClickId: 1 },
  ] as const;
  const strands: { followed: Followed; kind: 'click' | 'landing' }[] = [
    { followed: { reached: 5, stop: { hop: 'qualified', state: 'waiting', reason: null } }, kind: 'click' },
    { followed: { reached: 5, stop: { hop: 'qualified', state: 'waiting', reason: null } }, kind: 'landing' },
    { followed: { reached: 7, stop: { hop: 'confirmed', state: 'waiting', reason: null } }, kind: 'click' },
  ];
  const line = countLine(groupsToward(stored, strands, waysIn.form), noClicks, waysIn.form);

  it('is the same up to the CRM, and by the outcome from there on', () => {
    expect(line.columns.map(({ count }) => count)).toEqual([null, 23, 23, 3, 3, 1, 1, 0]);
    expect(line.withClickId.in_crm).toBe(2);
  });

  it('opens with how many came to the outcome', () => {
    const { title, under } = lineSentence(line, 0, waysIn.form, String, 'of Quillsearch', 'FLT-SIGNED');
    expect(title).toMatch(/^Quillsearch, FLT-SIGNED: /);
    expect(under).toMatch(/^1 reached FLT-SIGNED\. /);
  });

  it('has each strand behind the number that it is counted in', () => {
    const behind = (hop: HopRow['hop'], state: HopRow['state']) =>
      strands.filter(({ followed }) => hop !== 'onward' && isBehind(followed, waysIn.form, hop, state, '')).length;
    expect([behind('qualified', 'made_it'), behind('qualified', 'waiting'), behind('confirmed', 'waiting')]).toEqual([
      1, 2, 1,
    ]);
  });
});
