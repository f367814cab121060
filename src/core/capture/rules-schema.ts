import { z } from 'zod';

/* The rules of pages, as they stand in a release. */

const text = (max: number) => z.string().max(max);
/** Browsers keep no cookie longer than 400 days. */
const days = z.number().int().min(1, 'must be 1 to 400 days').max(400, 'must be 1 to 400 days');

const queryName = text(60).regex(
  /^[A-Za-z][\w.-]*$/,
  'must begin with a letter and have only letters, digits, _ . or -',
);

export const clickIdRuleSchema = z.object({
  platform: text(40),
  /** The query name under which the platform sends its click ID. */
  parameter: queryName,
  /** Other names under which it sends it, such as from its own applications. */
  alsoAs: z.array(queryName).max(8, 'must be at most 8').default([]),
  days,
  /** UTM source that a click ID without UTM values takes. */
  source: text(200),
  /** Medium it takes, only where the ID proves that the click was paid for; else ''. */
  medium: text(200),
});
export type ClickIdRule = z.infer<typeof clickIdRuleSchema>;

/** What a kept value may be made of; one with anything else is not kept, and reported. */
export const keptCharacters = ['any', 'words', 'digits'] as const;

/** A query value of the business's own, kept in a cookie of its own. */
export const valueRuleSchema = z.object({
  /** The query name under which it comes; a keep rule's own name. */
  name: text(60).regex(/^[A-Za-z][\w.-]*$/, 'must begin with a letter and have only letters, digits, _ . or -'),
  /** Writing and clearing one must never touch a cookie of the website's own. */
  cookie: text(60).regex(/^avx_[\w-]+$/, 'must begin with avx_ and go on with letters, digits, _ or -'),
  days,
  age: z.enum(['renewed', 'fixed']),
  which: z.enum(['first', 'last']),
  lowerCase: z.boolean(),
  characters: z.enum(keptCharacters),
  longest: z.number().int().min(1, 'must be 1 to 200 characters').max(200, 'must be 1 to 200 characters'),
});
export type ValueRule = z.infer<typeof valueRuleSchema>;

export const keepRuleSchema = z.object({
  touchDays: days,
  /** `renewed`: the days count from the last page seen; `fixed`: from the touch itself. */
  touchAge: z.enum(['renewed', 'fixed']),
  utmLowerCase: z.boolean(),
  clickIds: z.array(clickIdRuleSchema),
  values: z.array(valueRuleSchema).max(20).default([]),
  /** `server`: the website's own subdomain sets the same cookies again, which no browser ends after 7 days. */
  setBy: z.enum(['page', 'server']).default('page'),
});
export const touchRuleSchema = z.object({
  visitMinutes: z.number().int().min(1, 'must be 1 to 1,440 minutes').max(1440, 'must be 1 to 1,440 minutes'),
  /** Registrable names whose hosts are own pages; cookies stand on the page's own one. */
  ownHosts: z.array(text(253)).min(1),
  /** Payment and sign-in hosts; arriving from them is no new source. */
  passThroughHosts: z.array(text(253)),
});
export const readingSchema = z.enum([
  ...(['click_id', 'first_source', 'first_medium', 'first_campaign', 'first_referrer', 'first_landing'] as const),
  ...(['first_content', 'first_term', 'first_id'] as const),
  ...(['last_source', 'last_medium', 'last_campaign', 'last_content', 'last_term', 'last_id'] as const),
  ...(['last_referrer', 'last_landing', 'first_referrer_host', 'last_referrer_host', 'kept_value'] as const),
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
  /** For the reading `click_id`: whose; '' for the newest of any. For `kept_value`: its query name. */
  platform: text(60),
  /** The swap table that the reading goes through; '' for none. */
  swap: text(60).default(''),
  /** `empty`: a value that stands there already stays. */
  when: z.enum(['always', 'empty']),
  /** What goes in where there is nothing to read. */
  otherwise: text(200).default(''),
});
export type FillRule = z.infer<typeof fillRuleSchema>;

/** What stands in place of a value: some words, another reading, or the value itself. */
const replacement = {
  gives: text(200),
  take: z.union([z.enum(['', 'itself']), readingSchema.exclude(['kept_value'])]),
};
/** Replaces a value by another (code → words), with what holds for all others. */
export const swapTableSchema = z.strictObject({
  name: text(60).min(1, 'must have a name'),
  rows: z.array(z.strictObject({ value: text(200).min(1, 'must say which value'), ...replacement })).max(200),
  otherwise: z.strictObject(replacement),
});
export type SwapTable = z.infer<typeof swapTableSchema>;

/** A value that a place outside is given under a query name of its own: for pages that read nothing but plain names. */
export const plainValueSchema = z.strictObject({
  name: queryName,
  reading: readingSchema,
  /** For the reading `click_id`: whose; '' for the newest of any. For `kept_value`: its query name. */
  platform: text(60),
});
export type PlainValue = z.infer<typeof plainValueSchema>;

