import { Fragment } from 'react';

const longestRun = 14;

/**
 * A value in the mono face that breaks only where it may (after `-`, `.`, `/`, `_`); a run too long for its place is
 * shortened in the middle, whole for the pointer and when copied from the title.
 */
export function Value({ text }: { text: string }) {
  const parts = text.split(/(?<=[-./_])/);
  const long = parts.some((part) => part.length > longestRun);
  if (long && parts.length <= 3)
    return (
      <code className="value whitespace-nowrap" title={text}>
        {text.slice(0, 6)}…{text.slice(-6)}
      </code>
    );
  return (
    <code className="value">
      {parts.map((part, i) => (
        <Fragment key={i}>
          {part}
          <wbr />
        </Fragment>
      ))}
    </code>
  );
}
