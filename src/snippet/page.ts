import { arrive, type ArrivedHit, type Consent, type Hit, type Kept } from '../core/capture';
import { now } from './clock';
import { keep, keptNow } from './cookies';
import { allForms, describeForm, describeSending, documents, fillForm, isFollowed } from './forms';
import { guarded } from './guarded';
import { newId } from './ids';
import { watchAddress } from './navigation';
import { makeOutbox } from './outbox';
import { placeOf } from './place';
import { makeSeenForms } from './seen-forms';
import type { SnippetSetup } from './setup';

/** How long (ms) after a page began to change its forms and links are looked at again. */
const lookAfter = 50;

export type Arrival = ReturnType<typeof placeOf> & { at: number; navigation: ArrivedHit['navigation'] };

/** What of a hit only its kind has. */
type Rest = Hit extends infer One
  ? One extends Hit
    ? Omit<One, 'id' | 'at' | 'release' | 'visitor' | 'visit' | 'address' | 'referrer' | 'pii' | 'kept' | 'consent'>
    : never
  : never;

/**
 * Works on one page: keeps what arrived, reports it, fills forms now and at the moment of sending, leads values on.
 *
 * @param before what was kept when the page opened
 * @param restored the place outside that this page's values came back from, '' for none
 */
export function work(
  setup: SnippetSetup,
  arrival: Arrival,
  before: Kept,
  consentNow: () => Consent | undefined,
  restored = '',
) {
  const { rules } = setup;
  const outbox = makeOutbox(setup);
  const seen = makeSeenForms(setup);
  const ends: (() => void)[] = [];
  let ended = false;
  let kept = before;
  let works = true;
  const held = () => (works ? keptNow(setup) : kept);

  /** Tells something; with it what the cookies hold, not what should be in them. */
  const tell = (at: number, rest: Rest, { first, last, clicks, values } = held(), place = placeOf(setup)) => {
    const { id, visitId, noCustomer } = kept.visitor!;
    // What is undefined does not stand in JSON.
    outbox.put({
      ...{ id: newId(at), at, release: setup.release, visitor: id, visit: visitId },
      address: place.address.slice(0, 4000),
      referrer: place.referrer.slice(0, 4000),
      pii: place.found.slice(0, 20),
      consent: consentNow(),
      noCustomer: noCustomer || undefined,
      kept: { works, first, last, clicks, values },
      ...rest,
    } as Hit);
  };

  const arriveAt = (arrival: Arrival) => {
    const { at, navigation } = arrival;
    const { decision, ...arrived } = arrive(kept, arrival, rules, { visitor: newId(at), visit: newId(at) });
    kept = arrived.kept;
    works = keep(kept, at, setup);
    const lines = document.querySelectorAll(`script[src$="/b/${setup.business}.js"]`).length;
    const rest = { navigation, why: decision.because, lines: lines > 1 ? lines : undefined };
    tell(at, { kind: 'arrived', ...rest, restored: restored || undefined } as Rest, keptNow(setup), arrival);
  };
  arriveAt(arrival);

  const onSubmit = guarded(({ target, currentTarget }: Event) => {
    // A frame that has come to run the snippet itself tells of its own forms.
    if (!documents().includes(currentTarget as Document)) return;
    const form = target as HTMLFormElement;
    const time = now();
    const leadToken = newId(time);
    const sending = describeSending(form, leadToken, held(), rules);
    if (isFollowed(form, rules)) tell(time, { kind: 'form_sent', leadToken, ...sending });
  });
  const lead = setup.elsewhere?.lead(setup, held);
  const listening = new WeakSet<Document>();
  /** Hears of every form that is sent, and of changes to the page. */
  const listen = () => {
    for (const page of documents())
      if (!listening.has(page)) {
        listening.add(page);
        page.addEventListener('submit', onSubmit, true);
        const observer = new MutationObserver(lookSoon);
        observer.observe(page.documentElement, { childList: true, subtree: true });
        ends.push(() => (observer.disconnect(), page.removeEventListener('submit', onSubmit, true)));
      }
  };
  /** Looks at every form there is now: fills it, and tells of those that this browser has not told of. */
  const look = guarded(() => {
    if (ended) return;
    listen();
    // A form that cannot be read keeps no other from being filled.
    const forms = allForms().flatMap((form) => {
      try {
        return [describeForm(form, fillForm(form, held(), rules))];
      } catch {
        return [];
      }
    });
    const fresh = seen.fresh(forms);
    if (fresh.length > 0) tell(now(), { kind: 'forms_seen', forms: fresh });
    lead?.();
  });
  let waiting = false;
  /** Pages change many times in a row; one look after them is enough, and a form that is being sent is looked at anyway. */
  const lookSoon = () => {
    if (waiting) return;
    waiting = true;
    setTimeout(() => {
      waiting = false;
      look();
    }, lookAfter);
  };
  listen();
  // In a task of its own, so that none is long; a form that is sent before is filled then.
  setTimeout(look);
  watchAddress((from, navigation) => {
    if (ended) return;
    kept = held();
    restored = '';
    arriveAt({ ...placeOf(setup, from), at: now(), navigation });
    lookSoon();
  });
  // What was not sent by the end is forgotten there, and then there is nothing to send.
  addEventListener('pagehide', guarded(outbox.beacon));
  return {
    /** Says that what somebody agreed to has changed. */
    tellConsent() {
      tell(now(), { kind: 'consent' });
      // At once: what waits may be forgotten next.
      void outbox.send();
    },
    end() {
      ended = true;
      ends.forEach((end) => end());
    },
  };
}
