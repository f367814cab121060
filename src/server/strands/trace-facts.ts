import type { Hit } from '../../core/capture';
import { AvrixError } from '../../core/errors';
import type { SentOn } from '../../core/leads';
import type { Release } from '../../core/releases';
import {
  nilId,
  noOutcome,
  signUpIdOf,
  type BoughtWayIn,
  type HopRow,
  type Strand,
  type WayInKind,
} from '../../core/strands';
import { waysIn } from '../../core/ways-in';
import type { Context } from '../context';
import {
  pick,
  selectRows,
  plain,
  type AttemptRow,
  type CrmWriteRow,
  type EnquiryRow,
  type LeadRow,
  type OutcomeRow,
  type ReportBackRow,
  type TouchRow,
} from '../db';
import { hits } from '../capture/table';
import type { CallRow } from '../leads/calls/table';
import { readDeals, type KnownDeal } from '../leads/deals-of';
import { readSentOn } from '../leads/sent-on';
import type { Releases } from '../releases/releases';
import { hopsOfTellings } from '../reportbacks/write';
import { fromHopRow, fromStrandRow } from './store';
import { readRoutineEvents, type RoutineEvent } from './trace-routines';

/** An order, a subscription with its sign-up where that is known, or a conversion. */
export interface BoughtRow {
  kind: BoughtWayIn;
  id: string;
  /** Of a conversion what it is called. */
  number: string;
  /** When it was ordered or signed up for, as a page said; null where none did. */
  at: Date | null;
  /** Of a subscription, when it was paid for first. */
  paidAt: Date | null;
  visitorId: string | null;
  hitId: string | null;
  visitNumber: number | null;
  strands: string[];
}

/** All that is stored about one strand and, where there is one, its enquiry, order or subscription. */
export interface TraceFacts {
  way: WayInKind;
  release: Release;
  strand: Strand;
  hops: HopRow[];
  enquiry: EnquiryRow | null;
  bought: BoughtRow | null;
  lead: LeadRow | null;
  /** Of its enquiry, in the order of their progress. */
  deals: KnownDeal[];
  /** Of whoever enquired or ordered, in all browsers that they enquired from. */
  touches: TouchRow[];
  /** Other enquiries of the same person, the newest first, with their deals. */
  others: { enquiry: EnquiryRow; deals: KnownDeal[] }[];
  /** Of its enquiry, the oldest first. */
  calls: CallRow[];
  /** What was, or is to be, written into the records of its enquiry. */
  writes: CrmWriteRow[];
  /** What routines did with its enquiry, and with the others of the person. */
  routineEvents: RoutineEvent[];
  arrival: Hit | null;
  /** The newest hit up to the sending, whose cookie state was in force; of what was bought that of its arrival. */
  keptHit: Hit | null;
  boughtHit: Hit | null;
  /** Of an enquiry that a platform's own form took. */
  sentOn: SentOn | null;
  outcomes: OutcomeRow[];
  /** When (ms) the click of each click ID was that a report-back names. */
  clickedAt: Map<string, number>;
  reportBacks: ReportBackRow[];
  attempts: AttemptRow[];
}

/** What a trace is of, besides its strand. */
export interface Traced {
  way: WayInKind;
  enquiry: EnquiryRow | null;
  bought: BoughtRow | null;
}

/** Other enquiries of one person that are shown. */
const mostOthers = 20;

