import { splitAddress } from '../capture/address';
import type { Hit } from '../capture/schema';
import type { CrmRecord } from '../leads/schema';
import { quoteValue } from '../quote-value';
import { touchWords } from '../reasons/touch-words';
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
  const ofHits = hits.flatMap((hit): Happening[] => {
    const text = hitWords(hit, forms);
    return text ? [{ at: hit.at, text }] : [];
  });
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

function hitWords(hit: Hit, forms: (form: string) => string): string {
  switch (hit.kind) {
    case 'arrived':
      return `Opened ${quoteValue(splitAddress(hit.address)?.path ?? hit.address)}. ${touchWords[hit.why]}.`;
    case 'form_sent':
      return `Sent ${forms(hit.form)}.`;
    case 'pressed':
      return `Pressed ${quoteValue(hit.press.text || hit.press.link || hit.press.tag)}.`;
    case 'ordered':
      return `Ordered, number ${quoteValue(hit.number)}.`;
    case 'event':
      return `${quoteValue(hit.event)} went off.`;
    case 'consent':
      return 'Changed what is agreed to.';
    default:
      return '';
  }
}
