import { splitAddress, type FormSentHit } from '../capture';
import type { SentForm } from '../capture/fill-effect';
import { rulesOfContent, type ReleaseContent } from '../releases';
import { deriveVisitor, type RecordedHit } from './visitor';

/** What enquiries since a time still knew under some rules. */
export interface KnownCounts {
  enquiries: number;
  /** Their click. */
  click: number;
  /** Any touch. */
  touch: number;
}

/**
 * What visitors' enquiries would have known under other rules than those that are live: each visitor is derived twice.
 *
 * @param visitors with all their hits
 * @param since ms; earlier enquiries are left out
 * @param now ms
 */
export function deriveRuleEffect({
  business,
  visitors,
  live,
  after,
  since,
  now,
}: {
  business: string;
  visitors: [visitor: string, hits: RecordedHit[]][];
  live: ReleaseContent;
  after: ReleaseContent;
  since: number;
  now: number;
}): { live: KnownCounts; after: KnownCounts; sent: SentForm[] } {
  const known = (content: ReleaseContent): KnownCounts => {
    const counts = { enquiries: 0, click: 0, touch: 0 };
    const rules = rulesOfContent(content);
    for (const [visitor, hits] of visitors)
      for (const enquiry of deriveVisitor(business, visitor, hits, () => rules, now).enquiries) {
        if (enquiry.sentAt < since || enquiry.marked) continue;
        counts.enquiries += 1;
        if (enquiry.clickKept) counts.click += 1;
        if (enquiry.touch) counts.touch += 1;
      }
    return counts;
  };
  return { live: known(live), after: known(after), sent: visitors.flatMap(([, hits]) => sentForms(hits, since)) };
}

function sentForms(hits: RecordedHit[], since: number): SentForm[] {
  const isSent = (hit: RecordedHit['hit']): hit is FormSentHit => hit.kind === 'form_sent';
  return hits.flatMap(({ hit, at }): SentForm[] => {
    if (!isSent(hit) || at < since) return [];
    const { first, last, clicks, values = [] } = hit.kept;
    return [
      {
        at,
        form: hit.form,
        fields: hit.fields,
        page: splitAddress(hit.address)?.path ?? '/',
        kept: { visitor: null, first, last, clicks, values },
      },
    ];
  });
}
