import { describe, expect, it } from 'vitest';
import { isRecordNewer, movesOf, withMoves, type CrmRecord } from '.';

const inOrder = ['Asked', 'Spoken', 'Fleet assessed', 'Offer', 'Signed'];
const moves = (...stages: string[]) =>
  movesOf({ stageChanges: stages.map((stage, at) => ({ stage, at })) }, { inOrder }).map(
    ({ stage, isBack, skipped }) => [stage, isBack, skipped],
  );

describe('the moves of a deal', () => {
  it('name the stages that it was never at on its way', () => {
    expect(moves('Asked', 'Offer')).toEqual([['Offer', false, ['Spoken', 'Fleet assessed']]]);
    expect(moves('Asked', 'Spoken', 'Offer')).toEqual([
      ['Spoken', false, []],
      ['Offer', false, ['Fleet assessed']],
    ]);
  });

  it('say what went back; on its way again it skips nothing that it was at before', () => {
    expect(moves('Asked', 'Fleet assessed', 'Spoken', 'Offer')).toEqual([
      ['Fleet assessed', false, ['Spoken']],
      ['Spoken', true, []],
      ['Offer', false, []],
    ]);
  });

  it('are neither back nor past anything at a stage of no order, such as one that ends a deal', () => {
    expect(moves('Asked', 'Not this time', 'Offer')).toEqual([
      ['Not this time', false, []],
      ['Offer', false, []],
    ]);
  });

  it('are none of a deal that never moved', () => {
    expect([moves('Asked'), moves()]).toEqual([[], []]);
  });
});

describe('a record that says only the stage it is at', () => {
  const record = (stage: string, at: number, change: Partial<CrmRecord> = {}): CrmRecord => ({
    deal: 'D-1',
    person: 'P-1',
    personName: '',
    company: '',
    madeAt: at,
    changedAt: at,
    stage,
    stageChanges: stage ? [{ stage, at }] : [],
    fields: {},
    amounts: {},
    ...change,
  });

  it('adds a move to those that are known, and was made when the first of them was', () => {
    const moved = withMoves(record('Asked', 1), record('Offer', 5));
    expect([moved.madeAt, moved.stage, moved.stageChanges]).toEqual([
      1,
      'Offer',
      [
        { stage: 'Asked', at: 1 },
        { stage: 'Offer', at: 5 },
      ],
    ]);
  });

  it('adds none where it is still there, or says no stage', () => {
    expect(withMoves(record('Asked', 1), record('Asked', 5)).stageChanges).toHaveLength(1);
    expect(withMoves(record('Asked', 1), record('', 5)).stage).toBe('Asked');
    expect(withMoves(null, record('Asked', 1))).toEqual(record('Asked', 1));
  });

  it('changes nothing where a newer one is known', () => {
    expect([isRecordNewer(record('', 5), record('', 5)), isRecordNewer(record('', 5), record('', 4))]).toEqual([
      true,
      false,
    ]);
  });
});
