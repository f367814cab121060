/* eslint-disable no-await-in-loop -- a person has few browsers, outcomes and calls */
import { Op, QueryTypes, type Transaction } from 'sequelize';
import { AvrixError } from '../../../core/errors';
import { listed } from '../../../core/listed';
import { nilId, counted } from '../../../core/strands';
import type { makeSpoolWriter } from '../../capture/spool/writer';
import type { Spool } from '../../capture/spool/spool';
import type { Changes } from '../../changes/changes';
import { now } from '../../clock';
import type { Context } from '../../context';
import { inTransaction, insertRows, likeText, plain, type DealRow } from '../../db';
import { newId } from '../../ids';
import { forgetFiled } from '../../outcomes/filed/forget';
import type { Membership } from '../../people/people';
import { requireEditor } from '../../releases/draft';
import { markMoments } from '../../rollups/marks';
import { markEnquiriesOf } from '../mark-enquiries';
import { readPerson, type Person } from '../person';
import { erasedHash } from './marks';

/** What was erased of a person. */
export interface Erased {
  /** What of each there was, in words. */
  words: string;
  /** Browsers that somebody else enquired from too, whose visits stay. */
  sharedBrowsers: number;
}

/**
 * Erases one person: records, identities, deals, calls' numbers, emails, hits, visits and what was sent of them. What counts stays
 * without them: enquiries, orders, strands, outcomes and amounts, each under the source and campaign that brought it.
 */
