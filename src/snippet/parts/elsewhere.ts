import {
  carriedIn,
  elsewhereOf,
  mergeKept,
  withCarried,
  withoutCarried,
  withPlain,
} from '../../core/capture/elsewhere';
import type { Kept } from '../../core/capture';
import { now } from '../clock';
import type { Host, MakePart } from '../part';

/** Signed values are asked for anew when they are older than this (ms); they open a place for twice as long. */
const signedAnewAfter = 15 * 60_000;

/** Leads values to places outside, in the addresses of links and frames, and takes up those that came back. */
export const part: MakePart = ({ setup, doorOf, fetch, later, toText }) => {
  /** What the signed values in this page's address hold, as the edge reads them, with what is kept here. */
  async function restore(here: Kept) {
    const text = carriedIn(location.href);
    if (!text) return null;
    try {
      const answer = await fetch(`${doorOf('carry')}?avx_to=${text}`);
      if (!answer.ok) return null;
      const { place, kept } = (await answer.json()) as { place: string; kept: Kept };
      return { place, kept: mergeKept(here, kept) };
    } catch {
      return null;
    }
  }

  function work({ kept, read, watch, lookAgain }: Host) {
    const signed = new Map<string, { at: number; text: Promise<string> }>();

    function sign(place: string): Promise<string> {
      const known = signed.get(place);
      if (known && now() - known.at < signedAnewAfter) return known.text;
      const body = toText({ place, page: location.origin + location.pathname, kept: kept() });
      const text = fetch(doorOf('carry'), { method: 'POST', body, headers: { 'content-type': 'text/plain' } })
        .then((answer) => (answer.ok ? answer.text() : ''))
        .catch(() => '');
      signed.set(place, { at: now(), text });
      // A page may stay open for longer than what is signed is good for.
      later(lookAgain, signedAnewAfter);
      return text;
    }

    /** Gives a link or frame an address with what is signed for its place, where it leads to one. */
    async function carry(address: string, give: (address: string) => void): Promise<void> {
      const place = elsewhereOf(address, setup.rules);
      // A place that this page is itself of keeps its own values.
      if (!place || place.host === location.hostname) return;
      const plain = withPlain(address, place, read);
      const text = await sign(place.name);
      const carried = text && !plain.includes(text) ? withCarried(plain, text) : plain;
      if (carried !== address) give(carried);
    }

    watch(
      'a[href]',
      (element) => {
        const link = element as HTMLAnchorElement;
        void carry(link.href, (address) => (link.href = address));
      },
      'href',
    );
    watch(
      'iframe[src]',
      (element) => {
        const frame = element as HTMLIFrameElement;
        // A frame is loaded anew by a new address, so one that carries already is let be.
        if (!carriedIn(frame.src)) void carry(frame.src, (address) => (frame.src = address));
      },
      'src',
    );
  }

  return { strip: withoutCarried, restore, work };
};
