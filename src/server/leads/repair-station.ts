import type { CrmWriteRule } from '../../core/leads/schema';
import { followedValues, type FollowedValue } from '../../core/leads/values';
import type { RepairView } from '../../core/leads/writes-view';
import { mayChange } from '../../core/people/rights';
import { repairable, type Reason } from '../../core/reasons/codes';
import { reasonWords } from '../../core/reasons/words';
import { formWordsOf, type Release } from '../../core/releases';
import { counted, type Sentence } from '../../core/strands';
import { waysIn } from '../../core/ways-in';
import type { Context } from '../context';
import { json, selectRows, text, time, uuid, whole } from '../db';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { dryRun, planAll } from './dry-run';
import type { WriteBack } from './write-back';
import { readWriteLog } from './write-log';

/** The newest that are looked at for examples, and that are repaired in one go. */
const [mostLookedAt, mostRepaired] = [200, 5000];
/** Enquiries of which the CRM's record lacks a value that their visit knows. */
const lostInCrm = `FROM hops h
  JOIN enquiries e ON e.business_id = h.business_id AND e.id = h.subject_id AND e.marked = ''
  WHERE h.business_id = ? AND h.hop = 'in_crm' AND h.way_in IN ('form', 'call') AND h.state = 'lost'
    AND JSON_VALUE(h.reason, '$.code') IN (?)`;

/** Values that a record can lack although the visit knows them, as what of a touch they are. */
const repaired: Record<FollowedValue, Pick<CrmWriteRule, 'part' | 'touch'>> = {
  click_id: { part: 'click_id', touch: 'enquiry' },
  source: { part: 'source', touch: 'enquiry' },
  medium: { part: 'medium', touch: 'enquiry' },
  campaign: { part: 'campaign', touch: 'enquiry' },
  content: { part: 'content', touch: 'enquiry' },
  first_referrer: { part: 'referrer', touch: 'first' },
};

/** The rules by which records get back what the visit knows: only what is empty. */
const repairRules = ({ content }: Release): CrmWriteRule[] =>
  followedValues.flatMap((name): CrmWriteRule[] => {
    const field = content.crm?.fields[name];
    return field ? [{ id: name, ...repaired[name], reading: '', swap: '', fields: [field], when: 'empty' }] : [];
  });

/** What records lack although their visit knows it: why, and put back. */
export function makeRepairStation(context: Context, releases: Releases, writeBack: WriteBack) {
  const { db } = context;

  /** The newest such enquiries that do not wait to be written to already. */
  async function readLost(businessId: string, most: number): Promise<string[]> {
    const rows = await selectRows(
      db,
      { id: uuid().of('e.id') },
      `${lostInCrm} AND NOT EXISTS (SELECT 1 FROM crm_writes w
         WHERE w.business_id = e.business_id AND w.enquiry_id = e.id AND w.state = 'waiting')
       ORDER BY e.sent_at DESC LIMIT ${most}`,
      [businessId, repairable],
    );
    return rows.map(({ id }) => id);
  }

  /** How many records lack a value, by why, the most first. */
  const readCauses = (businessId: string) =>
    selectRows(
      db,
      {
        reason: json<Reason>().of('MAX(h.reason)'),
        form: text().of('e.form'),
        records: whole().of('COUNT(*)'),
        newestAt: time().of('MAX(e.sent_at)'),
      },
      `${lostInCrm} GROUP BY JSON_VALUE(h.reason, '$.code'), e.form, JSON_VALUE(h.reason, '$.read')
       ORDER BY records DESC`,
      [businessId, repairable],
    );

  /** When each form's newest enquiry came that is in the CRM. */
  async function newestOfForms(businessId: string, forms: string[]): Promise<Map<string, Date>> {
    if (forms.length === 0) return new Map();
    const rows = await selectRows(
      db,
      { form: text(), sentAt: time().of('MAX(sent_at)') },
      'FROM enquiries WHERE business_id = ? AND form IN (?) AND deal_id IS NOT NULL GROUP BY form',
      [businessId, [...new Set(forms)]],
    );
    return new Map(rows.map(({ form, sentAt }) => [form, sentAt]));
  }

  return {
    async view({ business, role }: Membership): Promise<RepairView> {
      const release = await releases.live(business.id);
      const [rows, ids, { log, waiting }] = await Promise.all([
        readCauses(business.id),
        readLost(business.id, mostLookedAt),
        readWriteLog(context, business.id, 'repair', role.seesPeople),
      ]);
      const [seen, newest] = await Promise.all([
        dryRun(writeBack, business.id, ids, release, repairRules(release), role.seesPeople),
        newestOfForms(
          business.id,
          rows.map(({ form }) => form),
        ),
      ]);
      const causes = rows.map(({ reason, form, records, newestAt }) => {
        const { text: words, mend } = reasonWords(reason, formWordsOf(release), waysIn.form);
        // The newest enquiry of the same form was lost in the same way.
        return { text: words, fix: mend, records, goesOn: newest.get(form)?.getTime() === newestAt.getTime() };
      });
      // What was written and is not read back yet lacks nothing any more; of very many that is not looked at one by one.
      const all = causes.reduce((sum, { records }) => sum + records, 0);
      const records = all <= mostLookedAt ? seen.written : all;
      return {
        sentence: repairSentence(records, waiting, causes),
        records,
        values: Math.max(seen.values, records),
        examples: seen.examples,
        causes,
        waiting,
        log,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /**
     * Writes into records what they lack and the visit knows. Only what is empty; held report-backs go on once it is read
     * back. @returns into how many
     * @throws AVX_CRM_NOT_WRITTEN, AVX_ROLE_TOO_SMALL
     */
    async repair(membership: Membership, byName: string): Promise<{ records: number }> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const crm = await writeBack.crmOf(businessId);
      const release = await releases.live(businessId);
      let records = 0;
      const ids = await readLost(businessId, mostRepaired);
      await planAll(writeBack, businessId, ids, release, repairRules(release), async (plans) => {
        records += await writeBack.queue(businessId, crm, plans, 'repair', byName, release);
      });
      return { records };
    },
  };
}

function repairSentence(records: number, waiting: number, causes: RepairView['causes']): Sentence {
  if (waiting > 0)
    return {
      title: `${counted(waiting, 'record is', 'records are')} being repaired.`,
      under: 'Each is read back afterwards, and what was held for it is told. The page can be left.',
    };
  if (records === 0)
    return {
      title: 'No record lacks what its visit knows.',
      under: 'Where a value got lost between the form and the CRM, it can be put back from here.',
    };
  const goesOn = causes.some((cause) => cause.goesOn);
  return {
    title: `${counted(records, 'record lacks', 'records lack')} what ${records === 1 ? 'its' : 'their'} visit knows.`,
    under: goesOn
      ? 'Fix the cause first, or the next ones lack it too. Then put back what was lost; report-backs that were held for it go on.'
      : 'The cause is gone from the newest enquiries. Put back what was lost; report-backs that were held for it go on.',
  };
}
