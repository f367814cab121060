import { qualities, qualityWords } from '../../core/leads/quality';
import { count, type LeadListView } from '../../core/strands';

/** How many enquiries were answered how far, each leading to its list. */
export function QualityBar({ business, view, chosen }: { business: string; view: LeadListView; chosen: string }) {
  const here = `/b/${business}/leads`;
  return (
    <nav aria-label="How far they were answered" className="mt-3 flex flex-wrap gap-x-4 gap-y-1">
      <Choice href={here} words="All" isChosen={chosen === ''} />
      {qualities.map((quality) => (
        <Choice
          key={quality}
          href={`${here}?quality=${quality}`}
          words={`${qualityWords[quality].replace(/^./, (first) => first.toUpperCase())} ${count(view.qualities[quality] ?? 0)}`}
          isChosen={chosen === quality}
        />
      ))}
    </nav>
  );
}

function Choice({ href, words, isChosen }: { href: string; words: string; isChosen: boolean }) {
  return (
    <a
      href={href}
      className={isChosen ? 'font-semibold underline underline-offset-4' : 'quiet-link'}
      aria-current={isChosen ? 'true' : undefined}
    >
      {words}
    </a>
  );
}
