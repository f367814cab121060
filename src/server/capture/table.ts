import { day, defineTable, type RowOf, json, text, time, uuid, whole, yes } from '../db/columns';
import type { FormOnPage, Hit, TouchWhy } from '../../core/capture';
import type { CountedFinding } from '../../core/capture/faults';
import type { Mark } from '../../core/strands';
import type { Stopped } from '../../core/capture/stopped';

export const hits = defineTable('hits', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  visitorId: uuid(),
  kind: text<Hit['kind']>(),
  host: text(),
  /** The page's time, corrected by the collector's; `pageAt` is the page's own. */
  at: time(),
  pageAt: time(),
  sentAt: time(),
  receivedAt: time(),
  releaseNumber: whole(),
  /** Host and path of the page. */
  page: text(),
  /** The engine of the browser that sent it, '' where that is not known. */
  browser: text(),
  bot: yes(),
  ownNetwork: yes(),
  body: json<Hit>(),
});
export type HitRow = RowOf<typeof hits>;

export const foreignHits = defineTable('foreign_hits', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  host: text(),
  receivedAt: time(),
  body: json<Hit>(),
});
export type ForeignHitRow = RowOf<typeof foreignHits>;

export const visits = defineTable('visits', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  visitorId: uuid(),
  startedAt: time(),
  endedAt: time(),
  pages: whole(),
  forms: whole(),
  touchId: uuid().nullable(),
  browser: text(),
  /** Hours since the browser's visit before it ended; null where this is its first. */
  gapHours: whole().nullable(),
  /** The business's day on which that one began. */
  previousOn: day().nullable(),
  /** Why its browser is no customer's; '' for everyone else. */
  marked: text<Mark>(),
});
export type VisitRow = RowOf<typeof visits>;

export const touches = defineTable('touches', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  visitorId: uuid(),
  visitId: uuid(),
  hitId: uuid(),
  at: time(),
  source: text(),
  medium: text(),
  campaign: text(),
  content: text(),
  term: text(),
  utmId: text(),
  referrer: text(),
  landing: text(),
  platform: text(),
  clickId: text(),
  /** `lead_form`: no arrival, but a lead that a platform's own form took; `call`: a call to a number of one source; `import`: a row of a list. */
  because: text<TouchWhy | 'lead_form' | 'call' | 'import'>(),
  pageBecause: text<TouchWhy | 'lead_form' | 'call' | 'import'>(),
  /** Of its visitor, whose touches are derived together; one that no page brought is both. */
  isFirst: yes(),
  isLast: yes(),
  releaseNumber: whole(),
});
export type TouchRow = RowOf<typeof touches>;

export const touchTags = defineTable('touch_tags', ['businessId', 'touchId', 'tag'], {
  businessId: uuid(),
  touchId: uuid(),
  tag: text(),
  /** As it arrived. */
  value: text(),
  visitorId: uuid(),
  at: time(),
  /** Host of the referrer, '' without one. */
  host: text(),
  campaign: text(),
});
export type TouchTagRow = RowOf<typeof touchTags>;

/** An arrival of somebody who did not agree, counted and nothing else. */
export const countedLandings = defineTable('counted_landings', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  at: time(),
  source: text(),
  medium: text(),
  campaign: text(),
});
export type CountedLandingRow = RowOf<typeof countedLandings>;

/** A page whose content security policy stopped the snippet in somebody's browser. */
export const stoppedPages = defineTable('stopped_pages', ['businessId', 'page', 'directive'], {
  businessId: uuid(),
  page: text(),
  directive: text<Stopped['directive']>(),
  wanted: text(),
  firstAt: time(),
  lastAt: time(),
});
export type StoppedPageRow = RowOf<typeof stoppedPages>;

/** An entry of the no-customer list that holds for everything ever recorded. */
export const noCustomersPast = defineTable('no_customers_past', ['businessId', 'kind', 'value'], {
  businessId: uuid(),
  kind: text<'host' | 'mail'>(),
  value: text(),
  appliedBy: uuid(),
  appliedAt: time(),
});
export type NoCustomerPastRow = RowOf<typeof noCustomersPast>;

/** What one arrival of a visitor showed of faults in links and pages; see core/capture/findings. */
export const findings = defineTable('findings', ['businessId', 'hitId', 'kind', 'name'], {
  businessId: uuid(),
  hitId: uuid(),
  kind: text<CountedFinding['kind']>(),
  name: text(),
  visitorId: uuid(),
  at: time(),
  page: text(),
  campaign: text(),
  detail: text(),
});
export type FindingRow = RowOf<typeof findings>;

/** A form on a page (host and path), as the newest hit that told of it has it. */
export const formsSeen = defineTable('forms_seen', ['businessId', 'form', 'page'], {
  businessId: uuid(),
  form: text(),
  page: text(),
  fields: json<FormOnPage['fields']>(),
  fills: json<FormOnPage['fills']>(),
  releaseNumber: whole(),
  firstAt: time(),
  lastAt: time(),
});
export type FormSeenRow = RowOf<typeof formsSeen>;

/** What could not be stored or worked out, with its reason; nothing that was answered is lost. */
export const quarantine = defineTable('quarantine', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  receivedAt: time(),
  reason: text(),
  body: text(),
  kind: text(),
});

/** Rules that are not live yet, tried in one's own browser. */
export const trials = defineTable('trials', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  personId: uuid(),
  /** In the address by which the next tab takes part; another one once a tab did. */
  token: text(),
  rules: text<'draft' | 'live'>(),
  madeAt: time(),
  endsAt: time(),
});
export type TrialRow = RowOf<typeof trials>;

/** Tabs that take part in a trial, by what they prove themselves by. */
export const trialTabs = defineTable('trial_tabs', ['businessId', 'tab'], {
  businessId: uuid(),
  tab: text(),
  trialId: uuid(),
});

/** What a browser told while it tried them. */
export const trialHits = defineTable('trial_hits', ['businessId', 'trialId', 'id'], {
  businessId: uuid(),
  trialId: uuid(),
  id: uuid(),
  hit: json<Hit>(),
});
