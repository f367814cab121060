import { counted } from '../../core/strands';
import { dayWords } from '../../ui/text/time';

const height = 44;
const width = 280;

/** How often on each day, as bars; what a change gains is brass with an edge. The same is in words for who cannot see it. */
export function DayBars({ days }: { days: { day: string; count: number; gained: number }[] }) {
  const most = Math.max(1, ...days.map(({ count }) => count));
  const step = width / Math.max(1, days.length);
  const gained = days.filter((one) => one.gained > 0).length;
  const spoken = days
    .filter(({ count }) => count > 0)
    .map(({ day, count }) => `${dayWords(day)}: ${count}`)
    .join(', ');
  return (
    <figure className="mt-3">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="h-11 w-full"
        preserveAspectRatio="none"
        role="img"
        aria-label={spoken || 'none on any day'}
      >
        {days.map(({ day, count, gained: more }, at) => {
          const full = (height - 2) * (count / most);
          const part = (height - 2) * (more / most);
          return (
            <g key={day}>
              <title>{`${dayWords(day)}: ${count}`}</title>
              <rect
                x={at * step + 1}
                y={height - Math.max(1, full)}
                width={step - 2}
                height={Math.max(1, full)}
                className={count > 0 ? 'fill-base-content' : 'fill-base-300'}
              />
              {more > 0 && (
                <rect
                  x={at * step + 1.5}
                  y={height - full + 0.5}
                  width={step - 3}
                  height={Math.max(1, part - 0.5)}
                  className="fill-accent stroke-base-content"
                />
              )}
            </g>
          );
        })}
      </svg>
      {gained > 0 && (
        <figcaption className="text-quiet mt-1 text-[12.5px]">
          Brass: the {counted(gained, 'day', 'days')} that gain by this change
        </figcaption>
      )}
    </figure>
  );
}
