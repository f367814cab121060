import { arrive, newestClick, nothingKept, pageOf } from '../capture';
import { findingsOf, silentPage, type DecidedArrival, type Finding } from '../capture/findings';
import { markOf } from '../capture/no-customer';
import { arrivedTags } from '../plan/arrived-tags';
import type { ArrivedHit, CaptureRules, EventHit, FormSentHit, Hit, Kept, Touch, TouchWhy } from '../capture/schema';
import { clickStrandId, enquiryIdOf, landingStrandId, touchIdOf, visitIdOf } from './ids';
import type { HopRow, KnownConsent, Mark, Strand, StrandKind } from './types';
import { arrivalHops, formSentHop, onwardHop, orderedHop } from './visitor-hops';
import { takeEvent, takeHanded, type EventAccount, type DerivedEvent } from './visitor-events';
import { takeConversion, type ConversionRule, type DerivedConversion } from './visitor-conversions';
import { takeOrder, takeSignUp, type DerivedOrder, type DerivedSignUp } from './visitor-orders';

/** A hit as it was recorded: `at` is the page's time corrected by the collector's (ms). */
export interface RecordedHit {
  hit: Hit;
  at: number;
  /** Why the edge knows it as no customer's; '' for everyone else. */
  mark: Mark;
  /** The engine of the browser that sent it, '' where that is not known. */
  browser: string;
}

export interface DerivedVisit {
  id: string;
  visitor: string;
  startedAt: number;
  endedAt: number;
  pages: number;
  forms: number;
  /** The touch in force: this visit's newest, else none (direct). */
  touch: string | null;
  browser: string;
}

export interface DerivedTouch extends Touch {
  id: string;
  visit: string;
  hit: string;
  because: TouchWhy;
  /** What the page itself decided about the same arrival. */
  pageBecause: TouchWhy;
  release: number;
  /** Every tag of the plan that stood in the address, as it stood there. */
  tags: [tag: string, value: string][];
}

export interface DerivedEnquiry {
  id: string;
  leadToken: string;
  hit: string;
  strand: string | null;
  touch: string | null;
  /** True where a click ID was still kept when it was sent. */
  clickKept: boolean;
  form: string;
  page: string;
  sentAt: number;
  /** The number of the visit of this browser it was sent in, from 1. */
  visitNumber: number;
  release: number;
  fields: string[];
  fills: FormSentHit['fills'];
  marked: Mark;
  /** What this visitor agreed to as the pages last said, also after the enquiry; null where they never did. */
  consent: KnownConsent | null;
}

/** What one arrival showed of faults in links and pages. */
export interface DerivedFinding extends Finding {
  hit: string;
  at: number;
}

export interface DerivedVisitor {
  visits: DerivedVisit[];
  touches: DerivedTouch[];
  strands: Strand[];
  hops: HopRow[];
  enquiries: DerivedEnquiry[];
  orders: DerivedOrder[];
  signUps: DerivedSignUp[];
  events: DerivedEvent[];
  conversions: DerivedConversion[];
  findings: DerivedFinding[];
  /** Why the browser is no customer's; '' for everyone else. */
  marked: Mark;
  /** When (ms) to derive again because time alone changes a state; null when it never does. */
  again: number | null;
}

/** What of a release a visitor's rows are derived by: the rules of its pages, and the tags of its plan. */
export interface VisitorRules extends CaptureRules {
  tags: string[];
  /** Media that the plan says are paid. */
  paidMedia: string[];
  /** Hosts on which nobody is a customer. */
  noCustomerHosts: string[];
  /** Its events by their names, each with the accounts that it is told to. */
  eventAccounts: Readonly<Record<string, readonly EventAccount[]>>;
  /** What on the website an outcome is reached by, and in what readings that are numbers are counted. */
  conversions: readonly ConversionRule[];
  units: Readonly<Record<string, string>>;
  /** What platforms write into links and replace at each click. */
  placeholders: string[];
}

