import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { CampaignDifference, DifferenceRow } from '../../core/plan/campaign-view';
import { count, counted } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';

type Difference = DifferenceRow & { kind: 'new' | 'changed' | 'vanished' };

/** What campaigns from outside would change, each ticked or not; nothing is taken before the button. */
export function CampaignDifferences({
  api,
  from,
  difference,
  onDone,
}: {
  api: string;
  from: string;
  difference: CampaignDifference;
  onDone: () => void;
}) {
  const { fresh, changed, vanished, same, refused } = difference;
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const isIn = ({ key }: DifferenceRow) => !left.has(key);
  const taken = [...fresh, ...changed].filter(isIn);
  const gone = vanished.filter(isIn);
  const take = useMutation({
    mutationFn: () =>
      sendJson(`${api}/take`, { campaigns: taken.map((row) => row.campaign), vanished: gone.map(({ key }) => key) }),
    onSuccess: onDone,
  });
  const toggle = (key: string) => {
    const next = new Set(left);
    if (!next.delete(key)) next.add(key);
    setLeft(next);
  };
  const columns: Column<Difference>[] = [
    {
      id: 'in',
      head: 'Take it',
      isHeadHidden: true,
      className: 'w-8',
      cell: (row) => (
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={isIn(row)}
          aria-label={`${row.kind} ${row.campaign.name}`}
          onChange={() => toggle(row.key)}
        />
      ),
    },
    { id: 'kind', head: 'What', by: ({ kind }) => kind, cell: ({ kind }) => kind },
    {
      id: 'campaign',
      head: 'Campaign',
      by: ({ campaign }) => campaign.friendly || campaign.name,
      cell: ({ campaign }) => (
        <>
          {campaign.friendly} <code className="value text-quiet">{campaign.name}</code>
        </>
      ),
    },
    {
      id: 'changes',
      head: 'Changes',
      cell: ({ changes }) =>
        changes.map(({ field, was, will }) => (
          <span key={field} className="block">
            {field}: <span className="text-quiet line-through">{was || 'nothing'}</span> {will || 'nothing'}
          </span>
        )),
    },
  ];
  const differences: Difference[] = [
    ...fresh.map((row): Difference => ({ ...row, kind: 'new' })),
    ...changed.map((row): Difference => ({ ...row, kind: 'changed' })),
    ...vanished.map((row): Difference => ({ ...row, kind: 'vanished' })),
  ];
  const all = taken.length + gone.length;
  return (
    <section className="sheet mb-4" aria-label={`What ${from} would change`}>
      <div className="px-5 pt-4">
        <h2 className="text-base">
          {fresh.length + changed.length + vanished.length === 0
            ? `Nothing in ${from} differs from the register.`
            : `${from.charAt(0).toUpperCase() + from.slice(1)} has ${count(fresh.length)} new, ${count(changed.length)} changed and ${count(vanished.length)} vanished; ${count(same)} the same.`}
        </h2>
      </div>
      {differences.length > 0 && (
        <div className="mt-2">
          <DataTable rows={differences} idOf={({ kind, key }) => `${kind} ${key}`} columns={columns} none="" isPart />
        </div>
      )}
      {refused.length > 0 && (
        <div className="border-base-300 border-t px-5 py-3">
          <h3 className="text-error font-semibold">{counted(refused.length, 'thing', 'things')} cannot be taken</h3>
          <ul className="mt-1">
            {refused.slice(0, 50).map(({ row, field, was, fix }) => (
              <li key={`${row} ${field} ${was}`}>
                {row}, <code className="value">{field}</code>: {was}. {fix}
              </li>
            ))}
          </ul>
          {refused.length > 50 && <p className="text-quiet">and {refused.length - 50} more.</p>}
        </div>
      )}
      <div className="border-base-300 flex items-center gap-2 border-t px-5 py-3">
        {all > 0 && (
          <button
            type="button"
            className="button button-strong"
            data-take
            disabled={take.isPending}
            onClick={() => take.mutate()}
          >
            Take {all}
          </button>
        )}
        <button type="button" className="button" onClick={onDone}>
          {all > 0 ? 'Take none' : 'Close'}
        </button>
        {take.error && (
          <span role="alert" className="text-error">
            <Words text={take.error.message} />
          </span>
        )}
      </div>
    </section>
  );
}