/** Reads what is stored of strands and of what came in by them. */
export function makeTraceFacts(context: Context, releases: Releases) {
  const { db, tables } = context;
  async function readHit(businessId: string, id: string | null): Promise<Hit | null> {
    if (!id) return null;
    const [row] = await selectRows(db, pick(hits, ['body']), 'FROM hits WHERE business_id = ? AND id = ?', [
      businessId,
      id,
    ]);
    return row?.body ?? null;
  }

  /** What was counted of an enquiry, order or subscription, and told. */
  async function readTold(businessId: string, subjectId: string | null) {
    if (subjectId === null)
      return { outcomes: [], reportBacks: [], attempts: [], clickedAt: new Map<string, number>() };
    const where = { businessId, subjectId };
    const outcomes = plain(await tables.outcomes.findAll({ where, order: [['happenedAt', 'ASC']] }));
    const reportBacks = plain(await tables.reportBacks.findAll({ where, order: [['madeAt', 'ASC']] }));
    const attempts = plain(
      await tables.attempts.findAll({
        where: { businessId, reportBackId: reportBacks.map(({ id }) => id) },
        order: [['startedAt', 'ASC']],
        limit: 100,
      }),
    );
    const clicks = plain(
      await tables.strands.findAll({
        attributes: ['clickId', 'firstAt'],
        where: {
          businessId,
          platform: reportBacks.map(({ platform }) => platform),
          clickId: reportBacks.map(({ keyValue }) => keyValue),
        },
      }),
    );
    const clickedAt = new Map(clicks.map(({ clickId, firstAt }) => [clickId, firstAt.getTime()]));
    return { outcomes, reportBacks, attempts, clickedAt };
  }

  /** Other enquiries of the person whose record an enquiry is of. */
  async function readOthers(businessId: string, enquiry: EnquiryRow | null, lead: LeadRow | null, release: Release) {
    if (!enquiry || !lead) return [];
    const attributes: ['id'] = ['id'];
    const records = await tables.leads.findAll({ attributes, where: { businessId, personId: lead.personId } });
    const leadId = plain(records).map(({ id }) => id);
    const rows = plain(
      await tables.enquiries.findAll({
        where: { businessId, leadId, marked: '' },
        order: [['sentAt', 'DESC']],
        limit: mostOthers + 1,
      }),
    ).filter(({ id }) => id !== enquiry.id);
    const ids = rows.map(({ id }) => id);
    const deals = await readDeals(context, businessId, ids, release.content);
    return rows.map((other) => ({ enquiry: other, deals: deals.get(other.id) ?? [] }));
  }

  async function readOrder(businessId: string, id: string): Promise<BoughtRow | null> {
    const order = (await tables.orders.findOne({ where: { businessId, id } }))?.get({ plain: true });
    return order ? { ...order, kind: 'order', paidAt: null } : null;
  }

  async function readSubscription(businessId: string, id: string): Promise<BoughtRow | null> {
    const found = (await tables.subscriptions.findOne({ where: { businessId, id } }))?.get({ plain: true });
    if (!found) return null;
    const of = { businessId, id: signUpIdOf(businessId, found.leadToken) };
    const signUp = found.leadToken ? (await tables.signUps.findOne({ where: of }))?.get({ plain: true }) : null;
    return {
      kind: 'subscription',
      id,
      number: found.number,
      at: signUp?.at ?? null,
      paidAt: found.paidAt,
      visitorId: signUp?.visitorId ?? null,
      hitId: signUp?.hitId ?? null,
      visitNumber: signUp?.visitNumber ?? null,
      strands: found.strands,
    };
  }

  async function readConversion(businessId: string, id: string): Promise<BoughtRow | null> {
    const found = (await tables.conversions.findOne({ where: { businessId, id } }))?.get({ plain: true });
    return found ? { ...found, kind: 'conversion', number: found.name, paidAt: null } : null;
  }

  const readBought: Record<BoughtWayIn, typeof readOrder> = {
    order: readOrder,
    subscription: readSubscription,
    conversion: readConversion,
  };

  return {
    /** The newest order, subscription or conversion of a strand, or the one of an ID; null without one. */
    async boughtOf(
      businessId: string,
      strandId: string,
      wayIn: BoughtRow['kind'],
      of: string,
    ): Promise<BoughtRow | null> {
      if (of !== '') {
        const named = await readBought[wayIn](businessId, of);
        if (named?.strands.includes(strandId)) return named;
      }
      const where = { businessId, strandId, wayIn, hop: waysIn[wayIn].own };
      const hop = await tables.hops.findOne({ where, order: [['at', 'DESC']] });
      const id = hop?.get({ plain: true }).subjectId;
      if (!id) return null;
      return readBought[wayIn](businessId, id);
    },

    /** @throws AVX_NOT_FOUND */
    async read(businessId: string, strandId: string, { way, enquiry, bought }: Traced): Promise<TraceFacts> {
      const strandRow = await tables.strands.findOne({ where: { businessId, id: strandId } });
      if (!strandRow) throw new AvrixError('AVX_NOT_FOUND', { what: 'strand' });
      const strand = fromStrandRow(strandRow.get({ plain: true }));
      const rows = plain(await tables.hops.findAll({ where: { businessId, strandId } })).map(fromHopRow);
      const subject = enquiry?.id ?? bought?.id ?? null;
      const release = await releases.live(businessId);
      const found = enquiry?.leadId && (await tables.leads.findOne({ where: { businessId, id: enquiry.leadId } }));
      const lead = (found && found.get({ plain: true })) || null;
      const others = await readOthers(businessId, enquiry, lead, release);
      const visitor = enquiry?.visitorId ?? bought?.visitorId ?? (strand.visitor === nilId ? null : strand.visitor);
      const visitorId = [visitor, ...others.map((other) => other.enquiry.visitorId)].flatMap((id) => id ?? []);
      const touches = plain(
        await tables.touches.findAll({ where: { businessId, visitorId }, order: [['at', 'ASC']], limit: 100 }),
      );
      // Of several click IDs of one arrival the touch names only the first.
      const ownTouch = touches.find(
        (touch) =>
          touch.visitorId === visitor &&
          (touch.at.getTime() === strand.firstAt || (touch.clickId !== '' && touch.clickId === strand.clickId)),
      );
      const told = await readTold(businessId, subject);
      const own = rows.filter((row) => row.wayIn === 'none' || row.subject === (subject ?? nilId));
      const deals = enquiry
        ? await readDeals(context, businessId, [enquiry.id], release.content)
        : new Map<string, []>();
      return {
        way,
        release,
        strand,
        hops: [...own, ...convertedHops(strand, bought, own, told, release)],
        enquiry,
        bought,
        lead,
        deals: (enquiry && deals.get(enquiry.id)) ?? [],
        touches,
        others,
        calls:
          enquiry?.wayIn === 'call'
            ? plain(
                await tables.calls.findAll({
                  where: { businessId, enquiryId: enquiry.id },
                  order: [['startedAt', 'ASC']],
                  limit: 100,
                }),
              )
            : [],
        writes: enquiry
          ? plain(
              await tables.crmWrites.findAll({
                where: { businessId, enquiryId: enquiry.id },
                order: [['id', 'ASC']],
                limit: 100,
              }),
            )
          : [],
        routineEvents: await readRoutineEvents(context, businessId, [
          ...(enquiry ? [enquiry.id] : []),
          ...others.map((other) => other.enquiry.id),
        ]),
        arrival: await readHit(businessId, ownTouch?.hitId ?? null),
        keptHit: await readHit(businessId, enquiry?.hitId ?? ownTouch?.hitId ?? null),
        boughtHit: await readHit(businessId, bought?.hitId ?? null),
        sentOn: (enquiry && (await readSentOn(context, businessId, [enquiry], release)).get(enquiry.id)) ?? null,
        ...told,
      };
    },
  };
}

/**
 * The hops of a conversion that reached another outcome than the *Qualified* of its way in: the line does not hold them, its
 * trace shows them.
 */
function convertedHops(
  strand: Strand,
  bought: BoughtRow | null,
  own: readonly HopRow[],
  { outcomes, reportBacks }: Pick<TraceFacts, 'outcomes' | 'reportBacks'>,
  { number, content }: Release,
): HopRow[] {
  if (bought?.kind !== 'conversion' || own.some(({ hop }) => hop === 'converted')) return [];
  const key = { strand: strand.id, wayIn: 'conversion' as const, subject: bought.id, release: number };
  const converted = {
    ...key,
    outcome: noOutcome,
    hop: 'converted' as const,
    state: 'made_it' as const,
    reason: null,
    evidence: 'outcome' as const,
    at: bought.at?.getTime() ?? null,
  };
  const [outcome] = outcomes;
  return [converted, ...(outcome ? hopsOfTellings(key, outcome, strand.clickId, reportBacks, content.platforms) : [])];
}
