import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { NoteView, TraceView } from '../../core/strands';
import { Confirm } from '../../ui/form/Confirm';
import { Problem } from '../../ui/form/Problem';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';

/** What sales reads first: copied with one key, or written into the CRM as a note. */
export function LeadCard({
  business,
  trace: { card, note, answered, timeZone },
}: {
  business: string;
  trace: TraceView;
}) {
  const client = useQueryClient();
  const write = useMutation({
    mutationFn: (enquiry: string) => sendJson(`/api/b/${business}/leads/${enquiry}/note`, {}),
    onSuccess: () => client.invalidateQueries(),
  });
  const erase = useMutation({
    mutationFn: (enquiry: string) => sendJson<{ words: string }>(`/api/b/${business}/leads/${enquiry}/erase`, {}),
    onSuccess: () => client.invalidateQueries(),
  });
  const isThere = note?.last?.isSame && (note.last.state === 'waiting' || note.last.state === 'written');
  return (
    <section className="sheet p-4" aria-label="For sales">
      <h2 className="text-[15px] wrap-break-word">{card.title}</h2>
      <dl className="mt-3 grid grid-cols-[88px_1fr] gap-y-2">
        {card.rows.map(({ name, value }) => (
          <div key={name} className="contents">
            <dt className="text-quiet">{name}</dt>
            <dd className="min-w-0 wrap-break-word">{value}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-4 flex flex-wrap items-start gap-2">
        <Copy text={card.text} words="Copy for sales" byKey />
        {note && !isThere && (
          <button
            type="button"
            className="button"
            disabled={write.isPending}
            onClick={() => write.mutate(note.enquiry)}
          >
            Write into {note.crm} as a note
          </button>
        )}
      </div>
      {answered?.seesPeople && (
        <p className="mt-3">
          <a href={`/api/b/${business}/leads/${answered.enquiry}/person.json`} className="quiet-link" download>
            Export all that is stored of this person
          </a>
        </p>
      )}
      {answered?.seesPeople && answered.mayChange && (
        <div className="mt-3">
          <Confirm
            words="Erase this person"
            question={`Erase ${card.title}?`}
            does="Erase for good"
            onConfirm={() => erase.mutate(answered.enquiry)}
          >
            Their records, deals, calls, emails, visits and click IDs go for good, in all their enquiries. What they
            brought stays counted, without them. The CRM keeps its own record: erase it there too.
          </Confirm>
        </div>
      )}
      {erase.data && <p role="status">Erased: {erase.data.words}.</p>}
      <Problem text={erase.error?.message} />
      {note?.last && <LastNote note={note} timeZone={timeZone} />}
      <Problem text={write.error?.message} />
    </section>
  );
}

function LastNote({ note: { crm, last }, timeZone }: { note: NoteView; timeZone: string }) {
  if (!last) return null;
  const at = <Time iso={last.at} timeZone={timeZone} />;
  return (
    <p role="status" className="text-quiet mt-3">
      {last.state === 'waiting' && (
        <>
          On its way into {crm} since {at}.
        </>
      )}
      {last.state === 'written' && (
        <>
          {last.isSame ? 'A note' : 'An earlier note'} is in {crm} since {at}.
        </>
      )}
      {(last.state === 'refused' || last.state === 'dropped') && (
        <>
          {crm} did not take the note: {last.answer}
        </>
      )}
    </p>
  );
}
