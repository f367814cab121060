import { ArrowDown, ArrowUp } from 'lucide-react';
import { useState } from 'react';
import type { Stages } from '../../core/outcomes';
import { count } from '../../core/strands';

/** The stages of a pipeline, put in order by hand, with those at which a deal has ended without going on. */
export function StageOrder({
  stages,
  offered,
  seen,
  disabled,
  onEdit,
}: {
  stages: Stages;
  /** As the CRM says them itself; null where it cannot be asked. */
  offered: Stages | null;
  /** Stages that records were seen at. */
  seen: { stage: string; records: number }[];
  disabled: boolean;
  onEdit: (stages: Stages) => void;
}) {
  const [name, setName] = useState('');
  const all = [
    ...stages.inOrder.map((stage) => ({ stage, ends: false })),
    ...stages.ended.map((stage) => ({ stage, ends: true })),
  ];
  const set = (next: { stage: string; ends: boolean }[]) =>
    onEdit({
      inOrder: next.filter(({ ends }) => !ends).map(({ stage }) => stage),
      ended: next.filter(({ ends }) => ends).map(({ stage }) => stage),
    });
  const move = (at: number, by: number) => {
    const next = [...all];
    const [one] = next.splice(at, 1);
    next.splice(at + by, 0, one!);
    set(next);
  };
  const add = (stage: string, ends: boolean) => set([...all, { stage, ends }]);
  const known = new Set(all.map(({ stage }) => stage));
  const missing = offered ? [...offered.inOrder, ...offered.ended].filter((stage) => !known.has(stage)) : [];
  const stray = seen.filter(({ stage }) => !known.has(stage) && !missing.includes(stage));
  const records = new Map(seen.map((one) => [one.stage, one.records]));
  return (
    <div className="border-base-300 border-t px-5 py-4">
      <h2 className="text-base">Stages, in the order in which a deal goes through them</h2>
      {all.length > 0 && (
        <table className="rows mt-2">
          <thead>
            <tr>
              <th scope="col">Stage</th>
              <th scope="col">Ends a deal</th>
              <th scope="col" className="text-right!">
                Records
              </th>
              <th scope="col">
                <span className="sr-only">Move it or take it out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {all.map(({ stage, ends }, at) => (
              <tr key={stage}>
                <td>{stage}</td>
                <td>
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm"
                    aria-label={`${stage} ends a deal`}
                    checked={ends}
                    disabled={disabled}
                    onChange={(event) =>
                      set(all.map((one, i) => (i === at ? { ...one, ends: event.target.checked } : one)))
                    }
                  />
                </td>
                <td className="text-right">{count(records.get(stage) ?? 0)}</td>
                <td className="text-right whitespace-nowrap">
                  {!disabled && (
                    <>
                      <button
                        type="button"
                        className="quiet-link cursor-pointer px-1"
                        aria-label={`Move ${stage} up`}
                        disabled={at === 0 || all[at - 1]!.ends !== ends}
                        onClick={() => move(at, -1)}
                      >
                        <ArrowUp size={14} aria-hidden />
                      </button>
                      <button
                        type="button"
                        className="quiet-link cursor-pointer px-1"
                        aria-label={`Move ${stage} down`}
                        disabled={at === all.length - 1 || all[at + 1]!.ends !== ends}
                        onClick={() => move(at, 1)}
                      >
                        <ArrowDown size={14} aria-hidden />
                      </button>
                      <button
                        type="button"
                        className="quiet-link ml-2 cursor-pointer"
                        aria-label={`Take out ${stage}`}
                        onClick={() => set(all.filter((_, i) => i !== at))}
                      >
                        Take out
                      </button>
                    </>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!disabled && (
        <div className="mt-3 flex flex-wrap items-center gap-2">
          {offered && missing.length > 0 && (
            <button
              type="button"
              className="button button-strong"
              onClick={() => set([...all, ...missing.map((stage) => ({ stage, ends: offered.ended.includes(stage) }))])}
            >
              Take its {missing.length} {all.length > 0 ? 'other stages' : 'stages'}
            </button>
          )}
          {stray.slice(0, 8).map(({ stage }) => (
            <button key={stage} type="button" className="button" onClick={() => add(stage, false)}>
              Add {stage}
            </button>
          ))}
          <form
            className="flex items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (name.trim() !== '' && !known.has(name.trim())) add(name.trim(), false);
              setName('');
            }}
          >
            <input
              className="field w-44"
              aria-label="Name of a stage"
              placeholder="another stage"
              value={name}
              maxLength={80}
              onChange={(event) => setName(event.target.value)}
            />
            <button type="submit" className="button" disabled={name.trim() === ''}>
              Add stage
            </button>
          </form>
        </div>
      )}
    </div>
  );
}
