/* eslint-disable no-await-in-loop -- batches of one account go one after the other, as its service counts them */
import { destinationOf, type DestinationContract, type EventRow } from '../../core/destinations';
import { mayWire, wireRow } from '../../core/events/wires';
import type { BatchAnswer } from '../../core/platforms';
import { groupBy } from '../../core/group-by';
import { retryAfter } from '../../core/reportbacks';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { insertRows, inTransaction, plain, type EventTellingRow, type WorkItem } from '../db';
import { putBack } from '../jobs/handlers';
import type { JobResult } from '../jobs/job';
import type { Account, Accounts } from '../platforms/accounts';
import { carryOut, ServiceAway } from '../platforms/call';
import { makeCallLimit } from '../platforms/call-limit';
import type { Releases } from '../releases/releases';
import { accountIsOff } from './take-up';

interface Telling {
  item: WorkItem;
  telling: EventTellingRow;
  row: EventRow;
}

/** Tells destinations the events that are due; each account is a lane. */
export function makeTellEvents(context: Context, accounts: Accounts, releases: Releases) {
  const { tables } = context;
  const limit = makeCallLimit();

  const settle = (tellings: Pick<EventTellingRow, 'businessId' | 'id'>[], change: Partial<EventTellingRow>) =>
    tellings.length === 0
      ? Promise.resolve()
      : tables.eventTellings
          .update(change, { where: { businessId: tellings[0]!.businessId, id: tellings.map(({ id }) => id) } })
          .then(() => undefined);

  return async function tell(items: WorkItem[]): Promise<JobResult[]> {
    const results: JobResult[] = [];
    for (const own of groupBy(items, ({ businessId, lane }) => `${businessId} ${lane}`).values())
      results.push(...(await tellAccount(own)));
    return results;
  };

  /** @param items of one account */
  async function tellAccount(items: WorkItem[]): Promise<JobResult[]> {
    const { businessId, lane } = items[0]!;
    const done = (some: WorkItem[]): JobResult[] => some.map((item) => ({ item, again: null }));
    const waiting = plain(
      await tables.eventTellings.findAll({
        where: { businessId, id: items.map(({ subject }) => subject), state: 'waiting' },
      }),
    );
    const itemOf = new Map(items.map((item) => [item.subject, item]));
    const results = done(items.filter(({ subject }) => !waiting.some(({ id }) => id === subject)));
    const account = await accounts.byKey(businessId, lane);
    const contract = account && destinationOf(account.kind);
    if (!account || !contract || account.pausedAt || account.retiredAt) {
      await settle(waiting, { state: 'held', reason: accountIsOff });
      return [...results, ...done(waiting.map(({ id }) => itemOf.get(id)!))];
    }
    const due = await readDue(businessId, account, contract, waiting, itemOf, results);
    for (let at = 0; at < due.length; at += contract.limits.rowsPerCall)
      results.push(...(await send(account, contract, due.slice(at, at + contract.limits.rowsPerCall))));
    return results;
  }

  /** What may be told now, as its wire says it; the rest is held with its reason. */
  async function readDue(
    businessId: string,
    account: Account,
    contract: DestinationContract,
    waiting: EventTellingRow[],
    itemOf: Map<string, WorkItem>,
    results: JobResult[],
  ): Promise<Telling[]> {
    const events = new Map(
      plain(
        await tables.events.findAll({ where: { businessId, id: waiting.map(({ eventRowId }) => eventRowId) } }),
      ).map((event) => [event.id, event]),
    );
    const due: Telling[] = [];
    const held: { telling: EventTellingRow; reason: string }[] = [];
    for (const telling of waiting) {
      const item = itemOf.get(telling.id)!;
      const event = events.get(telling.eventRowId);
      const { content } = await releases.numbered(businessId, event?.releaseNumber ?? 1);
      const wire = content.events.wires.find((one) => one.event === telling.event && one.account === account.key);
      const late = event ? nowMs() - event.at.getTime() > contract.limits.tellWithinHours * 3_600_000 : true;
      const whyNot =
        !event || !wire
          ? 'its event or its wire is gone'
          : !mayWire(wire, event.consent, content.capture.consent.required)
            ? 'the visitor did not agree'
            : late
              ? `it is older than the ${contract.limits.tellWithinHours} hours that ${contract.words} takes`
              : '';
      if (whyNot || !event || !wire) {
        held.push({ telling, reason: whyNot });
        results.push({ item, again: null });
      } else {
        const row = wireRow(wire, { ...event, happenedAt: event.at.getTime() }, contract);
        due.push({ item, telling, row });
      }
    }
    for (const [reason, alike] of groupBy(held, (one) => one.reason))
      await settle(
        alike.map(({ telling }) => telling),
        { state: 'held', reason },
      );
    return due;
  }

  async function send(account: Account, contract: DestinationContract, batch: Telling[]): Promise<JobResult[]> {
    const wait = limit.take(account.id, contract.limits.callsPerMinute);
    if (wait > 0) return batch.map(({ item }) => ({ item, again: new Date(nowMs() + wait) }));
    await inTransaction(context.db, (transaction) =>
      insertRows(
        tables.eventTellings,
        batch.map(({ telling, row }) => ({ ...telling, tries: telling.tries + 1, sent: row })),
        ['tries', 'sent'],
        transaction,
      ),
    );
    const answer = await call(
      account,
      contract,
      batch.map(({ row }) => row),
    );
    if (answer.kind === 'refused' && batch.length > 1) {
      // One of them is what it refuses: each goes alone.
      const alone: JobResult[] = [];
      for (const one of batch) alone.push(...(await send(account, contract, [one])));
      return alone;
    }
    if (answer.kind !== 'rows') {
      const said = `${account.name} answered ${answer.status}: ${answer.answer}`.slice(0, 300);
      const tellings = batch.map(({ telling }) => telling);
      if (answer.kind === 'refused') {
        await settle(tellings, { state: 'refused', reason: said, toldAt: now() });
        return batch.map(({ item }) => ({ item, again: null }));
      }
      await settle(tellings, { reason: said });
      const error = new ServiceAway(answer.status, retryAfter(answer.retryAfter, nowMs()), said);
      return batch.map(({ item }) => putBack(item, error));
    }
    const saidOf = new Map(answer.rows.map((one) => [one.eventId, one]));
    const results: JobResult[] = [];
    const taken: EventTellingRow[] = [];
    for (const { item, telling, row } of batch) {
      const said = saidOf.get(row.eventId);
      if (said?.taken) taken.push(telling);
      else if (said) await settle([telling], { state: 'refused', reason: said.answer, toldAt: now() });
      results.push(said ? { item, again: null } : putBack(item, new Error('the answer did not name this event')));
    }
    await settle(taken, { state: 'told', reason: '', toldAt: now() });
    return results;
  }

  async function call(account: Account, contract: DestinationContract, rows: EventRow[]): Promise<BatchAnswer> {
    try {
      const answer = await carryOut(context, account, contract.authorised, contract.writeBatch(rows));
      return contract.readAnswer(answer, rows);
    } catch (error) {
      if (!(error instanceof ServiceAway)) throw error;
      return { kind: 'away', status: error.status, answer: error.message, retryAfter: undefined };
    }
  }
}
