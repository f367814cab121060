import { groupBy } from '../group-by';
import {
  worthsBeside,
  conversionHappening,
  countOutcome,
  dealHappenings,
  fieldsWanted,
  ladderOf,
  orderHappening,
  noStages,
  type Counted,
  type OutcomeRule,
  type PaymentNotice,
} from '../outcomes';
import { enquiryHops, enquiryState, type CrmRecord } from '../leads';
import { qualifiedOutcome, rulesOfContent, type Release, type ReleaseContent } from '../releases';
import {
  aloneStrand,
  deriveVisitor,
  enquiryStrandId,
  followStrand,
  onward,
  orderStrandId,
  speakingRows,
  traceValues,
  type DerivedEnquiry,
  type DerivedOrder,
  type DerivedVisitor,
  type HopRow,
  type Strand,
  type WayInKind,
} from '../strands';
import { tellingHops } from '../reportbacks';
import { waysIn } from '../ways-in';
import type { Hit } from '../capture/schema';
import { pretendRelease, type KnownWorld } from './known';
import { eventTellings, outcomeTellings, type PretendTelling } from './tellings';
import type { RecordedHit } from '../strands/visitor';

/** An outcome that was reached, with the strands that may be told of it. */
export interface ReachedOutcome {
  rule: OutcomeRule;
  counted: Counted;
  subject: { kind: 'enquiry' | 'order' | 'conversion'; id: string };
  strands: Strand[];
  lastPaid: string | null;
  consent: DerivedEnquiry['consent'];
  crmClickId: string | null;
  stageChanges: CrmRecord['stageChanges'];
  /** The number of the order that it is probably the same as; '' for none. */
  sameAs: string;
  /** What became of its payment. */
  notices: PaymentNotice[];
}

/** What came of the newest enquiry or order of a walk; of a visit without either, of its newest strand. */
export interface Followed {
  way: WayInKind;
  strand: Strand;
  hops: HopRow[];
  values: ReturnType<typeof traceValues>;
}

/** What the CRM holds of enquiries, by their IDs. */
type Records = Map<string, CrmRecord | null>;

/** The business of rehearsals: IDs made for it are nobody's. */
const nobody = 'rehearsal';

/** What follows from what browsers told: what was reached, and what each account would be told. */
export interface FollowedHits {
  all: DerivedVisitor;
  followed: Followed | null;
  outcomes: ReachedOutcome[];
  tellings: PretendTelling[];
  release: Release;
}

/**
 * Works out what follows from hits by the same functions that real visitors are worked out by: visits, touches and strands,
 * the CRM's record, what is counted, and what each platform and destination would be told. Nothing is stored or sent.
 *
 * @param recordOf what the CRM has of an enquiry, or would have; null where nothing
 * @param now ms
 * @param noticesOf what became of an order's payment
 */
export function followHits(
  hits: RecordedHit[],
  recordOf: (enquiry: DerivedEnquiry) => CrmRecord | null,
  content: ReleaseContent,
  world: KnownWorld,
  now: number,
  noticesOf: (order: DerivedOrder) => PaymentNotice[] = () => [],
): FollowedHits {
  const release = pretendRelease(content);
  const rules = rulesOfContent(content);
  const all = [...groupBy(hits, ({ hit }) => hit.visitor)]
    .map(([id, own]) => deriveVisitor(nobody, id, own, () => rules, now))
    .reduce(merge, emptyVisitor());
  const strandOf = new Map(all.strands.map((strand) => [strand.id, strand]));
  const records = new Map(all.enquiries.map((enquiry) => [enquiry.id, recordOf(enquiry)]));
  const outcomes = onLadders(reachedOutcomes(all, strandOf, records, content, noticesOf), content);
  const tellings = [
    ...outcomes.flatMap((one) => outcomeTellings(one, release, world)),
    ...all.events.flatMap((event) => eventTellings(event, content, world)),
  ];
  const known = { all, strandOf, records, outcomes, tellings, hits: hits.map(({ hit }) => hit), release, now };
  return { all, followed: followNewest(known), outcomes, tellings, release };
}

/** How often each event went off, by its name. */
export function timesOf({ all }: Pick<FollowedHits, 'all'>): Record<string, number> {
  const events: Record<string, number> = {};
  for (const { name } of all.events) events[name] = (events[name] ?? 0) + 1;
  return events;
}

const emptyVisitor = (): DerivedVisitor => ({
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
});

