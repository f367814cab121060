import { z } from 'zod';

/** A query value of a tag or click ID as it is stored: at most 200 characters, none of them a control character. */
const text = (max: number) => z.string().max(max);

/** Where one arrival came from. Times are milliseconds since 1970 UTC; a value that was not there is ''. */
export const touchSchema = z.strictObject({
  at: z.number().int().positive(),
  source: text(200),
  medium: text(200),
  campaign: text(200),
  content: text(200),
  term: text(200),
  utmId: text(200),
  /** Host and path of the referrer, without its query. */
  referrer: text(300),
  /** Host and path of the landing page, without its query. */
  landing: text(300),
  /** The click ID that came with this touch, and the platform whose it is; '' without one. */
  platform: text(40),
  clickId: text(300),
});
export type Touch = z.infer<typeof touchSchema>;

export const keptClickSchema = z.strictObject({
  platform: text(40),
  clickId: text(300),
  at: z.number().int().positive(),
});
/** A click ID kept for its platform with the time of its click (ms). */
export type KeptClick = z.infer<typeof keptClickSchema>;

export const keptValueSchema = z.strictObject({ name: text(60), value: text(300), at: z.number().int().positive() });
/** A query value of the business's own that is kept, by its query name, with when it came (ms). */
export type KeptValue = z.infer<typeof keptValueSchema>;

export const visitorSchema = z.object({
  id: z.uuid(),
  visitId: z.uuid(),
  visitAt: z.number().int().positive(),
  seenAt: z.number().int().positive(),
  /** Marked by a link as one of the business's own browsers. */
  noCustomer: z.boolean(),
});
/** Who this browser is to this business: a random ID, the running visit, and when it was last seen (ms). */
export type Visitor = z.infer<typeof visitorSchema>;

/** What a browser keeps between pages. */
export interface Kept {
  visitor: Visitor | null;
  first: Touch | null;
  last: Touch | null;
  clicks: KeptClick[];
  values: KeptValue[];
}

export const touchWhySchema = z.enum([
  'click_id_new',
  'campaign_values',
  'outside_referrer',
  'reloaded',
  'history_step',
  'click_id_known',
  'own_link_tagged',
  'own_page',
  'no_source_host',
  'no_referrer',
]);
/** Why an arrival started a touch (the first three) or started none. */
export type TouchWhy = z.infer<typeof touchWhySchema>;

export const consentSchema = z.strictObject({
  measurement: z.enum(['yes', 'no', 'not asked']),
  advertising: z.enum(['yes', 'no', 'not asked']),
});
/** What somebody agreed to, as the website last said by its event `avrix:consent`. */
export type Consent = z.infer<typeof consentSchema>;

export const fillStateSchema = z.enum(['filled', 'had_value', 'no_value', 'not_found', 'near']);
export const fillReportSchema = z.strictObject({
  rule: text(60),
  /** The field the rule looks for. */
  field: text(120),
  /** With the state `near`: the field that was there instead; else ''. */
  near: text(120),
  state: fillStateSchema,
  reading: text(40),
  /** What stands in the field now: always one of our own readings, never what the person wrote. */
  value: text(300),
});
export type FillReport = z.infer<typeof fillReportSchema>;

export const piiFoundSchema = z.strictObject({
  place: z.enum(['user', 'path', 'query', 'fragment']),
  /** The query name under which it stood; '' elsewhere. */
  name: text(60),
  kind: z.enum(['mail', 'telephone', 'listed']),
});
/** That something said who somebody is, and where; never what it was. */
export type PiiFound = z.infer<typeof piiFoundSchema>;

