import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { qualities, qualityReasons, qualityWords, type Quality, type SetQuality } from '../../core/leads/quality';
import { count, type LeadListRow, type LeadListView } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { Key } from '../../ui/keys/Key';
import { isPlainKey } from '../../ui/keys/plain-key';
import { sendJson } from '../../ui/text/read';

/** What somebody is about to say, or has just said, of an enquiry. */
export interface Saying {
  lead: LeadListRow;
  quality: SetQuality | '';
  /** Picked, or nothing to be picked. */
  isSaid: boolean;
  reason: string;
}

/** Says of enquiries how far they were answered. */
export function useSayQuality(business: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (given: { ids: string[]; quality: SetQuality | ''; reason: string }) =>
      sendJson(`/api/b/${business}/leads/quality`, given),
    onSuccess: () => client.invalidateQueries(),
  });
}

/** How many enquiries were answered how far, each leading to its list; and what is being said of one. */
export function QualityBar({
  business,
  view,
  chosen,
  saying,
  onSay,
  error,
}: {
  business: string;
  view: LeadListView;
  chosen: string;
  saying: Saying | null;
  onSay: (next: Saying | null) => void;
  error: string | undefined;
}) {
  const here = `/b/${business}/leads`;
  return (
    <>
      <nav aria-label="How far they were answered" className="mt-3 flex flex-wrap gap-x-4 gap-y-1">
        <Choice href={here} words="All" isChosen={chosen === ''} />
        {qualities.map((quality) => (
          <Choice
            key={quality}
            href={`${here}?quality=${quality}`}
            words={`${qualityWords[quality].replace(/^./, (first) => first.toUpperCase())} ${count(view.qualities[quality] ?? 0)}`}
            isChosen={chosen === quality}
          />
        ))}
      </nav>
      <Problem text={error} />
      {saying && <Say saying={saying} onSay={onSay} />}
    </>
  );
}

function Choice({ href, words, isChosen }: { href: string; words: string; isChosen: boolean }) {
  return (
    <a
      href={href}
      className={isChosen ? 'font-semibold underline underline-offset-4' : 'quiet-link'}
      aria-current={isChosen ? 'true' : undefined}
    >
      {words}
    </a>
  );
}

/** The question for the reason, answered by a key or a press; then what was said, to be taken back. */
function Say({ saying, onSay }: { saying: Saying; onSay: (next: Saying | null) => void }) {
  const { lead, quality, isSaid, reason } = saying;
  const reasons = quality === '' ? [] : qualityReasons[quality];
  useEffect(() => {
    if (isSaid) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape') onSay(null);
      const picked = isPlainKey(event) ? reasons[Number(event.key) - 1] : undefined;
      if (picked) onSay({ ...saying, isSaid: true, reason: picked });
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  if (isSaid)
    return (
      <p role="status" className="sheet mt-3 flex flex-wrap items-center gap-3 px-4 py-2">
        <span>
          <span className="font-semibold">{lead.company}</span>:{' '}
          {quality === '' ? 'as the CRM says' : qualityWords[quality as Quality]}
          {reason && `, ${reason}`}.
        </span>
        {quality !== '' && (
          <button type="button" className="button" onClick={() => onSay({ ...saying, quality: '', reason: '' })}>
            Undo
          </button>
        )}
      </p>
    );
  return (
    <section aria-label="Reason" className="sheet mt-3 px-4 py-3">
      <p>
        Why is <span className="font-semibold">{lead.company}</span> {qualityWords[quality as Quality]}?
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {reasons.map((one, place) => (
          <button
            key={one}
            type="button"
            className="button"
            onClick={() => onSay({ ...saying, isSaid: true, reason: one })}
          >
            {one} <Key k={String(place + 1)} />
          </button>
        ))}
        <button type="button" className="quiet-link cursor-pointer px-2" onClick={() => onSay(null)}>
          Cancel
        </button>
      </div>
    </section>
  );
}