/** What two browsers of one person came to: what is known by one ID is one, as it is stored. */
function merge(a: DerivedVisitor, b: DerivedVisitor): DerivedVisitor {
  const once = <One extends { id: string }>(first: One[], second: One[]) => [
    ...first,
    ...second.filter(({ id }) => !first.some((one) => one.id === id)),
  ];
  return {
    visits: once(a.visits, b.visits),
    touches: once(a.touches, b.touches),
    strands: once(a.strands, b.strands),
    hops: [...a.hops, ...b.hops],
    enquiries: once(a.enquiries, b.enquiries),
    orders: once(a.orders, b.orders),
    signUps: once(a.signUps, b.signUps),
    events: once(a.events, b.events),
    conversions: once(a.conversions, b.conversions),
    findings: [...a.findings, ...b.findings],
    marked: a.marked || b.marked,
    again: null,
  };
}

/** Every outcome that an enquiry's deal, an order, an event or a page reached, each once by its dedupe key. */
function reachedOutcomes(
  all: DerivedVisitor,
  strandOf: Map<string, Strand>,
  records: Records,
  content: ReleaseContent,
  noticesOf: (order: DerivedOrder) => PaymentNotice[],
): ReachedOutcome[] {
  const stages = content.crm?.stages ?? noStages;
  const known = new Set<string>();
  const count = (happenings: ReturnType<typeof dealHappenings>, of: Omit<ReachedOutcome, 'rule' | 'counted'>) =>
    happenings.flatMap((happening) =>
      content.outcomes.flatMap((rule): ReachedOutcome[] => {
        const counted = countOutcome(happening, rule, stages);
        if (!counted || known.has(`${rule.code} ${counted.key}`)) return [];
        known.add(`${rule.code} ${counted.key}`);
        return [{ rule, counted, ...of }];
      }),
    );
  const ofDeals = all.enquiries.flatMap((enquiry) => {
    const record = records.get(enquiry.id);
    if (!record) return [];
    const strand = strandOfEnquiry(enquiry, strandOf);
    const keys = { deal: enquiry.id, lead: nobody };
    return count(dealHappenings(enquiry.id, record, keys, stages, {}, fieldsWanted(content.outcomes)), {
      subject: { kind: 'enquiry', id: enquiry.id },
      strands: [strand],
      lastPaid: strand.kind === 'click' ? strand.id : null,
      consent: enquiry.consent,
      crmClickId: record.fields[content.crm?.fields.click_id ?? ''] ?? '',
      stageChanges: record.stageChanges,
      sameAs: '',
      notices: [],
    });
  });
  const ofOrders = all.orders.flatMap((order) =>
    count([orderHappening(order, order.at)], {
      subject: { kind: 'order', id: order.id },
      strands: order.strands.flatMap((id) => strandOf.get(id) ?? []),
      lastPaid: order.lastPaid,
      consent: order.consent,
      crmClickId: null,
      stageChanges: [],
      sameAs: order.sameAs,
      notices: noticesOf(order),
    }),
  );
  const ofWebsite = all.conversions.flatMap((conversion) =>
    count([conversionHappening(conversion, conversion.at, nobody)], {
      subject: { kind: 'conversion', id: conversion.id },
      strands: conversion.strands.flatMap((id) => strandOf.get(id) ?? []),
      lastPaid: conversion.lastPaid,
      consent: conversion.consent,
      crmClickId: null,
      stageChanges: [],
      sameAs: '',
      notices: [],
    }),
  );
  return [...ofDeals, ...ofOrders, ...ofWebsite].sort((a, b) => a.counted.at - b.counted.at);
}

/** The same, each worth what it is beside the other steps of its ladder. */
function onLadders(outcomes: ReachedOutcome[], { ladders }: ReleaseContent): ReachedOutcome[] {
  const bySubject = [...groupBy(outcomes, ({ subject }) => subject.id).values()];
  const beside = bySubject.flatMap((reached) => {
    const worths = worthsBeside(
      reached.map(({ rule: { code }, counted: { worth } }) => ({ code, worth, ladder: ladderOf(ladders, code) })),
    );
    return reached.map((one, i) => ({ ...one, counted: { ...one.counted, worth: worths[i]! } }));
  });
  return beside.sort((a, b) => a.counted.at - b.counted.at);
}

