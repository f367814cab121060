import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { FactView } from '../../core/rehearsal/view';
import { sendJson } from '../text/read';
import { Words } from '../text/Words';
import { sayRehearsalSaved, type Written } from './useRehearsal';

/** What came out, of which some can be expected from now on; and the name under which the rehearsal is saved. */
export function Expectations({
  business,
  facts,
  written,
  write,
  mayChange,
}: {
  business: string;
  facts: FactView[];
  written: Written;
  write: (part: Partial<Written>) => void;
  mayChange: boolean;
}) {
  const { expected, saved } = written;
  /** When it was saved, as long as that is what is said here. */
  const [said, setSaid] = useState('');
  const gone = expected.filter(({ key }) => !facts.some((fact) => fact.key === key));
  const drop = (key: string) => write({ expected: expected.filter((one) => one.key !== key) });
  return (
    <section className="mt-3" aria-label="Expect it">
      <h3 className="font-semibold">Expect it from now on</h3>
      <p className="text-quiet">
        What you tick is held against the rules before each release, and stops one that comes out otherwise.
      </p>
      <ul className="mt-1 grid grid-cols-1 gap-x-6 xl:grid-cols-2">
        {facts.map(({ key, is, words }) => {
          const wanted = expected.find((one) => one.key === key);
          const isBroken = wanted !== undefined && wanted.is !== is;
          return (
            <li key={key}>
              <label className="flex items-baseline gap-2 py-0.5">
                <input
                  type="checkbox"
                  checked={wanted !== undefined}
                  onChange={() => (wanted ? drop(key) : write({ expected: [...expected, { key, is }] }))}
                />
                <span className={isBroken ? 'text-error' : ''}>
                  <Words text={words} />
                  {isBroken && ', which was expected otherwise'}
                </span>
              </label>
            </li>
          );
        })}
        {gone.map(({ key }) => (
          <li key={key} className="text-error py-0.5">
            <code className="value">{key}</code> was expected, and the rules have nothing of this name.{' '}
            <button type="button" className="quiet-link" onClick={() => drop(key)}>
              Expect it no more
            </button>
          </li>
        ))}
      </ul>
      {mayChange && (
        <Save
          key={saved?.id ?? 'new'}
          business={business}
          written={written}
          onSaved={(now) => {
            write({ saved: now });
            setSaid(now.seen);
          }}
        />
      )}
      {said !== '' && said === saved?.seen && (
        <p role="status" className="text-success mt-1">
          Saved: it runs before each release. <a href={`/b/${business}/rehearsals`}>All saved rehearsals</a>
        </p>
      )}
    </section>
  );
}

interface SavedAt {
  id: string;
  changedAt: string;
}

/** Saves it under a name: as a new one, or in place of the one that it began from. */
function Save({
  business,
  written: { lines, traits, expected, saved },
  onSaved,
}: {
  business: string;
  written: Written;
  onSaved: (saved: NonNullable<Written['saved']>) => void;
}) {
  const client = useQueryClient();
  const [name, setName] = useState(saved?.name ?? '');
  const api = `/api/b/${business}/rehearsals`;
  const done = ({ id, changedAt }: SavedAt) => {
    onSaved({ id, name, seen: changedAt });
    void client.invalidateQueries();
    sayRehearsalSaved();
  };
  const make = useMutation({
    mutationFn: () => sendJson<SavedAt>(api, { name, lines, traits, expected }),
    onSuccess: done,
  });
  const change = useMutation({
    mutationFn: () => sendJson<SavedAt>(`${api}/${saved!.id}`, { name, lines, traits, expected, seen: saved!.seen }),
    onSuccess: done,
  });
  const error = make.error ?? change.error;
  const isChanging = saved !== null;
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (isChanging) change.mutate();
        else make.mutate();
      }}
    >
      <label>
        Save it as{' '}
        <input
          className="part min-w-56"
          value={name}
          maxLength={80}
          placeholder="such as: a paid click is told"
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <button className="button" disabled={name.trim() === '' || make.isPending || change.isPending}>
        {isChanging ? 'Save changes' : 'Save rehearsal'}
      </button>
      {isChanging && (
        <button type="button" className="button" disabled={name.trim() === ''} onClick={() => make.mutate()}>
          Save as a new one
        </button>
      )}
      {error && (
        <span role="alert" className="text-error">
          <Words text={error.message} />
        </span>
      )}
    </form>
  );
}
