/* eslint-disable no-await-in-loop -- releases are few and kept in memory */
import { Op, type Transaction } from 'sequelize';
import {
  countOutcome,
  dedupeKeys,
  ladderOf,
  noStages,
  noticesAbout,
  worthAfter,
  worthOf,
  worthsBeside,
  type Counted,
  type Happening,
  type Money,
  type OutcomeRule,
  type PaymentNotice,
} from '../../core/outcomes';
import type { Release } from '../../core/releases';
import { outcomeEventId } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, plain, type OutcomeRow } from '../db';
import type { Releases } from '../releases/releases';

/** An enquiry, order or subscription with what happened to it, the newest last. */
export interface Followed {
  subject: Happening['subject'];
  happenings: Happening[];
  /** What became of its payment. */
  notices?: readonly PaymentNotice[];
  /** Of staff or bots: nothing more is counted. */
  isMarked: boolean;
}

/**
 * Counts what enquiries, orders or subscriptions of one business reached, each outcome once by its dedupe key, under the release that was
 * in force when it happened. Its worth follows what is known of the amounts until it was told; what it is worth since is kept
 * beside it, by what became of its payment (rule 17).
 *
 * @returns the outcomes of each subject by its ID, also one that another subject had reached first for the same key
 */
export async function countOutcomes(
  context: Context,
  releases: Releases,
  businessId: string,
  followed: Followed[],
  transaction: Transaction,
): Promise<Map<string, OutcomeRow[]>> {
  const { tables } = context;
  const inForce = await readInForce(releases, businessId, followed, transaction);
  const live = await releases.live(businessId);
  const idOf = (code: string, key: string) => outcomeEventId(businessId, code, key);
  /** Of a subject, whatever it may have reached by a rule that is or was in force. */
  const candidates = new Map(
    followed.map(({ subject, happenings }) => [
      subject.id,
      new Set(
        happenings.flatMap((one) =>
          [...rulesOf(live), ...rulesOf(inForce(ruledAt(one)))].flatMap((rule) =>
            dedupeKeys(one, rule).map((key) => idOf(rule.code, key)),
          ),
        ),
      ),
    ]),
  );
  const known = await readKnown(
    context,
    businessId,
    [...new Set([...candidates.values()].flatMap((ids) => [...ids]))],
    transaction,
  );
  const currency = (await tables.businesses.findByPk(businessId, { transaction }))!.get('currency') as string;
  const changed = new Map<string, OutcomeRow>();
  for (const { subject, happenings, notices = [], isMarked } of followed) {
    if (isMarked) continue;
    for (const happening of happenings) {
      const release = inForce(ruledAt(happening));
      for (const rule of rulesOf(release)) {
        const counted = countOutcome(happening, rule, stagesOf(release!));
        const id = counted && idOf(rule.code, counted.key);
        if (!id || dedupeKeys(happening, rule).some((key) => known.rows.has(idOf(rule.code, key)))) continue;
        const row = toRow(businessId, id, subject, counted, rule, release!, currency);
        known.rows.set(id, row);
        changed.set(id, row);
      }
    }
    const reached: Reached[] = [];
    for (const id of candidates.get(subject.id)!) {
      const row = known.rows.get(id);
      if (!row || row.subjectId !== subject.id) continue;
      const under = await releases.numbered(businessId, row.releaseNumber);
      const rule = rulesOf(under).find(({ code }) => code === row.code);
      // Of several deals of an enquiry it is worth what that one says by which it was reached.
      const by = happenings.find((one) => {
        const counted = rule && countOutcome(one, rule, stagesOf(under));
        return counted && idOf(row.code, counted.key) === id;
      });
      if (rule && by) reached.push({ row, rule, by, under, base: worthOf(by.amounts, rule.worth) });
    }
    const worths = worthsBeside(
      reached.map(({ row: { code }, under, base: { worth } }) => ({
        code,
        worth,
        ladder: ladderOf(under.content.ladders, code),
      })),
    );
    for (const [i, { row, rule, by, base }] of reached.entries()) {
      const worth = worths[i]!;
      const about = noticesAbout(by, happenings, notices);
      const revalued = revalue(row, rule, { ...base, worth }, about, known.told.has(row.id), currency);
      if (sameWorth(row, revalued)) continue;
      known.rows.set(row.id, revalued);
      changed.set(row.id, revalued);
    }
  }
  await insertRows(
    tables.outcomes,
    [...changed.values()],
    [
      ...(['amountMinor', 'worthMinor', 'currency', 'winRateWon', 'winRateOf'] as const),
      ...(['correctedMinor', 'worthChange', 'changeCause', 'changedAt'] as const),
    ],
    transaction,
  );
  return new Map(
    [...candidates].map(([subject, ids]) => [subject, [...ids].flatMap((id) => known.rows.get(id) ?? [])]),
  );
}

