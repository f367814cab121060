import { splitAddress, tagValue, type TagCarry } from '../../core/capture';
import type { Context } from '../context';
import { dayIn } from '../days';
import type { Releases } from '../releases/releases';
import { insertRows, inTransaction, type ShortClickRow } from '../db';

/** A click on a short link as it stands in the spool, with what it led to. Time in ms. */
export interface SpooledClick {
  business: string;
  /** Its ID, by which it counts once. */
  click: string;
  shortLink: string;
  at: number;
  timeZone: string;
  /** Where it led, with the query it was opened with. */
  location: string;
  referrer: string;
  bot: boolean;
}

/** A click with the touch it brings: the tags it led with, small as the line reads them. */
function toRow(
  { business, click, shortLink, at, timeZone, location, referrer, bot }: SpooledClick,
  carried: TagCarry[],
): ShortClickRow {
  const address = splitAddress(location);
  const from = splitAddress(referrer);
  const tag = (name: string) => (address ? tagValue(address, name, carried) : '').slice(0, 200).toLowerCase();
  return {
    businessId: business,
    id: click,
    shortLinkId: shortLink,
    at: new Date(at),
    bot,
    day: dayIn(timeZone, at),
    source: tag('utm_source'),
    medium: tag('utm_medium'),
    campaign: tag('utm_campaign'),
    content: tag('utm_content'),
    referrer: from ? (from.host + from.path).slice(0, 300) : '',
  };
}

/** Stores clicks, each once by its ID. */
export async function storeClicks({ db, tables }: Context, releases: Releases, clicks: SpooledClick[]): Promise<void> {
  if (clicks.length === 0) return;
  const businesses = [...new Set(clicks.map(({ business }) => business))];
  const live = await Promise.all(businesses.map((business) => releases.live(business)));
  const carried = new Map(live.map(({ content }, at) => [businesses[at]!, content.capture.tagCarry]));
  const rows = clicks.map((click) => toRow(click, carried.get(click.business)!));
  await inTransaction(db, (transaction) => insertRows(tables.shortClicks, rows, [], transaction));
}
