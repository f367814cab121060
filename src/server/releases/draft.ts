/* eslint-disable no-await-in-loop -- changes are few and in one transaction */
import { Op, type Transaction } from 'sequelize';
import { AvrixError, fieldsWrong, type WrongField } from '../../core/errors';
import { mayChange } from '../../core/people/rights';
import type { ReleaseContent } from '../../core/releases';
import { readChanges } from '../../core/releases/draft-schema';
import type { ChangeView, DraftState, NotLiveView } from '../../core/releases/view';
import {
  applyChanges,
  isRuleKind,
  readRule,
  ruleDetails,
  ruleKind,
  ruleSentence,
  type ChangedRule,
  type RuleChange,
  type RuleName,
} from '../../core/rules';
import { newFindings, type ContentFinding } from '../../core/rules/findings';
import { sameRule } from '../../core/rules/same';
import { counted } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import type { Change, Changes } from '../changes/changes';
import { inTransaction, plain, type DraftChangeRow } from '../db';
import type { Membership } from '../people/people';
import { makeLastKnown } from '../last-known';
import type { Releases } from './releases';

export type Draft = ReturnType<typeof makeDraft>;

const mostChanges = 5000;

/** @throws AVX_ROLE_TOO_SMALL for readers */
export function requireEditor({ role }: Membership): void {
  if (!mayChange(role)) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'change something' });
}

/** Changes of kinds that are known here, in the order in which they were made. */
export const changesOf = (stored: DraftChangeRow[]): RuleChange[] =>
  stored.flatMap(({ kind, ruleId, value }) => (isRuleKind(kind) ? [{ kind, id: ruleId, value }] : []));

/** @throws AVX_RULES_BROKEN where something would stop them from working; what only warns is let through */
export function refuseBroken(found: ContentFinding[]): void {
  const stops = found.filter(({ weighs }) => weighs === 'stops');
  const [first] = stops;
  if (!first) return;
  const fields = stops.map(({ rule, was, fix }) => ({ field: rule?.id || rule?.kind || 'rules', was, fix }));
  throw new AvrixError('AVX_RULES_BROKEN', { was: first.was, fix: first.fix }, fields);
}

/** What the change log says of a changed rule. */
function noteOf({ kind, id }: RuleName, before: ReleaseContent, after: ReleaseContent): Change {
  const say = (content: ReleaseContent) => ruleSentence(kind, readRule(content, { kind, id }), content) ?? '';
  return {
    kind: 'rule',
    subject: `${kind.replaceAll('_', ' ')}${id && ` ${id}`}`,
    was: say(before),
    became: say(after),
  };
}

