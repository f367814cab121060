import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { listed } from '../../core/listed';
import { traitWords } from '../../core/rehearsal/traits';
import type { SavedListView, SavedView } from '../../core/rehearsal/view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { onRehearsalSaved, openRehearsal } from '../../ui/rehearsal/useRehearsal';
import { onDraftChanged } from '../../ui/rule/draft-changed';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  initial: SavedListView;
}

/** Saved rehearsals: what each expects, and how it comes out by the rules in the draft. */
export function RehearsalsPage(props: Props) {
  return (
    <Live>
      <Rehearsals {...props} />
    </Live>
  );
}

function Rehearsals({ business, initial }: Props) {
  const api = `/api/b/${business}/rehearsals`;
  const client = useQueryClient();
  const view = useView(api, initial);
  const [retired, setRetired] = useState<SavedView | null>(null);
  useEffect(() => {
    const readAnew = () => void client.invalidateQueries();
    const ends = [onRehearsalSaved(readAnew), onDraftChanged(readAnew)];
    return () => ends.forEach((end) => end());
  }, [client]);
  const retire = useMutation({
    mutationFn: ({ one, isOut }: { one: SavedView; isOut: boolean }) =>
      sendJson(`${api}/${one.id}/retire`, { retired: isOut }),
    onSuccess: (_, { one, isOut }) => {
      setRetired(isOut ? one : null);
      void client.invalidateQueries();
    },
  });
  return (
    <StationFrame
      sentence={view.sentence}
      crumb={<a href={`/b/${business}/not-live`}>Not live</a>}
      actions={
        <button type="button" className="button button-strong" data-new onClick={() => openRehearsal(business, {})}>
          New rehearsal
        </button>
      }
    >
      {retired && (
        <p role="status" className="mt-3">
          “{retired.name}” does not run before releases any more.{' '}
          <button type="button" className="quiet-link" onClick={() => retire.mutate({ one: retired, isOut: false })}>
            Undo
          </button>
        </p>
      )}
      {retire.error && (
        <p role="alert" className="text-error mt-3">
          <Words text={retire.error.message} />
        </p>
      )}
      {view.rehearsals.length > 0 && (
        <ul className="sheet mt-5">
          {view.rehearsals.map((one) => (
            <Saved
              key={one.id}
              one={one}
              view={view}
              onOpen={() => openRehearsal(business, toWritten(one))}
              onRetire={() => retire.mutate({ one, isOut: true })}
            />
          ))}
        </ul>
      )}
    </StationFrame>
  );
}

const toWritten = ({ id, name, lines, traits, expected, changedAt }: SavedView) => ({
  lines,
  traits,
  expected,
  saved: { id, name, seen: changedAt },
});

function Saved({
  one,
  view,
  onOpen,
  onRetire,
}: {
  one: SavedView;
  view: SavedListView;
  onOpen: () => void;
  onRetire: () => void;
}) {
  const { name, lines, traits, expectations, problems, holds, by, changedAt } = one;
  return (
    <li className="border-base-300 grid grid-cols-[1fr_auto] gap-x-6 border-b px-5 py-4 last:border-0">
      <div className="min-w-0">
        <h2 className="text-[16px]">{name}</h2>
        <p className={holds ? 'text-success' : 'text-error font-semibold'}>
          {holds ? 'Comes out as expected' : 'Would stop the next release'}
        </p>
        <p className="value mt-1">{lines.join(' · ')}</p>
        {traits.length > 0 && (
          <p className="text-quiet">In a browser that {listed(traits.map((trait) => traitWords[trait]))}.</p>
        )}
        <ul className="mt-1">
          {problems.map((problem) => (
            <li key={problem} className="text-error">
              <Words text={problem} />
            </li>
          ))}
          {expectations.map(({ key, words, holds: isKept }) => (
            <li key={key} className={isKept ? '' : 'text-error'}>
              <Words text={words} />
            </li>
          ))}
          {expectations.length === 0 && (
            <li className="text-quiet">It expects nothing yet: open it and tick what must hold.</li>
          )}
        </ul>
        <p className="text-quiet mt-1 text-[12.5px]">
          Saved by {by}, <Time iso={changedAt} timeZone={view.timeZone} />
        </p>
      </div>
      <div className="flex h-fit gap-2">
        <button type="button" className="button" aria-label={`Open ${name}`} onClick={onOpen}>
          Open
        </button>
        {view.mayChange && (
          <button type="button" className="button" aria-label={`Retire ${name}`} onClick={onRetire}>
            Retire
          </button>
        )}
      </div>
    </li>
  );
}
