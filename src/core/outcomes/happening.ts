import type { CrmRecord } from '../leads/schema';
import type { SubjectKind } from '../strands/types';
import type { StoredConversion } from '../strands/visitor-conversions';
import type { DerivedOrder } from '../strands/visitor-orders';
import type { Stages } from './reached';
import type { CountedOnceFor, Money, OutcomeRule, StageChange } from './schema';
import { readAmount } from './worth';

/** A deal was moved to a stage, after it had been at others. */
export interface StageMove {
  kind: 'stage';
  stage: string;
  before: string[];
  /** Who moved it, as the CRM says; '' where it does not. */
  by: string;
}

/** A sender posted that something happened. */
export interface Posting {
  kind: 'postback';
  sender: string;
  step: string;
  /** The payment that it is about; '' where it names none. */
  payment: string;
  /** Whether it takes something back: a refund, a chargeback. */
  undoes: boolean;
}

/** A field of a deal has a value. */
export interface FieldValue {
  kind: 'field';
  name: string;
  value: string;
}

/**
 * Somebody did something on the website: an event went off, or a page was reached; or a row of a file says that something
 * happened elsewhere.
 */
export type Conversion =
  { kind: 'event'; event: string } | { kind: 'page'; path: string } | { kind: 'file'; says: string };

/** Something that happened to an enquiry, order, subscription or conversion, which an outcome may be reached by. */
export interface Happening {
  subject: { kind: SubjectKind; id: string };
  /** ms */
  at: number;
  /** When (ms) what counts was decided, where that is not when it happened: rows of a file go by the rules of when it was taken. */
  ruledAt?: number;
  what: StageMove | FieldValue | { kind: 'order' } | Posting | Conversion;
  /** What outcomes can be counted once for, by its kind; a kind that there is none of is missing. */
  keys: Partial<Record<CountedOnceFor, string>>;
  /** What the same enquiry, lead or deal was called before others became one with it: counted there, it is counted. */
  formerly?: Partial<Record<CountedOnceFor, string[]>>;
  /** Fields and amounts by name, as they are known now. */
  fields: Record<string, string>;
  amounts: Record<string, Money>;
}

/**
 * The moves of a deal in order, each with the stages it had been at before, whatever order they are told in. Of stages that
 * were reached in the same millisecond the earlier one comes first: a deal goes through it.
 *
 * @param inOrder the stages of the pipeline
 */
export function stageMoves(changes: StageChange[], inOrder: string[]): { at: number; what: StageMove }[] {
  const sorted = [...changes].sort(
    (a, b) => a.at - b.at || inOrder.indexOf(a.stage) - inOrder.indexOf(b.stage) || (a.stage < b.stage ? -1 : 1),
  );
  return sorted.map(({ stage, at, by = '' }, i) => ({
    at,
    what: { kind: 'stage', stage, by, before: sorted.slice(0, i).map((change) => change.stage) },
  }));
}

/**
 * What happened to an enquiry by its deal in the CRM: each move of it, and the value that each wanted field has since it last
 * changed. A field that never changed has it since the deal was made.
 *
 * @param keys of the deal and the lead
 * @param formerly what was merged into them
 * @param wanted names of fields; those that changed are looked at all the same
 */
export function dealHappenings(
  enquiry: string,
  record: Pick<CrmRecord, 'stageChanges' | 'fields' | 'fieldsAt' | 'amounts' | 'madeAt'>,
  keys: Pick<Happening['keys'], 'deal' | 'lead'>,
  { inOrder }: Pick<Stages, 'inOrder'>,
  formerly: Happening['formerly'] = {},
  wanted: readonly string[] = [],
): Happening[] {
  const of = {
    formerly,
    subject: { kind: 'enquiry' as const, id: enquiry },
    keys: { enquiry, ...keys },
    fields: record.fields,
    amounts: record.amounts,
  };
  const changed = record.fieldsAt ?? {};
  const fields = [...new Set([...wanted, ...Object.keys(changed)])].flatMap((name): Happening[] => {
    const value = record.fields[name] ?? '';
    return value === '' ? [] : [{ ...of, at: changed[name] ?? record.madeAt, what: { kind: 'field', name, value } }];
  });
  return [...stageMoves(record.stageChanges, inOrder).map((move) => ({ ...of, ...move })), ...fields];
}

