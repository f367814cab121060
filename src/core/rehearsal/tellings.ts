import { destinationOf } from '../destinations';
import { mayWire, wireRow } from '../events/wires';
import { isOnlyWorkedOut } from '../reportbacks/compare';
import {
  leftWithin,
  noStages,
  reachedInTime,
  partOfMoney,
  worthAfter,
  writeAmount,
  type Money,
  type PaymentNotice,
  type WorthNow,
} from '../outcomes';
import type { OutgoingRequest } from '../outgoing';
import { contractOf, type PlatformContract, type TellingRow } from '../platforms';
import { quoteValue } from '../quote-value';
import type { Reason } from '../reasons/codes';
import { reasonWords } from '../reasons/words';
import { tellingRules, type Release, type ReleaseContent } from '../releases';
import { decideCorrection, decideTelling } from '../reportbacks';
import { outcomeEventId, type DerivedEvent } from '../strands';
import { waitWords } from './steps';
import type { KnownWorld } from './known';
import type { ReachedOutcome } from './follow';

/** What an account would be told of an outcome or an event, or why not. */
export interface PretendTelling {
  /** The outcome's code or the event's name; the other is ''. */
  outcome: string;
  event: string;
  /** The enquiry or order of an outcome; '' of an event. */
  subject: string;
  account: string;
  by: 'server' | 'page';
  /** Whether it changes what the account was told before. */
  isCorrection: boolean;
  state: 'told' | 'not_told';
  reason: Reason | null;
  /** As a sentence; values between backticks. */
  text: string;
  /** What the server would send; null where a page tells it, or nothing is told. */
  request: OutgoingRequest | null;
  /** The row of that request; missing where there is none, or it is an event's. */
  row?: TellingRow;
  clickId: string;
  /** ms: when it happened, and when it would be told. */
  happenedAt: number;
  at: number;
  /** The hit that an event went off by; '' of an outcome. */
  hit: string;
}

/** What each platform would be told of an outcome: as the release's rules, the platforms' contracts and its age decide. */
export function outcomeTellings(reached: ReachedOutcome, release: Release, world: KnownWorld): PretendTelling[] {
  const { rule, counted, strands, subject, notices } = reached;
  const { content } = release;
  return tellingRules(release, rule.code).flatMap((telling): PretendTelling[] => {
    const contract = contractOf(telling.platform, content.platforms);
    const strand = strands.find(({ platform }) => platform === telling.platform);
    if (!contract || !strand) return [];
    const account = world.accounts.find(({ key }) => key === telling.account);
    const delay = telling.delayMinutes * 60_000;
    const dueAt = counted.at + delay;
    const first = worthAfter(
      counted,
      notices.filter(({ at }) => at <= dueAt),
    );
    const stages = content.crm?.stages ?? noStages;
    const decision = decideTelling(
      {
        stoppedBy: '',
        person: null,
        outcome: rule,
        telling,
        happenedAt: counted.at,
        strand,
        sameAs: reached.sameAs,
        earlier: reachedInTime(rule, reached.stageChanges, stages, strand.firstAt, contract.limits.clickDays),
        marked: '',
        leftFor: leftWithin(rule, reached.stageChanges, stages, counted.at, delay),
        crmClickId: reached.crmClickId,
        takenBack: first.change === 'taken_back' ? first.cause : '',
        brake: null,
        hasWorth: rule.worth.kind === 'none' || (first.worth?.minor ?? 0) > 0,
        contract,
        isLastPaid: strand.id === reached.lastPaid,
        account: account?.state ?? 'none',
        consent: reached.consent,
        consentRequired: content.capture.consent.required,
      },
      dueAt,
    );
    const name = account?.name ?? contract.words;
    if (decision.state === 'none') return [];
    const of = {
      outcome: rule.code,
      event: '',
      subject: subject.id,
      account: telling.account,
      by: 'server' as const,
      isCorrection: false,
      clickId: strand.clickId,
      happenedAt: counted.at,
      at: dueAt,
      hit: '',
    };
    if (decision.state !== 'waiting') {
      const why = reasonWords(decision.reason).text.replace(/^Held: /, '');
      const text = `${name} is not told ${quoteValue(rule.code)}: ${why}.`;
      return [{ ...of, state: 'not_told', reason: decision.reason, text, request: null }];
    }
    const none = { minor: 0, currency: account?.currency || world.currency };
    const worth = partOfMoney(first.worth ?? none, telling.percent, 100);
    const row = {
      eventId: outcomeEventId(release.business, rule.code, counted.key),
      key: decision.key,
      outcome: telling.as || rule.code,
      happenedAt: counted.at,
      worth,
    };
    const later = delay > 0 ? `, ${waitWords(delay)} later` : '';
    const bids = telling.letsItBid ? ', to bid on' : '';
    const amount = worth.minor > 0 ? `, worth ${writeAmount(worth)} ${worth.currency}` : '';
    const look = telling.firstLook ? '; the first ones once somebody looked at them' : '';
    const asks = telling.how === 'tested' ? 'is asked as a test of' : 'is told';
    const text = `${name} ${asks} ${quoteValue(row.outcome)} by the click ID${amount}${bids}${later}${look}.`;
    const told = { ...of, state: 'told' as const, reason: null, text, row, request: contract.writeBatch([row]) };
    const now = worthAfter(counted, notices);
    const since = { ...now, worth: partOfMoney(now.worth ?? none, telling.percent, 100) };
    return [told, ...corrections(told, row, since, contract, name, notices)];
  });
}

