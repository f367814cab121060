import type { Money } from './schema';
import { partOfMoney } from './worth';

const day = 86_400_000;

/** Something that an outcome counts, with the clicks that it may be told by. Times in ms. */
export interface CountedWithClicks {
  at: number;
  worth: Money | null;
  clicks: readonly { platform: string; at: number }[];
}

/** What one account would have been told: how many, how many more whose click was too old, and the worth in each currency. */
export interface WouldTell {
  times: number;
  tooOld: number;
  sums: Map<string, number>;
}

/**
 * What an account would have been told of what an outcome counts, as far as that depends on clicks: one of its platform must be
 * known, and younger than the limit when it was counted (counting rule 9). Consent, tries and holds are decided when it is told.
 *
 * @param limitDays the shorter of the platform's and the outcome's own
 * @param percent of the worth that is told
 */
export function wouldTell(
  counted: readonly CountedWithClicks[],
  { platform, percent, limitDays }: { platform: string; percent: number; limitDays: number },
): WouldTell {
  const found: WouldTell = { times: 0, tooOld: 0, sums: new Map() };
  for (const { at, worth, clicks } of counted) {
    const own = clicks.filter((click) => click.platform === platform);
    if (own.length === 0) continue;
    if (!own.some((click) => at - click.at < limitDays * day)) {
      found.tooOld += 1;
      continue;
    }
    found.times += 1;
    if (worth)
      found.sums.set(worth.currency, (found.sums.get(worth.currency) ?? 0) + partOfMoney(worth, percent, 100).minor);
  }
  return found;
}
