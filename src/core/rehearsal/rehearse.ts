import type { DerivedEnquiry, DerivedOrder } from '../strands';
import type { ReleaseContent } from '../releases/schema';
import type { CrmRecord } from '../leads/schema';
import { quoteValue } from '../quote-value';
import { pretendRecord, takenByCrm } from './crm-record';
import { followHits, timesOf, type FollowedHits } from './follow';
import type { KnownWorld } from './known';
import type { Trait } from './traits';
import { walk } from './walk';
import type { Sending, WalkedLine } from './walker';

export interface Rehearsed extends FollowedHits {
  lines: WalkedLine[];
  /** How often each event went off, by its name. */
  events: Record<string, number>;
}

/**
 * Walks a pretend visitor through lines, and works out what follows. Nothing is stored and nothing is sent.
 * @param begins ms
 */
export function rehearse(
  texts: readonly string[],
  traits: readonly Trait[],
  content: ReleaseContent,
  world: KnownWorld,
  begins: number,
): Rehearsed {
  const walked = walk(texts, traits, content, world, begins);
  const takenOf = ({ form, fills }: DerivedEnquiry) => (content.crm ? takenByCrm(form, fills, content.crm, world) : []);
  const recordOf = (enquiry: DerivedEnquiry) => {
    const moves = walked.sendings.find(({ hit }) => hit.id === enquiry.hit)?.moves ?? [];
    return content.crm && moved(pretendRecord(takenOf(enquiry), content.crm, enquiry.sentAt, world.dealAmounts), moves);
  };
  const noticesOf = ({ hit }: DerivedOrder) =>
    walked.refunds.filter((one) => one.hit === hit).map(({ notice }) => notice);
  const followed = followHits(walked.hits, recordOf, content, world, walked.now, noticesOf);
  for (const telling of followed.tellings) {
    const line = telling.hit
      ? walked.lineOf.get(telling.hit)
      : walked.lines.findLast(({ at }) => at <= telling.happenedAt);
    line?.notes.push({ kind: telling.state === 'told' ? 'told' : 'fault', text: telling.text });
  }
  for (const enquiry of followed.all.enquiries)
    for (const { field } of takenOf(enquiry).filter(({ crm }) => crm === ''))
      walked.lineOf.get(enquiry.hit)?.notes.push({
        kind: 'fault',
        text: `The CRM takes no ${quoteValue(field)}: what the form carries in it ends there.`,
      });
  return { ...followed, lines: walked.lines, events: timesOf(followed) };
}

/** A record whose deal was moved. */
const moved = (record: CrmRecord, moves: Sending['moves']): CrmRecord => ({
  ...record,
  stage: moves.at(-1)?.stage ?? record.stage,
  stageChanges: [...record.stageChanges, ...moves],
});
