import { cleanArrival } from '../core/capture';
import type { Part } from './part';
import type { SnippetSetup } from './tools';

/**
 * Where this page is and came from, without what says who somebody is and without signed values: nothing else is kept
 * or leaves the page.
 */
export function placeOf({ rules }: SnippetSetup, parts: Part[], referrer = document.referrer, here = location.href) {
  const strip = (address: string) => parts.reduce((left, part) => part.strip?.(left) ?? left, address);
  return cleanArrival({ address: strip(here), referrer: strip(referrer) }, rules);
}
