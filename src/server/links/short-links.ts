import { hash } from '@node-rs/argon2';
import { Op } from 'sequelize';
import { AvrixError, fieldsWrong, type WrongField } from '../../core/errors';
import { piiIn } from '../../core/capture/pii';
import { listed } from '../../core/listed';
import { checkDestination, destinationProblems, queryOf, readLanding, type ShortLinkWanted } from '../../core/links';
import { freePath, proposePath, shortLinkSchema } from '../../core/links/short-link';
import { quoteValue } from '../../core/quote-value';
import type { ShortClicksView, ShortLinksView, ShortLinkView } from '../../core/links/view';
import { mayChange } from '../../core/people/rights';
import { counted } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { pick, selectRows, text, time, whole, inTransaction, plain, type ShortLinkRow } from '../db';
import { newId } from '../ids';
import { groupBy } from '../../core/group-by';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import type { LinkPlanOf } from './link-plan';
import { qrPng, qrSvg } from './qr';
import type { ShortLinkBook } from './short-link-book';
import { shortClicks } from './table';

const mostShown = 2000;
const mostHistory = 5000;
const mostOrigins = 50;

type Handed = Pick<ShortLinkRow, 'host' | 'path'>;

interface Clicks {
  clicks: number;
  bots: number;
  lastAt: Date | null;
}

