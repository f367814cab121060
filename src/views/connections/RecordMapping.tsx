import { guessReading, readDifferently } from '../../core/crms/own/guess';
import { linesOf, meaningAt, meanings, withMeaning, type ExampleLine } from '../../core/crms/own/mapping';
import { readParts } from '../../core/crms/own/record';
import type { RecordReading } from '../../core/crms/schema';
import { counted } from '../../core/counted';
import { ChoiceMenu } from '../../ui/pick/ChoiceMenu';
import { Cell } from '../../ui/form/rows';

const options = [['', 'not read'], ...meanings] as const;
const wordsOf = Object.fromEntries(options) as Record<string, string>;
/** Deeper lines are indented no further. */
const mostDepth = 6;
const indents = ['pl-0', 'pl-4', 'pl-8', 'pl-12', 'pl-16', 'pl-20', 'pl-24'];

/** An example of a record as it came: a value is pressed to say what it is. Beneath it, what is read but not in it. */
export function RecordMapping({
  example,
  reading,
  disabled,
  onEdit,
}: {
  /** undefined where there is none. */
  example: unknown;
  reading: RecordReading;
  disabled: boolean;
  onEdit: (reading: RecordReading) => void;
}) {
  const lines = linesOf(example);
  const places = new Set(lines.filter(({ value }) => value !== null).map(({ at }) => at));
  const elsewhere = readParts(reading, example).filter(({ at }) => !places.has(at));
  if (lines.length === 0 && elsewhere.length === 0) return null;
  const guessed = guessReading(reading, example);
  const more = readDifferently(reading, guessed, example);
  const part = (at: string) => <Meaning key={at} at={at} reading={reading} disabled={disabled} onEdit={onEdit} />;
  return (
    <>
      {more > 0 && !disabled && (
        <p className="mt-2 flex flex-wrap items-center gap-3">
          <button type="button" className="button" onClick={() => onEdit(guessed)}>
            Read {counted(more, 'value', 'values')} by {more === 1 ? 'its name' : 'their names'}
          </button>
          <span className="text-quiet">Then press a value to change what it is.</span>
        </p>
      )}
      {lines.length > 0 && (
        <ul className="sheet mt-3 px-3 py-2" aria-label="Values of a record">
          {lines.map((line, i) => (
            <li key={i} className={`flex min-h-7 items-center gap-3 ${indents[Math.min(line.depth, mostDepth)]}`}>
              <Written line={line} reading={reading} disabled={disabled} onEdit={onEdit} />
              {line.value !== null && part(line.at)}
            </li>
          ))}
        </ul>
      )}
      {elsewhere.length > 0 && (
        <ul className="mt-3" aria-label="Read, and not in the example">
          {elsewhere.map(({ at }) => (
            <li key={at} className="flex min-h-8 items-center gap-3">
              <ChoiceMenu
                label={`What ${at} is`}
                value={meaningAt(reading, at)}
                options={options}
                disabled={disabled}
                className="part part-value"
                onChange={(meaning) => onEdit(withMeaning(reading, at, meaning))}
              >
                {at}
              </ChoiceMenu>
              {example !== undefined && <span className="text-error">leads nowhere in this example</span>}
              {part(at)}
            </li>
          ))}
        </ul>
      )}
      {reading.amounts.length > 0 && reading.currency === '' && (
        <p className="mt-2 flex items-center gap-2">
          Amounts are in
          <Cell
            label="Currency of amounts"
            className="w-20"
            value={reading.otherwiseCurrency}
            disabled={disabled}
            onChange={(currency) => onEdit({ ...reading, otherwiseCurrency: currency.toUpperCase() })}
          />
        </p>
      )}
    </>
  );
}

function Written({
  line: { at, key, text, value },
  reading,
  disabled,
  onEdit,
}: {
  line: ExampleLine;
  reading: RecordReading;
  disabled: boolean;
  onEdit: (reading: RecordReading) => void;
}) {
  const shown = text.length > 60 ? `${text.slice(0, 60)}…` : text;
  if (value === null)
    return (
      <code className="value text-quiet">
        {key}
        {shown}
      </code>
    );
  const meaning = meaningAt(reading, at);
  return (
    <span className="value">
      <span className="text-quiet">{key}</span>
      <ChoiceMenu
        label={`What ${at} is`}
        value={meaning}
        options={options}
        disabled={disabled}
        className={`part part-value text-left ${meaning === '' ? 'font-normal!' : ''}`}
        onChange={(next) => onEdit(withMeaning(reading, at, next))}
      >
        {shown}
      </ChoiceMenu>
    </span>
  );
}

/** What a place is, in words; an amount and a field have a name of their own. */
function Meaning({
  at,
  reading,
  disabled,
  onEdit,
}: {
  at: string;
  reading: RecordReading;
  disabled: boolean;
  onEdit: (reading: RecordReading) => void;
}) {
  const meaning = meaningAt(reading, at);
  if (meaning === '') return null;
  const name =
    reading.amounts.find((one) => one.at === at)?.name ?? reading.fields.find((one) => one.at === at)?.name ?? '';
  const rename = (next: string) =>
    onEdit({
      ...reading,
      amounts: reading.amounts.map((one) => (one.at === at ? { ...one, name: next } : one)),
      fields: reading.fields.map((one) => (one.at === at ? { ...one, name: next } : one)),
    });
  return (
    <span className="ml-auto flex shrink-0 items-center gap-2 whitespace-nowrap">
      is {wordsOf[meaning]}
      {(meaning === 'field' || meaning === 'amount') && (
        <Cell
          label={`Name of ${at}`}
          className="w-32"
          value={name}
          placeholder="its name"
          disabled={disabled}
          onChange={rename}
        />
      )}
    </span>
  );
}
