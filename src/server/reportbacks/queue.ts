import { leftAlone, reportBackActs, type LeftAlone } from '../../core/reportbacks/acts';
import {
  mostAtOnce,
  queueListSchema,
  type QueueListQuery,
  type ReportBackActGiven,
} from '../../core/reportbacks/queue-schema';
import type {
  ActedView,
  BrakeView,
  OpenConversion,
  QueueGroup,
  QueueRow,
  QueueView,
  ReportBackDetail,
} from '../../core/reportbacks/queue-view';
import { AvrixError } from '../../core/errors';
import { mayChange } from '../../core/people/rights';
import type { Reason } from '../../core/reasons/codes';
import { maskedKey, maskedRequest } from './masked';
import { reasonWords, stoppedWords } from '../../core/reasons/words';
import { count, counted, type Sentence } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, type BusinessRow, type RoleRow } from '../db';
import { called, erasedName, nameless } from '../leads/called';
import { inParts, mostInFile, pageSize } from '../lists';
import type { Membership } from '../people/people';
import type { Changes } from '../changes/changes';
import { requireEditor } from '../releases/draft';
import { worthNow } from '../outcomes/worth-now';
import { moneyWords } from '../strands/trace-events';
import { carryOutAct } from './act';
import { readConversions, toldWorth } from './open-form';
import type { HeldAsOne } from './held-as-one';
import {
  countQueue,
  countReasons,
  countStates,
  findQueue,
  readBeingTold,
  readQueue,
  readQueueChoices,
  type QueueQueryRow,
} from './queue-queries';

