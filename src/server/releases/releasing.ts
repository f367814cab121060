import { Op } from 'sequelize';
import { AvrixError } from '../../core/errors';
import { numberVersions } from '../../core/outcomes/versions';
import type { NewReleaseWanted } from '../../core/releases/draft-schema';
import type { HistoryView, ReleaseView } from '../../core/releases/view';
import { applyChanges, readRule, ruleDetails, ruleKind, ruleSentence, type RuleChange } from '../../core/rules';
import { differenceOf, newFindings, type RuleDifference } from '../../core/rules/findings';
import { sameRule } from '../../core/rules/same';
import { counted } from '../../core/strands';
import type { Context } from '../context';
import type { Changes } from '../changes/changes';
import { inTransaction, plain } from '../db';
import { readVersions } from '../outcomes/queries';
import type { Membership } from '../people/people';
import type { BrokenRehearsal, Rehearsals } from '../rehearsals/rehearsals';
import { changesOf, refuseBroken, type Draft } from './draft';
import type { Releases } from './releases';

/** Characters of a release's note. */
const longestNote = 1000;

/** Releases that one page shows. */
const pageLength = 20;

/** @throws AVX_ROLE_TOO_SMALL */
function needsRelease({ role }: Membership): void {
  if (!role.mayRelease) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'make rules live' });
}

/** @throws AVX_REHEARSAL_FAILS naming each, AVX_ROLE_TOO_SMALL where somebody else than an owner would overrule them */
function refuseFailing(failing: BrokenRehearsal[], { role }: Membership, overrule: string): void {
  const [first] = failing;
  if (!first) return;
  if (overrule !== '' && role.role === 'owner') return;
  if (overrule !== '') throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'overrule a saved rehearsal' });
  const fields = failing.flatMap(({ name, broken }) =>
    broken.map((was) => ({ field: name, was, fix: 'Change the rules, or the rehearsal.' })),
  );
  throw new AvrixError('AVX_REHEARSAL_FAILS', { name: first.name, was: first.broken[0]! }, fields);
}

