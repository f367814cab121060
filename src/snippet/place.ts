import { cleanArrival } from '../core/capture';
import type { SnippetSetup } from './setup';

/**
 * Where this page is and came from, without what says who somebody is and without signed values: nothing else is kept
 * or leaves the page.
 */
export function placeOf({ rules, elsewhere }: SnippetSetup, referrer = document.referrer) {
  const strip = (address: string) => elsewhere?.strip(address) ?? address;
  return cleanArrival({ address: strip(location.href), referrer: strip(referrer) }, rules);
}
