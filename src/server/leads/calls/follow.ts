import type { Transaction } from 'sequelize';
import { visitorEnd } from '../../../core/capture/call-code';
import { broughtCall, callCounts, dialKey } from '../../../core/leads/calls';
import type { Release } from '../../../core/releases';
import {
  clickStrandId,
  enquiryIdOf,
  landingStrandId,
  leadIdOf,
  nilId,
  madeLeadToken,
  type KnownConsent,
} from '../../../core/strands';
import { now, nowMs } from '../../clock';
import type { Context } from '../../context';
import {
  inTransaction,
  insertRows,
  markWork,
  pick,
  plain,
  selectRows,
  time,
  uuid,
  type EnquiryRow,
  type LeadRow,
  type TouchRow,
} from '../../db';
import { hits } from '../../capture/table';
import type { Releases } from '../../releases/releases';
import { pagelessTouch } from '../pageless-touch';
import { storeIdentities } from '../people';
import { recordNumbers } from '../record-rows';
import { readCallSettings } from './settings';
import type { CallNumberRow, CallRow } from './table';

const minute = 60_000;
const day = 86_400_000;
/** How long (ms) until the visit of a code is looked for again, by how long ago its call came: its page may tell of it late. */
const lookAgain = (since: number): number => (since < minute ? 3000 : since < 10 * minute ? minute : 60 * minute);
/** How far (ms) the clocks of a telephone system and of the collector may be apart. */
const clocksApart = 5 * minute;

/** What brought a call, as far as it is known. */
interface Origin {
  found: CallRow['found'];
  touch: TouchRow | null;
  /** A touch of the call's own, to be stored: that of its number. */
  own: TouchRow | null;
  strandId: string | null;
  visitorId: string | null;
  consent: KnownConsent | null;
  marked: EnquiryRow['marked'];
}
const nothing: Omit<Origin, 'found'> = {
  touch: null,
  own: null,
  strandId: null,
  visitorId: null,
  consent: null,
  marked: '',
};

/**
 * Follows one call: whether it is an enquiry, one that an earlier call of the same caller began, or none; and what brought it:
 * the visit of the code that was said, else the source of the number that was dialled.
 */
