import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { nearestKnown, type CatalogueView } from '../../core/events/catalogue';
import { readJson, sendJson } from '../../ui/text/read';

/** Whether a place that has to know a name first knows it; if not, it is made there in one press. */
export function KnownThere({
  business,
  account,
  words,
  name,
  isWhole,
  mayChange,
  onUse,
}: {
  business: string;
  account: string;
  words: string;
  name: string;
  /** False where readings are in the name, so that it is a different one each time. */
  isWhole: boolean;
  mayChange: boolean;
  onUse: (name: string) => void;
}) {
  const client = useQueryClient();
  const api = `/api/b/${business}/events/catalogue`;
  const key = [api, account];
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: () => readJson<CatalogueView>(`${api}?account=${encodeURIComponent(account)}`),
    staleTime: 30_000,
  });
  const make = useMutation({
    mutationFn: () => sendJson<CatalogueView>(api, { account, name }),
    onSuccess: (view) => client.setQueryData(key, view),
  });
  const problem = make.error?.message ?? error?.message ?? data?.problem ?? '';
  if (!data && !problem) return <p className="text-quiet mt-1.5">Asking {words} which names it knows …</p>;
  if (!isWhole)
    return <p className="text-quiet mt-1.5">{words} counts only names that were made there, each of them.</p>;
  const known = data?.known ?? [];
  const isKnown = known.includes(name);
  const near = isKnown ? '' : nearestKnown(name, known);
  return (
    <div className="mt-1.5" role="status">
      {isKnown ? (
        <p>
          {words} knows <code className="value">{name}</code>.
        </p>
      ) : (
        data?.known && (
          <p className="flex flex-wrap items-center gap-2">
            <span>
              {words} does not know <code className="value">{name}</code>, and would count none of them.
            </span>
            {mayChange && near && (
              <button type="button" className="button" onClick={() => onUse(near)}>
                Use <code className="value">{near}</code>, which is there
              </button>
            )}
            {mayChange && (
              <button type="button" className="button" disabled={make.isPending} onClick={() => make.mutate()}>
                Make it at {words}
              </button>
            )}
          </p>
        )
      )}
      {problem && <p className="text-error">{problem}</p>}
    </div>
  );
}
