/** The field that finds in a list; `/` leads to it. */
export function FindField({
  what,
  label = `Find by ${what.charAt(0).toLowerCase()}${what.slice(1)}`,
  value = '',
  onFind,
  width = 'w-64',
}: {
  /** What it looks through, shown while it is empty. */
  what: string;
  label?: string;
  value?: string;
  onFind: (find: string) => void;
  width?: string;
}) {
  return (
    <input
      type="search"
      data-find
      className={`field ${width}`}
      placeholder={what}
      aria-label={label}
      defaultValue={value}
      onChange={(event) => onFind(event.target.value)}
    />
  );
}