/** Short links of a business: made, led elsewhere, taken out of use. */
export function makeShortLinks({ db, tables, config }: Context, planOf: LinkPlanOf, book: ShortLinkBook) {
  /**
   * The hosts under which a business's short links are handed out, the usual one first: its own first-party hosts, else
   * the shared one; and every host that opens some.
   */
  async function hostsOf({ business }: Membership): Promise<{ handedOut: string[]; hosts: string[] }> {
    const where = { businessId: business.id };
    const websites = plain(await tables.websites.findAll({ where, order: [['place', 'ASC']], limit: 200 }));
    const edge = new URL(config.edgeOrigin);
    const own = websites.map(({ registrable }) => `t.${registrable}${edge.port ? `:${edge.port}` : ''}`);
    return { handedOut: own.length > 0 ? own : [edge.host], hosts: [edge.host, ...own] };
  }

  /** The address of a short link. Under the shared host the business's key tells whose it is. */
  function addressOf({ business }: Membership, [usual = '', ...others]: string[], { host, path }: Handed): string {
    const edge = new URL(config.edgeOrigin);
    const at = host !== '' && others.includes(host) ? host : usual;
    return at === edge.host ? `${config.edgeOrigin}/go/${business.key}/${path}` : `${edge.protocol}//${at}/go/${path}`;
  }

  /** @throws AVX_NOT_FOUND */
  async function urlOf(membership: Membership, id: string): Promise<string> {
    const row = await tables.shortLinks.findOne({ where: { businessId: membership.business.id, id } });
    if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'short link' });
    const { handedOut } = await hostsOf(membership);
    return addressOf(membership, handedOut, row.get({ plain: true }));
  }

  async function clicksOf(businessId: string): Promise<Map<string, Clicks>> {
    const rows = await selectRows(
      db,
      {
        ...pick(shortClicks, ['shortLinkId']),
        clicks: whole().of('SUM(bot = FALSE)'),
        bots: whole().of('SUM(bot)'),
        lastAt: time().nullable().of('MAX(IF(bot, NULL, at))'),
      },
      'FROM short_clicks WHERE business_id = ? GROUP BY short_link_id',
      [businessId],
    );
    return new Map(rows.map((row) => [row.shortLinkId, row]));
  }

  return {
    async view(membership: Membership): Promise<ShortLinksView> {
      const { business, role } = membership;
      const where = { businessId: business.id };
      const [{ handedOut }, plan, rows, clicks, moves] = await Promise.all([
        hostsOf(membership),
        planOf(business.id),
        tables.shortLinks.findAll({ where, order: [['changedAt', 'DESC']], limit: mostShown }),
        clicksOf(business.id),
        tables.shortLinkDestinations.findAll({ where, order: [['since', 'DESC']], limit: mostHistory }),
      ]);
      const people = await tables.people.findAll({
        attributes: ['id', 'name'],
        where: { id: [...new Set(plain(moves).flatMap(({ changedBy }) => changedBy ?? []))] },
      });
      const names = new Map(plain(people).map(({ id, name }) => [id, name]));
      const history = groupBy(plain(moves), ({ shortLinkId }) => shortLinkId);
      const links = plain(rows).map((row): ShortLinkView => {
        const { id, path, host, destination, wins, status } = row;
        const counts = clicks.get(id);
        return {
          id,
          path,
          host,
          destination,
          wins,
          status,
          hasPassword: row.passwordHash !== null,
          url: addressOf(membership, handedOut, row),
          problems: destinationProblems(destination, plan),
          expiresAt: row.expiresAt?.toISOString() ?? null,
          state: stateOf(row),
          clicks: counts?.clicks ?? 0,
          bots: counts?.bots ?? 0,
          lastAt: counts?.lastAt?.toISOString() ?? null,
          history: (history.get(id) ?? []).map(({ since, destination: led, changedBy }) => ({
            since: since.toISOString(),
            destination: led,
            by: names.get(changedBy ?? '') ?? 'a program',
          })),
        };
      });
      return {
        sentence: shortSentence(links),
        rows: links,
        hosts: handedOut,
        plan,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /**
     * Makes a short link (`id` null), or leads one elsewhere; where it led stays in its history. Making never takes
     * over a path that is there, and a path never changes: it may be printed.
     * @throws AVX_FIELD_WRONG, AVX_NOT_FOUND
     */
    async save(membership: Membership, personId: string, id: string | null, wanted: ShortLinkWanted): Promise<void> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const { hosts, handedOut } = await hostsOf(membership);
      const wrong = checkDestination(wanted.destination, hosts) ?? personalIn(wanted.destination);
      if (wrong) throw fieldsWrong([{ field: 'destination', was: wrong.was, fix: wrong.fix }]);
      if (wanted.host !== '' && !handedOut.includes(wanted.host))
        throw fieldsWrong([hostUnknown(wanted.host, handedOut)]);
      const read = readLanding(wanted.destination) as { url: URL };
      const { path, host, wins, status, password, expiresAt } = wanted;
      const set = {
        host,
        wins,
        status,
        destination: read.url.href,
        changedAt: now(),
        expiresAt: expiresAt === null ? null : new Date(expiresAt),
        ...(password === undefined ? {} : { passwordHash: password === '' ? null : await hash(password) }),
      };
      await inTransaction(db, async (transaction) => {
        const known = await tables.shortLinks.findOne({
          where: id ? { businessId, id } : { businessId, path },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        // Read before the update, which changes what the model holds.
        const before = known && { ...known.get({ plain: true }) };
        if (id && !before) throw new AvrixError('AVX_NOT_FOUND', { what: 'short link' });
        if (!id && before) throw fieldsWrong([pathTaken(before)]);
        const shortLinkId = before?.id ?? newId();
        if (known) await known.update(set, { transaction });
        else
          await tables.shortLinks.create(
            { businessId, id: shortLinkId, path, madeAt: now(), passwordHash: null, retiredAt: null, ...set },
            { transaction },
          );
        if (before?.destination !== set.destination)
          await tables.shortLinkDestinations.create(
            { businessId, shortLinkId, since: now(), destination: set.destination, changedBy: personId },
            { transaction },
          );
      });
      book.forget(businessId);
    },

    /**
     * The short link of a finished link: the open one that leads there already, or a new one under a path in its own
     * words.
     * @throws AVX_FIELD_WRONG
     */
    async shorten(membership: Membership, personId: string, link: string): Promise<{ path: string; url: string }> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const destination = new URL(link).href;
      const [{ handedOut }, plan] = await Promise.all([hostsOf(membership), planOf(businessId)]);
      // A finished link may stand under another name of a tag; its words are the same.
      const words = proposePath(destination, plan);
      const rows = plain(
        await tables.shortLinks.findAll({
          where: {
            businessId,
            [Op.or]: [{ destination }, { path: words }, { path: { [Op.startsWith]: `${words}-` } }],
          },
          limit: mostShown,
        }),
      );
      const same = rows.find(
        (row) => row.destination === destination && stateOf(row) === 'open' && row.passwordHash === null,
      );
      const path = same?.path ?? freePath(words, new Set(rows.map((row) => row.path)));
      if (!same) await this.save(membership, personId, null, shortLinkSchema.parse({ path, destination }));
      return { path, url: addressOf(membership, handedOut, { path, host: same?.host ?? '' }) };
    },

    /** Where its clicks came from. @throws AVX_NOT_FOUND */
    async clicks(membership: Membership, id: string): Promise<ShortClicksView> {
      const { business } = membership;
      await urlOf(membership, id);
      const rows = await selectRows(
        db,
        {
          host: text().of("SUBSTRING_INDEX(referrer, '/', 1)"),
          clicks: whole().of('COUNT(*)'),
          lastAt: time().of('MAX(at)'),
        },
        `FROM short_clicks WHERE business_id = ? AND short_link_id = ? AND bot = FALSE
         GROUP BY SUBSTRING_INDEX(referrer, '/', 1) ORDER BY clicks DESC, host LIMIT ${mostOrigins}`,
        [business.id, id],
      );
      return { from: rows.map((row) => ({ ...row, lastAt: row.lastAt.toISOString() })) };
    },

    /** Takes a short link out of use, or back into it. */
    async retire(membership: Membership, id: string, retired: boolean): Promise<void> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const set = { retiredAt: retired ? now() : null, changedAt: now() };
      const [changed] = await tables.shortLinks.update(set, { where: { businessId, id } });
      if (changed === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'short link' });
      book.forget(businessId);
    },

    qrSvg: async (membership: Membership, id: string): Promise<string> => qrSvg(await urlOf(membership, id)),
    qrPng: async (membership: Membership, id: string): Promise<Buffer> => qrPng(await urlOf(membership, id)),

    /** The open short links as a web server's redirect list (`Redirect` lines, RFC 9110 status codes). */
    async redirectList(membership: Membership): Promise<string> {
      const { rows } = await this.view(membership);
      const open = rows.filter(({ state, hasPassword }) => state === 'open' && !hasPassword);
      return open.map(({ path, destination, status }) => `Redirect ${status} /go/${path} ${destination}\n`).join('');
    },
  };
}

