import { carriedIn, elsewhereOf, mergeKept, withCarried, withoutCarried } from '../core/capture/elsewhere';
import type { Kept } from '../core/capture';
import { now } from './clock';
import { documents } from './forms';
import { doorOf, type ElsewherePart, type SnippetSetup } from './setup';

/** Signed values are asked for anew when they are older than this (ms); they open a place for twice as long. */
const signedAnewAfter = 15 * 60_000;

export const strip: ElsewherePart['strip'] = withoutCarried;

/** Puts signed values into the addresses of links and frames that lead to places outside. */
export function lead(setup: SnippetSetup, kept: () => Kept) {
  const signed = new Map<string, { at: number; text: Promise<string> }>();

  function sign(place: string): Promise<string> {
    const known = signed.get(place);
    if (known && now() - known.at < signedAnewAfter) return known.text;
    const body = JSON.stringify({ place, page: location.origin + location.pathname, kept: kept() });
    const text = fetch(doorOf(setup, 'carry'), { method: 'POST', body, headers: { 'content-type': 'text/plain' } })
      .then((answer) => (answer.ok ? answer.text() : ''))
      .catch(() => '');
    signed.set(place, { at: now(), text });
    // A page may stay open for longer than what is signed is good for.
    setTimeout(look, signedAnewAfter);
    return text;
  }

  /** Gives a link or frame an address with what is signed for its place, where it leads to one. */
  async function carry(address: string, give: (address: string) => void): Promise<void> {
    const place = elsewhereOf(address, setup.rules);
    if (!place) return;
    const text = await sign(place.name);
    if (text && !address.includes(text)) give(withCarried(address, text));
  }

  function look(): void {
    for (const page of documents()) {
      for (const link of page.querySelectorAll<HTMLAnchorElement>('a[href]'))
        void carry(link.href, (address) => (link.href = address));
      // A frame is loaded anew by a new address, so one that carries already is let be.
      for (const frame of page.querySelectorAll<HTMLIFrameElement>('iframe[src]'))
        if (!carriedIn(frame.src)) void carry(frame.src, (address) => (frame.src = address));
    }
  }
  return look;
}

/** What the signed values in this page's address hold, as the edge reads them, with what is kept here. */
export const read: ElsewherePart['read'] = async (setup, here) => {
  const text = carriedIn(location.href);
  if (!text) return null;
  try {
    const answer = await fetch(`${doorOf(setup, 'carry')}?avx_to=${text}`);
    if (!answer.ok) return null;
    const { place, kept } = (await answer.json()) as { place: string; kept: Kept };
    return { place, kept: mergeKept(here, kept) };
  } catch {
    return null;
  }
};
