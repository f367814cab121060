import { useState } from 'react';
import type { RangeView } from '../../core/strands';
import { dayWords } from '../text/time';

/**
 * The days a view is about: chosen ones first, own days last. Every choice is an address.
 * @param rest what else stands in it
 */
export function RangePicker({ range, path, rest }: { range: RangeView; path: string; rest: Record<string, string> }) {
  const [own, setOwn] = useState(range.choice === 'own');
  const choices = [
    ['week', '1 week'],
    ['weeks4', '4 weeks'],
    [
      'cycle',
      range.cycleDays
        ? `One sales cycle (${range.cycleDays} ${range.cycleDays === 1 ? 'day' : 'days'})`
        : 'One sales cycle',
    ],
    ['release', `Since release ${range.release}`],
  ] as const;
  const each = 'border-hero-line px-3 py-1.5 whitespace-nowrap not-first:border-l';
  const chosen = 'bg-hero-ink text-hero font-semibold';
  return (
    <div className="flex flex-col gap-2 xl:items-end">
      <nav aria-label="Days" className="border-hero-line flex overflow-hidden rounded-[5px] border">
        {choices.map(([choice, words]) =>
          choice === 'cycle' && !range.cycleDays ? (
            <span key={choice} className={`${each} text-hero-quiet`} title="Known once something has qualified">
              {words}
            </span>
          ) : (
            <a
              key={choice}
              href={`${path}?${new URLSearchParams({ ...rest, range: choice })}`}
              aria-current={range.choice === choice ? 'true' : undefined}
              className={`${each} ${range.choice === choice ? chosen : 'hover:bg-hero-line'}`}
            >
              {words}
            </a>
          ),
        )}
        <button
          type="button"
          aria-expanded={own}
          onClick={() => setOwn(!own)}
          className={`${each} cursor-pointer ${range.choice === 'own' ? chosen : 'hover:bg-hero-line'}`}
        >
          {range.choice === 'own' ? `${dayWords(range.firstDay)} to ${dayWords(range.lastDay)}` : 'Choose dates'}
        </button>
      </nav>
      {own && (
        <form action={path} className="flex items-center gap-2">
          <input type="hidden" name="range" value="own" />
          {Object.entries(rest).map(([name, value]) => (
            <input key={name} type="hidden" name={name} value={value} />
          ))}
          <label>
            from{' '}
            <input
              type="date"
              name="from"
              required
              defaultValue={range.firstDay}
              className="border-hero-line rounded border bg-transparent px-2 py-1"
            />
          </label>
          <label>
            to{' '}
            <input
              type="date"
              name="to"
              required
              defaultValue={range.lastDay}
              className="border-hero-line rounded border bg-transparent px-2 py-1"
            />
          </label>
          <button className="border-hero-line hover:bg-hero-line cursor-pointer rounded border px-3 py-1">Show</button>
        </form>
      )}
    </div>
  );
}
