import { arrive, cleanArrival, nothingKept, type ArrivedHit, type Consent, type Kept } from '../core/capture';
import { now } from './clock';
import { keep, keptNow } from './cookies';
import { allForms, describeForm, describeSending, documents, fillForm, isFollowed } from './forms';
import { newId } from './ids';
import { makeOutbox } from './outbox';
import { makeSeenForms } from './seen-forms';
import type { SnippetSetup } from './setup';

/** Put in front by the edge when it serves a release. */
declare const AVRIX_SETUP: SnippetSetup;

/** How long (ms) after a page began to change its forms are looked at again. */
const lookAfter = 50;

/** Whatever goes wrong in it does not reach the page. */
const guarded =
  <Given extends unknown[]>(work: (...given: Given) => void) =>
  (...given: Given): void => {
    try {
      work(...given);
    } catch {
      // The page's own error handlers hear of no error of ours.
    }
  };

/** Where this page is and came from, without what says who somebody is: nothing else is kept or leaves the page. */
const placeOf = ({ rules }: SnippetSetup) =>
  cleanArrival({ address: location.href, referrer: document.referrer }, rules);

/**
 * Waits for consent where the release asks for it, holding only in memory how somebody came; a later "yes" loses nothing.
 * "no" clears what is kept, whenever it comes.
 */
function run(setup: SnippetSetup): void {
  const [timing] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
  const navigation = (timing?.type ?? 'navigate') as ArrivedHit['navigation'];
  const arrival = { ...placeOf(setup), at: now(), navigation };
  let consent: Consent | undefined;
  let work: { end(): void } | null = null;
  const begin = () => (work ??= start(setup, arrival, () => consent));
  const onConsent = (event: Event) => {
    const { measurement = 'not asked', advertising = 'not asked' } = ((event as CustomEvent).detail ??
      {}) as Partial<Consent>;
    consent = { measurement, advertising };
    if (measurement === 'yes') begin();
    else if (measurement === 'no') {
      work?.end();
      work = null;
      keep(nothingKept(), now(), setup);
      makeOutbox(setup).clear();
      makeSeenForms(setup).clear();
    }
  };
  document.addEventListener('avrix:consent', guarded(onConsent));
  if (!setup.rules.consent.required) begin();
}

type Arrival = ReturnType<typeof placeOf> & { at: number; navigation: ArrivedHit['navigation'] };

/** Keeps what arrived, reports it, fills forms now and at the moment of sending. */
function start(setup: SnippetSetup, arrival: Arrival, consentNow: () => Consent | undefined) {
  const { rules } = setup;
  const outbox = makeOutbox(setup);
  const seen = makeSeenForms(setup);
  const ends: (() => void)[] = [];
  let ended = false;
  const { at, navigation } = arrival;
  const { kept, decision } = arrive(keptNow(), arrival, rules, { visitor: newId(at), visit: newId(at) });
  const works = keep(kept, at, setup);
  const held = () => (works ? keptNow() : kept);

  /** The part of a hit that every kind has; tells what the cookies hold, not what should be in them. */
  const common = (time: number, { first, last, clicks }: Kept) => {
    const { address, referrer, found } = placeOf(setup);
    const pii = found.slice(0, 20);
    const consent = consentNow();
    return {
      id: newId(time),
      at: time,
      release: setup.release,
      visitor: kept.visitor!.id,
      visit: kept.visitor!.visitId,
      address: address.slice(0, 4000),
      referrer: referrer.slice(0, 4000),
      ...(pii.length > 0 ? { pii } : {}),
      ...(consent ? { consent } : {}),
      kept: { works, first, last, clicks },
    };
  };
  outbox.put({ ...common(at, keptNow()), kind: 'arrived', navigation, why: decision.because });

  const onSubmit = guarded(({ target }: Event) => {
    const form = target as HTMLFormElement;
    const time = now();
    const leadToken = newId(time);
    const sending = describeSending(form, leadToken, held(), rules);
    if (isFollowed(form, rules)) outbox.put({ ...common(time, held()), kind: 'form_sent', leadToken, ...sending });
  });
  const listening = new WeakSet<Document>();
  /** Looks at every form there is now: fills it, and tells of those that this browser has not told of. */
  const look = guarded(() => {
    for (const page of documents())
      if (!listening.has(page)) {
        listening.add(page);
        page.addEventListener('submit', onSubmit, true);
        const observer = new MutationObserver(lookSoon);
        observer.observe(page.documentElement, { childList: true, subtree: true });
        ends.push(() => (observer.disconnect(), page.removeEventListener('submit', onSubmit, true)));
      }
    const forms = allForms().map((form) => describeForm(form, fillForm(form, held(), rules)));
    const fresh = seen.fresh(forms);
    if (fresh.length > 0) {
      const time = now();
      outbox.put({ ...common(time, held()), kind: 'forms_seen', forms: fresh });
    }
  });
  let waiting = false;
  /** Pages change many times in a row; one look after them is enough, and a form that is being sent is looked at anyway. */
  const lookSoon = () => {
    if (waiting) return;
    waiting = true;
    setTimeout(() => {
      waiting = false;
      if (!ended) look();
    }, lookAfter);
  };
  look();
  const onHide = guarded(() => outbox.beacon());
  addEventListener('pagehide', onHide);
  ends.push(() => removeEventListener('pagehide', onHide));
  return {
    end() {
      ended = true;
      ends.forEach((end) => end());
    },
  };
}

guarded(() => {
  const once = Symbol.for(`avrix ${AVRIX_SETUP.business}`);
  const page = globalThis as unknown as Record<symbol, boolean>;
  if (!page[once]) {
    page[once] = true;
    run(AVRIX_SETUP);
  }
})();
