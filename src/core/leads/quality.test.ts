import { describe, expect, it } from 'vitest';
import type { Deal } from './deals';
import { byTelephone, decideQuality, type SaidQuality } from './quality';

const stages = { inOrder: ['Asked', 'Spoken', 'Fleet assessed'], ended: ['Not this time'] };
const made = Date.UTC(2027, 1, 1, 9);
const hour = 3_600_000;
const deal = (...moves: [stage: string, at: number][]): Deal => ({
  record: {
    deal: 'D',
    person: 'P',
    personName: '',
    company: '',
    madeAt: made,
    changedAt: made,
    stage: moves.at(-1)?.[0] ?? 'Asked',
    stageChanges: [{ stage: 'Asked', at: made }, ...moves.map(([stage, at]) => ({ stage, at }))],
    fields: {},
    amounts: {},
  },
  goneAt: null,
  mergedInto: '',
});
const nothing: SaidQuality = { quality: '', reason: '', answeredAt: null, answeredBy: '' };
const decide = (said: Partial<SaidQuality>, deals: Deal[] = [], isQualified = false) =>
  decideQuality({ ...nothing, ...said }, deals, stages, isQualified);

describe('how far an enquiry was answered', () => {
  it('is unanswered until somebody says so, or the CRM’s record moves', () => {
    expect(decide({})).toMatchObject({ quality: 'unanswered', answeredAt: null });
    expect(decide({}, [deal()])).toMatchObject({ quality: 'unanswered' });
    expect(decide({}, [deal(['Spoken', made + hour])])).toMatchObject({
      quality: 'answering',
      answeredAt: made + hour,
      answeredBy: '',
    });
    expect(decide({ quality: 'answering', answeredAt: made + 60_000, answeredBy: 'Priya' })).toMatchObject({
      quality: 'answering',
      answeredBy: 'Priya',
    });
  });

  it('is disqualified where a platform kept it no longer: nobody can answer it', () => {
    expect(decideQuality(nothing, [], stages, false, true)).toMatchObject({
      quality: 'disqualified',
      reason: 'gone before it was fetched',
      answeredAt: null,
    });
  });

  it('was first answered by whichever was earlier', () => {
    const moved = [deal(['Spoken', made + hour])];
    const said = { quality: 'answering' as const, answeredBy: 'Priya' };
    expect(decide({ ...said, answeredAt: made + 60_000 }, moved)).toMatchObject({
      answeredAt: made + 60_000,
      answeredBy: 'Priya',
    });
    expect(decide({ ...said, answeredAt: made + 2 * hour }, moved)).toMatchObject({
      answeredAt: made + hour,
      answeredBy: '',
    });
  });

  it('by telephone was answered as it was picked up, unless somebody had answered before', () => {
    const at = made + hour;
    expect(decideQuality(nothing, [], stages, false, false, at)).toEqual({
      quality: 'answering',
      reason: '',
      answeredAt: at,
      answeredBy: byTelephone,
    });
    const said = { ...nothing, answeredAt: made, answeredBy: 'Maud' };
    expect(decideQuality(said, [], stages, false, false, at)).toMatchObject({ answeredAt: made, answeredBy: 'Maud' });
    const moved = [deal(['Spoken', made + 2 * hour])];
    expect(decideQuality(nothing, moved, stages, false, false, at)).toMatchObject({ answeredBy: byTelephone });
  });

  it('is disqualified with the reason that was picked, else with the stage that ended its deal', () => {
    const ended = [deal(['Not this time', made + hour])];
    expect(decide({}, ended)).toMatchObject({ quality: 'disqualified', reason: 'Not this time' });
    expect(
      decide({ quality: 'disqualified', reason: 'too small', answeredAt: made, answeredBy: 'Priya' }, ended),
    ).toMatchObject({
      quality: 'disqualified',
      reason: 'too small',
    });
  });

  it('that is no enquiry was answered by nobody', () => {
    expect(decide({ quality: 'no_enquiry', reason: 'a seller' }, [deal(['Spoken', made + hour])])).toEqual({
      quality: 'no_enquiry',
      reason: 'a seller',
      answeredAt: null,
      answeredBy: '',
    });
  });

  it('is qualified once its outcome says so, whatever was said', () => {
    for (const quality of ['', 'answering', 'disqualified', 'no_enquiry'] as const)
      expect(decide({ quality, reason: 'x' }, [deal(['Fleet assessed', made + hour])], true)).toMatchObject({
        quality: 'qualified',
        reason: '',
        answeredAt: made + hour,
      });
  });
});