/** The rules being edited: what of a business's live release is to be otherwise, one row a rule. */
export function makeDraft({ db, tables }: Context, releases: Releases, log: Changes) {
  async function rows(businessId: string, transaction: Transaction | null = null): Promise<DraftChangeRow[]> {
    return plain(
      await tables.draftChanges.findAll({
        where: { businessId },
        order: [['changedAt', 'ASC']],
        limit: mostChanges,
        transaction,
      }),
    );
  }

  async function content(
    businessId: string,
  ): Promise<{ live: ReleaseContent; draft: ReleaseContent; changed: ChangedRule[] }> {
    const [release, stored] = await Promise.all([releases.live(businessId), rows(businessId)]);
    const live = release.content;
    const changes = changesOf(stored);
    return { live, draft: applyChanges(live, changes), changed: await changedOf(stored) };
  }

  /** The rules that are not as they are live, each with who changed it last and when. */
  async function changedOf(stored: DraftChangeRow[]): Promise<ChangedRule[]> {
    const names = await namesOf(stored.map(({ changedBy }) => changedBy));
    return stored.flatMap(({ kind, ruleId, changedBy, changedAt }): ChangedRule[] => {
      const by = names.get(changedBy) ?? 'somebody who left';
      return isRuleKind(kind) ? [{ kind, id: ruleId, by, changedAt: changedAt.toISOString() }] : [];
    });
  }

  const count = makeLastKnown((businessId) => tables.draftChanges.count({ where: { businessId } }));

  async function namesOf(people: string[]): Promise<Map<string, string>> {
    if (people.length === 0) return new Map();
    const known = await tables.people.findAll({ attributes: ['id', 'name'], where: { id: [...new Set(people)] } });
    return new Map(plain(known).map(({ id, name }) => [id, name]));
  }

  /**
   * Checks changes by their kinds, as they would stand in the draft.
   * @throws AVX_FIELD_WRONG naming the rule's field, AVX_RULE_NAME_TAKEN
   */
  function checkEach(changes: RuleChange[], after: ReleaseContent): void {
    const wrong = changes.flatMap(({ kind, value }): WrongField[] =>
      value === null ? [] : (ruleKind(kind).check?.(value, after) ?? []).filter(({ weighs }) => weighs !== 'warns'),
    );
    const [first, ...others] = wrong;
    if (first) throw fieldsWrong([first, ...others]);
    for (const { kind, id, value } of changes) {
      const own = value === null ? id : ruleKind(kind).at.idOf(value);
      if (own !== id) throw new AvrixError('AVX_RULE_NAME_TAKEN', { was: id, name: own });
    }
  }

  /**
   * Making never overwrites, and nobody's change is lost unseen: a rule that is no longer as it was when its change began
   * is left alone, and both are answered.
   * @throws AVX_RULE_TAKEN, AVX_RULE_CHANGED with `conflicts`, each with both sentences and the rule as it is
   */
  async function refuseOverwriting(changes: RuleChange[], stored: DraftChangeRow[], draft: ReleaseContent) {
    const conflicts = changes.flatMap((change) => {
      const theirs = readRule(draft, change);
      if (change.from === undefined || sameRule(theirs, change.from) || sameRule(theirs, change.value)) return [];
      const { kind, id, value } = change;
      const row = stored.find((one) => one.kind === kind && one.ruleId === id);
      const sentences = {
        theirSentence: ruleSentence(kind, theirs, draft),
        sentence: ruleSentence(kind, value, draft),
      };
      return [{ kind, id, theirs, ...sentences, isNew: change.from === null, row }];
    });
    const [first] = conflicts;
    if (!first) return;
    if (first.isNew) throw new AvrixError('AVX_RULE_TAKEN', { sentence: first.theirSentence! });
    const names = await namesOf(conflicts.flatMap(({ row }) => row?.changedBy ?? []));
    const by = (row: DraftChangeRow | undefined) => names.get(row?.changedBy ?? '') ?? 'Somebody';
    throw new AvrixError('AVX_RULE_CHANGED', { by: by(first.row) }, [], {
      conflicts: conflicts.map(({ row, isNew: _, ...one }) => ({ ...one, by: by(row), at: row?.changedAt ?? null })),
    });
  }

  return {
    content,
    rows,
    namesOf,

    /** What says whether rules are as they were: the release that is live, and what the draft changes. */
    async state({ business }: Membership): Promise<DraftState> {
      const [{ number }, stored] = await Promise.all([releases.live(business.id), rows(business.id)]);
      return { release: number, changed: await changedOf(stored) };
    },

    /** How many rules are not live, known within two seconds. */
    count: (businessId: string): Promise<number> => count.get(businessId),
    forget: (businessId: string) => count.forget(businessId),

    /**
     * Changes rules in the draft. One that comes to be as it is live is no longer in the draft.
     *
     * @returns what is doubtful about the rules now and was not before
     * @throws AVX_FIELD_WRONG, AVX_RULES_BROKEN, AVX_RULE_CHANGED, AVX_RULE_TAKEN
     */
    async change(membership: Membership, personId: string, given: RuleChange[]): Promise<ContentFinding[]> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const changes = readChanges(given);
      const found = await inTransaction(db, async (transaction) => {
        const { content: live } = await releases.lockNewest(businessId, transaction);
        const stored = await rows(businessId, transaction);
        const draft = applyChanges(live, changesOf(stored));
        const after = applyChanges(draft, changes);
        checkEach(changes, after);
        await refuseOverwriting(changes, stored, draft);
        const fresh = newFindings(draft, after);
        refuseBroken(fresh);
        for (const { kind, id, value } of changes) {
          const where = { businessId, kind, ruleId: id };
          if (sameRule(value, readRule(live, { kind, id }))) await tables.draftChanges.destroy({ where, transaction });
          else
            await tables.draftChanges.upsert(
              { ...where, value, changedBy: personId, changedAt: now() },
              { transaction },
            );
        }
        await log.note(
          businessId,
          personId,
          changes.map((change) => noteOf(change, draft, after)),
          transaction,
        );
        return fresh;
      });
      count.forget(businessId);
      return found;
    },

    /** Drops changes: those rules are as they are live. Without any named, all are. @throws AVX_RULES_BROKEN */
    async drop(membership: Membership, rules: RuleName[]): Promise<void> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const named = rules.map(({ kind, id }) => ({ kind, ruleId: id }));
      await inTransaction(db, async (transaction) => {
        const { content: live } = await releases.lockNewest(businessId, transaction);
        const stored = await rows(businessId, transaction);
        const left = stored.filter(
          (row) => named.length > 0 && !named.some(({ kind, ruleId }) => kind === row.kind && ruleId === row.ruleId),
        );
        refuseBroken(newFindings(applyChanges(live, changesOf(stored)), applyChanges(live, changesOf(left))));
        await tables.draftChanges.destroy({
          where: { businessId, ...(named.length > 0 ? { [Op.or]: named } : {}) },
          transaction,
        });
        const dropped = changesOf(stored.filter((row) => !left.includes(row)));
        const before = applyChanges(live, changesOf(stored));
        await log.note(
          businessId,
          membership.role.personId,
          dropped.map((change) => noteOf(change, before, live)),
          transaction,
        );
      });
      count.forget(businessId);
    },

    /** What is not live, with the live and the draft sentence of each rule, and what is wrong with them together. */
    async view({ business, role }: Membership): Promise<NotLiveView> {
      const [release, stored] = await Promise.all([releases.live(business.id), rows(business.id)]);
      const names = await namesOf([...stored.map((row) => row.changedBy), ...(release.madeBy ? [release.madeBy] : [])]);
      const draft = applyChanges(release.content, changesOf(stored));
      const changes = stored.flatMap((row): ChangeView[] => {
        if (!isRuleKind(row.kind)) return [];
        const name = { kind: row.kind, id: row.ruleId };
        return [
          {
            ...name,
            station: ruleKind(row.kind).station,
            live: ruleSentence(row.kind, readRule(release.content, name), release.content),
            draft: ruleSentence(row.kind, row.value, draft),
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
              : `Until release ${release.number + 1} is made, release ${release.number} stays live.`,
        },
        changes,
        findings: newFindings(release.content, draft).map(({ weighs, was, fix }) => ({ weighs, was, fix })),
        release: {
          number: release.number,
          name: release.name,
          madeAt: new Date(release.madeAt).toISOString(),
          by: release.madeBy ? (names.get(release.madeBy) ?? 'somebody who left') : null,
        },
        mayRelease: role.mayRelease,
        isOwner: role.role === 'owner',
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },
  };
}
