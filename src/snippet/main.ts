import { arrive, cleanArrival, type ArrivedHit, type Kept } from '../core/capture';
import { now } from './clock';
import { keep, keptNow } from './cookies';
import { allForms, describeForm, describeSending, documents, fillForm, isFollowed } from './forms';
import { newId } from './ids';
import { makeOutbox } from './outbox';
import { makeSeenForms } from './seen-forms';
import type { SnippetSetup } from './setup';

/** Put in front by the edge when it serves a release. */
declare const AVRIX_SETUP: SnippetSetup;

/** Runs once a page: keeps what arrived, reports it, fills forms now and at the moment of sending. */
function run(setup: SnippetSetup): void {
  const { rules } = setup;
  const outbox = makeOutbox(setup);
  const at = now();
  const [timing] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
  const navigation = (timing?.type ?? 'navigate') as ArrivedHit['navigation'];
  /** Where this page is and came from, without what says who somebody is: nothing else is kept or leaves the page. */
  const place = () => cleanArrival({ address: location.href, referrer: document.referrer }, rules);
  const { kept, decision } = arrive(keptNow(), { at, ...place(), navigation }, rules, {
    visitor: newId(at),
    visit: newId(at),
  });
  const works = keep(kept, at, setup);

  /** The part of a hit that every kind has; tells what the cookies hold, not what should be in them. */
  const common = (time: number, held: Kept) => {
    const { address, referrer, found } = place();
    const pii = found.slice(0, 20);
    return {
      id: newId(time),
      at: time,
      release: setup.release,
      visitor: kept.visitor!.id,
      visit: kept.visitor!.visitId,
      address: address.slice(0, 4000),
      referrer: referrer.slice(0, 4000),
      ...(pii.length > 0 ? { pii } : {}),
      kept: { works, first: held.first, last: held.last, clicks: held.clicks },
    };
  };
  outbox.put({ ...common(at, keptNow()), kind: 'arrived', navigation, why: decision.because });

  const held = () => (works ? keptNow() : kept);
  const onSubmit = ({ target }: Event) => {
    const form = target as HTMLFormElement;
    const time = now();
    const leadToken = newId(time);
    const sending = describeSending(form, leadToken, held(), rules);
    if (isFollowed(form, rules)) outbox.put({ ...common(time, held()), kind: 'form_sent', leadToken, ...sending });
  };
  const listening = new WeakSet<Document>();
  const seen = makeSeenForms(setup);
  /** Looks at every form there is now: fills it, and tells of those that this browser has not told of. */
  const look = () => {
    for (const page of documents())
      if (!listening.has(page)) {
        listening.add(page);
        page.addEventListener('submit', onSubmit, true);
        new MutationObserver(look).observe(page.documentElement, { childList: true, subtree: true });
      }
    const forms = allForms().map((form) => describeForm(form, fillForm(form, held(), rules)));
    const fresh = seen.fresh(forms).slice(0, 10);
    if (fresh.length > 0) {
      const time = now();
      outbox.put({ ...common(time, held()), kind: 'forms_seen', forms: fresh });
    }
  };
  look();
  addEventListener('pagehide', () => outbox.beacon());
}

try {
  const once = Symbol.for(`avrix ${AVRIX_SETUP.business}`);
  const page = globalThis as unknown as Record<symbol, boolean>;
  if (!page[once]) {
    page[once] = true;
    run(AVRIX_SETUP);
  }
} catch {
  // No error of ours ever reaches the page.
}