/** Hits are strict: what stands in one is stored as it came, so nothing may stand in it that is not known here. */
const common = {
  id: z.uuid({ version: 'v7' }),
  /** The page's clock, ms. */
  at: z.number().int().positive(),
  release: z.number().int().positive(),
  visitor: z.uuid(),
  visit: z.uuid(),
  address: text(4000).regex(/^https?:\/\/[^\s/?#]/i, 'no http or https address'),
  referrer: text(4000),
  /** Missing where the website said nothing yet. */
  consent: consentSchema.optional(),
  /** The browser was marked as one of the business's own by its link. */
  noCustomer: z.literal(true).optional(),
  /** What was taken out of the two addresses before they left the page. */
  pii: z.array(piiFoundSchema).max(20).optional(),
  /** What the page read back from its cookies after writing them. */
  kept: z.strictObject({
    works: z.boolean(),
    first: touchSchema.nullable(),
    last: touchSchema.nullable(),
    clicks: z.array(keptClickSchema).max(20),
    values: z.array(keptValueSchema).max(20).optional(),
  }),
};

export const arrivedHitSchema = z.strictObject({
  ...common,
  kind: z.literal('arrived'),
  navigation: z.enum(['navigate', 'reload', 'back_forward', 'prerender']),
  /** The page's own decision; the server decides again and keeps both. */
  why: touchWhySchema,
  /** How often the line stands in the page, where that is not once. */
  lines: z.number().int().min(2).max(99).optional(),
  /** The place outside from which its values came back. */
  restored: text(60).optional(),
});

export const formSentHitSchema = z.strictObject({
  ...common,
  kind: z.literal('form_sent'),
  form: text(120),
  leadToken: z.uuid(),
  /** Names of the fields, never their contents. */
  fields: z.array(text(120)).max(100),
  fills: z.array(fillReportSchema).max(100),
});

export const seenFormSchema = z.strictObject({
  /** Its name, else its ID. */
  form: text(120),
  /** Names of its fields, never their contents, and whether a visitor sees them. */
  fields: z.array(z.strictObject({ name: text(120), hidden: z.boolean() })).max(60),
  /** What became of each fill rule, without values. */
  fills: z.array(fillReportSchema.pick({ rule: true, field: true, near: true, state: true })).max(60),
});
/** A form as it stood on a page. */
export type FormOnPage = z.infer<typeof seenFormSchema>;

/** Sent once by each browser for each page and form, and again when either changes. */
export const formsSeenHitSchema = z.strictObject({
  ...common,
  kind: z.literal('forms_seen'),
  forms: z.array(seenFormSchema).min(1).max(10),
});

/** A page said an order: once more at each reload. */
export const orderedHitSchema = z.strictObject({
  ...common,
  kind: z.literal('ordered'),
  number: text(60).min(1),
  /** ISO 4217, '' where the page says none. */
  currency: text(3),
  /** As they stand there: decimal numbers of major units. */
  amounts: z.array(z.strictObject({ name: text(60), amount: text(30) })).max(10),
});

export const pressSchema = z.strictObject({
  tag: text(20).min(1),
  id: text(80),
  name: text(80),
  /** Where it leads, without query and fragment; '' for a button. */
  link: text(300),
  /** The words on it. */
  text: text(60),
  data: z.array(z.tuple([text(40), text(60)])).max(8),
});

/** Somebody pressed a link or a button. */
export const pressedHitSchema = z.strictObject({ ...common, kind: z.literal('pressed'), press: pressSchema });

/** An event went off on the page. */
export const eventHitSchema = z.strictObject({
  ...common,
  kind: z.literal('event'),
  event: text(40).min(1),
  /** What it counts once for: a lead token, an order's number, a visit …; see core/events. */
  key: text(300).min(1),
  /** Which of its cues set it off, from 0. */
  cue: z.number().int().min(0).max(7),
  reads: z.array(z.strictObject({ reading: text(60), value: text(200) })).max(20),
});

/** What became of an event that a page told a destination by its opener. */
export const handings = ['told', 'no_opener', 'no_function', 'failed'] as const;

/** A page told a destination of an event, or could not. */
export const handedHitSchema = z.strictObject({
  ...common,
  kind: z.literal('handed'),
  event: text(40).min(1),
  key: text(300).min(1),
  account: text(80).min(1),
  how: z.enum(handings),
});

/** Somebody who had agreed to something now says otherwise; the browser forgets after it, the rows know from it. */
export const consentHitSchema = z.strictObject({ ...common, kind: z.literal('consent') });

/** What each field of a hit must be, as the answer to a refused hit says it. */
export const hitFieldWords: Record<string, string> = {
  id: 'a UUID version 7, made by the page',
  at: 'the page’s time in whole milliseconds since 1970 UTC',
  release: 'the number of the release that the page runs',
  visitor: 'a UUID',
  visit: 'a UUID',
  address: 'an http or https address of at most 4000 characters',
  referrer: 'a text of at most 4000 characters, empty without one',
  kept: 'what the page read back from its cookies: works, first, last, clicks, values',
  noCustomer: 'true, or left out',
  restored: 'the name of a place outside, at most 60 characters, or left out',
  lines: 'how often the snippet is in the page, 2 to 99, or left out',
  pii: 'what the page took out of its addresses: place, name and kind, at most 20',
  forms: 'the forms of the page, at most 10: form, fields, fills',
  consent: 'what the visitor agreed to: measurement and advertising, each yes, no or not asked',
  kind: 'arrived, form_sent, forms_seen, ordered, pressed, event, handed or consent',
  account: 'the key of the account that was told, 1 to 80 characters',
  how: 'what became of it: told, no_opener, no_function or failed',
  press: 'what was pressed: tag, id, name, link, text (at most 60 characters) and data',
  event: 'the event’s name, at most 40 characters',
  key: 'what the event counts once for, 1 to 300 characters',
  cue: 'which cue of the event set it off, 0 to 7',
  reads: 'what the event takes along, at most 20: reading and value',
  navigation: 'navigate, reload, back_forward or prerender',
  why: 'the page’s own reason for its touch decision',
  form: 'the form’s name, at most 120 characters',
  leadToken: 'a UUID, the value of the hidden field avx_lead',
  fields: 'the names of the form’s fields, at most 100',
  fills: 'the report of each fill rule, at most 100',
  number: 'the order’s number, 1 to 60 characters',
  currency: 'three capital letters of ISO 4217, or empty',
  amounts: 'at most 10 amounts of the order, each a name and a decimal number',
};

export const hitSchema = z.discriminatedUnion('kind', [
  arrivedHitSchema,
  formSentHitSchema,
  formsSeenHitSchema,
  consentHitSchema,
  orderedHitSchema,
  pressedHitSchema,
  eventHitSchema,
  handedHitSchema,
]);
export type Hit = z.infer<typeof hitSchema>;
export type ArrivedHit = z.infer<typeof arrivedHitSchema>;
export type OrderedHit = z.infer<typeof orderedHitSchema>;
export type EventHit = z.infer<typeof eventHitSchema>;
export type HandedHit = z.infer<typeof handedHitSchema>;
export type FormSentHit = z.infer<typeof formSentHitSchema>;

/** What a page sends to the edge; hits are checked one by one, so that one bad hit does not cost the others. */
export const batchSchema = z
  .strictObject({
    /** The page's clock (ms) when it was sent; a snippet of before called it `sentAt`. */
    clock: z.number().int().positive().optional(),
    sentAt: z.number().int().positive().optional(),
    hits: z.array(z.unknown()).min(1).max(50),
  })
  .refine((batch) => clockOf(batch) !== undefined, { path: ['clock'], message: 'must be the page’s clock in ms' });

/** The page's clock (ms) of a batch, also of one that a snippet of before sent. */
export const clockOf = ({ clock, sentAt }: { clock?: number | undefined; sentAt?: number | undefined }) =>
  clock ?? sentAt;
