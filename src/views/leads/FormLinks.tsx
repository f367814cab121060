import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { FormLinkView, LeadAccountView } from '../../core/leads/forms-view';
import { counted } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { readJson, sendJson } from '../../ui/text/read';

/** Where the forms lead once they are sent, and how those links would look with our tags. */
export function FormLinks({ api, account, mayChange }: { api: string; account: LeadAccountView; mayChange: boolean }) {
  const client = useQueryClient();
  const path = `${api}/links`;
  const key = [path, account.id];
  const read = useQuery({
    queryKey: key,
    queryFn: () => readJson<FormLinkView[]>(`${path}?account=${account.id}`),
    retry: false,
  });
  const tag = useMutation({
    mutationFn: () => sendJson<FormLinkView[]>(path, { account: account.id }),
    onSuccess: (links) => client.setQueryData(key, links),
  });
  const links = read.data ?? [];
  const untagged = links.filter(({ link, becomes }) => link !== becomes);
  return (
    <div className="border-base-300 border-t px-5 py-4">
      <h3 className="font-semibold">Where its forms lead once they are sent</h3>
      {read.isPending && <p className="text-quiet mt-1">Asking {account.name} …</p>}
      <Problem text={read.error?.message ?? tag.error?.message} />
      <ul className="mt-2 flex flex-col gap-2">
        {links.map(({ form, title, link, becomes }) => (
          <li key={form}>
            <div>{title}</div>
            <code className="value text-quiet block [overflow-wrap:anywhere]">{link}</code>
            {becomes !== link && (
              <code className="value block [overflow-wrap:anywhere]">
                <span className="text-quiet">→ </span>
                {becomes}
              </code>
            )}
          </li>
        ))}
      </ul>
      {read.isSuccess && links.length === 0 && <p className="text-quiet mt-1">It has no form yet.</p>}
      {links.length > 0 && untagged.length === 0 && <p className="text-quiet mt-2">All of them carry our tags.</p>}
      {mayChange && untagged.length > 0 && (
        <button type="button" className="button mt-3" disabled={tag.isPending} onClick={() => tag.mutate()}>
          Add tags to {counted(untagged.length, 'link', 'links')}
        </button>
      )}
    </div>
  );
}