/** When (ms) it was decided what counts. */
const ruledAt = ({ at, ruledAt: decided = at }: Happening): number => decided;
/** An outcome that a subject reached, by what, and what it is worth by itself. */
interface Reached {
  row: OutcomeRow;
  rule: OutcomeRule;
  by: Happening;
  under: Release;
  base: ReturnType<typeof worthOf>;
}

const rulesOf = (release: Release | null): OutcomeRule[] => release?.content.outcomes ?? [];
const stagesOf = ({ content }: Release) => content.crm?.stages ?? noStages;

/** Which release was in force at a moment (ms); null before the first. */
async function readInForce(
  releases: Releases,
  businessId: string,
  followed: Followed[],
  transaction: Transaction,
): Promise<(at: number) => Release | null> {
  const begins = await releases.begins(businessId, transaction);
  const numberAt = (at: number) => begins.findLast(({ madeAt }) => madeAt <= at)?.number ?? null;
  const needed = new Set(followed.flatMap(({ happenings }) => happenings.map((one) => numberAt(ruledAt(one)))));
  const byNumber = new Map<number, Release>();
  for (const number of needed) if (number !== null) byNumber.set(number, await releases.numbered(businessId, number));
  return (at) => byNumber.get(numberAt(at) ?? 0) ?? null;
}

/** Outcomes that are counted already, and which of them a platform answered for. */
async function readKnown({ tables }: Context, businessId: string, ids: string[], transaction: Transaction) {
  const rows =
    ids.length > 0 ? plain(await tables.outcomes.findAll({ where: { businessId, id: ids }, transaction })) : [];
  const told =
    rows.length > 0
      ? plain(
          await tables.reportBacks.findAll({
            attributes: ['outcomeId'],
            where: { businessId, outcomeId: rows.map(({ id }) => id), answeredAt: { [Op.ne]: null } },
            transaction,
          }),
        )
      : [];
  return { rows: new Map(rows.map((row) => [row.id, row])), told: new Set(told.map(({ outcomeId }) => outcomeId)) };
}

const toRow = (
  businessId: string,
  id: string,
  subject: Happening['subject'],
  counted: Counted,
  rule: OutcomeRule,
  release: Release,
  currency: string,
): OutcomeRow => ({
  businessId,
  id,
  code: rule.code,
  version: rule.version,
  dedupeKey: counted.key,
  subjectKind: subject.kind,
  subjectId: subject.id,
  happenedAt: new Date(counted.at),
  evidence: counted.evidence,
  ...asCounted,
  countedAt: now(),
  releaseNumber: release.number,
  ...worthColumns(counted, rule, currency),
});

/** @param currency of the business, for an outcome without any amount */
const worthColumns = (
  { amount, worth }: { amount: Money | null; worth: Money | null },
  rule: OutcomeRule,
  currency: string,
): Pick<OutcomeRow, 'amountMinor' | 'worthMinor' | 'currency' | 'winRateWon' | 'winRateOf'> => ({
  amountMinor: amount?.minor ?? 0,
  worthMinor: worth?.minor ?? 0,
  currency: worth?.currency ?? currency,
  winRateWon: rule.worth.kind === 'expected' ? rule.worth.winRate.won : null,
  winRateOf: rule.worth.kind === 'expected' ? rule.worth.winRate.of : null,
});

const asCounted = { correctedMinor: null, worthChange: '', changeCause: '', changedAt: null } as const;

/** An outcome with what it is worth now. What it was told with stays as it was; what it is worth since is kept beside it. */
function revalue(
  row: OutcomeRow,
  rule: OutcomeRule,
  base: ReturnType<typeof worthOf>,
  notices: readonly PaymentNotice[],
  isTold: boolean,
  currency: string,
): OutcomeRow {
  const valued = isTold ? row : { ...row, ...worthColumns(base, rule, currency) };
  const after = worthAfter(base, notices);
  const since = (
    correctedMinor: number | null,
    worthChange: OutcomeRow['worthChange'],
    changeCause: OutcomeRow['changeCause'],
  ): OutcomeRow => ({
    ...valued,
    correctedMinor,
    worthChange,
    changeCause,
    changedAt: row.worthChange === worthChange && row.correctedMinor === correctedMinor ? row.changedAt : now(),
  });
  if (isTold && base.worth && base.worth.currency !== row.currency) return since(null, 'other_currency', 'amount');
  const minor = after.worth?.minor ?? 0;
  if (after.change === 'taken_back') return since(minor, 'taken_back', after.cause);
  if (minor === Number(valued.worthMinor)) return { ...valued, ...asCounted };
  return since(minor, 'revalued', after.change === '' ? 'amount' : after.cause);
}

const sameWorth = (a: OutcomeRow, b: OutcomeRow): boolean =>
  (['amountMinor', 'worthMinor', 'currency', 'correctedMinor', 'worthChange', 'changeCause'] as const).every(
    (column) => String(a[column]) === String(b[column]),
  );