/** The queue of report-backs: what waits, is held, told or refused, why, and what people do about it. */
export function makeQueue(context: Context, changes: Changes, heldAsOne: HeldAsOne) {
  const { db, tables } = context;

  async function readNames(businessId: string): Promise<(account: string) => string> {
    const accounts = plain(await tables.accounts.findAll({ attributes: ['key', 'name'], where: { businessId } }));
    const names = new Map(accounts.map(({ key, name }) => [key, name]));
    return (key) => names.get(key) ?? key;
  }

  return {
    async page({ business, role }: Membership, query: QueueListQuery): Promise<QueueView> {
      const part = { limit: pageSize, offset: (query.page - 1) * pageSize };
      const [ids, total, states, reasons, choices, nameOf, brakes] = await Promise.all([
        findQueue(db, business.id, query, role.seesPeople, part),
        countQueue(db, business.id, query, role.seesPeople),
        countStates(db, business.id),
        countReasons(db, business.id),
        readQueueChoices(db, business.id),
        readNames(business.id),
        heldAsOne.view(business, role),
      ]);
      const rows = await readQueue(db, business.id, ids);
      const groups = reasons.flatMap(({ state, reason, n }): QueueGroup[] =>
        reason ? [{ state, code: reason.code, words: stoppedWords(reason), count: n, fixedAt: fixedAt(reason) }] : [],
      );
      const ofState = Object.fromEntries(states.map(({ state, n }) => [state, n]));
      return {
        sentence: queueSentence(ofState, groups, brakes),
        brakes: brakes.map((brake) => ({ ...brake, accountName: nameOf(brake.account) })),
        rows: rows.map((row) => toRow(row, role, nameOf)),
        total,
        pageSize,
        timeZone: business.timeZone,
        states: ofState,
        groups,
        outcomes: choices.codes,
        accounts: choices.accounts.map(({ account }) => ({ key: account, name: nameOf(account) })),
        mayChange: mayChange(role),
        seesMoney: role.seesMoney,
      };
    },

    /** All rows of the list, in its order, part by part. */
    async *all(business: BusinessRow, role: RoleRow, query: QueueListQuery): AsyncGenerator<QueueRow[]> {
      const nameOf = await readNames(business.id);
      const ids = await findQueue(db, business.id, query, role.seesPeople, { limit: mostInFile });
      yield* inParts(ids, async (part) =>
        (await readQueue(db, business.id, part)).map((row) => toRow(row, role, nameOf)),
      );
    },

    /** The same in the open form of offline conversions; those that no click is told of are left out. */
    conversions({ business, role }: Membership, query: QueueListQuery): AsyncGenerator<OpenConversion[]> {
      // Before anything of the answer is on its way.
      if (!role.seesMoney) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'see money' });
      return readConversions(db, business.id, query, role);
    },

    /** One report-back with every attempt, what was sent and answered, keys masked. @throws AVX_NOT_FOUND */
    async one({ business, role }: Membership, id: string): Promise<ReportBackDetail> {
      const [[row], nameOf] = await Promise.all([readQueue(db, business.id, [id]), readNames(business.id)]);
      if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'report-back' });
      const attempts = plain(
        await tables.attempts.findAll({
          where: { businessId: business.id, reportBackId: id },
          order: [['startedAt', 'ASC']],
          limit: 200,
        }),
      );
      const asked = { ...toActedOn(row), isBeingTold: attempts.at(-1)?.status === 'no answer yet' };
      const shown = toRow(row, role, nameOf);
      return {
        ...shown,
        sentence: rowSentence(shown),
        trace: traceOf(row),
        mend: row.reason ? reasonWords(row.reason).mend : '',
        facts: [
          { name: 'Outcome', value: `${row.code}, version ${row.version}`, mono: true },
          { name: 'Told as', value: row.toldAs, mono: true },
          { name: 'Known there by', value: maskedKey(row.keyKind, row.keyValue), mono: row.keyValue !== '' },
          ...(shown.worth ? worthFacts(row, shown.worth, nameOf(row.account)) : []),
          ...(row.bookedOn ? [{ name: 'Booked on', value: row.bookedOn, mono: true }] : []),
        ],
        attempts: attempts.map(({ startedAt, status, answer, sent }) => ({
          at: startedAt.toISOString(),
          status,
          answer,
          request: maskedRequest(sent, row.keyValue),
        })),
        acts: mayChange(role) ? reportBackActs.filter((act) => leftAlone(act, asked, nowMs()) === null) : [],
        isUnsure: row.state === 'unsure',
        timeZone: business.timeZone,
        mayChange: mayChange(role),
      };
    },

    /**
     * Does something with report-backs, or says what would be done.
     * @throws AVX_ROLE_TOO_SMALL
     */
    async act(membership: Membership, byName: string, given: ReportBackActGiven): Promise<ActedView> {
      requireEditor(membership);
      const { business, role } = membership;
      const listed = given.list && queueListSchema.parse(given.list);
      const ids = listed
        ? await findQueue(db, business.id, listed, role.seesPeople, { limit: mostAtOnce })
        : [...new Set(given.ids)].sort();
      if (ids.length === 0) return { done: 0, left: [] };
      return inTransaction(db, async (transaction) => {
        const rows = plain(
          await tables.reportBacks.findAll({
            where: { businessId: business.id, id: ids },
            order: [['id', 'ASC']],
            transaction,
            ...(given.isTried ? {} : { lock: transaction.LOCK.UPDATE }),
          }),
        );
        const beingTold = await readBeingTold(db, business.id, ids, transaction);
        const left = new Map<LeftAlone, number>();
        const acted = rows.filter((row) => {
          const asked = { ...toActedOn(row), isBeingTold: beingTold.has(row.id) };
          const because = leftAlone(given.act, asked, nowMs());
          if (because !== null) left.set(because, (left.get(because) ?? 0) + 1);
          return because === null;
        });
        if (!given.isTried && acted.length > 0) {
          await carryOutAct(context, given.act, byName, acted, transaction);
          await changes.note(business.id, role.personId, [changeOf(given.act, acted)], transaction);
        }
        return { done: acted.length, left: [...left].map(([because, n]) => ({ because, count: n })) };
      });
    },
  };
}

/** Where the trace of what a report-back is of is shown, within the business; '' where there is none. */
function traceOf({ subjectKind, subjectId, boughtStrands }: QueueQueryRow): string {
  if (subjectKind === 'enquiry') return `/leads/${subjectId}`;
  return boughtStrands?.[0] ? `/strands/${boughtStrands[0]}?way=${subjectKind}&of=${subjectId}` : '';
}

const toActedOn = ({
  state,
  stoppedBy,
  reason,
  dueAt,
}: Pick<QueueQueryRow, 'state' | 'stoppedBy' | 'reason' | 'dueAt'>) => ({
  state,
  stoppedBy,
  isSame: reason?.code === 'probably_same',
  dueAt: dueAt?.getTime() ?? null,
});

function toRow(row: QueueQueryRow, { seesPeople, seesMoney }: RoleRow, nameOf: (account: string) => string): QueueRow {
  const lead = row.erasedAt ? erasedName : called(row, seesPeople, nameless(row.wayIn ?? undefined));
  return {
    id: row.id,
    words: row.subjectKind === 'enquiry' ? lead : `${row.subjectKind} ${row.boughtNumber ?? ''}`.trim(),
    outcome: row.code,
    correction: row.correction,
    account: nameOf(row.account),
    state: row.state,
    why: row.reason ? stoppedWords(row.reason).text : '',
    happenedAt: row.happenedAt.toISOString(),
    dueAt: row.dueAt?.toISOString() ?? null,
    worth: seesMoney ? moneyWords({ minor: toldWorth(row), currency: row.currency }) : '',
  };
}

