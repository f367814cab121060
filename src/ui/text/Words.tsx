/** A sentence whose values stand between backticks: words in the grotesque, values in the mono face. */
export function Words({ text }: { text: string }) {
  return (
    <>
      {text.split('`').map((part, i) =>
        i % 2 === 1 ? (
          <code key={i} className="value">
            {part}
          </code>
        ) : (
          part
        ),
      )}
    </>
  );
}