/** Personal data would stand in every copy of the short link's history and in every address it leads to. */
function personalIn(destination: string): Pick<WrongField, 'was' | 'fix'> | null {
  const read = readLanding(destination);
  const personal = 'url' in read ? queryOf(read.url.href).find(([, value]) => piiIn(value)) : undefined;
  return personal
    ? { was: `${quoteValue(personal[0])} contains personal data`, fix: 'Take it out of the address.' }
    : null;
}

const hostUnknown = (host: string, hosts: string[]): WrongField => ({
  field: 'host',
  was: `${quoteValue(host)} opens no short links of this business`,
  fix: `Choose ${listed(hosts, 'or')}.`,
});

const pathTaken = ({ path, destination }: ShortLinkRow): WrongField => ({
  field: 'path',
  was: `${path} is taken: it leads to ${destination}`,
  fix: 'Choose another path, or open that one and change where it leads.',
});

export function stateOf({
  retiredAt,
  expiresAt,
}: Pick<ShortLinkRow, 'retiredAt' | 'expiresAt'>): ShortLinkView['state'] {
  if (retiredAt) return 'retired';
  return expiresAt && expiresAt <= now() ? 'expired' : 'open';
}

function shortSentence(links: ShortLinkView[]) {
  const open = links.filter(({ state }) => state === 'open');
  const under =
    'Where one leads can be changed later; what was printed stays right. Each click is counted with where it came from.';
  if (links.length === 0) return { title: 'No short link is made yet.', under };
  const clicks = links.reduce((sum, link) => sum + link.clicks, 0);
  return {
    title: `${counted(open.length, 'short link is', 'short links are')} open; ${counted(clicks, 'click', 'clicks')} so far.`,
    under,
  };
}