/** Releases one after another: made of the draft, listed with what each changed, and taken back. */
export function makeReleasing(
  { db, tables }: Context,
  releases: Releases,
  draft: Draft,
  log: Changes,
  rehearsals: Pick<Rehearsals, 'prepare'>,
) {
  /** What a release changed; nothing where it came with the business. */
  async function changedBy(businessId: string, number: number): Promise<RuleDifference[]> {
    if (number < 2) return [];
    const [before, after] = await Promise.all([number - 1, number].map((one) => releases.numbered(businessId, one)));
    return differenceOf(before!.content, after!.content);
  }

  function forget(businessId: string): void {
    releases.forget(businessId);
    draft.forget(businessId);
  }

  return {
    /**
     * Makes the next release of the changes that were seen, just as they were seen; what was changed since stays in the
     * draft. It builds on the newest release there is, whoever made that. Saved rehearsals that fail by it stop it, unless an
     * owner says why it goes live all the same.
     *
     * @returns its number
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOTHING_TO_RELEASE, AVX_RULES_BROKEN, AVX_REHEARSAL_FAILS
     */
    async release(
      membership: Membership,
      personId: string,
      { name, seen, overrule = '' }: Omit<NewReleaseWanted, 'overrule'> & { overrule?: string },
    ): Promise<number> {
      needsRelease(membership);
      const { id: businessId } = membership.business;
      const failingBy = await rehearsals.prepare(membership.business);
      const number = await inTransaction(db, async (transaction) => {
        const live = await releases.lockNewest(businessId, transaction);
        const stored = (await draft.rows(businessId, transaction)).filter((row) =>
          seen.some(
            ({ kind, id, changedAt }) =>
              kind === row.kind && id === row.ruleId && changedAt === row.changedAt.toISOString(),
          ),
        );
        if (stored.length === 0) throw new AvrixError('AVX_NOTHING_TO_RELEASE');
        const changed = applyChanges(live.content, changesOf(stored));
        const highest = await readVersions(db, businessId, transaction);
        const content = { ...changed, outcomes: numberVersions(changed.outcomes, live.content.outcomes, highest) };
        refuseBroken(newFindings(live.content, content));
        const failing = await failingBy(content);
        refuseFailing(failing, membership, overrule);
        const overruled = failing.map((one) => `“${one.name}”`).join(', ');
        const note = `${counted(stored.length, 'rule', 'rules')} changed.${overruled && ` Overruled ${overruled}: ${overrule}`}`;
        const made = await releases.make(
          businessId,
          { name, note: note.slice(0, longestNote), content, madeBy: personId },
          transaction,
        );
        await tables.draftChanges.destroy({
          where: { businessId, [Op.or]: stored.map(({ kind, ruleId }) => ({ kind, ruleId })) },
          transaction,
        });
        await log.note(
          businessId,
          personId,
          [{ kind: 'release', subject: `Release ${made}`, was: '', became: `${name}: ${note}` }],
          transaction,
        );
        return made;
      });
      forget(businessId);
      return number;
    },

    /**
     * Makes a release that undoes what another one changed, and nothing else.
     *
     * @returns its number
     * @throws AVX_ROLE_TOO_SMALL, AVX_RELEASE_UNKNOWN, AVX_RELEASE_LATER where later releases changed the same rules or
     *   need what would go
     */
    async takeBack(membership: Membership, personId: string, number: number): Promise<number> {
      needsRelease(membership);
      const { id: businessId } = membership.business;
      const taken = await releases.numbered(businessId, number);
      const differences = await changedBy(businessId, number);
      const made = await inTransaction(db, async (transaction) => {
        const { content: live } = await releases.lockNewest(businessId, transaction);
        const later = differences.find((one) => !sameRule(readRule(live, one), one.after));
        if (differences.length === 0 || later)
          throw new AvrixError('AVX_RELEASE_LATER', {
            number,
            was: later
              ? `a later one changed “${ruleSentence(later.kind, later.after ?? later.before, live)}”`
              : 'it changed no rule',
            fix: later ? 'Take the later one back first, or change that rule.' : 'Choose another one.',
          });
        const undo = differences.map(({ kind, id, before }): RuleChange => ({ kind, id, value: before }));
        const content = applyChanges(live, undo);
        const [broken] = newFindings(live, content).filter(({ weighs }) => weighs === 'stops');
        if (broken) throw new AvrixError('AVX_RELEASE_LATER', { number, was: broken.was, fix: broken.fix });
        const back = await releases.make(
          businessId,
          {
            name: `Takes back ${number}, ${taken.name}`.slice(0, 120),
            content,
            madeBy: personId,
            note: `${counted(undo.length, 'rule', 'rules')} as before it.`,
            takesBack: number,
          },
          transaction,
        );
        await log.note(
          businessId,
          personId,
          [
            {
              kind: 'release',
              subject: `Release ${back}`,
              was: `release ${number}, ${taken.name}`,
              became: 'taken back',
            },
          ],
          transaction,
        );
        return back;
      });
      forget(businessId);
      return made;
    },

    /**
     * A business's releases, newest first, each with who made it when and the sentences it changed.
     * @param before numbers below this one only
     */
    async history({ business, role }: Membership, before = 2 ** 31): Promise<HistoryView> {
      const [live, listed] = await Promise.all([
        releases.live(business.id),
        releases.list(business.id, before, pageLength + 1),
      ]);
      const shown = listed.slice(0, pageLength);
      const names = await draft.namesOf(shown.flatMap(({ madeBy }) => madeBy ?? []));
      const undoing = await tables.releases.findAll({
        attributes: ['takesBack'],
        where: { businessId: business.id, takesBack: shown.map(({ number }) => number) },
      });
      const takenBack = new Set(plain(undoing).map(({ takesBack }) => takesBack));
      return {
        sentence: {
          title: `Release ${live.number}, “${live.name}”, is live.`,
          under:
            live.number === 1
              ? 'It came with the business. The rules that you make live are listed here.'
              : 'Taking one back makes a new release that undoes its changes, and no others.',
        },
        releases: shown.map(({ number, name, madeAt, madeBy, takesBack, content }, at): ReleaseView => {
          const older = listed[at + 1]?.content;
          return {
            number,
            name,
            takesBack,
            isTakenBack: takenBack.has(number),
            madeAt: new Date(madeAt).toISOString(),
            by: madeBy ? (names.get(madeBy) ?? 'somebody who left') : null,
            changes: (older ? differenceOf(older, content) : []).map(({ kind, id, before: was, after }) => ({
              kind,
              id,
              station: ruleKind(kind).station,
              before: ruleSentence(kind, was, older!),
              after: ruleSentence(kind, after, content),
              details: ruleDetails(kind, was, after),
            })),
          };
        }),
        older: listed.length > pageLength ? shown.at(-1)!.number : null,
        mayRelease: role.mayRelease,
        timeZone: business.timeZone,
      };
    },
  };
}
