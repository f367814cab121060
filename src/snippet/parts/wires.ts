import { eventIdOf } from '../../core/events/event-id';
import { clickFor, pageArgument } from '../../core/events/page-argument';
import { mayWire } from '../../core/events/wires';
import type { HandedHit } from '../../core/capture';
import type { MakePart } from '../part';

/** Cues after which the page may be gone. */
const mayLeave = /^(presses|leaves_for|sends)/;
/** How long (ms) an opener may take to come. */
const patience = 20_000;

/** Tells destinations of events by the functions that their openers bring; each opener is loaded once, before its first event. */
export const part: MakePart = ({ setup, later, idle }) => ({
  work({ hearing, hitOf, tell }) {
    const opened = new Map<string, Promise<boolean>>();

    /** Loads a destination's opener, if no event did before. @returns whether it came */
    const open = (account: string): Promise<boolean> => {
      const known = opened.get(account);
      if (known) return known;
      const coming = new Promise<boolean>((done) => {
        const script = document.createElement('script');
        script.onload = () => done(true);
        script.onerror = () => done(false);
        later(() => done(false), patience);
        script.async = true;
        script.src = setup.openers![account]!;
        (document.head ?? document.documentElement).append(script);
        // A page that allows no script of others' throws, and then none comes.
      }).catch(() => false);
      opened.set(account, coming);
      return coming;
    };

    /** Wires of an event that may be told of this visitor now. */
    const wiresOf = (event: string) => {
      const { consent, kept } = hitOf({ kind: 'consent' });
      return setup
        .wires!.filter((wire) => wire.event === event && mayWire(wire, consent ?? null, setup.rules.consent.required))
        .map((wire) => ({ ...wire, clickId: clickFor(wire.clicksOf, kept.clicks) }))
        .filter(({ clickId }) => clickId !== null);
    };

    // A press may lead away at once: what it is told by has to be there before.
    for (const { name, cues } of setup.events!.events)
      if (cues.some(({ kind }) => mayLeave.test(kind)))
        idle(() => wiresOf(name).forEach(({ account }) => void open(account)));

    hearing.told.push((rest) => {
      if (rest.kind !== 'event') return;
      const { event, key, reads } = rest;
      const { at } = hitOf({ kind: 'consent' });
      for (const wire of wiresOf(event)) {
        const hand = (how: HandedHit['how']) => tell({ kind: 'handed', event, key, account: wire.account, how });
        void open(wire.account).then((isOpen) => {
          if (!isOpen) return hand('no_opener');
          const [say, owner] = functionAt(wire.call);
          if (!say) return hand('no_function');
          try {
            say.call(owner, pageArgument(wire, { eventId: eventIdOf(event, key), at, reads, clickId: wire.clickId! }));
          } catch {
            return hand('failed');
          }
          return hand('told');
        });
      }
    });
  },
});

/** The function at a path from the window, with what it is called on. */
function functionAt(path: string): [say: ((what: unknown) => unknown) | null, owner: unknown] {
  let [owner, found]: unknown[] = [undefined, globalThis];
  for (const name of path.split('.')) {
    owner = found;
    found = (found as Record<string, unknown> | null | undefined)?.[name];
  }
  return [typeof found === 'function' ? (found as (what: unknown) => unknown) : null, owner];
}
