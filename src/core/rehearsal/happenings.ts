import { hitWords } from '../capture/hit-words';
import type { Hit } from '../capture/schema';
import type { CrmRecord } from '../leads/schema';
import { quoteValue } from '../quote-value';
import type { FollowedHits } from './follow';

/** Something that happened on a walk, at (ms), as a sentence. */
export interface Happening {
  at: number;
  text: string;
}

/** What somebody's own browser did on the real pages and what came of it, the newest first. */
export function realWalkHappenings(
  hits: readonly Hit[],
  { tellings }: Pick<FollowedHits, 'tellings'>,
  records: readonly CrmRecord[],
  forms: (form: string) => string,
): Happening[] {
  const ofHits = hits.map((hit): Happening => ({ at: hit.at, text: hitWords(hit, forms) }));
  const ofCrm = records.flatMap((record): Happening[] => [
    { at: record.madeAt, text: `The CRM made the record ${quoteValue(record.deal)}.` },
    ...record.stageChanges
      .filter(({ at }) => at > record.madeAt)
      .map(({ stage, at }) => ({ at, text: `The deal moved to ${stage}.` })),
  ]);
  const would = tellings.map(({ text, happenedAt }) => ({
    at: happenedAt,
    text: text.replace(' is told ', ' would be told ').replace(' is not told ', ' would not be told '),
  }));
  return [...ofHits, ...ofCrm, ...would].sort((a, b) => b.at - a.at);
}
