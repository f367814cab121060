import { hash } from '@node-rs/argon2';
import { AvrixError, fieldsWrong, type WrongField } from '../../core/errors';
import { checkDestination, readLanding, type ShortLinkWanted } from '../../core/links';
import type { ShortLinksView, ShortLinkView } from '../../core/links/view';
import { mayChange } from '../../core/people/rights';
import { counted } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { pick, selectRows, time, whole, inTransaction, plain, type ShortLinkRow } from '../db';
import { newId } from '../ids';
import { groupBy } from '../../core/group-by';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import { qrPng, qrSvg } from './qr';
import type { ShortLinkBook } from './short-link-book';
import { shortClicks } from './table';

const mostShown = 2000;
const mostHistory = 5000;

interface Clicks {
  clicks: number;
  bots: number;
  lastAt: Date | null;
}

/** Short links of a business: made, led elsewhere, taken out of use. */
export function makeShortLinks({ db, tables, config }: Context, book: ShortLinkBook) {
  /**
   * The address under which a business's short links are opened: its own first-party host, else the shared one; and every host that
   * opens some.
   */
  async function baseOf({ business }: Membership): Promise<{ base: string; hosts: string[] }> {
    const where = { businessId: business.id };
    const websites = plain(await tables.websites.findAll({ where, order: [['place', 'ASC']], limit: 200 }));
    const edge = new URL(config.edgeOrigin);
    const own = websites.map(({ registrable }) => `t.${registrable}${edge.port ? `:${edge.port}` : ''}`);
    const base = own[0] ? `${edge.protocol}//${own[0]}/go` : `${config.edgeOrigin}/go/${business.key}`;
    return { base, hosts: [edge.host, ...own] };
  }

  /** @throws AVX_NOT_FOUND */
  async function urlOf(membership: Membership, id: string): Promise<string> {
    const row = await tables.shortLinks.findOne({ where: { businessId: membership.business.id, id } });
    if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'short link' });
    return `${(await baseOf(membership)).base}/${row.get({ plain: true }).path}`;
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
      const [{ base }, rows, clicks, moves] = await Promise.all([
        baseOf(membership),
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
        const { id, path, destination, wins, status } = row;
        const counts = clicks.get(id);
        return {
          ...{ id, path, destination, wins, status, url: `${base}/${path}`, hasPassword: row.passwordHash !== null },
          ...{ expiresAt: row.expiresAt?.toISOString() ?? null, state: stateOf(row) },
          ...{ clicks: counts?.clicks ?? 0, bots: counts?.bots ?? 0, lastAt: counts?.lastAt?.toISOString() ?? null },
          history: (history.get(id) ?? []).map(({ since, destination: led, changedBy }) => ({
            ...{ since: since.toISOString(), destination: led, by: names.get(changedBy ?? '') ?? 'a program' },
          })),
        };
      });
      return {
        sentence: shortSentence(links),
        rows: links,
        ...{ mayChange: mayChange(role), timeZone: business.timeZone },
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
      const { hosts } = await baseOf(membership);
      const wrong = checkDestination(wanted.destination, hosts);
      if (wrong) throw fieldsWrong([{ field: 'destination', was: wrong.was, wants: wrong.wants }]);
      const read = readLanding(wanted.destination) as { url: URL };
      const { path, wins, status, password, expiresAt } = wanted;
      const set = {
        ...{ wins, status, destination: read.url.href, changedAt: now() },
        expiresAt: expiresAt === null ? null : new Date(expiresAt),
        ...(password === undefined ? {} : { passwordHash: password === '' ? null : await hash(password) }),
      };
      await inTransaction(db, async (transaction) => {
        const known = await tables.shortLinks.findOne({
          where: id ? { businessId, id } : { businessId, path },
          ...{ transaction, lock: transaction.LOCK.UPDATE },
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

const pathTaken = ({ path, destination }: ShortLinkRow): WrongField => ({
  field: 'path',
  was: `${path} is taken: it leads to ${destination}`,
  wants: 'Choose another path, or open that one and change where it leads.',
});

export function stateOf({
  retiredAt,
  expiresAt,
}: Pick<ShortLinkRow, 'retiredAt' | 'expiresAt'>): ShortLinkView['state'] {
  if (retiredAt) return 'retired';
  return expiresAt && expiresAt <= now() ? 'over' : 'open';
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