export function makeErase(
  context: Context,
  changes: Changes,
  spool: Spool,
  writer: ReturnType<typeof makeSpoolWriter>,
) {
  const { db, tables, config } = context;

  /** Browsers from which nobody but this person enquired. */
  async function ownBrowsers(businessId: string, { enquiries, visitorIds }: Person, transaction: Transaction) {
    const own = new Set(enquiries.map(({ id }) => id));
    const all = plain(
      await tables.enquiries.findAll({
        attributes: ['id', 'visitorId'],
        where: { businessId, visitorId: visitorIds, marked: '' },
        transaction,
      }),
    );
    const shared = new Set(all.filter(({ id }) => !own.has(id)).map(({ visitorId }) => visitorId));
    return visitorIds.filter((id) => !shared.has(id));
  }

  /** The click IDs of their strands, but for those by which somebody else enquired too. @returns the strands' IDs */
  async function eraseClicks(
    businessId: string,
    { enquiries }: Person,
    browsers: string[],
    transaction: Transaction,
  ): Promise<string[]> {
    const own = enquiries.map(({ id }) => id);
    const strandId = enquiries.flatMap((one) => one.strandId ?? []);
    const of = { [Op.or]: [{ id: strandId }, { visitorId: browsers }] };
    const strands = plain(
      await tables.strands.findAll({ attributes: ['id'], where: { businessId, ...of }, transaction }),
    );
    const id = strands.map((strand) => strand.id);
    const others = await tables.enquiries.findAll({
      attributes: ['strandId'],
      where: { businessId, strandId: id, id: { [Op.notIn]: own } },
      transaction,
    });
    const shared = new Set(plain(others).map((one) => one.strandId));
    const theirs = id.filter((one) => !shared.has(one));
    await tables.strands.update({ clickId: '', visitorId: nilId }, { where: { businessId, id: theirs }, transaction });
    return theirs;
  }

  /** What browsers sent, and what was worked out from it; a touch that something counted is of stays, as nobody's. */
  async function eraseBrowsers(businessId: string, visitorId: string[], transaction: Transaction) {
    if (visitorId.length === 0) return { hits: 0, visits: 0, bought: [] };
    const where = { businessId, visitorId };
    const [visits, touches, events, orders, conversions, signUps] = await Promise.all([
      tables.visits.findAll({ where, transaction }),
      tables.touches.findAll({ attributes: ['id', 'visitorId', 'at', 'landing'], where, transaction }),
      tables.events.findAll({ attributes: ['id', 'at'], where, transaction }),
      tables.orders.findAll({ attributes: ['id', 'at', 'number'], where, transaction }),
      tables.conversions.findAll({ attributes: ['id', 'at'], where, transaction }),
      tables.signUps.findAll({ attributes: ['leadToken'], where, transaction }),
    ]);
    const leadToken = plain(signUps)
      .map((one) => one.leadToken)
      .filter(Boolean);
    const subscribed = { businessId, leadToken };
    const subscriptions = plain(await tables.subscriptions.findAll({ where: subscribed, transaction }));
    const hits = await tables.hits.destroy({ where, transaction });
    await tables.visits.destroy({ where, transaction });
    await tables.findings.destroy({ where, transaction });
    const eventRowId = plain(events).map(({ id }) => id);
    await tables.eventTellings.destroy({ where: { businessId, eventRowId }, transaction });
    await tables.events.destroy({ where, transaction });
    await tables.touchTags.destroy({ where, transaction });
    // The touches of one browser stay one nobody's.
    for (const one of visitorId) {
      const nobody = { visitorId: newId(), visitId: newId(), hitId: nilId };
      await tables.touches.update(
        { ...nobody, clickId: '', term: '', referrer: '', landing: '' },
        { where: { businessId, visitorId: one }, transaction },
      );
    }
    // What was posted of what they bought stays as amounts of nobody's.
    await tables.notices.update(
      { number: '', aboutNumber: '', payment: '', leadToken: '', clickId: '' },
      {
        where: {
          businessId,
          [Op.or]: [
            {
              aboutKind: 'order',
              aboutNumber: plain(orders)
                .map(({ number }) => number)
                .filter(Boolean),
            },
            { aboutKind: 'subscription', aboutNumber: subscriptions.map(({ number }) => number) },
          ],
        },
        transaction,
      },
    );
    await tables.subscriptions.update({ number: '', leadToken: '', clickId: '' }, { where: subscribed, transaction });
    await tables.signUps.update(
      { leadToken: '', visitorId: nilId, hitId: nilId, page: '', consent: null },
      { where, transaction },
    );
    await tables.conversions.update(
      { fields: {}, visitorId: nilId, hitId: nilId, page: '', consent: null },
      { where, transaction },
    );
    await tables.orders.update(
      { number: '', visitorId: nilId, hitId: nilId, page: '', consent: null },
      { where, transaction },
    );
    await db.query("DELETE FROM trial_hits WHERE business_id = ? AND JSON_VALUE(hit, '$.visitor') IN (?)", {
      replacements: [businessId, visitorId],
      type: QueryTypes.DELETE,
      transaction,
    });
    await db.query("DELETE FROM foreign_hits WHERE business_id = ? AND JSON_VALUE(body, '$.visitor') IN (?)", {
      replacements: [businessId, visitorId],
      type: QueryTypes.DELETE,
      transaction,
    });
    await db.query("DELETE FROM work WHERE business_id = ? AND kind = 'visitor' AND subject IN (?)", {
      replacements: [businessId, visitorId],
      type: QueryTypes.DELETE,
      transaction,
    });
    const moments = [
      ...plain(visits).map(({ startedAt }) => startedAt),
      ...[...plain(touches), ...plain(events), ...plain(orders)].map(({ at }) => at),
    ];
    await markMoments(
      db,
      businessId,
      moments.map((at) => at.getTime()),
      transaction,
      config.rollUpSeconds * 1000,
    );
    return {
      hits,
      visits: visits.length,
      bought: [...plain(orders), ...plain(conversions), ...subscriptions].map(({ id }) => id),
    };
  }

  /** What was told of what they reached: who it was told of goes, what it was worth stays. */
  async function eraseTold(businessId: string, subjectId: string[], transaction: Transaction) {
    const where = { businessId, subjectId };
    const outcomes = plain(await tables.outcomes.findAll({ attributes: ['id'], where, transaction }));
    for (const { id } of outcomes)
      await tables.outcomes.update({ dedupeKey: `erased ${id}` }, { where: { businessId, id }, transaction });
    const reportBacks = plain(await tables.reportBacks.findAll({ attributes: ['id'], where, transaction }));
    const reportBackId = reportBacks.map(({ id }) => id);
    await tables.reportBacks.update({ keyValue: '' }, { where, transaction });
    await tables.reportBacks.update(
      { state: 'withdrawn', reason: null, dueAt: null },
      { where: { ...where, state: ['waiting', 'held', 'unsure'] }, transaction },
    );
    await tables.attempts.update({ sent: {}, answer: '' }, { where: { businessId, reportBackId }, transaction });
  }

  /** What the CRM, telephones, platforms and emails had of them. */
  async function eraseRecords(businessId: string, { records, enquiries }: Person, transaction: Transaction) {
    const leadId = records.map(({ id }) => id);
    const enquiryId = enquiries.map(({ id }) => id);
    const deals = plain(
      await tables.deals.findAll({ where: { businessId, [Op.or]: [{ leadId }, { enquiryId }] }, transaction }),
    );
    const calls = plain(await tables.calls.findAll({ where: { businessId, enquiryId }, transaction }));
    const numbers = deals.map(({ number }) => number);
    await tables.deals.destroy({ where: { businessId, id: deals.map(({ id }) => id) }, transaction });
    await tables.crmWrites.destroy({ where: { businessId, enquiryId }, transaction });
    await tables.crmEvents.destroy({ where: { businessId, deal: numbers }, transaction });
    await tables.crmArrivals.destroy({ where: { businessId, deal: numbers }, transaction });
    await tables.identities.destroy({ where: { businessId, leadId }, transaction });
    await tables.leadPairs.destroy({
      where: { businessId, [Op.or]: [{ leadId }, { otherId: leadId }] },
      transaction,
    });
    await tables.leadAddresses.destroy({ where: { businessId, leadId }, transaction });
    const sent = enquiries.map(({ sentAt }) => sentAt.getTime());
    await markEnquiriesOf(context, businessId, leadId, sent, transaction);
    await tables.leads.destroy({ where: { businessId, id: leadId }, transaction });
    // A company of which nobody else is known says who they were.
    const companyId = [...new Set([...records, ...deals].flatMap((one) => one.companyId ?? []))];
    const stays = [
      ...plain(
        await tables.leads.findAll({ attributes: ['companyId'], where: { businessId, companyId }, transaction }),
      ),
      ...plain(
        await tables.deals.findAll({ attributes: ['companyId'], where: { businessId, companyId }, transaction }),
      ),
    ].map((one) => one.companyId);
    await tables.companies.destroy({
      where: { businessId, id: companyId.filter((id) => !stays.includes(id)) },
      transaction,
    });
    for (const { id } of calls)
      await tables.calls.update(
        { number: `erased ${id}`, caller: null, callerHash: '', reference: '' },
        { where: { businessId, id }, transaction },
      );
    if (calls.length > 0) await tables.callSettings.update({ lastSent: null }, { where: { businessId }, transaction });
    await tables.platformLeads.update(
      { number: '', leadId: nilId, answers: null, answer: '', deal: '', handed: 'no' },
      { where: { businessId, enquiryId }, transaction },
    );
    const emails = await tables.routineActs.count({ where: { businessId, enquiryId, does: 'mail' }, transaction });
    await tables.routineActs.update({ sent: null, mailHash: '' }, { where: { businessId, enquiryId }, transaction });
    await tables.routineRuns.update(
      { state: 'let_go', why: 'was erased', endedAt: now(), dueAt: null },
      { where: { businessId, enquiryId, state: 'going' }, transaction },
    );
    await tables.enquiries.update(
      {
        leadToken: null,
        leadId: null,
        visitorId: null,
        hitId: null,
        dealId: null,
        page: '',
        fields: [],
        fills: null,
        consent: null,
        erasedAt: now(),
      },
      { where: { businessId, id: enquiryId }, transaction },
    );
    return { deals, calls, emails };
  }

  /** What could not be stored is text; whatever names them goes. */
  async function eraseQuarantine(businessId: string, named: string[], transaction: Transaction) {
    for (const one of named)
      await db.query('DELETE FROM quarantine WHERE business_id = ? AND (body LIKE ? OR id = ?)', {
        replacements: [businessId, likeText(one), one],
        type: QueryTypes.DELETE,
        transaction,
      });
  }

  return {
    /**
     * Erases the person of an enquiry, and keeps in the change log how much of what there was. What the CRM, a telephone system or
     * a browser sends of it again is left out; the CRM itself keeps its record.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND
     */
    async ofEnquiry(membership: Membership, enquiryId: string): Promise<Erased> {
      requireEditor(membership);
      const { business, role } = membership;
      if (!role.seesPeople) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'see people' });
      const businessId = business.id;
      // What was answered and is not in the database yet would come after.
      await spool.turn();
      await writer.drain();
      const person = await readPerson(context, businessId, enquiryId);
      if (person.enquiries.some(({ erasedAt }) => erasedAt !== null))
        throw new AvrixError('AVX_NOT_FOUND', { what: 'person' });
      return inTransaction(db, async (transaction) => {
        const browsers = await ownBrowsers(businessId, person, transaction);
        const tokens = person.enquiries.flatMap(({ leadToken }) => leadToken ?? []);
        const strandIds = await eraseClicks(businessId, person, browsers, transaction);
        const filed = await forgetFiled(context, businessId, strandIds, transaction);
        // What they sent with a form, also from a browser that stays.
        const hitId = person.enquiries.flatMap((one) => one.hitId ?? []);
        await tables.hits.destroy({ where: { businessId, id: hitId }, transaction });
        const seen = await eraseBrowsers(businessId, browsers, transaction);
        await eraseTold(businessId, [...person.enquiries.map(({ id }) => id), ...seen.bought, ...filed], transaction);
        const { deals, calls, emails } = await eraseRecords(businessId, person, transaction);
        await eraseQuarantine(businessId, [...browsers, ...tokens], transaction);
        await mark(
          businessId,
          browsers,
          tokens,
          deals,
          calls.map(({ number }) => number),
          transaction,
        );
        const sharedBrowsers = person.visitorIds.length - browsers.length;
        const words = listed(
          [
            counted(person.enquiries.length, 'enquiry', 'enquiries'),
            counted(person.records.length, 'record', 'records'),
            counted(deals.length, 'deal', 'deals'),
            counted(seen.visits, 'visit', 'visits'),
            counted(seen.hits, 'hit', 'hits'),
            calls.length > 0 ? counted(calls.length, 'call', 'calls') : '',
            emails > 0 ? counted(emails, 'email', 'emails') : '',
          ].filter(Boolean),
        );
        const became = `erased; amounts stay without the person${sharedBrowsers > 0 ? `, and visits of ${counted(sharedBrowsers, 'browser', 'browsers')} that others enquired from` : ''}`;
        const change = { kind: 'lead' as const, subject: 'A person', was: words, became };
        await changes.note(businessId, role.personId, [change], transaction);
        return { words, sharedBrowsers };
      });
    },
  };

  async function mark(
    businessId: string,
    browsers: string[],
    tokens: string[],
    deals: DealRow[],
    calls: string[],
    transaction: Transaction,
  ): Promise<void> {
    const hash = (kind: 'deal' | 'token' | 'call' | 'visitor') => (value: string) => ({
      businessId,
      kind,
      hash: erasedHash(config.secretKey, kind, value),
      at: now(),
    });
    const rows = [
      ...browsers.map(hash('visitor')),
      ...tokens.map(hash('token')),
      ...deals.map(({ accountId, number }) => hash('deal')(`${accountId} ${number}`)),
      ...calls.map(hash('call')),
    ];
    await insertRows(tables.erasures, rows, [], transaction);
  }
}
