import { describe, expect, it } from 'vitest';
import { leftAlone, reportBackActs, type ActedOn, type LeftAlone, type ReportBackAct } from './acts';

const now = 1_000_000;
const waiting: ActedOn = { state: 'waiting', stoppedBy: '', isSame: false, dueAt: now + 1, isBeingTold: false };
const states: Record<string, ActedOn> = {
  'waits for its delay': waiting,
  'is due': { ...waiting, dueAt: now },
  'is held for a reason': { ...waiting, state: 'held', dueAt: null },
  'is held by somebody': { ...waiting, state: 'held', dueAt: null, stoppedBy: 'Maud' },
  'is held as probably the same': { ...waiting, state: 'held', dueAt: null, isSame: true },
  'was refused': { ...waiting, state: 'refused' },
  'was withdrawn': { ...waiting, state: 'withdrawn', dueAt: null },
};

describe('a report-back', () => {
  it.each([
    ['waits for its delay', [null, 'not held by a person', null, null, 'not refused']],
    ['is due', [null, 'not held by a person', 'due already', null, 'not refused']],
    ['is held for a reason', [null, 'not held by a person', 'held for a reason', null, 'not refused']],
    ['is held by somebody', ['held already', null, 'held for a reason', null, 'not refused']],
    ['is held as probably the same', [null, null, 'held for a reason', null, 'not refused']],
    ['was refused', ['refused', 'not held by a person', 'refused', null, null]],
    ['was withdrawn', ['withdrawn', 'not held by a person', 'withdrawn', 'withdrawn', null]],
  ] as [string, (LeftAlone | null)[]][])('that %s: hold, let go, tell now, withdraw, tell again', (name, becauses) => {
    expect(reportBackActs.map((act) => leftAlone(act, states[name]!, now))).toEqual(becauses);
  });

  it.each(['told', 'confirmed', 'unsure'] as const)('that is %s is left alone by every act', (state) => {
    const because = state === 'unsure' ? 'unsure' : 'told already';
    for (const act of reportBackActs) expect(leftAlone(act, { ...waiting, state }, now)).toBe(because);
  });

  it('whose platform is being asked at this moment is left alone, whatever its state is', () => {
    const all = reportBackActs.flatMap((act: ReportBackAct) =>
      Object.values(states).map((one) => leftAlone(act, { ...one, isBeingTold: true }, now)),
    );
    expect(new Set(all)).toEqual(new Set(['being told']));
  });
});
