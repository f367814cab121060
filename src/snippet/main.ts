/* eslint-disable no-await-in-loop -- the first part that restores something ends it */
import { decideTouch, isToldAgain, nothingKept, type ArrivedHit, type Consent } from '../core/capture';
import { now } from './clock';
import { keep, keptNow } from './cookies';
import { guarded } from './guarded';
import { runsHere } from './look';
import { makeOutbox } from './outbox';
import { work, type Arrival } from './page';
import type { Part } from './part';
import { placeOf } from './place';
import { takeTools, type SnippetSetup, type Tools } from './tools';

type Restored = Awaited<ReturnType<NonNullable<Part['restore']>>>;

/** Put in front by the edge when it serves a release. */
declare const AVRIX_SETUP: SnippetSetup;

/**
 * Waits for consent where the release asks for it, holding only in memory how somebody came; a later "yes" loses nothing.
 * "no" clears what is kept, whenever it comes.
 */
function run(setup: SnippetSetup): void {
  const tools = takeTools(setup);
  const { listen, later, toText } = tools;
  const parts = AVRIX_PARTS.map((make) => make(tools));
  const { rules } = setup;
  const [timing] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
  const navigation = (timing?.type ?? 'navigate') as ArrivedHit['navigation'];
  const [here, from, at] = [location.href, document.referrer, now()];
  const arrival = () => ({ ...placeOf(setup, parts, from, here), at, navigation });
  let consent: Consent | undefined;
  let allowed = !rules.consent.required;
  /** True once this page told of itself, whatever was said later. */
  let told = false;
  let working: ReturnType<typeof work> | null = null;

  // Each step is in a task of its own, so that none is long.
  const pause = () => new Promise<void>((next) => later(next));
  const begin = async () => {
    let came: Restored = null;
    const arrived = arrival();
    await pause();
    const before = keptNow(setup);
    for (const part of parts) came ??= (await part.restore?.(before)) ?? null;
    await pause();
    start(arrived, before, came);
  };
  const start = (arrived = arrival(), before = keptNow(setup), came: Restored = null) => {
    if (!allowed || working) return;
    told = true;
    working = work(tools, parts, arrived, came?.kept ?? before, () => consent, came?.place);
  };
  listen(document, 'avrix:consent', (event) => {
    const { measurement = 'not asked', advertising = 'not asked' } = ((event as CustomEvent).detail ??
      {}) as Partial<Consent>;
    const before = toText(consent);
    consent = { measurement, advertising };
    const after = toText(consent);
    // What is agreed to stands in every hit; a hit of its own is for a “no”, said now or taken back.
    if (before !== after && (before + after).includes('"no"')) working?.tellConsent();
    if (measurement === 'yes') {
      allowed = true;
      void guarded(begin)();
    } else if (measurement === 'no') {
      allowed = false;
      keep(nothingKept(), now(), setup);
      makeOutbox(tools).clear();
      parts.forEach((part) => part.clear?.());
      working?.end();
      working = null;
    }
  });
  if (allowed) later(begin);
  listen(globalThis, 'pagehide', () => {
    // A page that goes away between two tasks has arrived all the same.
    start();
    working?.leave();
    if (!told && rules.consent.count) countLanding(tools, arrival());
  });
}

/** Counts an arrival of somebody who did not agree: where from, and nothing by which anybody could be known again. */
function countLanding({ setup, doorOf, toText }: Tools, arrival: Arrival): void {
  const { touch } = decideTouch(arrival, [], setup.rules);
  // Nothing is known of the browser, so a page that is told again would be counted again.
  if (!touch || isToldAgain(arrival.navigation)) return;
  const { source, medium, campaign } = touch;
  navigator.sendBeacon?.(doorOf('count'), toText({ source, medium, campaign }));
}

void guarded(() => {
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
