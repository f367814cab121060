import { z } from 'zod';
import { readName, type Naming } from '../plan';
import { partsOf, type TagNames } from './link';
import { shortLinkWins } from './open';

export const shortLinkSchema = z.strictObject({
  path: z
    .string()
    .trim()
    .regex(/^[a-z0-9](?:[a-z0-9-]{0,58}[a-z0-9])?$/, 'must be 1 to 60 lower case letters, digits and hyphens'),
  /** Under which of the business's hosts it is handed out; '' for the usual one. */
  host: z.string().max(255).default(''),
  destination: z.string().trim().min(1, 'must say where it leads').max(6000),
  wins: z.enum(shortLinkWins, `must be ${shortLinkWins.join(', ')}`).default('link'),
  /** 302: the destination may change; 301 is remembered by browsers for good. */
  status: z.union([z.literal(302), z.literal(301)], 'must be 302 or 301').default(302),
  /** undefined leaves it as it is, '' takes it away. */
  password: z.string().max(200).optional(),
  expiresAt: z.iso
    .datetime({ offset: true, error: 'must be a time such as 2027-03-31T18:00:00Z' })
    .nullable()
    .default(null),
});
export type ShortLinkWanted = z.infer<typeof shortLinkSchema>;

/** A finished link that is to be shortened. */
export const shortenSchema = z.strictObject({
  link: z.url({ protocol: /^https?$/, error: 'must be a link that begins with http' }).max(6000),
});

/** Text as a short link's path may have it; '' where nothing of it may. */
const pathOf = (text: string): string =>
  text
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 50)
    .replace(/-$/, '');

/**
 * A path for the short link of a finished link, in words that are known from it: the last part of its campaign's name
 * and its content, else its page.
 */
export function proposePath(link: string, { naming, names }: { naming: Naming; names: TagNames }): string {
  const url = new URL(link);
  const { tags } = partsOf(url, ['utm_campaign', 'utm_content'], names);
  const { utm_campaign: campaign = '', utm_content: content = '' } = Object.fromEntries(tags) as Record<string, string>;
  const initiative = Object.values(readName(naming, campaign) ?? {}).at(-1) ?? campaign;
  const page = url.pathname.split('/').filter(Boolean).at(-1) ?? '';
  return pathOf([initiative, content].filter(Boolean).join('-')) || pathOf(page) || 'link';
}

/** The path, or where it is taken the path with the first number that is free. */
export function freePath(path: string, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n += 1) {
    const numbered = n === 1 ? path : `${path}-${n}`;
    if (!taken.has(numbered)) return numbered;
  }
}
