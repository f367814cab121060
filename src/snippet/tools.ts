import type { PageRules } from '../core/capture/snippet-script';
import { now } from './clock';
import { guarded } from './guarded';
import { newId } from './ids';
import { makeStored } from './stored';

/** What the edge puts in front of the engine when it serves a release. */
export interface SnippetSetup extends PageRules {
  business: string;
  release: number;
  /** The edge's address, before its doors. */
  edge: string;
}

export type Tools = ReturnType<typeof takeTools>;

/**
 * What engine and parts work with: taken from the page once, at the start, so that nothing the page puts in its place
 * later is in the way. Options given to the browser have no prototype, for some pages teach theirs to every object.
 */
export function takeTools(setup: SnippetSetup) {
  const [add, remove, wait, ask] = [addEventListener, removeEventListener, setTimeout, fetch];
  const whenIdle = globalThis.requestIdleCallback as typeof requestIdleCallback | undefined;
  const { stringify } = JSON;

  /** As JSON, whatever the page taught its objects to say of themselves (`toJSON`). */
  const toText = (value: unknown): string =>
    stringify(value, function (this: Record<string, unknown>, name: string) {
      return this[name];
    });

  return {
    setup,
    toText,
    newId: (at = now()) => newId(at),
    /** One of the edge's doors for this business. */
    doorOf: (door: 'take' | 'count' | 'carry') => `${setup.edge}/${door}/${setup.business}`,
    /** A list in the browser's own storage. */
    stored: <One>(name: string) => makeStored<One>(`avx_${name}_${setup.business}`, toText),
    fetch: (address: string, options?: RequestInit) => ask(address, { __proto__: null, ...options } as RequestInit),
    /** Hears of an event before the page's own listeners do. @returns stops hearing of it */
    listen(target: EventTarget, name: string, work: (event: Event) => unknown): () => void {
      const hear = guarded(work);
      add.call(target, name, hear, true);
      return () => remove.call(target, name, hear, true);
    },
    /** In a task of its own, after so many ms. */
    later: (work: () => unknown, after = 0) => void wait(guarded(work), after),
    /** In a task of its own, once the page has nothing else to do. */
    idle(work: () => unknown) {
      if (whenIdle) whenIdle(guarded(work), { __proto__: null, timeout: 200 } as IdleRequestOptions);
      else wait(guarded(work));
    },
  };
}
