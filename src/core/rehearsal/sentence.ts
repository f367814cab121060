import { platformName } from '../platforms/links';
import { quoteValue } from '../quote-value';
import { changedClause, changedOnTheWay, traceSentence, type Sentence } from '../strands';
import { waysIn } from '../ways-in';
import { counted } from '../counted';
import { reachedOf } from './follow';
import type { Rehearsed } from './rehearse';

/** What a rehearsal opens with: where the value would be at the end, and what platforms would be told. */
export function rehearsalSentence(
  { lines, followed, tellings, release, events }: Rehearsed,
  formWords: (form: string) => string,
): Sentence {
  const wrong = lines.filter(({ problem }) => problem !== '').length;
  const faults = lines.flatMap(({ notes }) => notes).filter(({ kind }) => kind === 'fault').length;
  const went = Object.values(events).reduce((sum, n) => sum + n, 0);
  const under = [
    wrong > 0 ? `${counted(wrong, 'line', 'lines')} could not be walked.` : '',
    went > 0 ? `${counted(went, 'event goes', 'events go')} off.` : '',
    faults > 0 ? `${counted(faults, 'thing is', 'things are')} lost or held on the way.` : '',
    'Nothing was sent.',
  ];
  if (!followed)
    return {
      title: lines.length === 0 ? 'Nobody has set off yet.' : 'Nothing arrives that could be followed.',
      under: under.filter(Boolean).join(' '),
    };
  const way = waysIn[followed.way];
  const { stop } = reachedOf(followed);
  const told = tellings.find(({ state, outcome }) => state === 'told' && outcome !== '');
  const platform = platformName(followed.strand.platform, release.content.platforms);
  const changed = changedOnTheWay(followed.values);
  const isWhole = stop?.hop === 'confirmed' || stop === null;
  const title =
    isWhole && told && changed.length === 0
      ? `Every hop holds: ${platform} would be told ${quoteValue(told.outcome)}.`
      : isWhole && told
        ? `${platform} would be told ${told.outcome}, but ${changedClause(followed.strand.kind, changed)}.`
        : traceSentence(followed.strand.kind, way, { reached: 0, stop }, platform, formWords, changed);
  return { title: title.replaceAll('`', ''), under: under.filter(Boolean).join(' ') };
}