export function makeFollowCall(context: Context, releases: Releases) {
  const { db, tables } = context;

  async function originOf(call: CallRow, number: CallNumberRow | null, release: Release, transaction: Transaction) {
    const byCode = call.reference === '' ? null : await visitOf(call, release, transaction);
    if (byCode && byCode.found === 'code') return byCode;
    if (number && number.source !== '') return ofNumber(call, number, release);
    return byCode ?? { ...nothing, found: 'nothing' as const };
  }

  /** The visit whose page showed the code: of several visitors with the same end of their ID the one who was there last. */
  async function visitOf(call: CallRow, { content }: Release, transaction: Transaction): Promise<Origin> {
    const { businessId, startedAt, seconds, reference } = call;
    // Somebody may open the page while they are on the telephone.
    const endedAt = startedAt.getTime() + seconds * 1000;
    const end = visitorEnd(reference);
    const [visit] =
      end === null
        ? []
        : await selectRows(
            db,
            { visitorId: uuid() },
            `FROM visits WHERE business_id = ? AND visitor_end = ? AND started_at <= ?
             ORDER BY started_at DESC LIMIT 1`,
            [businessId, end, new Date(endedAt + clocksApart)],
            transaction,
          );
    if (!visit) return { ...nothing, found: 'unknown code' };
    const { visitorId } = visit;
    const touches = plain(
      await tables.touches.findAll({ where: { businessId, visitorId }, order: [['at', 'ASC']], transaction }),
    );
    const { keep } = content.capture;
    const known = touches.map((touch) => ({ ...touch, at: touch.at.getTime(), row: touch }));
    const kept = {
      clickDays: ({ row }: { row: TouchRow }) =>
        keep.clickIds.find(({ platform }) => platform === row.platform)?.days ?? 0,
      touchDays: keep.touchDays,
    };
    const brought = broughtCall(known, endedAt, kept) ?? broughtCall(known, endedAt + clocksApart, kept);
    const touch = brought?.row ?? null;
    const strandId = touch
      ? touch.clickId
        ? clickStrandId(businessId, touch.platform, touch.clickId)
        : touch.because === 'campaign_values'
          ? landingStrandId(touch.id)
          : null
      : null;
    const strand = strandId ? await tables.strands.findOne({ where: { businessId, id: strandId }, transaction }) : null;
    return {
      ...nothing,
      found: 'code',
      touch,
      visitorId,
      strandId: strand ? strandId : null,
      consent: await consentOf(businessId, visitorId, transaction),
      marked: strand?.get({ plain: true }).marked ?? '',
    };
  }

  /** What the visitor's pages last said of consent. */
  async function consentOf(
    businessId: string,
    visitorId: string,
    transaction: Transaction,
  ): Promise<KnownConsent | null> {
    const [hit] = await selectRows(
      db,
      pick(hits, ['at', 'body']),
      `FROM hits FORCE INDEX (by_visitor) WHERE business_id = ? AND visitor_id = ?
         AND JSON_EXISTS(body, '$.consent') ORDER BY id DESC LIMIT 1`,
      [businessId, visitorId],
      transaction,
    );
    return hit?.body.consent ? { ...hit.body.consent, at: hit.at.getTime() } : null;
  }

  async function earlierOf(call: CallRow, sameDays: number, transaction: Transaction): Promise<string | null> {
    if (call.callerHash === '') return null;
    const at = call.startedAt.getTime();
    const near = [new Date(at - sameDays * day), new Date(at + sameDays * day)];
    const [row] = await selectRows(
      db,
      { enquiryId: uuid() },
      `FROM calls WHERE business_id = ? AND caller_hash = ? AND started_at BETWEEN ? AND ? AND enquiry_id IS NOT NULL
         AND id <> ? ORDER BY ABS(TIMESTAMPDIFF(SECOND, started_at, ?)), id LIMIT 1`,
      [call.businessId, call.callerHash, ...near, call.id, call.startedAt],
      transaction,
    );
    return row?.enquiryId ?? null;
  }

  async function makeEnquiry(
    call: CallRow,
    number: CallNumberRow | null,
    origin: Origin,
    release: Release,
    transaction: Transaction,
  ): Promise<string> {
    const { businessId } = call;
    const person = call.callerHash || call.id;
    const leadId = leadIdOf(businessId, nilId, person);
    const token = madeLeadToken(call.id);
    const id = enquiryIdOf(businessId, token);
    const lead: LeadRow = {
      businessId,
      id: leadId,
      accountId: nilId,
      crmPerson: person,
      name: '',
      company: '',
      companyId: null,
      mailDomain: '',
      madeAt: call.startedAt,
      personId: leadId,
      joinedBy: '',
      joinedAt: null,
    };
    await insertRows(tables.leads, [lead], [], transaction);
    const enquiry: Partial<EnquiryRow> = {
      businessId,
      id,
      leadToken: token,
      leadId,
      form: number?.name ?? call.dialled,
      page: '',
      sentAt: call.startedAt,
      fields: [],
      marked: origin.marked,
      releaseNumber: release.number,
      wayIn: 'call',
    };
    await insertRows(tables.enquiries, [enquiry], ['form'], transaction);
    const telephone = call.callerHash ? [{ kind: 'telephone' as const, hash: call.callerHash }] : [];
    const known = { leadId, identities: [...recordNumbers(nilId, [person]), ...telephone] };
    await storeIdentities(context, businessId, [known], transaction);
    return id;
  }

  /** Gives an enquiry what its call was brought by, where nothing better is known of it. */
  async function giveOrigin(businessId: string, id: string, origin: Origin, at: Date, transaction: Transaction) {
    const row = await tables.enquiries.findOne({ where: { businessId, id }, transaction, lock: true });
    if (!row) return;
    const { touchId, sentAt, consent } = row.get({ plain: true });
    const before = touchId ? await tables.touches.findOne({ where: { businessId, id: touchId }, transaction }) : null;
    const isBetter = origin.touch && (!before || before.get({ plain: true }).because === 'call');
    await row.update(
      {
        sentAt: at < sentAt ? at : sentAt,
        ...(isBetter
          ? {
              touchId: origin.touch!.id,
              strandId: origin.strandId,
              visitorId: origin.visitorId ?? origin.touch!.visitorId,
              consent: origin.consent ?? consent,
              marked: origin.marked,
            }
          : {}),
      },
      { transaction },
    );
  }

  /** @returns when to look again for the visit of its code; null where nothing more is to be found */
  return async function followCall(businessId: string, id: string): Promise<Date | null> {
    const [settings, release] = await Promise.all([readCallSettings(context, businessId), releases.live(businessId)]);
    return inTransaction(db, async (transaction) => {
      const row = await tables.calls.findOne({ where: { businessId, id }, transaction, lock: true });
      const call = row?.get({ plain: true });
      if (!row || !call) return null;
      const numberRow = await tables.callNumbers.findOne({
        where: { businessId, dialKey: dialKey(call.dialled) },
        transaction,
      });
      const number = numberRow?.get({ plain: true }) ?? null;
      const origin = await originOf(call, number, release, transaction);
      const counts = callCounts(call, settings);
      if (counts !== 'enquiry' && !call.enquiryId) {
        await row.update({ became: counts, found: origin.found }, { transaction });
        return null;
      }
      const earlier = call.enquiryId ?? (await earlierOf(call, settings.sameDays, transaction));
      if (origin.own) await insertRows(tables.touches, [origin.own], ['source', 'medium', 'campaign'], transaction);
      const enquiryId = earlier ?? (await makeEnquiry(call, number, origin, release, transaction));
      await giveOrigin(businessId, enquiryId, origin, call.startedAt, transaction);
      const became = earlier === null ? 'enquiry' : call.enquiryId ? call.became : 'again';
      await row.update({ became, found: origin.found, enquiryId }, { transaction });
      await markWork(db, 'enquiry', businessId, [enquiryId], now(), transaction);
      const since = nowMs() - call.receivedAt.getTime();
      return origin.found === 'unknown code' && since < day ? new Date(nowMs() + lookAgain(since)) : null;
    });
  };
}

