import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';
import { qualityReasons, qualityWords, type SetQuality } from '../../core/leads/quality';
import { Key } from '../../ui/keys/Key';
import { isPlainKey } from '../../ui/keys/plain-key';
import { sendJson } from '../../ui/text/read';

/** What somebody is about to say, or has just said, of an enquiry. */
export interface Saying {
  enquiry: string;
  company: string;
  /** Null while it is to be chosen; '' takes back what was said. */
  quality: SetQuality | '' | null;
  /** Picked, or nothing to be picked. */
  isSaid: boolean;
  reason: string;
}

/** What is said next, where a reason is asked for only where there is one to be picked. */
export const sayingOf = (enquiry: string, company: string, quality: Saying['quality']): Saying => ({
  enquiry,
  company,
  quality,
  reason: '',
  isSaid: quality === '' || quality === 'answering',
});

/** What is being said of how far an enquiry was answered, and what says it. */
export function useSayQuality(business: string) {
  const client = useQueryClient();
  const { mutate, error } = useMutation({
    mutationFn: (given: { ids: string[]; quality: SetQuality | ''; reason: string }) =>
      sendJson(`/api/b/${business}/leads/quality`, given),
    onSuccess: () => client.invalidateQueries(),
  });
  const [saying, setSaying] = useState<Saying | null>(null);
  return {
    saying,
    error: error?.message,
    onSay: (next: Saying | null) => {
      setSaying(next);
      if (next?.isSaid && next.quality !== null)
        mutate({ ids: [next.enquiry], quality: next.quality, reason: next.reason });
    },
  };
}

/** What can be said; where a reason follows, an ellipsis says so. */
const choices: [quality: SetQuality | '', words: string][] = [
  ['answering', 'Being answered'],
  ['disqualified', 'Disqualified …'],
  ['no_enquiry', 'No enquiry …'],
  ['', 'As the CRM says'],
];

/** The question how far an enquiry was answered, then for the reason; then what was said, to be taken back. */
export function SayQuality({ saying, onSay }: { saying: Saying; onSay: (next: Saying | null) => void }) {
  const { company, quality, isSaid, reason } = saying;
  const choose = (next: SetQuality | '') => onSay(sayingOf(saying.enquiry, company, next));
  const name = <span className="font-semibold">{company}</span>;
  if (isSaid)
    return (
      <p role="status" className="sheet mt-3 flex flex-wrap items-center gap-3 px-4 py-2">
        <span>
          {name}: {quality ? qualityWords[quality] : 'as the CRM says'}
          {reason && `, ${reason}`}.
        </span>
        {quality !== '' && (
          <button type="button" className="button" onClick={() => choose('')}>
            Undo
          </button>
        )}
      </p>
    );
  if (!quality)
    return (
      <Question
        label="How far answered"
        words={<>How far is {name} answered?</>}
        options={choices.map(([one, words]) => [words, () => choose(one)])}
        onCancel={() => onSay(null)}
      />
    );
  return (
    <Question
      label="Reason"
      words={
        <>
          Why is {name} {qualityWords[quality]}?
        </>
      }
      options={qualityReasons[quality].map((one) => [one, () => onSay({ ...saying, isSaid: true, reason: one })])}
      onCancel={() => onSay(null)}
    />
  );
}

/** A question whose answers are pressed, or picked by their number; Escape leaves it. */
function Question({
  label,
  words,
  options,
  onCancel,
}: {
  label: string;
  words: ReactNode;
  options: [words: string, choose: () => void][];
  onCancel: () => void;
}) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape') onCancel();
      else if (isPlainKey(event)) options[Number(event.key) - 1]?.[1]();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  return (
    <section aria-label={label} className="sheet mt-3 px-4 py-3">
      <p>{words}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        {options.map(([option, choose], place) => (
          <button key={option} type="button" className="button" onClick={choose}>
            {option} <Key k={String(place + 1)} />
          </button>
        ))}
        <button type="button" className="quiet-link cursor-pointer px-2" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </section>
  );
}
