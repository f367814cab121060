import type { Hit } from '../core/capture';
import { now } from './clock';
import type { SnippetSetup } from './setup';

const largestBody = 32_000;

/**
 * Hits wait here, in the browser's own storage, until the edge has answered that it took them; what did not get
 * through goes again from the next page. Where storage is blocked they wait in memory.
 */
export function makeOutbox({ business, collect }: SnippetSetup) {
  const key = `avx_outbox_${business}`;
  let memory: Hit[] = [];
  let sending = false;

  const read = (): Hit[] => {
    try {
      const stored: unknown = JSON.parse(localStorage.getItem(key) ?? '[]');
      return Array.isArray(stored) ? stored : [];
    } catch {
      return memory;
    }
  };
  const write = (hits: Hit[]) => {
    memory = hits.slice(-200);
    try {
      localStorage.setItem(key, JSON.stringify(memory));
    } catch {
      // Storage is blocked or full; memory holds them for this page.
    }
  };

  /** The oldest hits that fit into one body. */
  const nextBatch = () => {
    const batch: Hit[] = [];
    let size = 60;
    for (const hit of read().slice(0, 50)) {
      size += JSON.stringify(hit).length * 2;
      if (batch.length > 0 && size > largestBody) break;
      batch.push(hit);
    }
    return batch;
  };
  const bodyOf = (hits: Hit[]) => JSON.stringify({ sentAt: now(), hits });

  async function send(): Promise<void> {
    const batch = nextBatch();
    if (sending || batch.length === 0) return;
    sending = true;
    try {
      const answer = await fetch(collect, {
        method: 'POST',
        body: bodyOf(batch),
        headers: { 'content-type': 'text/plain' },
        keepalive: true,
        credentials: 'include',
      });
      if (!answer.ok) return;
      const taken = new Set(batch.map((hit) => hit.id));
      write(read().filter((hit) => !taken.has(hit.id)));
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
      write([...read(), hit]);
      void send();
    },
    /** Forgets what was not sent. */
    clear() {
      try {
        localStorage.removeItem(key);
      } catch {
        // Nothing is kept then.
      }
    },
    /** Last chance as the page goes away; whatever it says, the hits stay until an answer came. */
    beacon() {
      const batch = nextBatch();
      if (batch.length > 0) navigator.sendBeacon?.(collect, bodyOf(batch));
    },
  };
}
