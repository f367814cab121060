import { partsOf, type Option, type Piece } from '../rules/says';
import { counted, type Sentence } from '../strands';
import { eachOnce } from './each-once';
import type { JustInKind, JustInQuery, Whose } from './just-in-view';

/* What comes in, as it comes in: what is shown is chosen by a sentence. */

/** What is shown, as the sentence holds it. */
export interface AskedJustIn {
  kinds: { one: JustInKind }[];
  whose: Whose;
  browser: string;
}

const justInWords: Record<JustInKind, string> = {
  hit: 'hits',
  event: 'events',
  lead: 'leads and orders',
  answer: 'answers',
};
/** What one row of a kind is called. */
export const justInOne: Record<JustInKind, string> = { hit: 'hit', event: 'event', lead: 'came in', answer: 'answer' };
const all = Object.keys(justInWords) as JustInKind[];

/** Show hits, events of everyone. @param browser whether one is being followed */
export function justInPieces(browser: string): Piece<AskedJustIn>[] {
  const { choice, each } = partsOf<AskedJustIn>();
  const kind = partsOf<{ one: JustInKind }>().choice(
    'one',
    'What to show',
    all.map((one): Option => [one, justInWords[one]]),
  );
  return [
    'Show ',
    each<{ one: JustInKind }>('kinds', 'kind', [kind], {
      before: '',
      between: ', ',
      add: 'and also',
      least: 1,
      most: all.length,
      fresh: () => ({ one: 'hit' }),
    }),
    ' of ',
    choice('whose', 'Whose', [
      ['everyone', 'everyone'],
      ['customers', 'everyone but staff and bots'],
      ['marked', 'browsers marked as ours'],
      ...(browser === '' ? [] : [['browser', 'one browser'] as const]),
    ]),
    '.',
  ];
}

/** What is asked for after a part was changed. */
export const settledJustIn = (asked: AskedJustIn): AskedJustIn => ({ ...asked, kinds: eachOnce(asked.kinds, all) });

/** What an address asks for, as the sentence holds it, and back. */
export const askedJustIn = ({ kinds, whose, browser }: JustInQuery): AskedJustIn => ({
  kinds: kinds.map((one) => ({ one })),
  whose: browser === '' && whose === 'browser' ? 'everyone' : whose,
  browser,
});
export function justInAddress({ kinds, whose, browser }: AskedJustIn, find: string): string {
  const query = new URLSearchParams();
  if (kinds.length < all.length) query.set('kinds', kinds.map(({ one }) => one).join(','));
  if (whose !== 'everyone') query.set('whose', whose);
  if (browser !== '') query.set('browser', browser);
  if (find !== '') query.set('find', find);
  return query.toString();
}

/** What came in lately. */
export interface CameIn {
  hits: number;
  events: number;
  leads: number;
  orders: number;
  /** Hits of the pages that run the live release. */
  underLive: number;
  /** Minutes that were looked at. */
  minutes: number;
  /** The live release, and when it went live, as it is read. */
  release: number;
  liveSince: string;
  /** When the newest hit before came, as it is read; '' where none ever did. */
  newest: string;
}

/** "41 hits, 2 events and 1 lead came in during the last 15 minutes." */
export function justInSentence(came: CameIn): Sentence {
  const { hits, events, leads, orders, underLive, minutes, release, liveSince, newest } = came;
  const parts = [
    ...(hits > 0 ? [counted(hits, 'hit', 'hits')] : []),
    ...(events > 0 ? [counted(events, 'event', 'events')] : []),
    ...(leads > 0 ? [counted(leads, 'lead', 'leads')] : []),
    ...(orders > 0 ? [counted(orders, 'order', 'orders')] : []),
  ];
  if (parts.length === 0)
    return {
      title:
        newest === ''
          ? 'No page has reported yet.'
          : `Nothing came in during the last ${minutes} minutes; the newest hit is from ${newest}.`,
      under: `Release ${release} has been live since ${liveSince}. Open a page of the website: what it does is listed here within seconds.`,
    };
  const last = parts.pop();
  return {
    title: `${parts.length > 0 ? `${parts.join(', ')} and ${last}` : last} came in during the last ${minutes} minutes.`,
    under: `${runsWords(hits, underLive, release)} It has been live since ${liveSince}.`,
  };
}

function runsWords(hits: number, underLive: number, release: number): string {
  if (hits === 0) return `No page reported under release ${release}.`;
  if (underLive === hits) return `All of these hits came under release ${release}.`;
  return underLive === 0
    ? `None of these hits came under release ${release} yet: open pages take it when they are opened next.`
    : `${counted(underLive, 'hit', 'hits')} of them came under release ${release}, the rest under earlier ones.`;
}
