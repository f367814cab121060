import { format, parseISO } from 'date-fns';
import type { Reason } from '../../core/reasons/codes';
import { markWords, reasonWords } from '../../core/reasons/words';
import { counted, happeningHops, hopNameOf, type Hop, type Sentence } from '../../core/strands';
import { platformName } from '../../core/platforms/links';
import type { Release } from '../../core/releases';
import type { WayIn } from '../../core/ways-in';
import { now } from '../clock';
import type { Narrowing } from './narrowing';
import type { StrandFilter, StrandQueryRow } from './queries';
import type { Range } from './range';

/** "Of the clicks first seen 19 Jan to 15 Feb": what the rows have in common, and of which days they are. @param of what they are narrowed to, in words */
export function strandsSentence(
  { hop, state, reason, find, mark, of, corrected, view, toward }: StrandFilter & { of: string },
  way: WayIn,
  total: number,
  range: Range,
  forms: (form: string) => string,
  first: StrandQueryRow | undefined,
): Sentence {
  const { hops, one, many } = way;
  const before = hops[hops.indexOf(hop) - 1];
  const nameOf = (one: Hop) => hopNameOf(way, toward?.code ?? '', one);
  const within = of && ` ${of}`;
  const clicks = `${counted(total, 'click', 'clicks')}${within}`;
  const isOfDays = view === 'happened' && state === 'made_it' && happeningHops(way).includes(hop);
  const what = {
    made_it: `${clicks} came to ${nameOf(hop)}`,
    lost: `${clicks} ${total === 1 ? 'was' : 'were'} lost between ${before && nameOf(before)} and ${nameOf(hop)}`,
    left: `${clicks} went no further than ${before && nameOf(before)}`,
    waiting: `${clicks} ${total === 1 ? 'waits' : 'wait'} between ${before && nameOf(before)} and ${nameOf(hop)}`,
    unknown:
      hop === 'clicked'
        ? `${counted(total, one, many)}${within} came without any known click`
        : `${clicks} ${total === 1 ? 'is' : 'are'} not seen at ${nameOf(hop)}`,
  }[state];
  const why = reason && first?.reason ? reasonWords(JSON.parse(first.reason) as Reason, forms, way).short : '';
  const found = find ? `, matching “${find}”` : '';
  if (mark)
    return {
      title: `${clicks} not counted: ${mark === 'any' ? 'from staff or bots' : markWords[mark]}${found}.`,
      under: `Kept, and told to nobody. First seen from ${dayOf(range.firstDay)} to ${dayOf(range.lastDay)}.`,
    };
  return {
    title: `${what}${corrected ? ', and its platform was told another worth since' : ''}${why ? `: ${why.replace(/`/g, '')}` : ''}${found}.`,
    under: isOfDays
      ? `They came there from ${dayOf(range.firstDay)} to ${dayOf(range.lastDay)}, whenever they were first seen.`
      : `First seen from ${dayOf(range.firstDay)} to ${dayOf(range.lastDay)}, followed to today.`,
  };
}

/** "19 Jan"; with its year in another than this one. */
const dayOf = (day: string) =>
  format(parseISO(day), day.slice(0, 4) === now().toISOString().slice(0, 4) ? 'd MMM' : 'd MMM yyyy');

/** What a line is narrowed to, in words: "of Winterproof on Quillsearch, in “Bakers”"; '' for everything. */
export function wordsOfNarrowing(
  { segment, tags }: Omit<Narrowing, 'toward'>,
  release: Release,
  namedAs: (campaign: string) => string,
): string {
  const { platform, campaign } = tags?.to ?? { platform: '', campaign: '' };
  const name = campaign && (namedAs(campaign) || campaign);
  const onPlatform = platform && platformName(platform, release.content.platforms);
  const origin =
    name && onPlatform ? `of ${name} on ${onPlatform}` : (name || onPlatform) && `of ${name || onPlatform}`;
  return [origin, segment && `in “${segment.name}”`].filter(Boolean).join(', ');
}