/** A click ID that this browser brought, with the touch it came with. */
interface KnownClick {
  platform: string;
  clickId: string;
  touch: DerivedTouch;
}

interface Running {
  kept: Kept;
  visit: DerivedVisit | null;
  lastTouch: DerivedTouch | null;
  /** Every click ID that ever came, also where its cookie has ended (touch rule 4). */
  clicks: KnownClick[];
}

/**
 * Derives everything that follows from one browser's hits: its visits, touches, strands with their hops up to Form
 * sent, and the enquiries it sent. The hits may come in any order; they are taken by page time, each under the rules
 * of its own release. The same hits always give the same rows with the same IDs.
 *
 * @param now ms; decides whether a visit has ended
 * @param known why the whole visitor is known as no customer, from elsewhere than its hits
 */
export function deriveVisitor(
  business: string,
  visitor: string,
  recorded: RecordedHit[],
  rulesOf: (release: number) => VisitorRules,
  now: number,
  known: Mark = '',
): DerivedVisitor {
  const derived: DerivedVisitor = {
    visits: [],
    touches: [],
    strands: [],
    hops: [],
    enquiries: [],
    orders: [],
    signUps: [],
    events: [],
    conversions: [],
    findings: [],
    marked: '',
    again: null,
  };
  const running: Running = { kept: nothingKept(), visit: null, lastTouch: null, clicks: [] };
  const strands = new Map<string, Strand>();
  const arrivals = new Map<string, { hit: ArrivedHit; at: number }>();
  const pages = new Set<string>();
  const ownMarks = recorded.map(({ hit, mark }) => markOf(hit, mark, rulesOf(hit.release).noCustomerHosts));
  const marked = ownMarks.find((mark) => mark !== '') ?? known;
  derived.marked = marked;
  const browser = recorded.find((one) => one.browser !== '')?.browser ?? '';
  const ordered = [...recorded].sort((a, b) => a.at - b.at || (a.hit.id < b.hit.id ? -1 : 1));

  const convert = (hit: EventHit | ArrivedHit, at: number, rules: VisitorRules) => {
    const { visits, touches, conversions } = derived;
    const taken = takeConversion(business, hit, at, visits.length, running.clicks, touches, rules, conversions);
    if (taken) conversions.push({ ...taken, marked, consent: null });
  };

  for (const { hit, at } of ordered) {
    const rules = rulesOf(hit.release);
    if (hit.kind === 'arrived') {
      const { touch, clicks, ...decided } = takeArrival(running, derived, visitor, hit, at, rules);
      const found = marked ? [] : findingsOf(hit, decided, rules, rules.placeholders);
      const silent = marked ? null : silentPage(hit, pages);
      if (silent) found.push({ kind: 'page_silent', name: '', page: silent, campaign: '', detail: '' });
      derived.findings.push(...found.map((one) => ({ ...one, hit: hit.id, at })));
      pages.add(pageOf(hit.address));
      convert(hit, at, rules);
      for (const strand of touch ? strandsOf(business, visitor, touch, clicks, marked) : []) {
        if (strands.has(strand.id)) continue;
        strands.set(strand.id, strand);
        arrivals.set(strand.id, { hit, at });
      }
    } else if (hit.kind === 'form_sent') {
      continueVisit(running, derived, visitor, hit.id, at, rules);
      running.visit!.forms += 1;
      if (isSignUp(hit.form, rules)) {
        const by = [running.clicks, derived.touches, rules] as const;
        derived.signUps.push({ ...takeSignUp(business, hit, at, derived.visits.length, ...by), marked, consent: null });
        continue;
      }
      const enquiry = makeEnquiry(business, running, derived.visits.length, hit, at, strands);
      derived.enquiries.push({ ...enquiry, marked, consent: null });
    } else if (hit.kind === 'ordered') {
      continueVisit(running, derived, visitor, hit.id, at, rules);
      const order = takeOrder(
        business,
        hit,
        at,
        derived.visits.length,
        running.clicks,
        derived.touches,
        rules,
        derived.orders,
      );
      // The page that says it again, at a reload, says nothing new.
      if (derived.orders.some(({ id }) => id === order.id)) continue;
      derived.orders.push({ ...order, marked, consent: null });
    } else if (hit.kind === 'event') {
      if (!running.visit) continueVisit(running, derived, visitor, hit.id, at, rules);
      const event = takeEvent(business, hit, at, running.visit!, running.clicks, derived.touches, rules);
      if (!event || derived.events.some((one) => one.id === event.id)) continue;
      derived.events.push({ ...event, marked, consent: null });
      convert(hit, at, rules);
    } else if (hit.kind === 'handed') {
      takeHanded(derived.events, hit, at);
    }
  }

  const consent = lastConsent(ordered);
  const { enquiries, orders, signUps, events, conversions } = derived;
  for (const one of [...enquiries, ...orders, ...signUps, ...events, ...conversions]) one.consent = consent;
  for (const one of [...orders, ...signUps, ...conversions]) one.strands = one.strands.filter((id) => strands.has(id));
  for (const visit of derived.visits) visit.browser = browser;
  derived.strands = [...strands.values()];
  for (const strand of derived.strands) {
    const arrival = arrivals.get(strand.id)!;
    const hops = arrivalHops(strand, arrival.hit, arrival.at);
    derived.hops.push(...hops);
    if (hops.at(-1)!.state !== 'made_it') continue;
    const ends = visitEnd(derived, arrival.at, rulesOf(arrival.hit.release));
    derived.hops.push(onwardHop(strand, arrival.hit.release, ends <= now));
    if (ends > now) derived.again = Math.min(derived.again ?? ends, ends);
    const sent = derived.enquiries.filter((e) => e.strand === strand.id);
    derived.hops.push(...sent.map((enquiry) => formSentHop(strand, enquiry)));
    const ordered = derived.orders.filter((order) => order.strands.includes(strand.id));
    derived.hops.push(...ordered.map((order) => orderedHop(strand, order)));
  }
  return derived;
}

