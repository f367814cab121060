import type { Hit } from '../core/capture';
import { now } from './clock';
import type { Tools } from './tools';

const largestBody = 32_000;
const mostWaiting = 200;
const mostInBody = 50;
const bytesOf = (text: string) => new TextEncoder().encode(text).length;

/**
 * Hits wait here, in the browser's own storage, until the edge has answered that it took them; what did not get
 * through goes again from the next page. Where storage is blocked they wait in memory.
 */
export function makeOutbox({ doorOf, stored, fetch, later, toText }: Tools) {
  const collect = doorOf('take');
  const waiting = stored<Hit>('outbox');
  /** What was told just now and is not stored yet. */
  const fresh: Hit[] = [];
  let sending = false;
  let atOnce = mostInBody;

  /** The oldest hits that fit into one body. */
  const nextBatch = () => {
    const batch: Hit[] = [];
    let size = 60;
    for (const hit of waiting.read().slice(0, atOnce)) {
      size += bytesOf(toText(hit)) + 1;
      if (batch.length > 0 && size > largestBody) break;
      batch.push(hit);
    }
    return batch;
  };
  const bodyOf = (hits: Hit[]) => toText({ clock: now(), hits });
  const post = (hits: Hit[]) =>
    fetch(collect, {
      method: 'POST',
      body: bodyOf(hits),
      headers: { 'content-type': 'text/plain' },
      keepalive: true,
      credentials: 'include',
    });

  const store = () => {
    if (fresh.length > 0) waiting.write([...waiting.read(), ...fresh.splice(0)].slice(-mostWaiting));
  };

  async function send(): Promise<void> {
    store();
    const batch = nextBatch();
    if (sending || batch.length === 0) return;
    sending = true;
    try {
      const answer = await post(batch);
      // What is refused for what it is would be refused for ever, and keep all others: it goes alone, and then not at all.
      const isWrong = answer.status === 400 || answer.status === 413;
      if (!answer.ok && !isWrong) return;
      if (isWrong && batch.length > 1) {
        atOnce = 1;
        sending = false;
        return await send();
      }
      if (isWrong) atOnce = mostInBody;
      const taken = new Set(batch.map((hit) => hit.id));
      waiting.write(waiting.read().filter((hit) => !taken.has(hit.id)));
      sending = false;
      await send();
    } catch {
      // Offline or the edge is away: the hits stay and go again.
    } finally {
      sending = false;
    }
  }

  return {
    put(hit: Hit) {
      fresh.push(hit);
      // Stored and sent in a task of its own, so that none is long; `beacon` does both where the page goes away before.
      later(send);
    },
    /** Sends a hit beside what waits, which may be forgotten next. */
    async sendNow(hit: Hit) {
      await post([hit]).catch(() => undefined);
    },
    /** Forgets what was not sent. */
    clear() {
      fresh.length = 0;
      waiting.write([]);
    },
    /** Last chance as the page goes away; whatever it says, the hits stay until an answer came. */
    beacon() {
      store();
      const batch = nextBatch();
      if (batch.length > 0) navigator.sendBeacon?.(collect, bodyOf(batch));
    },
  };
}
