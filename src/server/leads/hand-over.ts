import { Op } from 'sequelize';
import { z } from 'zod';
import type { NewPerson } from '../../core/crms/contract';
import { followedValues } from '../../core/leads';
import type { Release } from '../../core/releases';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { plain, type TouchRow } from '../db';
import type { Crms } from '../crms/crm';
import { isRefusal, ServiceAway } from '../platforms/call';
import type { Releases } from '../releases/releases';
import { unseal } from '../secrets';
import type { PlatformLeadRow } from './table';

const answersSchema = z.object({ name: z.string(), company: z.string(), mail: z.string(), telephone: z.string() });
/** How long (ms) until it is looked again whether the CRM is there, or whether it had made a record after all. */
const betweenLooks = 5 * 60_000;

/**
 * Hands leads of platforms' own forms over to the CRM: it makes a record of each, which carries the lead token and what it
 * came by. Where the CRM's answer was lost it is looked first whether the record is there, so that none is made twice.
 */
export function makeHandOver({ tables, config }: Context, crms: Crms, releases: Releases) {
  /** @returns when to try again, or null */
  async function handOver(businessId: string, id: string): Promise<Date | null> {
    const lead = (await tables.platformLeads.findOne({ where: { businessId, id } }))?.get({ plain: true });
    if (!lead?.answers || (lead.handed !== 'waiting' && lead.handed !== 'asked')) return null;
    const where = { businessId, id };
    const later = new Date(nowMs() + betweenLooks);
    const known = plain(await tables.deals.findAll({ where: { businessId, enquiryId: lead.enquiryId }, limit: 1 }))[0];
    // Its record has come: what was sent is with the CRM.
    if (known) return end(lead, { handed: 'made', deal: known.number, answers: null });
    const crm = await crms.of(businessId);
    if (!crm) return later;
    if (!crm.contract.make) {
      await tables.platformLeads.update({ handed: 'no', answer: `${crm.account.name} takes no records.` }, { where });
      return null;
    }
    if (lead.handed === 'asked' && !(await wasPolledSince(lead, crm.account.id))) return later;
    const release = await releases.live(businessId);
    const touch = (await tables.touches.findOne({ where: { businessId, visitorId: id } }))?.get({ plain: true });
    const question = crm.contract.make(
      answersSchema.parse(unseal(config.secretKey, lead.answers)) satisfies NewPerson,
      fieldsOf(await tokenOf(lead), touch, release),
    );
    await tables.platformLeads.update({ handed: 'asked', askedAt: now() }, { where });
    try {
      const deal = await crm.ask(question);
      return await end(lead, { handed: 'made', deal, answers: null, answer: '' });
    } catch (error) {
      const answer = (error as Error).message.slice(0, 500);
      if (isRefusal(error)) return end(lead, { handed: 'refused', answer });
      await tables.platformLeads.update({ answer, handed: mayHaveMade(error) ? 'asked' : 'waiting' }, { where });
      throw error;
    }
  }

  async function end({ businessId, id }: PlatformLeadRow, become: Partial<PlatformLeadRow>): Promise<null> {
    await tables.platformLeads.update(become, { where: { businessId, id } });
    return null;
  }

  const tokenOf = async ({ businessId, enquiryId }: PlatformLeadRow): Promise<string> =>
    (await tables.enquiries.findOne({ where: { businessId, id: enquiryId } }))?.get({ plain: true }).leadToken ?? '';

  /** Whether all that the CRM did until it was last asked is known here: a record it made then would be among it. */
  async function wasPolledSince({ businessId, askedAt }: PlatformLeadRow, accountId: string): Promise<boolean> {
    const poll = (await tables.polls.findOne({ where: { businessId, accountId } }))?.get({ plain: true });
    if (!poll || !askedAt || poll.polledTo <= askedAt) return false;
    const where = { businessId, accountId, readAt: null, receivedAt: { [Op.gte]: askedAt } };
    return (await tables.crmEvents.count({ where })) === 0;
  }

  return handOver;
}

/** Whether the CRM may have made the record all the same: it was asked, and did not say no. */
const mayHaveMade = (error: unknown): boolean =>
  !(error instanceof ServiceAway) || error.status === 'no answer' || /^(5|no JSON)/.test(error.status);

/** The fields of a record that say what a lead came by, by the rules for reading the CRM. */
function fieldsOf(token: string, touch: TouchRow | undefined, { content }: Release): Record<string, string> {
  if (!content.crm) return {};
  const { leadTokenField, fields } = content.crm;
  const valueOf = { ...touch, click_id: touch?.clickId ?? '', first_referrer: '' };
  const said = followedValues.flatMap((value): [string, string][] => {
    const [field, written] = [fields[value], valueOf[value as keyof typeof valueOf]];
    return field && typeof written === 'string' && written !== '' ? [[field, written]] : [];
  });
  return Object.fromEntries([...said, [leadTokenField, token]]);
}
