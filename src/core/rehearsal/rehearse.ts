import type { DerivedEnquiry } from '../strands';
import type { ReleaseContent } from '../releases/schema';
import { pretendRecord, takenByCrm, type TakenField } from './crm-record';
import { followHits, timesOf, type Deal, type FollowedHits } from './follow';
import type { KnownWorld } from './known';
import type { Trait } from './traits';
import { walk, type Sending, type WalkedLine } from './walk';

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
  const made = (enquiry: DerivedEnquiry) => dealOf(enquiry, walked.sendings, content, world);
  const followed = followHits(walked.hits, made, content, world, walked.now);
  for (const telling of followed.tellings) {
    const line = telling.hit
      ? walked.lineOf.get(telling.hit)
      : walked.lines.findLast(({ at }) => at <= telling.happenedAt);
    line?.notes.push({ kind: telling.state === 'told' ? 'told' : 'fault', text: telling.text });
  }
  for (const { id, hit } of followed.all.enquiries)
    walked.lineOf.get(hit)?.notes.push(...crmNotes(followed.deals.get(id)!.taken, content));
  return { ...followed, lines: walked.lines, events: timesOf(followed) };
}

function dealOf(
  enquiry: DerivedEnquiry,
  sendings: readonly Sending[],
  { crm }: ReleaseContent,
  world: KnownWorld,
): Deal {
  if (!crm) return { record: null, taken: [] };
  const moves = sendings.find(({ hit }) => hit.id === enquiry.hit)?.moves ?? [];
  const taken = takenByCrm(enquiry.form, enquiry.fills, crm, world);
  const record = pretendRecord(taken, crm, enquiry.sentAt, world.dealAmounts);
  return {
    taken,
    record: {
      ...record,
      stage: moves.at(-1)?.stage ?? record.stage,
      stageChanges: [...record.stageChanges, ...moves],
    },
  };
}

function crmNotes(taken: readonly TakenField[], { crm }: ReleaseContent): WalkedLine['notes'] {
  if (!crm) return [];
  const none = taken.filter((one) => one.crm === '').map(({ field }) => field);
  return none.map((field) => ({
    kind: 'fault' as const,
    text: `The CRM takes no \`${field}\`: what the form carries in it ends there.`,
  }));
}
