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

export const visitorSchema = z.object({
  id: z.uuid(),
  visitId: z.uuid(),
  visitAt: z.number().int().positive(),
  seenAt: z.number().int().positive(),
});
/** Who this browser is to this business: a random ID, the running visit, and when it was last seen (ms). */
export type Visitor = z.infer<typeof visitorSchema>;

/** What a browser keeps between pages. */
export interface Kept {
  visitor: Visitor | null;
  first: Touch | null;
  last: Touch | null;
  clicks: KeptClick[];
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
  /** What the page read back from its cookies after writing them. */
  /** What was taken out of the two addresses before they left the page. */
  pii: z.array(piiFoundSchema).max(20).optional(),
  kept: z.strictObject({
    works: z.boolean(),
    first: touchSchema.nullable(),
    last: touchSchema.nullable(),
    clicks: z.array(keptClickSchema).max(20),
  }),
};

export const arrivedHitSchema = z.strictObject({
  ...common,
  kind: z.literal('arrived'),
  navigation: z.enum(['navigate', 'reload', 'back_forward', 'prerender']),
  /** The page's own decision; the server decides again and keeps both. */
  why: touchWhySchema,
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

/** What each field of a hit must be, as the answer to a refused hit says it. */
export const hitFieldWords: Record<string, string> = {
  id: 'a UUID version 7, made by the page',
  at: 'the page’s time in whole milliseconds since 1970 UTC',
  release: 'the number of the release that the page runs',
  visitor: 'a UUID',
  visit: 'a UUID',
  address: 'an http or https address of at most 4000 characters',
  referrer: 'a text of at most 4000 characters, empty without one',
  kept: 'what the page read back from its cookies: works, first, last, clicks',
  pii: 'what the page took out of its addresses: place, name and kind, at most 20',
  forms: 'the forms of the page, at most 10: form, fields, fills',
  consent: 'what the visitor agreed to: measurement and advertising, each yes, no or not asked',
  kind: 'arrived, form_sent or forms_seen',
  navigation: 'navigate, reload, back_forward or prerender',
  why: 'the page’s own reason for its touch decision',
  form: 'the form’s name, at most 120 characters',
  leadToken: 'a UUID, the value of the hidden field avx_lead',
  fields: 'the names of the form’s fields, at most 100',
  fills: 'the report of each fill rule, at most 100',
};

export const hitSchema = z.discriminatedUnion('kind', [arrivedHitSchema, formSentHitSchema, formsSeenHitSchema]);
export type Hit = z.infer<typeof hitSchema>;
export type ArrivedHit = z.infer<typeof arrivedHitSchema>;
export type FormSentHit = z.infer<typeof formSentHitSchema>;

/** What a page sends to the edge; hits are checked one by one, so that one bad hit does not cost the others. */
export const batchSchema = z.strictObject({
  sentAt: z.number().int().positive(),
  hits: z.array(z.unknown()).min(1).max(50),
});

/* ---- rules, as they stand in a release ---- */

export const clickIdRuleSchema = z.object({
  platform: text(40),
  /** The query name under which the platform sends its click ID. */
  parameter: text(60).regex(/^[A-Za-z][\w.-]*$/, 'must begin with a letter and have only letters, digits, _ . or -'),
  /** Browsers keep no cookie longer than 400 days. */
  days: z.number().int().min(1, 'must be 1 to 400 days').max(400, 'must be 1 to 400 days'),
  /** UTM source that a click ID without UTM values takes. */
  source: text(200),
  /** Medium it takes, only where the ID proves that the click was paid for; else ''. */
  medium: text(200),
});
export type ClickIdRule = z.infer<typeof clickIdRuleSchema>;

export const keepRuleSchema = z.object({
  cookieDomain: text(253),
  touchDays: z.number().int().min(1, 'must be 1 to 400 days').max(400, 'must be 1 to 400 days'),
  /** `renewed`: the days count from the last page seen; `fixed`: from the touch itself. */
  touchAge: z.enum(['renewed', 'fixed']),
  utmLowerCase: z.boolean(),
  clickIds: z.array(clickIdRuleSchema),
});
export const touchRuleSchema = z.object({
  visitMinutes: z.number().int().min(1, 'must be 1 to 1,440 minutes').max(1440, 'must be 1 to 1,440 minutes'),
  /** Registrable names whose hosts are own pages. */
  ownHosts: z.array(text(253)).min(1),
  /** Payment and sign-in hosts; arriving from them is no new source. */
  passThroughHosts: z.array(text(253)),
});
export const readingSchema = z.enum([
  ...(['click_id', 'first_source', 'first_medium', 'first_campaign', 'first_referrer', 'first_landing'] as const),
  ...(['last_source', 'last_medium', 'last_campaign', 'last_content', 'last_term'] as const),
  ...(['last_referrer', 'last_landing'] as const),
]);
export type Reading = z.infer<typeof readingSchema>;

export const fieldFinders = ['name', 'id', 'label', 'selector'] as const;
export const fillRuleSchema = z.object({
  id: text(60).min(1),
  /** What of a field `field` is. */
  find: z.enum(fieldFinders).default('name'),
  field: text(120).min(1, 'must say which field'),
  /** Names of forms this is for; empty means every form. */
  forms: z.array(text(120).min(1)).max(50),
  /** How the paths of pages begin on which it works; empty means every page. */
  pages: z.array(text(200).regex(/^\//, 'must begin with /')).max(50).default([]),
  reading: readingSchema,
  /** For the reading `click_id`: whose; '' for the newest of any. */
  platform: text(40),
  /** `empty`: a value that stands there already stays. */
  when: z.enum(['always', 'empty']),
  /** What goes in where there is nothing to read. */
  otherwise: text(200).default(''),
});
export type FillRule = z.infer<typeof fillRuleSchema>;

/** Query names that say who somebody is on most websites. */
export const usualPiiNames = [
  ...['email', 'e-mail', 'mail', 'phone', 'telephone', 'mobile'],
  ...['first_name', 'last_name', 'firstname', 'lastname', 'birthday', 'password'],
];

/** Another query name under which a platform's click ID travels. */
export const carryRuleSchema = z.strictObject({
  platform: text(40),
  name: z
    .string()
    .regex(/^[A-Za-z][A-Za-z0-9_.-]{0,39}$/, 'must begin with a letter and have at most 40 letters, digits, _ . or -'),
});
export type CarryRule = z.infer<typeof carryRuleSchema>;

/** Everything the snippet needs to know of a release. */
export const captureRulesSchema = z.object({
  keep: keepRuleSchema,
  touch: touchRuleSchema,
  fill: z.array(fillRuleSchema),
  /** `required`: nothing is kept and nothing leaves a page before somebody agreed to measurement. */
  consent: z.object({ required: z.boolean() }),
  /** Names under which click IDs come that were put into links for it. */
  carry: z.array(carryRuleSchema).max(20).default([]),
  /** Query names whose values say who somebody is, in small letters. */
  pii: z.object({ names: z.array(text(60)).max(60) }).default({ names: usualPiiNames }),
  /** Forms that are followed, by name. */
  forms: z.array(z.object({ name: text(120).min(1), words: text(120).min(1, 'must say what people call it') })),
});
export type CaptureRules = z.infer<typeof captureRulesSchema>;
