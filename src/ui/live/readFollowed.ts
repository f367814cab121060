import type { Progress, Told } from '../../core/results/progress';
import { readJson } from '../text/read';

/**
 * Reads something that may take long, from a stream that says how far it is and then answers. Where the stream fails, it is
 * asked for once more without one, whose answer or error it is then.
 *
 * @param address of the answer; its stream is beside it
 * @throws ApiProblem
 */
export const readFollowed = <Answer>(
  address: string,
  query: string,
  onProgress: (progress: Progress) => void,
  signal: AbortSignal,
): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const source = new EventSource(`${address}/stream?${query}`);
    source.onmessage = ({ data }) => {
      const told = JSON.parse(data as string) as Told<Answer>;
      if ('progress' in told) return onProgress(told.progress);
      source.close();
      resolve(told.answer);
    };
    source.onerror = () => {
      source.close();
      resolve(readJson<Answer>(`${address}?${query}`));
    };
    signal.addEventListener('abort', () => {
      source.close();
      reject(new DOMException('Something else is asked for.', 'AbortError'));
    });
  });
