import type { Stages } from '../outcomes';
import type { Deal } from './deals';

/** How far an enquiry was answered. `qualified` says its outcome, and is never set by hand. */
export const qualities = ['unanswered', 'answering', 'qualified', 'disqualified', 'no_enquiry'] as const;
export type Quality = (typeof qualities)[number];
/** What somebody can say of one. */
export const setQualities = ['answering', 'disqualified', 'no_enquiry'] as const;
export type SetQuality = (typeof setQualities)[number];

export const qualityWords: Record<Quality, string> = {
  unanswered: 'unanswered',
  answering: 'being answered',
  qualified: 'qualified',
  disqualified: 'disqualified',
  no_enquiry: 'no enquiry',
};

/** Why, to be picked; nothing is to be picked where somebody answers. */
export const qualityReasons: Record<SetQuality, readonly string[]> = {
  answering: [],
  disqualified: [
    'too small',
    'no budget',
    'bought elsewhere',
    'outside our area',
    'cannot be reached',
    'another reason',
  ],
  no_enquiry: ['nonsense', 'a seller', 'a test of ours', 'looks for a job', 'came twice'],
};

/** What somebody said by hand; `answeredAt` (ms) and `answeredBy` keep the first time that somebody said they answered. */
export interface SaidQuality {
  quality: SetQuality | '';
  reason: string;
  answeredAt: number | null;
  answeredBy: string;
}

/** By whom a call was answered that was picked up: telephone systems do not say it. */
export const byTelephone = 'on the telephone';

export interface DecidedQuality {
  quality: Quality;
  reason: string;
  /** When (ms) and by whom it was first answered; null and '' while it was not. By '' where the CRM alone says it. */
  answeredAt: number | null;
  answeredBy: string;
}

/**
 * How far an enquiry was answered: qualified once its outcome is reached, else what somebody said of it, else what the CRM
 * says: disqualified where its furthest deal was ended, being answered where a deal was moved on. It was first answered when
 * somebody said so, when the CRM's record was first moved, or when its call was picked up, whichever was earlier; what is no
 * enquiry is answered by nobody.
 *
 * @param deals in the order of their progress
 * @param isQualified whether its outcome was reached
 * @param isGone whether a platform kept it no longer, so that nobody can answer it
 * @param pickedUpAt when (ms) a call of it was answered; null where none was
 */
export function decideQuality(
  said: SaidQuality,
  deals: readonly Deal[],
  stages: Stages,
  isQualified: boolean,
  isGone = false,
  pickedUpAt: number | null = null,
): DecidedQuality {
  const moves = deals.flatMap(({ record }) =>
    record.stageChanges.filter(({ at }) => at > record.madeAt).map(({ at }) => at),
  );
  const answers: [at: number | null, by: string][] = [
    // What somebody said comes first of those at the same moment.
    [said.answeredAt, said.answeredBy],
    [moves.length > 0 ? Math.min(...moves) : null, ''],
    [pickedUpAt, byTelephone],
  ];
  const [first] = answers.filter(([at]) => at !== null).sort(([one], [other]) => one! - other!);
  const answered = { answeredAt: first?.[0] ?? null, answeredBy: first?.[1] ?? '' };
  const [furthest] = deals;
  if (isQualified) return { quality: 'qualified', reason: '', ...answered };
  if (said.quality === 'no_enquiry')
    return { quality: 'no_enquiry', reason: said.reason, answeredAt: null, answeredBy: '' };
  if (said.quality === 'disqualified') return { quality: 'disqualified', reason: said.reason, ...answered };
  if (furthest && stages.ended.includes(furthest.record.stage))
    return { quality: 'disqualified', reason: furthest.record.stage, ...answered };
  if (said.quality === 'answering' || answered.answeredAt !== null)
    return { quality: 'answering', reason: '', ...answered };
  if (isGone)
    return { quality: 'disqualified', reason: 'gone before it was fetched', answeredAt: null, answeredBy: '' };
  return { quality: 'unanswered', reason: '', answeredAt: null, answeredBy: '' };
}
