import type { OwnPlatform } from '../../core/platforms/schema';
import { Cell, Part, TakeOutRow, withEntry, withoutEntry } from '../../ui/form/rows';

/** What a platform fills into its links when an ad is clicked. */
export function PlaceholderRows({
  rule: { placeholders, freezesNames },
  disabled,
  onEdit,
}: {
  rule: OwnPlatform;
  disabled: boolean;
  onEdit: (part: Partial<OwnPlatform>) => void;
}) {
  const set = (next: OwnPlatform['placeholders']) => onEdit({ placeholders: next });
  return (
    <Part
      heading="What it fills into links"
      under="As it is written in its links. They are offered where links are made, and one that arrives unfilled is found."
    >
      {placeholders.length > 0 && (
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Written</th>
              <th scope="col">Filled in with</th>
              <th scope="col">For example</th>
              <th scope="col">Click ID</th>
              <th scope="col">
                <span className="sr-only">Take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {placeholders.map(({ text, words, example, isClickId }, at) => (
              <tr key={at}>
                <td className="px-1!">
                  <Cell
                    label={`Placeholder ${at + 1}`}
                    value={text}
                    placeholder="<campaign>"
                    disabled={disabled}
                    onChange={(value) => set(withEntry(placeholders, at, { text: value }))}
                  />
                </td>
                <td className="px-1!">
                  <Cell
                    label={`What placeholder ${at + 1} is filled in with`}
                    value={words}
                    placeholder="campaign name"
                    isValue={false}
                    disabled={disabled}
                    onChange={(value) => set(withEntry(placeholders, at, { words: value }))}
                  />
                </td>
                <td className="px-1!">
                  <Cell
                    label={`Example of placeholder ${at + 1}`}
                    value={example}
                    placeholder="spring-loaves"
                    disabled={disabled}
                    onChange={(value) => set(withEntry(placeholders, at, { example: value }))}
                  />
                </td>
                <td>
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm"
                    aria-label={`Placeholder ${at + 1} is the click ID`}
                    checked={isClickId}
                    disabled={disabled}
                    onChange={(event) => set(withEntry(placeholders, at, { isClickId: event.target.checked }))}
                  />
                </td>
                <td>
                  <TakeOutRow
                    label={`Take out placeholder ${at + 1}`}
                    disabled={disabled}
                    onClick={() => set(withoutEntry(placeholders, at))}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!disabled && (
        <div className="mt-2 flex flex-wrap items-center gap-4">
          <button
            type="button"
            className="button"
            onClick={() => set([...placeholders, { text: '', words: '', example: '', isClickId: false }])}
          >
            Add a placeholder
          </button>
          {placeholders.length > 0 && (
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={freezesNames}
                onChange={(event) => onEdit({ freezesNames: event.target.checked })}
              />
              Names stay as they were when an ad was first published
            </label>
          )}
        </div>
      )}
    </Part>
  );
}
