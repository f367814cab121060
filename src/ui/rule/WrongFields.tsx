import type { WrongField } from '../../core/errors';

/** What was wrong with what was put into the draft, field by field; nothing where nothing was. */
export function WrongFields({ wrong, problem }: { wrong: WrongField[]; problem: string }) {
  if (wrong.length === 0 && !problem) return null;
  return (
    <ul role="alert" className="text-error mb-2">
      {wrong.map(({ field, was, wants }) => (
        <li key={field + was}>
          <code className="value">{field}</code>: {was}. {wants}
        </li>
      ))}
      {wrong.length === 0 && <li>{problem}</li>}
    </ul>
  );
}
