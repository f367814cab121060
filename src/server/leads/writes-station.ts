import type { CrmWriteRule } from '../../core/leads/schema';
import type { DryRunView, WritesView } from '../../core/leads/writes-view';
import { mayChange } from '../../core/people/rights';
import { quoteValue } from '../../core/quote-value';
import type { ReleaseContent } from '../../core/releases';
import type { NotLiveView } from '../../core/releases/view';
import { ruleSentence } from '../../core/rules';
import { sameRule } from '../../core/rules/same';
import { counted, type Sentence } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import type { Crms } from '../crms/crm';
import { inTransaction, selectOne, selectRows, uuid, whole } from '../db';
import { newId } from '../ids';
import type { Membership } from '../people/people';
import { requireEditor, type Draft } from '../releases/draft';
import type { Releases } from '../releases/releases';
import { dryRun } from './dry-run';
import { readRecordNames } from './queries';
import type { WriteBack } from './write-back';
import { canHold } from './write-records';
import { readWriteLog } from './write-log';

/** The newest enquiries that rules are tried on. */
const mostTried = 1000;
/** Enquiries that the CRM has a record of. */
const withRecord = "FROM enquiries WHERE business_id = ? AND deal_id IS NOT NULL AND marked = ''";

export type WritesStation = ReturnType<typeof makeWritesStation>;

/** What rules write into the CRM's records: tried, named where it would be cut, and used on what was there before. */
export function makeWritesStation(
  context: Context,
  crms: Crms,
  releases: Releases,
  draft: Draft,
  writeBack: WriteBack,
) {
  const { db, tables } = context;

  /** Tries rules on the newest records, by the rest of the draft. */
  async function tryRules({ business, role }: Membership, content: ReleaseContent, rules: CrmWriteRule[]) {
    const [live, newest] = await Promise.all([
      releases.live(business.id),
      selectRows(db, { id: uuid() }, `${withRecord} ORDER BY sent_at DESC LIMIT ${mostTried}`, [business.id]),
    ]);
    const ids = newest.map(({ id }) => id);
    return dryRun(writeBack, business.id, ids, { ...live, content }, rules, role.seesPeople);
  }

  return {
    async view({ business, role }: Membership): Promise<WritesView> {
      const [{ draft: edited, live, changed }, { log, waiting }, seen, crm] = await Promise.all([
        draft.content(business.id),
        readWriteLog(context, business.id, 'rule', role.seesPeople),
        readRecordNames(db, business.id, 'fields'),
        crms.of(business.id),
      ]);
      return {
        sentence: writesSentence(live.crm !== null, live.crmWrites.length, edited.crmWrites.length, waiting),
        rules: edited.crmWrites,
        beside: { capture: edited.capture, events: edited.events },
        fields: crm?.contract.writable ?? seen,
        account: edited.crm?.account ?? '',
        changed,
        log,
        waiting,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /** What changed rules would do that their CRM cannot hold: each is said before it goes live. */
    async findings(membership: Membership): Promise<NotLiveView['findings']> {
      const { draft: content, live } = await draft.content(membership.business.id);
      const changed = content.crmWrites.filter((rule) => !live.crmWrites.some((known) => sameRule(known, rule)));
      if (changed.length === 0) return [];
      const [{ cutOf, lacks }, crm] = await Promise.all([
        tryRules(membership, content, changed),
        crms.of(membership.business.id),
      ]);
      return changed.flatMap((rule): NotLiveView['findings'] => {
        const sentence = `“${ruleSentence('crm_write', rule, content)}”`;
        const cut = cutOf.get(rule.id);
        const unknown = rule.fields.find((field) => crm && !canHold(crm, field));
        return [
          ...(cut
            ? [
                {
                  weighs: 'warns' as const,
                  was: `${sentence}: ${counted(cut.values, 'value is', 'values are')} longer than the field`,
                  fix: `Choose a longer field, or write less. It would hold ${quoteValue(cut.holds)}.`,
                },
              ]
            : []),
          ...(lacks.has(rule.id)
            ? [
                {
                  weighs: 'warns' as const,
                  was: `${sentence}: ${crm?.account.name ?? 'the CRM'} has no field ${quoteValue(lacks.get(rule.id)!)}`,
                  fix: 'Make it there, or choose another field.',
                },
              ]
            : []),
          ...(unknown === undefined
            ? []
            : [
                {
                  weighs: 'warns' as const,
                  was: `${sentence}: the description of ${crm!.account.name} says no place for ${quoteValue(unknown)}`,
                  fix: 'Describe where it is written, or choose another field.',
                },
              ]),
        ];
      });
    },

    /** What rules as they are written would do to the newest records; nothing is written. */
    async dryRun(membership: Membership, rules: CrmWriteRule[]): Promise<DryRunView> {
      const { draft: content } = await draft.content(membership.business.id);
      const { records, written, values, cut, examples, left } = await tryRules(membership, content, rules);
      return { records, written, values, cut, examples, left };
    },

    /**
     * Has the live rules written into records that were there before them. @returns how many are looked at
     * @throws AVX_CRM_NOT_WRITTEN, AVX_ROLE_TOO_SMALL
     */
    async writeNow(membership: Membership, byName: string): Promise<{ records: number }> {
      requireEditor(membership);
      const businessId = membership.business.id;
      const crm = await writeBack.crmOf(businessId);
      const { content } = await releases.live(businessId);
      const rules = content.crmWrites.map(({ id }) => id);
      return inTransaction(db, async (transaction) => {
        await tables.crmWriteRuns.create({ businessId, id: newId(), rules, byName, madeAt: now() }, { transaction });
        await db.query(
          `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts)
           SELECT business_id, 'crm_write', id, ?, ?, 1, 0 ${withRecord}
           ON DUPLICATE KEY UPDATE marks = work.marks + 1, due_at = LEAST(work.due_at, VALUES(due_at))`,
          { replacements: [crm.account.id, now(), businessId], transaction },
        );
        return selectOne(db, { records: whole().of('COUNT(*)') }, withRecord, [businessId], transaction);
      });
    },
  };
}

function writesSentence(isRead: boolean, live: number, edited: number, waiting: number): Sentence {
  if (!isRead)
    return {
      title: 'No CRM is read, so nothing is written into one.',
      under: 'Connect it first, and say which of its fields hold what.',
    };
  if (waiting > 0)
    return {
      title: `${counted(waiting, 'record is', 'records are')} being looked at and written.`,
      under: 'One after the other, as fast as the CRM takes them. The page can be left.',
    };
  if (edited === 0)
    return {
      title: 'Say what sales should read in the CRM.',
      under:
        'Where a lead came from in words, its first campaign, each source in turn: written into fields of your choice.',
    };
  return {
    title:
      live === 0
        ? 'Nothing is written into the CRM yet.'
        : `${counted(live, 'rule writes', 'rules write')} into the CRM.`,
    under:
      'What somebody typed there is kept, unless a rule says otherwise. Every write is listed with what was there before.',
  };
}
