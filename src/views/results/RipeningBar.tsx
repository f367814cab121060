import { useId } from 'react';

/** What came, solid, and what is usually still to come, hatched. */
export function RipeningBar({ came, expected, most }: { came: number; expected: number; most: number }) {
  const id = useId();
  const percent = (n: number) => `${(100 * n) / most}%`;
  return (
    <svg width="100%" height="14" className="block" aria-hidden="true">
      <defs>
        <pattern id={id} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" x2="0" y1="0" y2="5" className="stroke-quiet" strokeWidth="2" />
        </pattern>
      </defs>
      <rect width={percent(came)} height="14" className="fill-base-content" />
      {expected > came && <rect x={percent(came)} width={percent(expected - came)} height="14" fill={`url(#${id})`} />}
    </svg>
  );
}
