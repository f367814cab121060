import { useMutation } from '@tanstack/react-query';
import { noticePartWords } from '../../core/outcomes/notices';
import type { SenderGiven } from '../../core/outcomes/notices/schema';
import type { TriedPostback } from '../../core/outcomes/notices/view';
import { Problem } from '../../ui/form/Problem';
import { useWritten } from '../../ui/form/useWritten';
import { sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';

/** Takes a pasted example and says what each part of it is, as the sender is written. Nothing of it is stored. */
export function TryPostback({
  api,
  sender,
  given,
  mayChange,
  onPlaces,
}: {
  api: string;
  /** Its ID, or "new". */
  sender: string;
  given: SenderGiven;
  mayChange: boolean;
  onPlaces: (guessed: TriedPostback['guessed']) => void;
}) {
  const { value: text, set: setText } = useWritten(`example of ${sender}`, '', (value) => value === '');
  const tried = useMutation({
    mutationFn: () => sendJson<TriedPostback>(api, { sender: { ...given, name: given.name || 'a sender' }, text }),
  });
  const answer = tried.data;
  return (
    <section aria-label="Try it" className="sheet px-4 py-3">
      <h2 className="text-base">Try an example</h2>
      <p className="text-quiet mt-0.5 text-[13px]">Paste what is posted: JSON, a form, or an address with its query.</p>
      <textarea
        className="field value mt-2 h-36 w-full text-[13px]"
        aria-label="Example"
        spellCheck={false}
        value={text}
        placeholder={'{"step":"refund","order":"LK-20401","amount":"54.00"}'}
        onChange={(event) => setText(event.target.value)}
      />
      <button
        type="button"
        className="button mt-2"
        disabled={text.trim() === '' || tried.isPending}
        onClick={() => tried.mutate()}
      >
        Read it
      </button>
      <Problem text={tried.error?.message} />
      {answer && (
        <div role="status" className="mt-3">
          <p className={answer.isRead ? 'font-semibold' : 'text-error'}>
            <Words text={answer.isRead ? answer.says : answer.problem} />
          </p>
          {answer.parts.length > 0 && (
            <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[13px]">
              {answer.parts.map(({ at, value, part }) => (
                <div key={at} className="contents">
                  <dt>
                    <code className="value">{at}</code>
                  </dt>
                  <dd>
                    <code className="value [overflow-wrap:anywhere]">{value}</code>
                    <span className="text-quiet">{part ? `, ${noticePartWords[part]}` : ', not read'}</span>
                  </dd>
                </div>
              ))}
            </dl>
          )}
          {mayChange && answer.parts.some(({ part }) => part === null) && (
            <button type="button" className="quiet-link mt-2 cursor-pointer" onClick={() => onPlaces(answer.guessed)}>
              Find the parts by their names
            </button>
          )}
        </div>
      )}
    </section>
  );
}
