import type { Hit } from '../../core/capture/schema';
import { followHits, traceOf } from '../../core/rehearsal';
import { realWalkHappenings } from '../../core/rehearsal/happenings';
import type { CleanedView, RealWalkView } from '../../core/rehearsal/view';
import { formWordsOf } from '../../core/releases';
import { enquiryIdOf, type DerivedEnquiry } from '../../core/strands';
import type { Trials } from '../capture/trials';
import { nowMs } from '../clock';
import type { Context } from '../context';
import type { Crms } from '../crms/crm';
import { inTransaction, plain, type EnquiryRow } from '../db';
import type { Membership } from '../people/people';
import { readDeals } from '../leads/deals-of';
import { forgetEnquiries } from '../leads/forget';
import { ServiceAway } from '../platforms/call';
import { requireEditor } from '../releases/draft';
import type { KnownWorlds } from './world';

/**
 * Walks it for real: somebody's own browser on the real pages, by the draft's rules, in a trial, so that nothing it does is
 * counted or told. What its forms made in the CRM is followed, and taken out again at the end.
 */
export function makeRealWalk(context: Context, trials: Trials, crms: Crms, worlds: KnownWorlds) {
  const { db, tables } = context;

  /** The enquiries that came into the CRM by forms of a trial. */
  async function enquiriesOf(businessId: string, hits: Hit[]): Promise<EnquiryRow[]> {
    const ids = hits.flatMap((hit) => (hit.kind === 'form_sent' ? enquiryIdOf(businessId, hit.leadToken) : []));
    return ids.length > 0 ? plain(await tables.enquiries.findAll({ where: { businessId, id: ids } })) : [];
  }

  async function view(membership: Membership): Promise<RealWalkView> {
    const { business } = membership;
    const trial = await trials.hitsOf(membership);
    if (!trial) return { isOn: false };
    const { hits, content, rules, link } = trial;
    const rows = await enquiriesOf(business.id, hits);
    const deals = await readDeals(
      context,
      business.id,
      rows.map(({ id }) => id),
      content,
    );
    const world = await worlds.of(business, content, []);
    const recordOf = ({ leadToken }: DerivedEnquiry) => {
      const row = rows.find((one) => one.leadToken === leadToken);
      return (row && deals.get(row.id)?.[0]?.record) ?? null;
    };
    const recorded = hits.map((hit) => ({ hit, at: hit.at, mark: '' as const, browser: '' }));
    const records = [...deals.values()].flatMap((own) => own.map(({ record }) => record));
    const walked = followHits(recorded, recordOf, content, world, nowMs());
    return {
      isOn: true,
      rules,
      link,
      trace: traceOf(walked.followed, walked.release, business.timeZone),
      happened: realWalkHappenings(hits, walked, records, formWordsOf(walked.release)).map(({ at, text }) => ({
        at: new Date(at).toISOString(),
        text,
      })),
      timeZone: business.timeZone,
    };
  }

  return {
    view,

    /** Begins one: a trial by the draft's rules. */
    async begin(membership: Membership): Promise<RealWalkView> {
      await trials.begin(membership, 'draft');
      return view(membership);
    },

    /** Ends it, and takes out what it made: what browsers told, and the records of its forms here and in the CRM. */
    async end(membership: Membership): Promise<CleanedView> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const trial = await trials.hitsOf(membership);
      const rows = trial ? await enquiriesOf(businessId, trial.hits) : [];
      const [cleaned, left]: [string[], string[]] = [[], []];
      for (const hit of trial?.hits ?? [])
        if (hit.kind === 'form_sent' && !rows.some(({ leadToken }) => leadToken === hit.leadToken))
          left.push(
            `The form \`${hit.form}\` was sent and no record has come of it: one that still comes is a real one.`,
          );
      const crm = await crms.of(businessId);
      const remove = crm?.contract.remove;
      const stays = new Set<string>();
      const deals = plain(await tables.deals.findAll({ where: { businessId, enquiryId: rows.map(({ id }) => id) } }));
      for (const { number, enquiryId, goneAt } of crm ? deals : []) {
        if (goneAt) continue;
        if (!remove) {
          left.push(`The record \`${number}\` stays in ${crm!.account.name}: delete it there.`);
          stays.add(enquiryId);
          continue;
        }
        try {
          // eslint-disable-next-line no-await-in-loop -- one's own forms are few
          await crm!.tell(remove(number));
          cleaned.push(`The record \`${number}\` was taken out of ${crm!.account.name}.`);
        } catch (error) {
          if (!(error instanceof ServiceAway)) throw error;
          // Somebody took it out there already.
          if (error.status === '404') continue;
          left.push(`The record \`${number}\` stays in ${crm!.account.name}: ${error.message}`);
          stays.add(enquiryId);
        }
      }
      // What stays in the CRM would be read from there again: it stays here too, marked as one's own browser's.
      await forgetWalked(
        businessId,
        rows.filter(({ id }) => !stays.has(id)),
      );
      const pages = trial?.hits.filter(({ kind }) => kind === 'arrived').length ?? 0;
      await trials.end(membership);
      if (pages > 0)
        cleaned.push(
          `${pages === 1 ? 'One page' : `${pages} pages`} of your browser ${pages === 1 ? 'was' : 'were'} forgotten.`,
        );
      return { cleaned, left };
    },
  };

  /** Takes out enquiries of one's own browser with all that was made of them; they were never counted or told. */
  async function forgetWalked(businessId: string, rows: EnquiryRow[]): Promise<void> {
    if (rows.length === 0) return;
    const ids = rows.map(({ id }) => id);
    const leadIds = rows.flatMap(({ leadId }) => leadId ?? []);
    await inTransaction(db, async (transaction) => {
      await tables.deals.destroy({ where: { businessId, enquiryId: ids }, transaction });
      await forgetEnquiries(context, businessId, ids, transaction);
      const others = plain(
        await tables.enquiries.findAll({ attributes: ['leadId'], where: { businessId, leadId: leadIds }, transaction }),
      );
      const alone = leadIds.filter((id) => !others.some(({ leadId }) => leadId === id));
      await tables.identities.destroy({ where: { businessId, leadId: alone }, transaction });
      await tables.leads.destroy({ where: { businessId, id: alone }, transaction });
    });
  }
}
