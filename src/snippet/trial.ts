import { cookieDomain, nothingKept, parseCookieText } from '../core/capture';
import type { Kept } from '../core/capture';
import { now } from './clock';
import { keep, keptNow } from './cookies';
import type { SnippetSetup } from './tools';

/** Put in front by the edge: the trial that goes on, '' where it has ended; the live release; and its script. */
declare const AVRIX_TRIAL: { token: string; live: SnippetSetup; script: string };

const named = 'avx_trial';
const before = 'avx_before';

/*
 * Goes before the engine where somebody tries rules in their own browser: what the browser kept is put aside when a trial
 * begins, and stands there again when it has ended, with nothing of the trial beside it.
 */
function forgetAll({ rules }: SnippetSetup): void {
  const domain = cookieDomain(location.hostname, rules);
  for (const name of Object.keys(parseCookieText(document.cookie)))
    if (name.startsWith('avx_'))
      document.cookie = `${name}=; Max-Age=0; Path=/; SameSite=Lax${domain ? `; Domain=${domain}` : ''}`;
  for (const name of Object.keys(localStorage))
    if (name.startsWith('avx_') && name.endsWith('~try')) localStorage.removeItem(name);
}

/** The tab knows its trial: an address that is copied from it takes nobody else along. */
function leaveAddress(): void {
  const left = location.href.replace(/([?&])avx_try=[\w-]*(&?)/, (_, before: string, after: string) =>
    after ? before : '',
  );
  if (left !== location.href) history.replaceState(history.state, '', left);
}

function begin(token: string, live: SnippetSetup): void {
  if (sessionStorage.getItem(named) === token) return;
  if (!sessionStorage.getItem(before)) sessionStorage.setItem(before, JSON.stringify(keptNow(live)));
  forgetAll(live);
  sessionStorage.setItem(named, token);
  leaveAddress();
  // Where the snippet runs already, the page begins anew with the rules that are tried.
  const page = globalThis as unknown as Record<symbol, boolean | undefined>;
  if (page[Symbol.for(`avrix ${live.business}`)]) location.reload();
}

function end(live: SnippetSetup, script: string): void {
  const kept = sessionStorage.getItem(before);
  sessionStorage.removeItem(named);
  sessionStorage.removeItem(before);
  if (kept) {
    forgetAll(live);
    const were = JSON.parse(kept) as Kept;
    keep(were.visitor ? were : nothingKept(), now(), live);
  }
  const element = document.createElement('script');
  element.src = script;
  document.head.append(element);
}

try {
  const { token, live, script } = AVRIX_TRIAL;
  if (token) begin(token, live);
  else end(live, script);
} catch {
  // A browser that stores nothing for a page cannot put anything aside; the rules are tried all the same.
}