const strandOfEnquiry = (enquiry: DerivedEnquiry, strandOf: Map<string, Strand>): Strand =>
  (enquiry.strand && strandOf.get(enquiry.strand)) ||
  aloneStrand('enquiry', enquiryStrandId(enquiry.id), enquiry.sentAt, '');

/** What is known of a walk once it was worked out. */
interface Known {
  all: DerivedVisitor;
  strandOf: Map<string, Strand>;
  records: Records;
  outcomes: ReachedOutcome[];
  tellings: PretendTelling[];
  hits: Hit[];
  release: Release;
  now: number;
}

function followNewest({ all, strandOf, records, outcomes, tellings, hits, release, now }: Known): Followed | null {
  const [enquiry, order] = [all.enquiries.at(-1), all.orders.at(-1)];
  const isOrder = order !== undefined && (!enquiry || order.at >= enquiry.sentAt);
  const subject = isOrder ? order : enquiry;
  const strand = isOrder
    ? strandOfOrder(order, strandOf)
    : enquiry
      ? strandOfEnquiry(enquiry, strandOf)
      : all.strands.at(-1);
  if (!strand) return null;
  const way = waysIn[isOrder ? 'order' : 'form'];
  const isOf = (row: HopRow) => row.wayIn === 'none' || row.subject === subject?.id;
  // Whether somebody may still enquire says nothing once somebody did.
  const isOpen = (row: HopRow) => row.hop === onward && subject !== undefined;
  const hops = all.hops.filter((row) => row.strand === strand.id && isOf(row) && !isOpen(row));
  const rule = qualifiedOutcome(release, way.kind);
  const reached = outcomes.find((one) => one.rule.code === rule?.code && one.subject.id === subject?.id);
  const sent = isOrder ? undefined : enquiry;
  const record = (sent && records.get(sent.id)) ?? null;
  if (sent)
    hops.push(
      ...enquiryHops(
        enquiryState({ ...sent, wayIn: 'form' }, strand, release.number),
        record ? [{ record, goneAt: null, mergedInto: '' }] : [],
        release.content.crm,
        rule,
        reached?.counted.at ?? null,
        now,
      ).hops,
    );
  const ownTellings = tellings.filter(
    ({ outcome, subject: of, isCorrection }) => outcome === rule?.code && of === subject?.id && !isCorrection,
  );
  if (reached) {
    const key = {
      strand: strand.id,
      wayIn: way.kind,
      subject: subject!.id,
      outcome: rule!.code,
      release: release.number,
    };
    hops.push(...toldHops(key, ownTellings));
  }
  const told = ownTellings.find(({ state }) => state === 'told');
  const hitAt = (wanted: (hit: Hit) => boolean) => hits.findLast(wanted) ?? null;
  const arrival = hits.find((hit) => hit.kind === 'arrived' && hit.at === strand.firstAt) ?? null;
  const keptHit = sent ? hitAt(({ id }) => id === sent.hit) : arrival;
  const values = traceValues({
    way,
    strand,
    arrival,
    keptHit,
    orderHit: isOrder ? hitAt(({ id }) => id === order.hit) : null,
    isFetched: false,
    fills: sent?.fills ?? null,
    swapOf: (id) => release.content.capture.fill.find((one) => one.id === id)?.swap ?? '',
    record,
    crm: release.content.crm,
    toldClickId: told?.clickId ?? '',
    confirmed: false,
    utmLowerCase: release.content.capture.keep.utmLowerCase,
  });
  return { way: way.kind, strand, hops: speakingRows(hops, way), values };
}

const strandOfOrder = (order: DerivedOrder, strandOf: Map<string, Strand>): Strand =>
  order.strands.flatMap((id) => strandOf.get(id) ?? [])[0] ??
  aloneStrand('order', orderStrandId(order.id), order.at, '');

/** The hop Told as it would be; Confirmed only a platform's own report can say. */
function toldHops(key: Parameters<typeof tellingHops>[0], tellings: PretendTelling[]): HopRow[] {
  const reportBacks = tellings.map(({ state, reason, account, at }) => ({
    state: state === 'told' ? ('told' as const) : ('held' as const),
    reason,
    platform: account,
    answeredAt: state === 'told' ? at : null,
    confirmedAt: null,
    hasReport: true,
  }));
  return tellingHops(key, reportBacks).filter(({ hop }) => hop === 'told');
}

/** How far what is followed came: the hops it made without a break. */
export const reachedOf = ({ hops, way }: Followed) => followStrand(hops, waysIn[way]);
