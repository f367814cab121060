import { count } from '../../core/strands';

const most = 20;

/** Rows of a file that were not taken: which, what was wrong, and what would be right. */
export function RefusedRows({ refused }: { refused: readonly { row: string; was: string; fix: string }[] }) {
  if (refused.length === 0) return null;
  return (
    <ul className="text-error mt-1">
      {refused.slice(0, most).map(({ row, was, fix }) => (
        <li key={row}>
          {row}: {was}. {fix}
        </li>
      ))}
      {refused.length > most && <li>and {count(refused.length - most)} more</li>}
    </ul>
  );
}
