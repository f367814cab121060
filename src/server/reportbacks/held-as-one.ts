import type { Sequelize } from 'sequelize';
import type { BrakeActGiven } from '../../core/reportbacks/queue-schema';
import type { BrakeView } from '../../core/reportbacks/queue-view';
import { AvrixError } from '../../core/errors';
import { count, counted } from '../../core/strands';
import type { Changes } from '../changes/changes';
import { now } from '../clock';
import type { Context } from '../context';
import {
  inTransaction,
  pick,
  plain,
  selectOne,
  selectRows,
  text,
  whole,
  type BrakeRow,
  type BusinessRow,
  type RoleRow,
} from '../db';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';
import { moneyWords } from '../strands/trace-events';
import { markSubjects } from './settle';
import { reportBacks } from './table';

export type HeldAsOne = ReturnType<typeof makeHeldAsOne>;
const mostCauses = 3;

/** What a brake holds, joined with its outcomes, which the models cannot say. */
const held = `FROM report_backs r JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
  WHERE r.business_id = ? AND r.state = 'held' AND JSON_VALUE(r.reason, '$.code') = 'brake' AND o.code = ? AND r.account = ?`;

const countCauses = (db: Sequelize, { businessId, outcome, account }: BrakeRow) =>
  selectRows(
    db,
    {
      by: text().of("COALESCE(JSON_VALUE(o.evidence, '$.by'), '')"),
      kind: text().of("JSON_VALUE(o.evidence, '$.kind')"),
      n: whole().of('COUNT(*)'),
    },
    `${held} GROUP BY \`by\`, kind ORDER BY n DESC`,
    [businessId, outcome, account],
  );

/** Groups of report-backs that are held as one: what each is, who caused it, and that somebody let it go or withdrew it. */
export function makeHeldAsOne(context: Context, changes: Changes) {
  const { db, tables } = context;

  return {
    async view(business: BusinessRow, role: RoleRow): Promise<Omit<BrakeView, 'accountName'>[]> {
      const open = plain(
        await tables.brakes.findAll({ where: { businessId: business.id, endedAt: null }, order: [['madeAt', 'DESC']] }),
      );
      const all = await Promise.all(
        open.map(async (brake) => {
          const causes = await countCauses(db, brake);
          return toView(brake, causes, business.currency, role);
        }),
      );
      return all.filter((one) => one.count > 0);
    },

    /** How many wait for a look. */
    async unseen(businessId: string): Promise<number> {
      if ((await tables.brakes.count({ where: { businessId, endedAt: null } })) === 0) return 0;
      const { n } = await selectOne(
        db,
        { n: whole().of('COUNT(*)') },
        "FROM report_backs WHERE business_id = ? AND state = 'held' AND JSON_VALUE(reason, '$.code') = 'brake'",
        [businessId],
      );
      return n;
    },

    /**
     * Lets all go that a brake holds, or withdraws them. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND
     * @returns how many it was
     */
    async end(membership: Membership, byName: string, { id, act }: BrakeActGiven): Promise<{ done: number }> {
      requireEditor(membership);
      const { business, role } = membership;
      return inTransaction(db, async (transaction) => {
        const where = { businessId: business.id, id, endedAt: null };
        const found = await tables.brakes.findOne({ where, transaction, lock: transaction.LOCK.UPDATE });
        if (!found) throw new AvrixError('AVX_NOT_FOUND', { what: 'group that is held' });
        const brake = found.get({ plain: true });
        const { outcome, account } = brake;
        await tables.brakes.update(
          { endedAt: now(), endedBy: byName.slice(0, 80) },
          { where: { businessId: business.id, outcome, account, endedAt: null }, transaction },
        );
        const rows = await selectRows(
          db,
          pick(reportBacks, ['id', 'subjectKind', 'subjectId'], 'r'),
          `${held} ORDER BY r.id FOR UPDATE`,
          [business.id, outcome, account],
          transaction,
        );
        if (rows.length > 0)
          await tables.reportBacks.update(
            act === 'let_go'
              ? { reason: null }
              : { state: 'withdrawn', reason: { code: 'withdrawn_by', by: byName.slice(0, 80) } },
            { where: { businessId: business.id, id: rows.map((row) => row.id) }, transaction },
          );
        await markSubjects(db, business.id, rows, transaction);
        const said = {
          kind: 'report-back' as const,
          subject: counted(rows.length, 'report-back', 'report-backs'),
          was: 'held as one',
          became: `${act === 'let_go' ? 'let go' : 'withdrawn'}: ${outcome} to ${account}`,
        };
        await changes.note(business.id, role.personId, [said], transaction);
        return { done: rows.length };
      });
    },
  };
}

function toView(
  brake: BrakeRow,
  causes: Awaited<ReturnType<typeof countCauses>>,
  currency: string,
  { seesPeople, seesMoney }: RoleRow,
): Omit<BrakeView, 'accountName'> {
  return {
    id: brake.id,
    outcome: brake.outcome,
    account: brake.account,
    because: brake.because,
    count: causes.reduce((sum, { n }) => sum + n, 0),
    words: brakeWords(brake, currency, seesMoney),
    since: (brake.because === 'new' ? brake.madeAt : brake.since).toISOString(),
    causes: causes.slice(0, mostCauses).map(({ by, kind, n }) => ({
      words:
        kind !== 'stage'
          ? 'by orders'
          : by === ''
            ? 'by the CRM, without a name'
            : seesPeople
              ? `by ${by}`
              : 'by one person',
      count: n,
    })),
  };
}

function brakeWords({ because, is, usual }: BrakeRow, currency: string, seesMoney: boolean): string {
  const money = (minor: number | string) => (seesMoney ? moneyWords({ minor: Number(minor), currency }) : 'hidden');
  switch (because) {
    case 'count':
      return `${count(Number(is))} came within a day, where usually at most ${count(Number(usual))} do.`;
    case 'worth':
      return `They are worth ${money(is)} together, where a day is usually worth at most ${money(usual)}.`;
    case 'age':
      return `Their clicks were ${count(Number(is))} days old on average, usually at most ${count(Number(usual))}.`;
    case 'new':
      return 'They are the first of it for this account: look whether they are what you meant.';
  }
}