/** What it is worth, and what stands at the platform where that is something else. */
function worthFacts(row: QueueQueryRow, worth: string, account: string): ReportBackDetail['facts'] {
  const now = moneyWords(worthNow(row));
  return [
    { name: row.correction > 0 ? 'Worth from now on' : 'Worth', value: worth, mono: false },
    ...(row.correction === 0 && row.correctedMinor !== null ? [{ name: `Now worth`, value: now, mono: false }] : []),
    ...(row.hasMinor !== null && row.correction > 0
      ? [
          {
            name: `${account} has it with`,
            value: moneyWords({ minor: Number(row.hasMinor), currency: row.currency }),
            mono: false,
          },
        ]
      : []),
  ];
}

/** Where a reason is fixed in Avrix; '' where it is not. */
function fixedAt({ code }: Reason): string {
  if (code === 'no_click_in_crm') return '/leads/repair';
  if (code === 'no_account' || code === 'account_off') return '/connections';
  return code === 'click_too_old' || code === 'told_too_late' ? '/report-backs' : '';
}

const changeOf = (act: ReportBackActGiven['act'], rows: { toldAs: string; account: string }[]) => ({
  kind: 'report-back' as const,
  subject: counted(rows.length, 'report-back', 'report-backs'),
  was: '',
  became: `${actWords[act]}: ${[...new Set(rows.map(({ toldAs, account }) => `${toldAs} to ${account}`))].join(', ')}`,
});
const actWords: Record<ReportBackActGiven['act'], string> = {
  hold: 'held',
  let_go: 'let go',
  tell_now: 'told at once',
  withdraw: 'withdrawn',
  tell_again: 'told again',
};

function queueSentence(
  states: Partial<Record<string, number>>,
  groups: QueueGroup[],
  brakes: Omit<BrakeView, 'accountName'>[],
): Sentence {
  const of = (state: string) => states[state] ?? 0;
  const all = Object.values(states).reduce<number>((sum, n) => sum + (n ?? 0), 0);
  if (all === 0)
    return {
      title: 'Nothing has been told to a platform yet.',
      under: 'Once an outcome is counted that an account is told of, it waits here until it is due.',
    };
  const [brake] = brakes;
  if (brake)
    return {
      title: `${counted(brake.count, 'report-back', 'report-backs')} of ${brake.outcome} ${brake.count === 1 ? 'waits' : 'wait'} for a look.`,
      under: `${brake.words} Let all go, or withdraw them.`,
    };
  const told = of('told') + of('confirmed');
  const [worst] = groups;
  const stopped = [
    ...(of('held') > 0 ? [counted(of('held'), 'is held', 'are held')] : []),
    ...(of('refused') > 0 ? [`${count(of('refused'))} refused`] : []),
    ...(of('unsure') > 0 ? [`${count(of('unsure'))} unsure`] : []),
  ];
  return {
    title:
      stopped.length === 0
        ? `${count(told)} told, ${count(of('waiting'))} waiting, none held or refused.`
        : `${stopped.join(', ')}; ${count(told)} told.`,
    under: worst
      ? `Most often: ${worst.words.text.charAt(0).toLowerCase()}${worst.words.text.slice(1)}. ${worst.words.mend}`
      : 'Each goes on by itself once it is due.',
  };
}

const rowSentence = ({ words, outcome, correction, account, state, why }: QueueRow): Sentence => {
  const what = `${correction > 0 ? 'the correction of ' : ''}${outcome} of ${words}`;
  const upper = what.charAt(0).toUpperCase() + what.slice(1);
  const titles: Record<QueueRow['state'], string> = {
    waiting: `${upper} waits to be told to ${account}.`,
    held: `${upper} is held back from ${account}.`,
    told: `${account} took ${what}.`,
    unsure: `${account} may have taken ${what}.`,
    confirmed: `${account} has ${what}.`,
    refused: `${account} refused ${what}.`,
    withdrawn: `${upper} is not told to ${account}.`,
  };
  const unders: Partial<typeof titles> = {
    told: 'It is not in the platform’s own report yet.',
    confirmed: correction > 0 ? 'It has the new worth.' : 'It was taken, and nothing it reports says otherwise.',
  };
  return { title: titles[state], under: why ? `${why}.` : (unders[state] ?? '') };
};
