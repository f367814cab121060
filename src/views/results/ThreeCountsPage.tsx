import { useState } from 'react';
import {
  askedCounts,
  bridgeText,
  changeText,
  settledCounts,
  threeCountsAddress,
  threeCountsPieces,
} from '../../core/results/three-counts-words';
import type { OpenedPart, ThreeCountsView } from '../../core/results/three-counts-view';
import { capital } from '../../core/capital';
import { ripeWords } from '../../core/results/ripeness-words';
import { count } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { Sentence } from '../../ui/rule/RuleSentence';
import { Copy } from '../../ui/text/Copy';
import { Opens } from '../../ui/text/Opens';
import { Bridge } from './Bridge';
import { OwnDays } from './OwnDays';
import { resultsParts } from './ResultsFrame';
import { ShownDays } from './ShownDays';
import { useResult } from './useResult';

interface Props {
  business: string;
  initial: ThreeCountsView;
}

/** What a platform, the website and the CRM count of one outcome, and how one count becomes another. */
export function ThreeCountsPage(props: Props) {
  return (
    <Live>
      <ThreeCounts {...props} />
    </Live>
  );
}

function ThreeCounts({ business, initial }: Props) {
  const api = `/api/b/${business}/results/three-counts`;
  const [asked, setAsked] = useState(() => askedCounts(initial));
  const { view, query, isBusy } = useResult(api, threeCountsAddress(asked), initial);
  // The usual ends of another outcome are known once it was read.
  const shown = asked.start === '' ? { ...asked, start: view.asked.start, end: view.asked.end } : asked;
  const hrefOf = (of: OpenedPart) => `/b/${business}/results/three-counts/behind?${query}&of=${of}`;
  return (
    <StationFrame
      sentence={view.sentence}
      parts={resultsParts(business, 'Three counts')}
      actions={
        <div className="flex items-start gap-2">
          <Copy text={bridgeText(view)} words="Copy for the boss" byKey />
          <a href={`${api}.csv?${query}`} className="button" download>
            Export CSV
          </a>
        </div>
      }
    >
      {view.outcomes.length > 0 && (
        <>
          <Sentence
            pieces={threeCountsPieces(view)}
            className="text-[17px] leading-[1.9]"
            rule={shown}
            onEdit={(next) => setAsked(settledCounts(next, shown))}
            beside={{}}
            disabled={false}
          />
          {asked.range === 'own' && <OwnDays days={asked} onChange={(days) => setAsked({ ...asked, ...days })} />}
          <ShownDays range={view.range} isBusy={isBusy} />
          <div className="mt-1.5 grid items-start gap-4 min-[1100px]:grid-cols-[minmax(0,1fr)_300px]">
            <Bridge view={view} hrefOf={hrefOf} isBusy={isBusy} />
            <div>
              <Claims view={view} business={business} hrefOf={hrefOf} />
              <Ripe view={view} business={business} />
            </div>
          </div>
        </>
      )}
    </StationFrame>
  );
}

/** How long the outcomes take, and so how complete those of these clicks are by now. */
function Ripe({ view: { ripe, asked }, business }: { view: ThreeCountsView; business: string }) {
  if (!ripe) return null;
  return (
    <section className="sheet mt-4 p-4" aria-label="How ripe these days are">
      <h2 className="text-[14px] font-semibold">How ripe these days are</h2>
      <p className="text-quiet mt-1 text-[14px]">
        {ripeWords(asked.outcome, ripe)}{' '}
        <a href={`/b/${business}/results/ripeness?outcome=${asked.outcome}`} className="quiet-link">
          By source and week
        </a>
      </p>
    </section>
  );
}

/** What all platforms claim together, and what of it is one and the same. */
function Claims({
  view,
  business,
  hrefOf,
}: {
  view: ThreeCountsView;
  business: string;
  hrefOf: (of: OpenedPart) => string;
}) {
  const { claims, unit } = view;
  if (!claims) return null;
  const claimHref = (key: string) =>
    `/b/${business}/results/three-counts?${threeCountsAddress({ ...askedCounts(view), start: `at:${key}`, end: '' })}`;
  const parts: [words: string, text: string, of: OpenedPart | null, isSum?: boolean][] = [
    ['in sum', count(claims.sum), null, true],
    ...(claims.withoutUs === 0
      ? []
      : [['counted without us', changeText(-claims.withoutUs), null] as [string, string, null]]),
    ['claimed twice or more', changeText(-claims.again), claims.again > 0 ? 'again' : null],
    [`different ${unit[1]}`, count(claims.different), claims.different > 0 ? 'different' : null, true],
    ...(claims.elsewhere === 0
      ? []
      : [['not counted in these days', changeText(-claims.elsewhere), 'elsewhere'] as [string, string, OpenedPart]]),
    ['claimed by nobody', changeText(claims.nobody), claims.nobody > 0 ? 'nobody' : null],
    [claims.endWords.replace(/^The /, 'the '), count(claims.known), null, true],
  ];
  return (
    <section className="sheet p-4" aria-label="What all platforms claim">
      <h2 className="text-[14px] font-semibold">What all platforms claim</h2>
      <table className="mt-2 w-full text-[14px]">
        <tbody>
          {claims.accounts.map(({ key, name, count: n }) => (
            <Claim key={key} words={name} text={count(n)} href={claimHref(key)} />
          ))}
          {parts.map(([words, text, of, isSum]) => (
            <Claim key={words} words={words} text={text} href={of && hrefOf(of)} isSum={isSum ?? false} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Claim({
  words,
  text,
  href,
  isSum = false,
}: {
  words: string;
  text: string;
  href: string | null;
  isSum?: boolean;
}) {
  return (
    <tr className={`border-t border-base-300 ${isSum ? 'font-semibold' : ''}`}>
      <th scope="row" className={`py-1.5 pr-2 text-left ${isSum ? 'font-semibold' : 'font-normal'}`}>
        {capital(words)}
      </th>
      <td className="py-1.5 text-right tabular-nums">
        <Opens href={href}>{text}</Opens>
      </td>
    </tr>
  );
}
