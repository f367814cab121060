import { v5 } from 'uuid';

/** Namespace of all IDs that Avrix computes from what they stand for (RFC 9562, version 5). */
const namespace = '6f0d3c1e-6c9a-5a44-9b1c-0d4f3a7be811';

const idOf = (...parts: string[]) => v5(parts.join('\u0000'), namespace);

/** The same inputs always give the same ID, so deriving again changes nothing. */
export const clickStrandId = (business: string, platform: string, clickId: string) =>
  idOf('click', business, platform, clickId);
export const landingStrandId = (touch: string) => idOf('landing', touch);
export const leadFormStrandId = (lead: string) => idOf('lead form', lead);
/** A lead of a platform's own form, by its number there. */
export const platformLeadId = (business: string, account: string, number: string) =>
  idOf('platform lead', business, account, number);
/** The lead token of what no page sent: of a platform's lead, or a call, by its ID. */
export const madeLeadToken = (of: string) => idOf('lead token', of);
/** A call, by the telephone system's own number for it. */
export const callIdOf = (business: string, number: string) => idOf('call', business, number);
export const enquiryStrandId = (enquiry: string) => idOf('strand', enquiry);
export const visitIdOf = (firstHit: string) => idOf('visit', firstHit);
export const touchIdOf = (hit: string) => idOf('touch', hit);
export const enquiryIdOf = (business: string, leadToken: string) => idOf('enquiry', business, leadToken);
export const crmEnquiryIdOf = (business: string, account: string, deal: string) =>
  idOf('enquiry', business, account, deal);
/** An order is the same one in whatever browser it is told. */
export const orderIdOf = (business: string, number: string) => idOf('order', business, number);
/** An event is the same one for whatever page or server tells it. */
export const eventRowId = (business: string, eventId: string) => idOf('event', business, eventId);
export const eventTellingId = (event: string, account: string) => idOf('event telling', event, account);
/** A subscription, by the number that postbacks name. */
export const subscriptionIdOf = (business: string, number: string) => idOf('subscription', business, number);
export const subscriptionStrandId = (subscription: string) => idOf('subscription strand', subscription);
/** Something that somebody did on the website and an outcome may be reached by, by the hit that said it. */
export const conversionIdOf = (what: string, hit: string) => idOf('conversion', what, hit);
/** The same of a row of a file, by what it is known by there: its order, else its click and time. */
export const filedConversionId = (business: string, says: string, key: string) =>
  idOf('filed conversion', business, says, key);
export const conversionStrandId = (conversion: string) => idOf('conversion strand', conversion);
/** A sending of a form by which people subscribe. */
export const signUpIdOf = (business: string, leadToken: string) => idOf('sign-up', business, leadToken);
export const orderStrandId = (order: string) => idOf('order strand', order);
export const leadIdOf = (business: string, account: string, person: string) => idOf('lead', business, account, person);
/** The event ID under which an outcome is told: from its dedupe key, never from a page view. */
export const outcomeEventId = (business: string, code: string, key: string) => idOf('outcome', business, code, key);
export const reportBackIdOf = (event: string, account: string) => idOf('report-back', event, account);
export const noticeIdOf = (business: string, sender: string, number: string) =>
  idOf('notice', business, sender, number);
/** Of what is held as one; of the first ones of an outcome without a time (ms) since when it is. */
export const brakeIdOf = (business: string, outcome: string, version: number, account: string, since = 0) =>
  idOf('brake', business, outcome, String(version), account, String(since));
/** Of the nth correction of a report-back. */
export const correctionIdOf = (reportBack: string, n: number) => idOf('correction', reportBack, String(n));
export const dealIdOf = (business: string, account: string, number: string) => idOf('deal', business, account, number);
/** Of a company without a number in its CRM by its name, letter case and spaces aside. */
export const companyIdOf = (business: string, account: string, number: string, name: string) =>
  number !== ''
    ? idOf('company', business, account, number)
    : idOf('company by name', business, account, name.normalize('NFKC').replace(/\s+/g, ' ').trim().toLowerCase());
export const importStrandId = (lead: string) => idOf('import', lead);
/** What a routine does with a lead at one step. */
export const routineActId = (run: string, step: string) => idOf('routine act', run, step);
/** What an ad cost on a day of its account, in one currency: by the numbers of the campaign and the ad where they have some, else by their names. */
export const costIdOf = (
  business: string,
  account: string,
  day: string,
  currency: string,
  campaign: string,
  ad: string,
) => idOf('cost', business, account, day, currency, campaign, ad);