/** Names of the CRM's fields by which outcomes are reached. */
export const fieldsWanted = (outcomes: readonly OutcomeRule[]): string[] =>
  outcomes.flatMap(({ reachedBy }) => (reachedBy.kind === 'field' ? [reachedBy.name] : []));

/** What somebody did on the website, or a file says. Amounts that cannot be read in their currency are left out. */
export const conversionHappening = (
  {
    id,
    kind,
    name,
    fields,
    amounts,
    strands,
  }: Pick<StoredConversion, 'id' | 'kind' | 'name' | 'fields' | 'amounts' | 'strands'>,
  at: number,
  visitor: string,
): Happening => ({
  subject: { kind: 'conversion', id },
  at,
  what: kind === 'event' ? { kind, event: name } : kind === 'page' ? { kind, path: name } : { kind, says: name },
  keys: { click: strands[0] ?? visitor, visitor, conversion: id },
  fields,
  amounts: moneyOf(amounts),
});

/** What a row of a file says happened. @param ruledAt ms, when the file was taken */
export const filedHappening = (
  {
    orderId,
    ...row
  }: Pick<StoredConversion, 'id' | 'kind' | 'name' | 'fields' | 'amounts' | 'strands'> & { orderId: string },
  at: number,
  ruledAt: number,
): Happening => {
  const happening = conversionHappening(row, at, row.id);
  const keys: Happening['keys'] = orderId === '' ? happening.keys : { ...happening.keys, order: orderId };
  return { ...happening, keys, ruledAt };
};

const moneyOf = (amounts: readonly { name: string; amount: string; currency: string }[]): Record<string, Money> =>
  Object.fromEntries(
    amounts.flatMap(({ name, amount, currency }) => {
      const money = readAmount(amount, currency);
      return money ? [[name, money] as const] : [];
    }),
  );

/** That somebody ordered. Amounts that cannot be read in the order's currency are left out. */
export const orderHappening = (
  { id, number, currency, amounts, strands }: Pick<DerivedOrder, 'id' | 'number' | 'currency' | 'amounts' | 'strands'>,
  at: number,
): Happening => ({
  subject: { kind: 'order', id },
  at,
  what: { kind: 'order' },
  keys: { order: number, click: strands[0] ?? id },
  fields: {},
  amounts: moneyOf(amounts.map((one) => ({ ...one, currency }))),
});

/** A subscription, to which only happens what is posted of it. */
export const ofSubscription = ({ id, number }: { id: string; number: string }): Omit<Happening, 'at' | 'what'> => ({
  subject: { kind: 'subscription', id },
  keys: { subscription: number },
  fields: {},
  amounts: {},
});

/**
 * What a sender posted that happened to an order or a subscription: it has the order's amounts, and its own as `amount`.
 *
 * @param of the order or the subscription
 * @param number the posting's own; by it something without a payment's number is counted once
 */
export const postedHappening = (
  { subject, keys, fields, amounts }: Omit<Happening, 'at' | 'what'>,
  { at, number, money, ...posted }: Omit<Posting, 'kind'> & { at: number; number: string; money: Money | null },
): Happening => ({
  subject,
  at,
  what: { kind: 'postback', ...posted },
  keys: { ...keys, payment: posted.payment || number },
  fields,
  amounts: money ? { ...amounts, [postedAmount]: money } : amounts,
});

/** What the amount that is posted is called, beside the amounts of an order. */
export const postedAmount = 'amount';

/** Whether something that was posted is a payment: it names one, or an amount that is not given back. */
export const isPayment = ({ what, amounts }: Happening): boolean =>
  what.kind === 'postback' && !what.undoes && (what.payment !== '' || amounts[postedAmount] !== undefined);