/** Whether people subscribe by a form; whoever does is no enquiry. */
const isSignUp = (form: string, { forms }: VisitorRules): boolean =>
  forms.some(({ name, counts }) => name === form && counts === 'sign_up');

/** What pages last said of consent. */
function lastConsent(ordered: RecordedHit[]): KnownConsent | null {
  const last = ordered.findLast(({ hit }) => hit.consent);
  return last ? { ...last.hit.consent!, at: last.at } : null;
}

/** What one arrival gave: the touch it started, and each click ID that was new with what it makes of that touch. */
interface TakenArrival extends DecidedArrival {
  touch: DerivedTouch | null;
  clicks: Touch[];
}

function takeArrival(
  running: Running,
  derived: DerivedVisitor,
  visitor: string,
  hit: ArrivedHit,
  at: number,
  rules: VisitorRules,
): TakenArrival {
  const arrival = { at, address: hit.address, referrer: hit.referrer, navigation: hit.navigation };
  const fresh = { visitor, visit: visitIdOf(hit.id) };
  const { kept, decision, gaveWay } = arrive(running.kept, arrival, rules, fresh, running.clicks);
  const { because, clicks } = decision;
  running.kept = kept;
  stepVisit(running, derived, visitor, at);
  running.visit!.pages += 1;
  if (!decision.touch) return { touch: null, clicks, because, gaveWay };
  const touch: DerivedTouch = {
    ...decision.touch,
    id: touchIdOf(hit.id),
    visit: running.visit!.id,
    hit: hit.id,
    because,
    pageBecause: hit.why,
    release: hit.release,
    tags: arrivedTags(hit.address, rules.tags, rules.tagCarry),
  };
  derived.touches.push(touch);
  running.visit!.touch = touch.id;
  running.lastTouch = touch;
  running.clicks.push(...clicks.map(({ platform, clickId }) => ({ platform, clickId, touch })));
  return { touch, clicks, because, gaveWay };
}