/** The touch of a call to a number that only people of one source are given. */
function ofNumber(call: CallRow, number: CallNumberRow, { number: releaseNumber }: Release): Origin {
  const { businessId, id, startedAt } = call;
  const { source, medium, campaign, content } = number;
  const origin = { businessId, at: startedAt, source, medium, campaign, content };
  const touch = pagelessTouch(id, 'call', releaseNumber, origin);
  return { ...nothing, found: 'number', touch, own: touch };
}

const pickedUp = { enquiryId: uuid().of('enquiry_id'), at: time().of('MIN(started_at)') };

/** When (ms) calls of enquiries were first picked up. */
export async function readPickedUp(
  { db }: Pick<Context, 'db'>,
  businessId: string,
  enquiries: readonly EnquiryRow[],
  transaction: Transaction,
): Promise<Map<string, number>> {
  const ids = enquiries.filter(({ wayIn }) => wayIn === 'call').map(({ id }) => id);
  if (ids.length === 0) return new Map();
  const rows = await selectRows(
    db,
    pickedUp,
    'FROM calls WHERE business_id = ? AND enquiry_id IN (?) AND answered = TRUE GROUP BY enquiry_id',
    [businessId, ids],
    transaction,
  );
  return new Map(rows.map(({ enquiryId, at }) => [enquiryId, at.getTime()]));
}
