import { arrive, cleanArrival, type ArrivedHit, type Kept } from '../core/capture';
import { now } from './clock';
import { keep, keptNow } from './cookies';
import { describeSending, fillForm, followedForms } from './forms';
import { newId } from './ids';
import { makeOutbox } from './outbox';
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

  const fillAll = () => followedForms(rules).forEach((form) => fillForm(form, works ? keptNow() : kept, rules));
  fillAll();
  new MutationObserver(fillAll).observe(document.documentElement, { childList: true, subtree: true });
  document.addEventListener(
    'submit',
    (event) => {
      const form = event.target as HTMLFormElement;
      if (!followedForms(rules).includes(form)) return;
      const time = now();
      const held = works ? keptNow() : kept;
      const leadToken = newId(time);
      outbox.put({
        ...common(time, held),
        kind: 'form_sent',
        leadToken,
        ...describeSending(form, leadToken, held, rules),
      });
    },
    true,
  );
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
