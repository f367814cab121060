const campaign = (crmId: string, name: string, friendly: string, rest: object) => ({
  crmId,
  name,
  friendly,
  stage: 'asking',
  startsOn: '',
  endsOn: '',
  budget: '',
  currency: 'GBP',
  owner: '',
  note: '',
  crmType: '',
  ...rest,
});

const search = { crmType: 'Search ads' };

/** Campaigns that stand in the register; the CRM has two more, which nobody has pulled yet. */
const campaigns = [
  campaign('C-101', 'uk-27q1-fleet-winterproof', 'Winterproof', {
    ...search,
    startsOn: '2026-12-25',
    endsOn: '2027-03-31',
    budget: '18000.00',
    owner: 'Maud',
  }),
  campaign('C-102', 'uk-26q4-fleet-van-swap', 'Van swap', {
    ...search,
    startsOn: '2026-01-15',
    endsOn: '2027-01-07',
    budget: '42000.00',
    owner: 'Maud',
  }),
  campaign('C-103', 'ie-27q1-fleet-bakery', 'The bakery run', {
    ...search,
    startsOn: '2026-12-17',
    endsOn: '2027-03-31',
    budget: '6000.00',
    owner: 'Declan',
  }),
  campaign('C-104', 'nl-27q1-fleet-florist', 'Tulip box', {
    ...search,
    startsOn: '2027-01-01',
    endsOn: '2027-03-31',
    budget: '4500.00',
    owner: 'Jette',
  }),
  campaign('C-105', 'uk-27q1-fleet-letter', 'Letter of the quarter', {
    crmType: 'Letter',
    startsOn: '2027-01-04',
    endsOn: '2027-03-29',
    owner: 'Priya',
  }),
  campaign('C-106', 'uk-27q1-brand-rounds', 'Rounds of the week', {
    crmType: 'Social posts',
    stage: 'noticed',
    startsOn: '2027-01-01',
    endsOn: '2027-03-31',
    owner: 'Priya',
  }),
  campaign('C-107', 'uk-27q1-fleet-baker-weekly', 'Baker Weekly', {
    crmType: 'Partner',
    startsOn: '2027-01-11',
    endsOn: '2027-02-28',
    budget: '2400.00',
    owner: 'Maud',
  }),
  campaign('', 'uk-27q1-shop-partners', 'Partners of the shop', { startsOn: '2027-01-01', owner: 'Jette' }),
];

/**
 * What Larkmoor has made of its plan: campaigns, tag sets, links, short links.
 * @param website where its pages are
 */
export function larkmoorWork(website: string) {
  const link = (
    path: string,
    [source, medium, name, content]: string[],
    usedIn: string,
    place: string,
    owner: string,
  ) => ({
    landing: website + path,
    tags: {
      utm_source: source,
      utm_medium: medium,
      utm_campaign: name,
      ...(content ? { utm_content: content } : {}),
    },
    usedIn,
    place,
    owner,
  });
  const letter = ['larkmoor-letter', 'email', 'uk-27q1-fleet-letter'];
  return {
    campaigns,
    tagSets: [
      {
        name: 'Letter, top and foot',
        tags: {
          utm_source: ['larkmoor-letter'],
          utm_medium: ['email'],
          utm_campaign: ['uk-27q1-fleet-letter'],
          utm_content: ['top', 'foot'],
        },
        usedIn: 'mail',
      },
      {
        name: 'Cargo fair',
        tags: { utm_source: ['cargo-fair'], utm_medium: ['fair'], utm_campaign: ['uk-27q2-fleet-cargo-fair'] },
        usedIn: 'print',
      },
    ],
    links: [
      link('/fleet', [...letter, 'top'], 'mail', 'every letter, top', 'Priya'),
      link('/fleet', [...letter, 'foot'], 'mail', 'every letter, foot', 'Priya'),
      link('/', ['tessaloop', 'organic-social', 'uk-27q1-brand-rounds'], 'post', 'profile and posts', 'Priya'),
      link('/fleet', ['baker-weekly', 'paid-social', 'uk-27q1-fleet-baker-weekly'], 'ad', 'sent to the paper', 'Maud'),
      link('/fleet', ['cargo-fair', 'fair', 'uk-27q2-fleet-cargo-fair'], 'print', 'stand, left wall', 'Declan'),
    ],
    exchangeRates: [
      { currency: 'USD', day: '2025-12-01', rate: '0.79' },
      { currency: 'USD', day: '2026-09-01', rate: '0.76' },
      { currency: 'USD', day: '2027-01-01', rate: '0.81' },
    ],
    shortLinks: [
      {
        path: 'cargo-fair',
        destination: `${website}/fleet?utm_source=cargo-fair&utm_medium=fair&utm_campaign=uk-27q2-fleet-cargo-fair`,
      },
      {
        path: 'bakery',
        destination: `${website}/bakery?utm_source=printed&utm_medium=print&utm_campaign=ie-27q1-fleet-bakery`,
      },
    ],
  };
}
