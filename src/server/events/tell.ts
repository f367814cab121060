/* eslint-disable no-await-in-loop -- batches of one account go one after the other, as its service counts them */
import { literal } from 'sequelize';
import { destinationOf, type DestinationContract, type EventRow } from '../../core/destinations';
import { mayWire, wireRow } from '../../core/events/wires';
import { goalRow } from '../../core/outcomes/goals';
import type { BatchAnswer } from '../../core/platforms';
import { groupBy } from '../../core/group-by';
import { mayBeTaken, retryAfter } from '../../core/reportbacks';
import { isOnlyWorkedOut } from '../../core/reportbacks/compare';
import { eventTellingId } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { insertRows, inTransaction, plain, type EventTellingRow, type WorkItem } from '../db';
import { putBack } from '../jobs/handlers';
import type { JobResult } from '../jobs/job';
import type { Account, Accounts } from '../platforms/accounts';
import { carryOut, ServiceAway } from '../platforms/call';
import type { CallLimit } from '../platforms/call-limit';
import type { Releases } from '../releases/releases';
import { worthNow } from '../outcomes/worth-now';
import { readConsents } from '../reportbacks/consents';
import { pageTeller } from './store';
import { accountIsOff } from './take-up';

/** What is said of one, whether it may be, and whether another way says it. */
interface Said {
  row: EventRow;
  mayBeTold: boolean;
  isOnlyWorkedOut: boolean;
}

interface Telling {
  item: WorkItem;
  telling: EventTellingRow;
  row: EventRow;
}

/**
 * Tells destinations the events that are due; each account is a lane.
 * @param limit of each account's calls, shared with all that is told to it
 */
