import type { WrongField } from '../../core/errors';
import { ruleKinds, type RuleKindName } from '../../core/rules';
import { partsIn, type Each, type Piece } from '../../core/rules/says';
import { Words } from '../text/Words';

const sentenceCase = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** What people call a field of a rule, by its sentence; its name where the sentence does not hold it. */
function labelOf(kind: RuleKindName, field: string): string | null {
  const { says } = ruleKinds[kind] as { says: readonly Piece<Record<string, unknown>>[] };
  const [key = ''] = field.split('.');
  const list = says.find((piece) => typeof piece === 'object' && 'each' in piece && piece.each.key === key);
  if (list) return sentenceCase((list as Each<unknown>).label);
  return partsIn(says).find((part) => part.key === key)?.label ?? null;
}

/** What was wrong with what was put into the draft, field by field; nothing where nothing was. */
export function WrongFields({ kind, wrong, problem }: { kind: RuleKindName; wrong: WrongField[]; problem: string }) {
  if (wrong.length === 0 && !problem) return null;
  return (
    <ul role="alert" className="text-error mb-2">
      {wrong.map(({ field, was, fix }) => (
        <li key={field + was}>
          {labelOf(kind, field) ?? <code className="value">{field}</code>}: <Words text={`${was}. ${fix}`} />
        </li>
      ))}
      {wrong.length === 0 && (
        <li>
          <Words text={problem} />
        </li>
      )}
    </ul>
  );
}
