import type { TagRule } from '../../core/plan';
import { ChoicePart, NumberPart, TextPart } from '../../ui/rule/parts';

const letters = [
  ['lower', 'small letters'],
  ['upper', 'capital letters'],
  ['any', 'any letters'],
] as const;
const separators = [
  ['-', 'joined by -'],
  ['_', 'joined by _'],
  ['.', 'joined by .'],
  ['', 'joined by anything'],
] as const;
const entries = [
  ['picked', 'picked from the values below'],
  ['typed', 'typed'],
] as const;
const needs = [
  ['yes', 'Every link has it'],
  ['no', 'A link may go without it'],
] as const;
const names = [
  ['no', 'it is any text'],
  ['yes', 'it is a campaign name of the plan'],
] as const;

/** A tag's rule as a sentence whose parts are changed in place. */
export function TagSentence({
  rule,
  isNew,
  mayChange,
  onEdit,
}: {
  rule: TagRule;
  isNew: boolean;
  mayChange: boolean;
  onEdit: (part: Partial<TagRule>) => void;
}) {
  const disabled = !mayChange;
  return (
    <div className="px-5 py-4">
      <p className="text-[17px] leading-[1.9]">
        <TextPart
          label="What the tag is called"
          isValue={false}
          value={rule.name}
          placeholder="Name it"
          disabled={disabled}
          onChange={(name) => onEdit({ name })}
        />{' '}
        stands in links as{' '}
        {isNew ? (
          <TextPart
            label="Query name"
            value={rule.tag}
            placeholder="query name"
            onChange={(tag) => onEdit({ tag: tag.trim() })}
          />
        ) : (
          <code className="value text-[0.86em]">{rule.tag}</code>
        )}
        . It is{' '}
        <ChoicePart
          label="Picked or typed"
          value={rule.entry}
          options={entries}
          disabled={disabled}
          onChange={(entry) => onEdit({ entry })}
        />
        {rule.entry === 'typed' && (
          <>
            ;{' '}
            <ChoicePart
              label="Campaign name or any text"
              value={rule.named ? 'yes' : 'no'}
              options={names}
              disabled={disabled}
              onChange={(named) => onEdit({ named: named === 'yes' })}
            />{' '}
            and fits{' '}
            <TextPart
              label="Pattern"
              value={rule.pattern}
              placeholder="any pattern"
              disabled={disabled}
              onChange={(pattern) => onEdit({ pattern })}
            />
          </>
        )}
        , in{' '}
        <ChoicePart
          label="Letters"
          value={rule.letters}
          options={letters}
          disabled={disabled}
          onChange={(value) => onEdit({ letters: value })}
        />
        , its words{' '}
        <ChoicePart
          label="Separator"
          value={rule.separator}
          options={separators}
          disabled={disabled}
          onChange={(separator) => onEdit({ separator })}
        />
        , at most{' '}
        <NumberPart
          label="Greatest length"
          value={rule.longest}
          disabled={disabled}
          onChange={(longest) => onEdit({ longest })}
        />{' '}
        characters.{' '}
        <ChoicePart
          label="Required"
          value={rule.required ? 'yes' : 'no'}
          options={needs}
          disabled={disabled}
          onChange={(required) => onEdit({ required: required === 'yes' })}
        />
        , for example{' '}
        <TextPart
          label="Example"
          value={rule.example}
          placeholder="an example"
          disabled={disabled}
          onChange={(example) => onEdit({ example })}
        />
        .
      </p>
      <p className="text-quiet mt-1">
        <TextPart
          label="Note"
          isValue={false}
          value={rule.note}
          placeholder="A note for those who make links"
          disabled={disabled}
          onChange={(note) => onEdit({ note })}
        />
      </p>
    </div>
  );
}
