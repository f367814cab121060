/** What the pasted script may touch of a page; the demo gives it these instead of a browser's own. */
export interface PageGlobals {
  document: object;
  location: object;
  performance: object;
  crypto: object;
  localStorage: object;
  history: object;
  setTimeout: (work: () => void) => void;
  navigator: object;
  Date: object;
  fetch: (url: string, options: { body: string }) => Promise<{ ok: boolean }>;
  /** Called on whatever is listened to. */
  addEventListener: (this: unknown, name: string, listener: (event: object) => void) => void;
  removeEventListener: () => void;
  MutationObserver: new () => object;
  Event: object;
  globalThis: object;
}

const names = [
  'document',
  'location',
  'performance',
  'crypto',
  'localStorage',
  'history',
  'setTimeout',
  'navigator',
  'Date',
  'fetch',
  'addEventListener',
  'removeEventListener',
  'MutationObserver',
  'Event',
  'globalThis',
] as const satisfies (keyof PageGlobals)[];

export type Engine = (page: PageGlobals) => void;

/** Makes the served script callable for one page after another, as a browser runs it for one page after another. */
export function compileEngine(source: string): Engine {
  const run = new Function(...names, source) as (...values: unknown[]) => void;
  return (page) => run(...names.map((name) => page[name]));
}
