import { decideTouch, isToldAgain, nothingKept, type ArrivedHit, type Consent } from '../core/capture';
import { now } from './clock';
import { keep, keptNow } from './cookies';
import { runsHere } from './forms';
import { guarded } from './guarded';
import { makeOutbox } from './outbox';
import { work, type Arrival } from './page';
import { placeOf } from './place';
import { makeSeenForms } from './seen-forms';
import { doorOf, type SnippetSetup } from './setup';

/** Put in front by the edge when it serves a release. */
declare const AVRIX_SETUP: SnippetSetup;

/**
 * Waits for consent where the release asks for it, holding only in memory how somebody came; a later "yes" loses nothing.
 * "no" clears what is kept, whenever it comes.
 */
function run(setup: SnippetSetup): void {
  const { rules } = setup;
  const [timing] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
  const navigation = (timing?.type ?? 'navigate') as ArrivedHit['navigation'];
  const arrival = { ...placeOf(setup), at: now(), navigation };
  let consent: Consent | undefined;
  let allowed = !rules.consent.required;
  /** True once this page told of itself, whatever was said later. */
  let told = false;
  let working: ReturnType<typeof work> | null = null;

  const begin = guarded(async () => {
    const came = (await setup.elsewhere?.read(setup, keptNow(setup))) ?? null;
    if (!allowed || working) return;
    told = true;
    working = work(setup, arrival, came?.kept ?? keptNow(setup), () => consent, came?.place);
  });
  const onConsent = (event: Event) => {
    const { measurement = 'not asked', advertising = 'not asked' } = ((event as CustomEvent).detail ??
      {}) as Partial<Consent>;
    const before = JSON.stringify(consent);
    consent = { measurement, advertising };
    const after = JSON.stringify(consent);
    // What is agreed to stands in every hit; a hit of its own is for a “no”, said now or taken back.
    if (before !== after && (before + after).includes('"no"')) working?.tellConsent();
    if (measurement === 'yes') {
      allowed = true;
      begin();
    } else if (measurement === 'no') {
      allowed = false;
      keep(nothingKept(), now(), setup);
      makeOutbox(setup).clear();
      makeSeenForms(setup).clear();
      working?.end();
      working = null;
    }
  };
  document.addEventListener('avrix:consent', guarded(onConsent));
  // In a task of its own, so that none is long.
  if (allowed) setTimeout(begin);
  else if (rules.consent.count)
    addEventListener(
      'pagehide',
      guarded(() => !told && countLanding(setup, arrival)),
    );
}

/** Counts an arrival of somebody who did not agree: where from, and nothing by which anybody could be known again. */
function countLanding(setup: SnippetSetup, arrival: Arrival): void {
  const { touch } = decideTouch(arrival, [], setup.rules);
  // Nothing is known of the browser, so a page that is told again would be counted again.
  if (!touch || isToldAgain(arrival.navigation)) return;
  const { source, medium, campaign } = touch;
  navigator.sendBeacon?.(doorOf(setup, 'count'), JSON.stringify({ source, medium, campaign }));
}

guarded(() => {
  const once = Symbol.for(`avrix ${AVRIX_SETUP.business}`);
  const page = globalThis as unknown as Record<symbol, boolean>;
  if (page[once]) return;
  page[once] = page[runsHere] = true;
  // A page that is only prepared in the background arrives when it is shown (touch rule 1).
  if ((document as { prerendering?: boolean }).prerendering)
    document.addEventListener(
      'prerenderingchange',
      guarded(() => run(AVRIX_SETUP)),
      { once: true },
    );
  else run(AVRIX_SETUP);
})();
