import { createHash, randomBytes } from 'node:crypto';
import { account, campaignNumber, type Ad } from './account';
import { dayIn, nowMs } from '../shared/clock';
import type { Rows, Store } from '../shared/store';

export interface Click {
  /** The visit key that travels in the landing link. */
  id: string;
  campaign: string;
  ad: string;
  at: string;
  /** Click day in the account's zone. */
  day: string;
  /** Cents. */
  price: number;
  /** SHA-256 of the mail address of whoever was signed in; missing where nobody was. */
  mail_hash?: string;
}
interface ReportedDay {
  day: string;
  campaign: string;
  number: string;
  clicks: number;
  spend_cents: number;
}
interface SpentDay extends ReportedDay {
  advert: string;
}
export type Clicks = ReturnType<typeof makeClicks>;

const hashOf = (mail: string) => createHash('sha256').update(mail.trim().toLowerCase()).digest('hex');

/** Clicks on ads, each with a visit key of its own. */
export function makeClicks(store: Store) {
  const rows: Rows<Click> = store.rows('clicks');
  return {
    get: (visitKey: string) => rows.get(visitKey),
    newest: (count: number) => rows.all().slice(-count).reverse(),

    /** The newest click before a moment of whoever has a mail address. */
    ofPerson: (mailHash: string, before: number) =>
      rows.all().findLast((click) => click.mail_hash === mailHash && Date.parse(click.at) <= before),

    /**
     * A visitor's click gets a fresh key and the time of now; a replay names both.
     * @param signedIn the mail address of whoever is signed in; '' where nobody is
     */
    take(ad: Ad, replayed?: { key: string; at: number }, signedIn = ''): Click {
      const { key, at } = replayed ?? { key: `Qs${randomBytes(12).toString('base64url')}`, at: nowMs() };
      const click = {
        id: key,
        campaign: ad.campaign,
        ad: ad.name,
        at: new Date(at).toISOString(),
        day: dayIn(account.timeZone, at),
        price: 90 + ((key.charCodeAt(4) * 7) % 180),
        ...(signedIn === '' ? {} : { mail_hash: hashOf(signedIn) }),
      };
      rows.put(click);
      return click;
    },

    /** What each ad cost by click day (the account's zone), for days between `from` and `to`. */
    spending(from: string, to: string) {
      const groups = new Map<string, SpentDay>();
      for (const { day, campaign, ad, price } of rows.all()) {
        if (day < from || day > to) continue;
        const key = `${day} ${campaign} ${ad}`;
        const fresh = { day, campaign, number: campaignNumber(campaign), advert: ad, clicks: 0, spend_cents: 0 };
        const row = groups.get(key) ?? fresh;
        groups.set(key, { ...row, clicks: row.clicks + 1, spend_cents: row.spend_cents + price });
      }
      return [...groups.values()].sort((a, b) => b.day.localeCompare(a.day) || a.advert.localeCompare(b.advert));
    },

    /** Clicks and spend by click day (the account's zone) and campaign, for days between `from` and `to`. */
    report(from: string, to: string) {
      const groups = new Map<string, ReportedDay>();
      for (const click of rows.all()) {
        const { day } = click;
        if (day < from || day > to) continue;
        const key = `${day} ${click.campaign}`;
        const { campaign } = click;
        const fresh = { day, campaign, number: campaignNumber(campaign), clicks: 0, spend_cents: 0 };
        const row = groups.get(key) ?? fresh;
        groups.set(key, { ...row, clicks: row.clicks + 1, spend_cents: row.spend_cents + click.price });
      }
      return [...groups.values()].sort((a, b) => b.day.localeCompare(a.day) || a.campaign.localeCompare(b.campaign));
    },
  };
}
