import { arrive, cookieBytes, nothingKept, parseCookieText, readKept, writeKept } from '../../src/core/capture';
import type { Arrival, CaptureRules, Kept } from '../../src/core/capture';
import { cleanAddress } from '../../src/core/capture/pii';

const fresh = { visitor: '11111111-1111-4111-8111-111111111111', visit: '22222222-2222-4222-8222-222222222222' };

/** What the engine answers to arrivals one after another, wherever it runs: decisions, cookies, what they hold again. */
export function answers(arrivals: Arrival[], rules: CaptureRules): string {
  let kept: Kept = nothingKept();
  const all = arrivals.map((arrival) => {
    const cleaned = cleanAddress(arrival.address, rules);
    const arrived = arrive(kept, { ...arrival, address: cleaned.address }, rules, fresh);
    kept = arrived.kept;
    const cookies = writeKept(kept, arrival.at, rules);
    const text = cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
    return { cleaned, arrived, cookies, bytes: cookieBytes(cookies), again: readKept(parseCookieText(text), rules) };
  });
  return JSON.stringify(all);
}