/** What becomes of values that were taken elsewhere. */
export const returnWays = ['restored', 'thank_you', 'hook', 'nothing'] as const;

/**
 * A place outside that values follow visitors to: in the address of its frames and of the links that lead there, signed
 * and short-lived.
 */
export const elsewhereSchema = z.strictObject({
  /** What people call it; its enquiries are called so too. */
  name: text(60).min(1, 'must say what it is called'),
  host: text(253).regex(/^[a-z0-9.-]+(:\d+)?$/, 'must be a host in lower case, such as offers.example'),
  kind: z.enum(['own_website', 'frame', 'form', 'calendar']),
  /**
   * `restored`: the line stands there and restores them. `thank_you`: people come back to a page of the website with
   * them. `hook`: its back end tells Avrix, at once or by file. `nothing`: it is read there by whoever can.
   */
  returns: z.enum(returnWays),
  /** Beside the signed values: some as plain text, which anybody can read and change. */
  plain: z.array(plainValueSchema).max(20, 'must have at most 20 plain values').default([]),
});
export type Elsewhere = z.infer<typeof elsewhereSchema>;

/** Query names that say who somebody is on most websites. */
export const usualPiiNames = [
  ...['email', 'e-mail', 'mail', 'phone', 'telephone', 'mobile'],
  ...['first_name', 'last_name', 'firstname', 'lastname', 'birthday', 'password'],
];

/** Another query name under which a platform's click ID travels. */
export const carryRuleSchema = z.strictObject({
  platform: text(40),
  name: queryName,
});
export type CarryRule = z.infer<typeof carryRuleSchema>;

/** Another query name under which a tag of links travels; whatever reads the tag reads both, its own name first. */
export const tagCarrySchema = z.strictObject({
  tag: text(40).min(1, 'must say which tag'),
  name: queryName,
  /** Whether links are made with it. */
  written: z.boolean(),
});
export type TagCarry = z.infer<typeof tagCarrySchema>;

const pointer = text(200).regex(
  /^(?:\/(?:[^~/]|~[01])*)+$/,
  'must be a JSON Pointer such as /order/number: parts that each begin with /',
);

/** Where pages say an order: JSON Pointers (RFC 6901) into what they tell. */
export const orderRuleSchema = z.strictObject({
  name: text(60).min(1, 'must say what people call it'),
  number: pointer,
  currency: pointer,
  /** Amounts; the last part of each is the name by which outcomes take it. */
  amounts: z.array(pointer).max(10, 'must be at most 10'),
  /** Within how many minutes an order of the same browser with the same amounts is probably the same one; 0 for never. */
  sameMinutes: z.number().int().min(0).max(10_080, 'must be at most a week, 10,080 minutes').default(60),
});
export type OrderRule = z.infer<typeof orderRuleSchema>;

/** Where pages show a visitor's reference code (`callCode`). */
export const callCodeRuleSchema = z.strictObject({
  element: text(80).regex(
    /^[a-z]*([.#][A-Za-z_][\w-]*|\[[a-z][\w-]*(="[^"\]\\]*")?\])+$/,
    'must be an element by its class, ID or attribute, such as .call-code, #code or [data-code]',
  ),
  /** How the paths of pages begin. */
  pages: text(200).regex(/^\//, 'must begin with /'),
});
export type CallCodeRule = z.infer<typeof callCodeRuleSchema>;

/** Everything the snippet needs to know of a release. */
export const captureRulesSchema = z.object({
  keep: keepRuleSchema,
  touch: touchRuleSchema,
  fill: z.array(fillRuleSchema),
  /** `required`: nothing is kept and nothing leaves a page before somebody agreed to measurement. */
  consent: z.object({
    required: z.boolean(),
    /** Where it is required: arrivals of people who were not asked, or said no, are counted without any identifier. */
    count: z.boolean().default(false),
  }),
  /** Names under which click IDs come that were put into links for it. */
  carry: z.array(carryRuleSchema).max(20).default([]),
  tagCarry: z.array(tagCarrySchema).max(40).default([]),
  elsewhere: z.array(elsewhereSchema).max(40).default([]),
  swaps: z.array(swapTableSchema).max(40).default([]),
  /** Query names whose values say who somebody is, in lower case. */
  pii: z.object({ names: z.array(text(60)).max(60) }).default({ names: usualPiiNames }),
  /** Forms that are followed, by name. */
  forms: z.array(
    z.object({
      name: text(120).min(1),
      words: text(120).min(1, 'must say what people call it'),
      /** What each sending is: an enquiry, which the CRM follows; or a sign-up for a subscription, whose payments are posted. */
      counts: z.enum(['enquiry', 'sign_up']).default('enquiry'),
    }),
  ),
  orders: z.array(orderRuleSchema).max(5, 'must be at most 5').default([]),
  callCodes: z.array(callCodeRuleSchema).max(20, 'must be at most 20').default([]),
});
export type CaptureRules = z.infer<typeof captureRulesSchema>;