/** That what an account was told is worth something else since, where it is. */
function corrections(
  told: PretendTelling,
  row: TellingRow,
  { worth, change, cause }: WorthNow & { worth: Money },
  contract: PlatformContract,
  name: string,
  notices: readonly PaymentNotice[],
): PretendTelling[] {
  const at = Math.max(told.at, ...notices.map((notice) => notice.at));
  const taken = { has: row.worth.minor, worth: worth.minor, change, cause, takenAt: told.at, contract };
  const decision = decideCorrection({ ...taken, account: 'ready', newest: null }, at);
  if (decision.state === 'none' || cause === '') return [];
  const one: PretendTelling = { ...told, isCorrection: true, happenedAt: at, at };
  if (decision.state !== 'waiting') {
    const why = reasonWords(decision.reason).text.replace(/^Held: /, '');
    const text = `${name} is not corrected for ${quoteValue(row.outcome)}: ${why}.`;
    return [{ ...one, state: 'not_told', reason: decision.reason, text, request: null }];
  }
  const changed = { ...row, worth, cause, change: change === 'taken_back' ? change : ('revalued' as const) };
  const text = `${name} is corrected: ${quoteValue(row.outcome)} is worth ${writeAmount(worth)} ${worth.currency} now.`;
  return [{ ...one, text, request: contract.changes!.writeBatch([changed]) }];
}

/** What each destination would be told of an event that went off. */
export function eventTellings(event: DerivedEvent, content: ReleaseContent, world: KnownWorld): PretendTelling[] {
  const { events, platforms, capture } = content;
  return events.wires
    .filter((wire) => wire.event === event.name)
    .flatMap((wire): PretendTelling[] => {
      const contract = destinationOf(wire.kind, platforms);
      const account = world.accounts.find(({ key }) => key === wire.account);
      if (!contract) return [];
      const name = account?.name ?? contract.words;
      const of = {
        outcome: '',
        event: event.name,
        subject: '',
        account: wire.account,
        reason: null,
        request: null,
        clickId: '',
        isCorrection: false,
        happenedAt: event.at,
        at: event.at,
        hit: event.hit,
      };
      const not = (why: string): PretendTelling => ({
        ...of,
        by: 'server',
        state: 'not_told',
        text: `${name} is not told of ${quoteValue(event.name)}: ${why}.`,
      });
      const own = event.tellings.filter(({ account: key }) => key === wire.account);
      if (own.length === 0) return [not(`this visitor brought no click of it that it is told of`)];
      if (!mayWire(wire, event.consent, capture.consent.required)) return [not('the visitor did not agree')];
      return own.map(({ by, clickId, handed }): PretendTelling => {
        const row = wireRow(wire, { ...event, happenedAt: event.at }, contract, clickId);
        const as = `${quoteValue(row.name)}${fieldWords(row.fields)}`;
        if (by === 'page') {
          if (handed?.how !== 'told') return not('pages have no opener of it to tell it by');
          return { ...of, by, clickId, state: 'told', text: `${name} is told ${as} by the page.` };
        }
        if (account?.state !== 'ready') return not('its account is paused or not connected');
        const problem = contract.problem(row, account.currency);
        if (problem) return not(problem);
        if (isOnlyWorkedOut(wire, event.at)) return not(`${as} is only worked out`);
        const request = contract.writeBatch([row], account.currency);
        return { ...of, by, clickId, state: 'told', text: `${name} is told ${as} by the server.`, request };
      });
    });
}

const fieldWords = (fields: readonly (readonly [string, string])[]): string =>
  fields.length === 0 ? '' : ` with ${fields.map(([name, value]) => quoteValue(`${name}=${value}`)).join(', ')}`;
