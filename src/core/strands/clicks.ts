/** Landings alike: the platform whose click ID they came with, '' without one, and their tags. */
export interface Landings {
  platform: string;
  source: string;
  campaign: string;
  /** The UTM id. */
  campaignId: string;
  landings: number;
}

/** What an account on a platform reports of clicks in some days of its own, and what landed in the same days. */
export interface AccountClicks {
  platform: string;
  /** The UTM source of its links. */
  source: string;
  campaigns: { campaign: string; id: string; clicks: number }[];
  landings: Landings[];
}

/** Clicks on our own short links, by what their destination is tagged with. */
export interface ShortLinkClicks {
  source: string;
  campaign: string;
  clicks: number;
}

export interface ClickComparison {
  /** Null where nobody reports any. */
  clicks: number | null;
  /** Clicks beyond the landings that belong to them. */
  missing: number;
  /** Landings beyond the clicks that they belong to. */
  surplus: number;
  /** Landings of the cohort from campaigns without any click count: they join at Landed and are no loss. */
  uncounted: number;
}

/** How a UTM value is read before two are compared: by its alias, and without letter case where values are lower-cased. */
export type ReadValue = (tag: string, value: string) => string;

/** Clicks of one group, and the landings that belong to them. */
interface Group {
  clicks: number;
  landed: number;
}

/** An account's report, with its campaigns to be found by name, or else by ID. */
interface Book {
  account: AccountClicks;
  campaigns: Group[];
  find(named: Pick<Landings, 'campaign' | 'campaignId'>): Group | undefined;
}

function makeBook(account: AccountClicks, read: ReadValue): Book {
  const byName = new Map<string, Group>();
  const byId = new Map<string, Group>();
  for (const { campaign, id, clicks } of account.campaigns) {
    const name = read('utm_campaign', campaign);
    const group = byName.get(name) ?? { clicks: 0, landed: 0 };
    group.clicks += clicks;
    byName.set(name, group);
    if (id !== '') byId.set(id, group);
  }
  return {
    account,
    campaigns: [...byName.values()],
    find: ({ campaign, campaignId }) =>
      byName.get(read('utm_campaign', campaign)) ?? byId.get(campaignId) ?? byId.get(campaign),
  };
}

/**
 * Compares clicks with landings (docs/architecture.md): for each account in its own days, campaign by campaign where one
 * is known on both sides, by name or else by its ID; the rest of the account together as one group. A landing with a click
 * ID of the platform is its, whatever its tags say; without any it is by its source. Short links count for campaigns that
 * no account reports.
 *
 * @param cohort landings of the chosen days of the business
 */
export function compareClicks(
  accounts: AccountClicks[],
  shortLinks: ShortLinkClicks[],
  cohort: Landings[],
  read: ReadValue,
): ClickComparison {
  const books = accounts.map((account) => makeBook(account, read));
  const isSourceOf = ({ account }: Book, source: string) =>
    read('utm_source', source) === read('utm_source', account.source);
  /** The account that a landing is of: of several one that knows its campaign. */
  const bookOf = (landing: Landings): Book | undefined => {
    const { platform, source } = landing;
    const own = books.filter((book) =>
      platform === '' ? isSourceOf(book, source) : platform === book.account.platform,
    );
    return own.find((book) => book.find(landing)) ?? own[0];
  };
  const tagsOf = ({ source, campaign }: Pick<Landings, 'source' | 'campaign'>) =>
    `${read('utm_source', source)}\u0000${read('utm_campaign', campaign)}`;
  const links = new Map<string, Group>();
  for (const { source, campaign, clicks } of shortLinks) {
    if (books.some((book) => isSourceOf(book, source) && book.find({ campaign, campaignId: '' }))) continue;
    const tags = tagsOf({ source, campaign });
    links.set(tags, { clicks: (links.get(tags)?.clicks ?? 0) + clicks, landed: 0 });
  }

  const rests = new Map(books.map((book) => [book, restOf(book, bookOf, (landing) => links.has(tagsOf(landing)))]));
  let uncounted = 0;
  for (const landing of cohort) {
    const book = bookOf(landing);
    if (book?.find(landing)) continue;
    const link = links.get(tagsOf(landing));
    if (link) link.landed += landing.landings;
    else if (!book || rests.get(book)!.clicks === 0) uncounted += landing.landings;
  }
  const named = books.flatMap(({ campaigns }) => campaigns.filter(({ landed }) => landed > 0));
  const groups = [...named, ...rests.values(), ...links.values()].filter(({ clicks }) => clicks > 0);
  const sum = (of: (group: Group) => number) => groups.reduce((total, group) => total + of(group), 0);
  return {
    clicks: accounts.length > 0 || links.size > 0 ? sum(({ clicks }) => clicks) : null,
    missing: sum(({ clicks, landed }) => Math.max(0, clicks - landed)),
    surplus: sum(({ clicks, landed }) => Math.max(0, landed - clicks)),
    uncounted,
  };
}

/** Counts an account's landings in its own days to its campaigns; returns what is known on one side only, as one group. */
function restOf(
  book: Book,
  bookOf: (landing: Landings) => Book | undefined,
  isShort: (landing: Landings) => boolean,
): Group {
  const rest: Group = { clicks: 0, landed: 0 };
  for (const landing of book.account.landings) {
    if (bookOf(landing) !== book) continue;
    const campaign = book.find(landing);
    if (campaign) campaign.landed += landing.landings;
    else if (!isShort(landing)) rest.landed += landing.landings;
  }
  for (const { clicks, landed } of book.campaigns) if (landed === 0) rest.clicks += clicks;
  return rest;
}
