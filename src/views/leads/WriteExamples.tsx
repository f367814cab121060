import type { DryRunView } from '../../core/leads/writes-view';
import { count } from '../../core/strands';

/** A few records that would be written to: what each field holds, and what it would hold. */
export function WriteExamples({
  business,
  examples,
  values,
}: {
  business: string;
  examples: DryRunView['examples'];
  /** How many there are in all. */
  values: number;
}) {
  return (
    <ul className="mt-2 flex flex-col gap-2">
      {examples.map(({ enquiryId, words, field, was, becomes, cut }) => (
        <li key={`${enquiryId} ${field}`} className="[overflow-wrap:anywhere]">
          <a href={`/b/${business}/leads/${enquiryId}`} className="quiet-link">
            {words}
          </a>
          <div className="text-[13px]">
            <code className="value text-quiet">{field}</code>{' '}
            {was === '' ? <span className="text-quiet">empty</span> : <code className="value">{was}</code>} →{' '}
            <code className="value">{becomes}</code>
            {cut !== null && (
              <span className="text-error block">
                the field holds {cut.length} characters: <code className="value">{cut}</code>
              </span>
            )}
          </div>
        </li>
      ))}
      {values > examples.length && <li className="text-quiet">and {count(values - examples.length)} more</li>}
    </ul>
  );
}
