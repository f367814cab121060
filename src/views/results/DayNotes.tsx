import { useMutation, useQueryClient } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import type { DayNote } from '../../core/results/day-note';
import { Problem } from '../../ui/form/Problem';
import { sendJson } from '../../ui/text/read';
import { dayWords } from '../../ui/text/time';

/** What was noted of the days of a course, numbered as they stand in it, and a field for another note. */
export function DayNotes({
  business,
  notes,
  lastDay,
  mayChange,
}: {
  business: string;
  notes: DayNote[];
  lastDay: string;
  mayChange: boolean;
}) {
  const client = useQueryClient();
  const [given, setGiven] = useState<{ day: string; text: string } | null>(null);
  const [gone, setGone] = useState<DayNote | null>(null);
  const api = `/api/b/${business}/results/notes`;
  const again = () => client.invalidateQueries();
  const add = useMutation({
    mutationFn: () => sendJson(api, given ?? {}),
    onSuccess: async () => {
      setGiven(null);
      await again();
    },
  });
  const retire = useMutation({
    mutationFn: ({ note, retired }: { note: DayNote; retired: boolean }) =>
      sendJson(`${api}/retire`, { id: note.id, retired }),
    onSuccess: async (_, { note, retired }) => {
      setGone(retired ? note : null);
      await again();
    },
  });
  if (notes.length === 0 && !mayChange) return null;
  return (
    <div className="mb-4 text-[13px]">
      {notes.length > 0 && (
        <ol aria-label="Notes of these days" className="flex flex-wrap gap-x-5 gap-y-1">
          {notes.map((note, at) => (
            <li key={note.id} title={`Noted by ${note.by}`}>
              <span className="value mr-1.5">{at + 1}</span>
              <span className="text-quiet mr-1.5">{dayWords(note.day)}</span>
              <span className="[overflow-wrap:anywhere]">{note.text}</span>
              {mayChange && (
                <button
                  type="button"
                  className="text-quiet hover:text-error ml-1 cursor-pointer align-middle"
                  aria-label={`Take out note ${at + 1}`}
                  onClick={() => retire.mutate({ note, retired: true })}
                >
                  <X size={13} aria-hidden />
                </button>
              )}
            </li>
          ))}
        </ol>
      )}
      {gone && (
        <p role="status" className="mt-1">
          The note “{gone.text}” is taken out.{' '}
          <button
            type="button"
            className="quiet-link cursor-pointer"
            onClick={() => retire.mutate({ note: gone, retired: false })}
          >
            Undo
          </button>
        </p>
      )}
      {mayChange &&
        (given === null ? (
          <button type="button" className="part part-more mt-1" onClick={() => setGiven({ day: lastDay, text: '' })}>
            Note something of a day
          </button>
        ) : (
          <form
            className="mt-1 flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              add.mutate();
            }}
          >
            <input
              type="date"
              className="field w-auto"
              aria-label="Day of the note"
              required
              value={given.day}
              onChange={({ target }) => setGiven({ ...given, day: target.value })}
            />
            <input
              className="field w-80"
              aria-label="What happened"
              placeholder="what happened, such as: prices went up"
              autoFocus
              maxLength={200}
              value={given.text}
              onChange={({ target }) => setGiven({ ...given, text: target.value })}
            />
            <button className="button button-strong" disabled={given.text.trim() === '' || add.isPending}>
              Save note
            </button>
            <button type="button" className="quiet-link cursor-pointer" onClick={() => setGiven(null)}>
              Cancel
            </button>
          </form>
        ))}
      <Problem text={(add.error ?? retire.error)?.message} />
    </div>
  );
}