/** A form hit moves the visit on as a page does, without being an arrival. */
function continueVisit(
  running: Running,
  derived: DerivedVisitor,
  visitor: string,
  hitId: string,
  at: number,
  rules: CaptureRules,
): void {
  const { visitor: kept } = running.kept;
  const idle = !kept || at - kept.seenAt >= rules.touch.visitMinutes * 60_000;
  running.kept = {
    ...running.kept,
    visitor: {
      id: visitor,
      visitId: idle ? visitIdOf(hitId) : kept.visitId,
      visitAt: idle ? at : kept.visitAt,
      seenAt: at,
      noCustomer: Boolean(kept?.noCustomer),
    },
  };
  stepVisit(running, derived, visitor, at);
}

function stepVisit(running: Running, derived: DerivedVisitor, visitor: string, at: number): void {
  const id = running.kept.visitor!.visitId;
  if (running.visit?.id !== id) {
    running.visit = { id, visitor, startedAt: at, endedAt: at, pages: 0, forms: 0, touch: null, browser: '' };
    derived.visits.push(running.visit);
  }
  running.visit.endedAt = Math.max(running.visit.endedAt, at);
}

/** The strands a touch begins: one for each new click ID, else that of its tagged landing; an untagged touch begins none. */
function strandsOf(business: string, visitor: string, touch: DerivedTouch, clicks: Touch[], marked: Mark): Strand[] {
  const begin = (kind: StrandKind, id: string, from: Touch): Strand => ({
    id,
    kind,
    platform: from.platform,
    clickId: from.clickId,
    firstAt: from.at,
    source: from.source,
    medium: from.medium,
    campaign: from.campaign,
    content: from.content,
    utmId: from.utmId,
    visitor,
    marked,
  });
  if (clicks.length > 0)
    return clicks.map((click) => begin('click', clickStrandId(business, click.platform, click.clickId), click));
  return touch.because === 'campaign_values' ? [begin('landing', landingStrandId(touch.id), touch)] : [];
}

/**
 * What brought an enquiry: the newest click still kept, else the last touch (touch rules 4 and 7); where neither is kept any
 * more, the click whose ID the form carried all the same, as a page keeps one that comes again after its time.
 */
function broughtBy({ kept, lastTouch, clicks }: Running, { fills }: FormSentHit): KnownClick | DerivedTouch | null {
  const newest = newestClick(kept.clicks);
  const find = (clickId: string, platform = '') =>
    clicks.find((one) => one.clickId === clickId && (platform === '' || one.platform === platform));
  if (newest) return find(newest.clickId, newest.platform) ?? null;
  if (kept.last) return lastTouch;
  const sent = fills.find(({ reading, state }) => reading === 'click_id' && state === 'filled');
  return sent ? (find(sent.value) ?? null) : null;
}

function makeEnquiry(
  business: string,
  running: Running,
  visitNumber: number,
  hit: FormSentHit,
  at: number,
  strands: Map<string, Strand>,
): Omit<DerivedEnquiry, 'marked' | 'consent'> {
  const by = broughtBy(running, hit);
  const touch = by && 'touch' in by ? by.touch : by;
  const strand = by && (by.clickId ? clickStrandId(business, by.platform, by.clickId) : landingStrandId(touch!.id));
  return {
    id: enquiryIdOf(business, hit.leadToken),
    leadToken: hit.leadToken,
    hit: hit.id,
    strand: strand && strands.has(strand) ? strand : null,
    touch: touch?.id ?? null,
    clickKept: running.kept.clicks.length > 0,
    form: hit.form,
    page: hit.address,
    sentAt: at,
    visitNumber,
    release: hit.release,
    fields: hit.fields,
    fills: hit.fills,
  };
}

function visitEnd(derived: DerivedVisitor, at: number, rules: CaptureRules): number {
  const visit = derived.visits.find((v) => v.startedAt <= at && at <= v.endedAt);
  return (visit?.endedAt ?? at) + rules.touch.visitMinutes * 60_000;
}
