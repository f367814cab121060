import { Op, type Transaction } from 'sequelize';
import { AvrixError, fieldsWrong, type WrongField } from '../../core/errors';
import { mayChange } from '../../core/people/rights';
import type { ReleaseContent } from '../../core/releases';
import {
  applyChanges,
  isRuleKind,
  readRule,
  ruleDetails,
  ruleKind,
  ruleSentence,
  type RuleChange,
  type RuleName,
} from '../../core/rules';
import { readChanges, type NewReleaseWanted } from '../../core/releases/draft-schema';
import type { ChangeView, NotLiveView } from '../../core/releases/view';
import { counted } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, type DraftChangeRow } from '../db';
import type { Membership } from '../people/people';
import { makeLastKnown } from '../last-known';
import type { Releases } from './releases';

export type Draft = ReturnType<typeof makeDraft>;

const mostChanges = 5000;

/** @throws AVX_ROLE_TOO_SMALL for readers */
export function needsChange({ role }: Membership): void {
  if (!mayChange(role)) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'change something' });
}

/** The rules being edited: what of a business's live release is to be otherwise, one row a rule. */
export function makeDraft({ db, tables }: Context, releases: Releases) {
  async function rows(businessId: string, transaction?: Transaction): Promise<DraftChangeRow[]> {
    return plain(
      await tables.draftChanges.findAll({
        where: { businessId },
        order: [['changedAt', 'ASC']],
        limit: mostChanges,
        ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
      }),
    );
  }

  /** Changes of kinds that are known here, in the order in which they were made. */
  const changesOf = (stored: DraftChangeRow[]): RuleChange[] =>
    stored.flatMap(({ kind, ruleId, value }) => (isRuleKind(kind) ? [{ kind, id: ruleId, value }] : []));

  async function content(
    businessId: string,
  ): Promise<{ live: ReleaseContent; draft: ReleaseContent; changed: RuleName[] }> {
    const [release, stored] = await Promise.all([releases.live(businessId), rows(businessId)]);
    const live = release.content;
    const changes = changesOf(stored);
    return { live, draft: applyChanges(live, changes), changed: changes.map(({ kind, id }) => ({ kind, id })) };
  }

  const count = makeLastKnown((businessId) => tables.draftChanges.count({ where: { businessId } }));

  /**
   * Checks changes against their schemas and the content they would stand in.
   * @throws AVX_FIELD_WRONG naming the rule's field
   */
  function check(changes: RuleChange[], draft: ReleaseContent): RuleChange[] {
    const checked = readChanges(changes);
    const after = applyChanges(draft, checked);
    const wrong = checked.flatMap(({ kind, value }): WrongField[] =>
      value === null ? [] : (ruleKind(kind).check?.(value, after) ?? []),
    );
    const [first, ...others] = wrong;
    if (first) throw fieldsWrong([first, ...others]);
    for (const { kind, id, value } of checked) {
      const own = value === null ? id : ruleKind(kind).at.idOf(value);
      if (own !== id) throw new AvrixError('AVX_RULE_NAME_TAKEN', { was: id, name: own });
    }
    return checked;
  }

  return {
    content,

    /** How many rules are not live, known within two seconds. */
    count: (businessId: string): Promise<number> => count.get(businessId),

    /** Changes rules in the draft. One that comes to be as it is live is no longer in the draft. @throws AVX_FIELD_WRONG */
    async change(membership: Membership, personId: string, given: RuleChange[]): Promise<void> {
      needsChange(membership);
      const { id: businessId } = membership.business;
      const { number } = await releases.live(businessId);
      const { live, draft } = await content(businessId);
      const changes = check(given, draft);
      await inTransaction(db, async (transaction) => {
        for (const { kind, id, value } of changes) {
          const where = { businessId, kind, ruleId: id };
          if (JSON.stringify(value) === JSON.stringify(readRule(live, { kind, id })))
            await tables.draftChanges.destroy({ where, transaction });
          else
            await tables.draftChanges.upsert(
              { ...where, base: number, value, changedBy: personId, changedAt: now() },
              { transaction },
            );
        }
      });
      count.forget(businessId);
    },

    /** Drops changes: those rules are as they are live. Without any named, all are. */
    async drop(membership: Membership, rules: RuleName[]): Promise<void> {
      needsChange(membership);
      const { id: businessId } = membership.business;
      const named = rules.map(({ kind, id }) => ({ kind, ruleId: id }));
      await tables.draftChanges.destroy({ where: { businessId, ...(named.length > 0 ? { [Op.or]: named } : {}) } });
      count.forget(businessId);
    },

    /** What is not live, with the live and the draft sentence of each rule. */
    async view({ business, role }: Membership): Promise<NotLiveView> {
      const [release, stored] = await Promise.all([releases.live(business.id), rows(business.id)]);
      const people = await tables.people.findAll({
        attributes: ['id', 'name'],
        where: { id: [...new Set(stored.map((row) => row.changedBy))] },
      });
      const names = new Map(plain(people).map(({ id, name }) => [id, name]));
      const changes = stored.flatMap((row): ChangeView[] => {
        if (!isRuleKind(row.kind)) return [];
        const name = { kind: row.kind, id: row.ruleId };
        return [
          {
            ...name,
            station: ruleKind(row.kind).station,
            live: ruleSentence(row.kind, readRule(release.content, name), release.content),
            draft: ruleSentence(row.kind, row.value, release.content),
            details: ruleDetails(row.kind, readRule(release.content, name), row.value),
            by: names.get(row.changedBy) ?? 'somebody who left',
            changedAt: row.changedAt.toISOString(),
          },
        ];
      });
      return {
        sentence: {
          title:
            changes.length === 0
              ? 'Everything is live.'
              : `${counted(changes.length, 'rule is', 'rules are')} not live yet.`,
          under:
            changes.length === 0
              ? `Release ${release.number}, “${release.name}”, holds all rules as they are edited.`
              : `They take hold with release ${release.number + 1}; until then release ${release.number} holds.`,
        },
        changes,
        release: { number: release.number, name: release.name, madeAt: new Date(release.madeAt).toISOString() },
        mayRelease: role.mayRelease,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /**
     * Makes the next release of the changes that were seen, just as they were seen; what was changed since stays in the
     * draft.
     * @returns its number
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOTHING_TO_RELEASE
     */
    async release({ business, role }: Membership, { name, seen }: NewReleaseWanted): Promise<number> {
      if (!role.mayRelease) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'make rules live' });
      const live = await releases.live(business.id);
      const number = await inTransaction(db, async (transaction) => {
        const stored = (await rows(business.id, transaction)).filter((row) =>
          seen.some(
            ({ kind, id, changedAt }) =>
              kind === row.kind && id === row.ruleId && changedAt === row.changedAt.toISOString(),
          ),
        );
        if (stored.length === 0) throw new AvrixError('AVX_NOTHING_TO_RELEASE');
        const content = applyChanges(live.content, changesOf(stored));
        const note = `${counted(stored.length, 'rule', 'rules')} changed.`;
        const made = await releases.make(business.id, { name, note, content }, transaction);
        await tables.draftChanges.destroy({
          where: { businessId: business.id, [Op.or]: stored.map(({ kind, ruleId }) => ({ kind, ruleId })) },
          transaction,
        });
        return made;
      });
      releases.forget(business.id);
      count.forget(business.id);
      return number;
    },
  };
}
