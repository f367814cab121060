import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { DayNote, DayNoteGiven } from '../../core/results/kept';
import { Problem } from '../../ui/form/Problem';
import { useWritten } from '../../ui/form/useWritten';
import { sendJson } from '../../ui/text/read';
import { dayWords } from '../../ui/text/time';
import { TakenOut, TakeOut, useTakenOut } from './TakenOut';

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
  const api = `/api/b/${business}/results/notes`;
  const client = useQueryClient();
  const again = () => client.invalidateQueries();
  const { value: given, set: setGiven } = useWritten<DayNoteGiven | null>(api, null, (one) => one === null);
  const out = useTakenOut<DayNote, void>(api, again);
  const add = useMutation({
    mutationFn: (note: DayNoteGiven) => sendJson(api, note),
    onSuccess: async () => {
      setGiven(null);
      await again();
    },
  });
  if (notes.length === 0 && !mayChange) return null;
  return (
    <div className="mb-4 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-[13px]">
      {notes.length > 0 && (
        <ol aria-label="Notes of these days" className="contents">
          {notes.map((note, at) => (
            <li key={note.id} title={`Noted by ${note.by}`}>
              <span className="value mr-1.5">{at + 1}</span>
              <span className="text-quiet mr-1.5">{dayWords(note.day)}</span>
              <span className="[overflow-wrap:anywhere]">{note.text}</span>
              {mayChange && <TakeOut label={`Take out note ${at + 1}`} onPress={() => out.takeOut(note)} />}
            </li>
          ))}
        </ol>
      )}
      {out.gone && <TakenOut words={`The note “${out.gone.text}”`} onUndo={out.undo} />}
      {mayChange &&
        (given === null ? (
          <button type="button" className="part part-more" onClick={() => setGiven({ day: lastDay, text: '' })}>
            Note something of a day
          </button>
        ) : (
          <form
            className="flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              add.mutate(given);
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
      <Problem text={add.error?.message ?? out.problem} />
    </div>
  );
}
