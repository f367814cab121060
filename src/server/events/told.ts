import { Op, type WhereOptions } from 'sequelize';
import { AvrixError } from '../../core/errors';
import type { ToldEventRow, ToldEventsQuery, ToldEventsView } from '../../core/events/told';
import { tellingWords } from '../../core/events/telling-states';
import { mayChange } from '../../core/people/rights';
import { counted } from '../../core/strands';
import { now } from '../clock';
import type { Connections } from '../connections/connections';
import type { Context } from '../context';
import { groupBy } from '../../core/group-by';
import { inTransaction, likeText, markWork, plain, type EventTellingRow } from '../db';
import { mostInFile, pageSize } from '../lists';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';

/** Events as they were told: one row an event and destination, with what was sent and what was answered. */
export function makeToldEvents({ db, tables }: Context, connections: Pick<Connections, 'names'>) {
  const whereOf = (businessId: string, { event, account, state, find }: ToldEventsQuery) =>
    ({
      businessId,
      ...(event ? { event } : {}),
      ...(account ? { account } : {}),
      ...(state ? { state } : {}),
      ...(find ? { [Op.and]: [{ event: { [Op.like]: likeText(find) } }] } : {}),
    }) as WhereOptions<EventTellingRow>;

  async function read({ business, role }: Membership, query: ToldEventsQuery, limit: number, offset: number) {
    const direction = query.descending === 'no' ? 'ASC' : 'DESC';
    const [rows, accounts] = await Promise.all([
      tables.eventTellings.findAll({
        where: whereOf(business.id, query),
        order: [
          ['happenedAt', direction],
          ['id', direction],
        ],
        limit,
        offset,
      }),
      connections.names(business.id),
    ]);
    const tellings = plain(rows);
    const events = plain(
      await tables.events.findAll({
        attributes: ['id', 'eventId'],
        where: { businessId: business.id, id: [...new Set(tellings.map(({ eventRowId }) => eventRowId))] },
      }),
    );
    const eventIdOf = new Map(events.map(({ id, eventId }) => [id, eventId]));
    return tellings.map(
      ({ id, event, account, toldBy, state, reason, toldAt, tries, sent, eventRowId, happenedAt }) => {
        return {
          id,
          at: happenedAt.toISOString(),
          event,
          account: accounts.find(({ key }) => key === account)?.name ?? account,
          by: toldBy,
          state,
          reason,
          toldAt: toldAt?.toISOString() ?? null,
          tries,
          sent: sent
            ? [
                sent.name,
                ...sent.fields
                  .filter(([name]) => role.seesMoney || (name !== 'worth' && name !== 'currency'))
                  .map(([name, value]) => `${name}=${value}`),
              ]
            : [],
          eventId: eventIdOf.get(eventRowId) ?? sent?.eventId ?? '',
          mayTellAgain: mayChange(role) && toldBy === 'server' && mayBeToldAgain.includes(state),
        } satisfies ToldEventRow;
      },
    );
  }

  return {
    async page(membership: Membership, query: ToldEventsQuery): Promise<ToldEventsView> {
      const { business, role } = membership;
      const [rows, total] = await Promise.all([
        read(membership, query, pageSize, (query.page - 1) * pageSize),
        tables.eventTellings.count({ where: whereOf(business.id, query) }),
      ]);
      const what = query.state ? ` ${tellingWords[query.state]}` : '';
      return {
        sentence:
          total === 0
            ? {
                title: `No event is${what || ' told'} here.`,
                under: 'An event is told once a wire for it is live and it went off on a page.',
              }
            : {
                title: `${counted(total, 'event', 'events')}${what} at ${query.account ? (rows[0]?.account ?? query.account) : 'all destinations'}.`,
                under: 'Each is told once. What was refused says why; it can be told again once that is put right.',
              },
        rows,
        total,
        pageSize,
        timeZone: business.timeZone,
        mayChange: mayChange(role),
      };
    },

    /** All of them, part by part, for a file. */
    async *all(membership: Membership, query: ToldEventsQuery): AsyncGenerator<ToldEventRow[]> {
      for (let offset = 0; offset < mostInFile; offset += 2000) {
        // eslint-disable-next-line no-await-in-loop -- a part is read once the one before is taken
        const rows = await read(membership, query, 2000, offset);
        if (rows.length > 0) yield rows;
        if (rows.length < 2000) return;
      }
    },

    /**
     * Tells events again that were refused, held or are unsure; their reasons are looked at anew.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND where none of them can be told again
     */
    async again(membership: Membership, ids: string[]): Promise<{ again: number }> {
      requireEditor(membership);
      const businessId = membership.business.id;
      return inTransaction(db, async (transaction) => {
        const where = { businessId, id: ids, toldBy: 'server' as const, state: mayBeToldAgain };
        const rows = plain(
          await tables.eventTellings.findAll({
            attributes: ['id', 'account'],
            where,
            order: [['id', 'ASC']],
            transaction,
            lock: transaction.LOCK.UPDATE,
          }),
        );
        if (rows.length === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'event to tell again' });
        await tables.eventTellings.update({ state: 'waiting', reason: '', tries: 0 }, { where, transaction });
        for (const [account, alike] of groupBy(rows, (row) => row.account))
          // eslint-disable-next-line no-await-in-loop -- one statement for each account
          await markWork(
            db,
            'event_telling',
            businessId,
            alike.map(({ id }) => id).sort(),
            now(),
            transaction,
            account,
          );
        return { again: rows.length };
      });
    },
  };
}

const mayBeToldAgain: EventTellingRow['state'][] = ['held', 'refused', 'unsure'];
