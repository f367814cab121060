import type { MessagePort } from 'node:worker_threads';

/** Says how far work in a thread of the pool is. */
export interface Report {
  /** So many more are to be gone through. */
  expect: (many: number) => void;
  did: (many: number) => void;
}

/** @param port null where nobody wants to know */
export function makeReport(port: MessagePort | undefined): Report {
  const progress = { done: 0, of: 0 };
  const say = () => port?.postMessage(progress);
  return {
    expect(many) {
      progress.of += many;
      say();
    },
    did(many) {
      progress.done += many;
      say();
    },
  };
}
