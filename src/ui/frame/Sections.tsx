/** The parts of a station, each with an address of its own. */
export function Sections({
  label,
  sections,
  current,
}: {
  label: string;
  sections: { words: string; href: string; count?: number }[];
  current: string;
}) {
  return (
    <nav aria-label={label} className="print:hidden border-base-300 mt-3 flex flex-wrap gap-x-6 border-b">
      {sections.map(({ words, href, count }) => (
        <a
          key={words}
          href={href}
          aria-current={words === current ? 'page' : undefined}
          className={`-mb-px border-b-2 py-1.5 ${
            words === current
              ? 'border-base-content font-semibold'
              : 'text-quiet hover:text-base-content border-transparent'
          }`}
        >
          {words}
          {count !== undefined && count > 0 && <span className="ml-1.5 tabular-nums">{count}</span>}
        </a>
      ))}
    </nav>
  );
}
