import type { Random } from './random';
import type { Market } from './names';

/** How somebody comes to the website: by a click on an ad, or by an address and a referrer. */
export interface Arrival {
  market: Market;
  ad: string | null;
  path: string;
  query: string;
  referrer: string;
  /** The path is one of Larkmoor's short links; it leads to the page. */
  short: boolean;
  /** A program that follows links and says so. */
  bot: boolean;
  /** Somebody at Larkmoor's own desk. */
  office: boolean;
}

interface Campaign {
  ad: string;
  market: Market;
  path: string;
  /** Days before the last day on which it runs. */
  from: number;
  to: number;
  weight: number;
}

const campaigns: Campaign[] = [
  { ad: 'uk-27q1-fleet-winterproof.hill-video', market: 'uk', path: '/fleet', from: 52, to: 0, weight: 5 },
  { ad: 'uk-27q1-fleet-winterproof.rain-still', market: 'uk', path: '/fleet', from: 52, to: 0, weight: 3 },
  { ad: 'uk-26q4-fleet-van-swap.van-versus', market: 'uk', path: '/fleet', from: 395, to: 40, weight: 4 },
  { ad: 'ie-27q1-fleet-bakery.oven-run', market: 'ie', path: '/fleet', from: 60, to: 0, weight: 2 },
  { ad: 'nl-27q1-fleet-florist.tulip-box', market: 'nl', path: '/fleet/call-back', from: 45, to: 0, weight: 2 },
];

const utm = (source: string, medium: string, campaign: string, content = '') =>
  `?utm_source=${encodeURIComponent(source)}&utm_medium=${encodeURIComponent(medium)}&utm_campaign=${campaign}` +
  (content ? `&utm_content=${content}` : '');

interface Coming {
  size: { faults: boolean };
  quillsearch: string;
  before: number;
}

/** Draws one arrival. Tagged ones carry the plan's names; where there are faults a partner spells its medium freely. */
export function drawArrival(random: Random, { size, quillsearch, before: daysBefore }: Coming): Arrival {
  const at = (path: string, query = '', referrer = '', market: Market = 'uk'): Arrival => ({
    market,
    ad: null,
    path,
    query,
    referrer,
    short: false,
    bot: false,
    office: false,
  });
  const faulty = (weight: number) => (size.faults ? weight : 0);
  const running = campaigns.filter((c) => daysBefore <= c.from && daysBefore >= c.to);
  return random.weighted<() => Arrival>([
    [
      58,
      () => {
        const { ad, market, path } = random.weighted(running.map((c) => [c.weight, c] as const));
        return { ...at(path, '', `${quillsearch}/`, market), ad };
      },
    ],
    [
      // Clicks from an ad account that the business never named.
      faulty(2),
      () => {
        const key = `Qz${Buffer.from(random.bytes(12)).toString('base64url')}`;
        return at(
          '/fleet',
          `${utm('quillsearch', 'paid-search', 'uk-27q1-fleet-agency-trial')}&qsid=${key}`,
          `${quillsearch}/`,
        );
      },
    ],
    [9, () => at('/fleet', utm('larkmoor-letter', 'email', 'uk-27q1-fleet-letter', random.pick(['top', 'foot'])))],
    [
      // A letter whose sender puts the reader's address into its links.
      faulty(1),
      () =>
        at(
          '/fleet',
          `${utm('larkmoor-letter', 'email', 'uk-27q1-fleet-letter', 'top')}&email=reader${random.whole(1, 999)}%40bakery.example`,
        ),
    ],
    [
      // An ad whose platform did not fill in what it should have.
      faulty(0.7),
      () =>
        at(
          '/fleet',
          `${utm('tessaloop', 'paid-social', 'uk-27q1-brand-rounds')}&utm_content=~ad-name~`,
          'http://tessaloop.example/',
        ),
    ],
    [8, () => at('/', utm('tessaloop', 'organic-social', 'uk-27q1-brand-rounds'), 'http://tessaloop.example/')],
    [
      6,
      () =>
        at(
          '/fleet',
          utm(
            'baker-weekly',
            random.pick(size.faults ? ['Paid_Social', 'paid social', 'PaidSocial', 'paid-social'] : ['paid-social']),
            'uk-27q1-fleet-baker-weekly',
          ) + `&lark_partner=BW-${random.whole(101, 119)}`,
          'https://bakerweekly.example/cargo',
        ),
    ],
    [
      7,
      () =>
        at(
          random.pick(['/', '/fleet']),
          '',
          random.pick(['https://wheelwrightweekly.example/rounds', 'https://harbour-council.example/loading']),
        ),
    ],
    [
      // A banner on pages of others; its source says only that it is one.
      4,
      () =>
        at(
          '/fleet',
          utm('display', 'display', 'uk-27q1-fleet-winterproof', 'rain-still'),
          random.pick(['https://grainmarket.example/prices', 'https://florists-round.example/news']),
        ),
    ],
    [2, () => ({ ...at(random.pick(['/fleet', '/shop'])), office: true })],
    [12, () => at(random.pick(['/', '/fleet', '/shop', '/care']))],
    // Posters and the stand at the cargo fair; a printed address has no referrer.
    [3, () => ({ ...at('/go/cargo-fair'), short: true })],
    [2, () => ({ ...at('/go/bakery', '', '', 'ie'), short: true })],
    [0.3, () => ({ ...at('/go/cargo-fair'), short: true, bot: true })],
    [
      // Scanners that follow the links in a letter before anyone reads it.
      1.5,
      () => ({ ...at('/fleet', utm('larkmoor-letter', 'email', 'uk-27q1-fleet-letter', 'top')), bot: true }),
    ],
  ])();
}
