import type { RequestView } from '../../core/rehearsal/view';
import { Words } from '../text/Words';

/** What platforms and destinations would be told, word for word. */
export function Told({ requests }: { requests: RequestView[] }) {
  if (requests.length === 0) return null;
  return (
    <section className="mt-3" aria-label="What would be sent">
      <h3 className="font-semibold">What would be sent</h3>
      {requests.map(({ words, head, body }, at) => (
        <details key={`${at} ${words}`} className="border-base-300 border-b py-1 last:border-0">
          <summary className="cursor-pointer">
            <Words text={words} />
          </summary>
          <pre className="value mt-1 overflow-x-auto">{`${head}\n${body}`}</pre>
        </details>
      ))}
    </section>
  );
}
