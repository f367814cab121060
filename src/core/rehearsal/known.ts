import type { FieldInCrm } from '../capture/fields-in-crm';
import type { CrmField } from '../crms/contract';
import type { Press } from '../events/press';
import type { Release, ReleaseContent } from '../releases/schema';
import type { ShortLinkWins } from '../links/open';
import type { Money } from '../outcomes/schema';
import { minorDigits } from '../outcomes/worth';

/** A form as it was last seen on a page of the website. */
export interface KnownForm {
  form: string;
  path: string;
  fields: { name: string; hidden: boolean }[];
  /** Fill rules that found their field there by other than its name. */
  found: string[];
}

/** An account that can be told, as far as a rehearsal asks. */
export interface KnownAccount {
  key: string;
  name: string;
  kind: string;
  state: 'ready' | 'paused' | 'retired';
  currency: string;
  /** Whether pages can load its opener. */
  hasOpener: boolean;
}

/** What is known of the world that a pretend visitor walks through: all of it was seen, none of it is made up. */
export interface KnownWorld {
  /** The address that pages begin with: `http://larkmoor.localhost:4310`. */
  website: string;
  forms: readonly KnownForm[];
  presses: readonly { path: string; press: Press }[];
  /** Paths that people arrived at lately, those of most people first. */
  paths: readonly string[];
  /** Where links lead that send on, by their addresses without query; `wins`: what of a query they are opened with arrives. */
  sendsOn: Readonly<Record<string, { to: string; wins: ShortLinkWins }>>;
  /** Hosts with paths of pages that the newest check found without the snippet. */
  withoutSnippet: readonly string[];
  /** What became in the CRM of what forms carried lately. */
  inCrm: readonly FieldInCrm[];
  /** The fields of the CRM; null where it cannot be asked for them. */
  crmFields: readonly CrmField[] | null;
  /** Amounts of the newest deal and order that had any, by name. */
  dealAmounts: Readonly<Record<string, Money>>;
  orderAmounts: Readonly<Record<string, Money>>;
  /** ISO 4217, of the business. */
  currency: string;
  accounts: readonly KnownAccount[];
}

/** A world of which nothing is known yet, such as that of a new business. */
export const nothingKnown = (website: string): KnownWorld => ({
  website,
  forms: [],
  presses: [],
  paths: [],
  sendsOn: {},
  withoutSnippet: [],
  inCrm: [],
  crmFields: null,
  dealAmounts: {},
  orderAmounts: {},
  currency: 'GBP',
  accounts: [],
});

/** The same for somebody who may not see money: no amount of a real deal or order is in it. */
export function withoutMoney(world: KnownWorld): KnownWorld {
  const madeUp = (amounts: KnownWorld['dealAmounts']) =>
    Object.fromEntries(
      Object.entries(amounts).map(([name, { currency }]) => [
        name,
        { currency, minor: 100 * 10 ** minorDigits(currency) },
      ]),
    );
  return { ...world, dealAmounts: madeUp(world.dealAmounts), orderAmounts: madeUp(world.orderAmounts) };
}

/** Rules as a release of nobody's: some are asked for by it. */
export const pretendRelease = (content: ReleaseContent): Release => ({
  business: 'rehearsal',
  number: 0,
  name: '',
  note: '',
  content,
  madeAt: 0,
  madeBy: null,
});