export function makeTellEvents(context: Context, accounts: Accounts, releases: Releases, limit: CallLimit) {
  const { tables } = context;

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
    const { content: live } = await releases.live(businessId);
    const contract = account && destinationOf(account.kind, live.platforms);
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
    const saidOf = await readSaid(businessId, contract, waiting);
    const pageTwins = await readPageTwins(businessId, waiting, account.key);
    const due: Telling[] = [];
    const held: { telling: EventTellingRow; reason: string }[] = [];
    for (const telling of waiting) {
      const item = itemOf.get(telling.id)!;
      const said = saidOf.get(telling.id);
      const row = said?.row;
      const whyNot = !said
        ? 'what it is told of, or its rule, is gone'
        : said.mayBeTold
          ? whyNotNow(said.row, contract, account, pageTwins.has(telling.eventRowId))
          : 'the visitor did not agree';
      if (said && !whyNot && said.isOnlyWorkedOut) {
        await settle([telling], { state: 'worked out', reason: '', sent: said.row });
        results.push({ item, again: null });
      } else if (row && !whyNot && isUnsure(telling, contract)) {
        await settle([telling], { state: 'unsure', reason: unsureWords(contract) });
        results.push({ item, again: null });
      } else if (row && !whyNot) due.push({ item, telling, row });
      else {
        held.push({ telling, reason: whyNot });
        results.push({ item, again: null });
      }
    }
    for (const [reason, alike] of groupBy(held, (one) => one.reason))
      await settle(
        alike.map(({ telling }) => telling),
        { state: 'held', reason },
      );
    return due;
  }

  /** What is said of events, by their wires, and of outcomes, by their goals; nothing of one that is gone. */
  async function readSaid(
    businessId: string,
    contract: DestinationContract,
    waiting: EventTellingRow[],
  ): Promise<Map<string, Said>> {
    const ids = waiting.map(({ eventRowId }) => eventRowId);
    const events = plain(await tables.events.findAll({ where: { businessId, id: ids } }));
    const eventOf = new Map(events.map((event) => [event.id, event]));
    const others = ids.filter((id) => !eventOf.has(id));
    const outcomes =
      others.length === 0 ? [] : plain(await tables.outcomes.findAll({ where: { businessId, id: others } }));
    const outcomeOf = new Map(outcomes.map((outcome) => [outcome.id, outcome]));
    const consentOf =
      outcomes.length === 0 ? new Map<string, null>() : await readConsents(context, businessId, outcomes);
    const said = new Map<string, Said>();
    for (const telling of waiting) {
      const event = eventOf.get(telling.eventRowId);
      const outcome = outcomeOf.get(telling.eventRowId);
      if (!event && !outcome) continue;
      const { content } = await releases.numbered(businessId, (event ?? outcome)!.releaseNumber);
      const { required } = content.capture.consent;
      const wire = content.events.wires.find((one) => one.event === telling.event && one.account === telling.account);
      const goal = content.goals.find((one) => one.outcome === telling.event && one.account === telling.account);
      if (event && wire) {
        const happenedAt = event.at.getTime();
        said.set(telling.id, {
          row: wireRow(wire, { ...event, happenedAt }, contract, telling.clickId),
          mayBeTold: mayWire(wire, event.consent, required),
          isOnlyWorkedOut: isOnlyWorkedOut(wire, happenedAt),
        });
      } else if (outcome && goal) {
        const worth = worthNow(outcome);
        const happenedAt = outcome.happenedAt.getTime();
        said.set(telling.id, {
          row: goalRow(
            { id: outcome.id, code: outcome.code, happenedAt, worth: worth.minor > 0 ? worth : null },
            contract,
          ),
          mayBeTold: mayWire(goal, consentOf.get(outcome.subjectId) ?? null, required),
          isOnlyWorkedOut: false,
        });
      }
    }
    return said;
  }

  /** Events that a page told already, by their rows' IDs. */
  async function readPageTwins(businessId: string, waiting: EventTellingRow[], account: string): Promise<Set<string>> {
    const id = waiting.map(({ eventRowId }) => eventTellingId(eventRowId, pageTeller(account)));
    const told = await tables.eventTellings.findAll({
      attributes: ['eventRowId'],
      where: { businessId, id, state: 'told' },
    });
    return new Set(plain(told).map(({ eventRowId }) => eventRowId));
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
      // What certainly was not taken does not count as a try.
      const mayHaveTaken = mayBeTaken([answer.status]);
      if (mayHaveTaken && contract.repeatsHours === 0) {
        await settle(tellings, { state: 'unsure', reason: `${unsureWords(contract)} ${said}`.slice(0, 300) });
        return batch.map(({ item }) => ({ item, again: null }));
      }
      await settle(tellings, { reason: said });
      if (!mayHaveTaken) await settle(tellings, { tries: literal('tries - 1') as never });
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
      const answer = await carryOut(
        context,
        account,
        contract.authorised,
        contract.writeBatch(rows, account.settings.currency ?? ''),
      );
      return contract.readAnswer(answer, rows);
    } catch (error) {
      if (!(error instanceof ServiceAway)) throw error;
      return { kind: 'away', status: error.status, answer: error.message, retryAfter: undefined };
    }
  }
}

const hour = 3_600_000;
const ageOf = (at: number) => nowMs() - at;

/** Why an event cannot be told now; '' where it can. */
function whyNotNow(row: EventRow, contract: DestinationContract, account: Account, pageTold: boolean): string {
  const { limits, words, page } = contract;
  const age = ageOf(row.happenedAt);
  if (age > limits.tellWithinHours * hour)
    return `it is older than the ${limits.tellWithinHours} hours that ${words} takes`;
  // A twin that is not joined would be counted beside the other one (counting rule 11).
  if (pageTold && page && age > page.joinHours * hour)
    return `the page told it, and ${words} joins what a server tells only within ${page.joinHours} hours`;
  return contract.problem(row, account.settings.currency ?? '');
}

/** Whether an event may have been counted by a try whose answer never came, and would now be counted once more. */
const isUnsure = ({ tries, madeAt }: EventTellingRow, { repeatsHours }: DestinationContract): boolean =>
  tries > 0 && repeatsHours !== null && ageOf(madeAt.getTime()) > repeatsHours * hour;

const unsureWords = ({ words }: DestinationContract) => `${words} may have counted it: no answer came.`;
