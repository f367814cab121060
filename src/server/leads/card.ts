import { leadCard, type LeadCard } from '../../core/leads/card';
import { touchValue, type TouchValues } from '../../core/leads/touch-words';
import { formWordsOf, type Release } from '../../core/releases';
import { counted, type BoughtWayIn } from '../../core/strands';
import { dayWords } from '../days';
import type { EnquiryRow } from '../db';

/** What is known of an enquiry, or of what was bought, that its card is made of. */
export interface CardOf {
  title: string;
  person: string;
  enquiry: Pick<EnquiryRow, 'form' | 'sentAt' | 'visitNumber' | 'stage' | 'wayIn'> | null;
  /** An order, a subscription or a conversion; `at` is null where no page said it. */
  bought: { kind: BoughtWayIn; at: Date | null } | null;
  /** The touch that brought it; null where none is known. */
  origin: TouchValues | null;
  /** The first touch of whoever enquired, where that is another one. */
  first: (TouchValues & { at: Date }) | null;
  /** When the same person enquired before, the newest first. */
  before: Date[];
}

/** The card of an enquiry in the words of a release. @param campaignName '' where the register has none */
export function cardOf(
  { title, person, enquiry, bought, origin, first, before }: CardOf,
  release: Release,
  timeZone: string,
  campaignName: (campaign: string) => string,
): LeadCard {
  const words = (touch: TouchValues) => touchValue({ part: 'words', swap: '' }, touch, release, campaignName);
  const day = (at: Date) => dayWords(at.getTime(), timeZone);
  const [newest] = before;
  return leadCard({
    title,
    person,
    cameFrom: origin ? words(origin) : '',
    firstSeen: first ? [day(first.at), words(first)].filter(Boolean).join(', ') : '',
    enquired: enquiry ? enquiredWords(enquiry, release, day) : '',
    ordered: bought?.kind === 'order' && bought.at ? day(bought.at) : '',
    signedUp: bought?.kind === 'subscription' && bought.at ? day(bought.at) : '',
    before: newest ? `${counted(before.length, 'enquiry', 'enquiries')}, the last on ${day(newest)}` : '',
    stage: enquiry?.stage ?? '',
  });
}

function enquiredWords(
  { form, sentAt, visitNumber, wayIn }: NonNullable<CardOf['enquiry']>,
  release: Release,
  day: (at: Date) => string,
): string {
  // A platform's own form is called as the platform calls it.
  const words = wayIn === 'form' ? formWordsOf(release)(form) : `${wayIn === 'call' ? 'by telephone, ' : ''}“${form}”`;
  const by = form ? words : 'without a form Avrix saw';
  return [day(sentAt), by, visitNumber ? `on visit ${visitNumber}` : ''].filter(Boolean).join(', ');
}
