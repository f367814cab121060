import { LeadingSelect } from '../../ui/pick/LeadingSelect';

/** The segment that a page of leads is narrowed to, to be chosen; the rest of its address stays. */
export function Narrowing({
  business,
  view,
  search,
  path = '/leads',
}: {
  business: string;
  view: { segments: { id: string; name: string }[] };
  search: string;
  path?: string;
}) {
  const current = new URLSearchParams(search).get('segment') ?? '';
  const go = (segment: string) => {
    const next = new URLSearchParams(location.search);
    next.delete('page');
    if (segment === '') next.delete('segment');
    else next.set('segment', segment);
    location.assign(`/b/${business}${path}${next.size > 0 ? `?${next}` : ''}`);
  };
  return (
    <p className="mt-3 flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <label>
        <span className="text-quiet mr-2">Segment</span>
        <LeadingSelect
          value={current}
          options={[['', 'every lead'], ...view.segments.map(({ id, name }) => [id, name] as const)]}
          onChoose={go}
        />
      </label>
      <a
        href={`/b/${business}/leads/segments${current ? `?segment=${current}` : view.segments.length === 0 ? '?new=yes' : ''}`}
        className="quiet-link"
      >
        {current ? 'Change it' : view.segments.length === 0 ? 'Make a segment' : 'All segments'}
      </a>
      {current && (
        <a href={`/b/${business}?segment=${current}`} className="quiet-link">
          Its line
        </a>
      )}
    </p>
  );
}
