import { z } from 'zod';
import { account, changeWithinDays, clickDays, rowsPerBatch, tellWithinDays } from './account';
import type { Clicks } from './clicks';
import { dayIn, isoNow, nowMs } from '../shared/clock';
import type { Rows, Store } from '../shared/store';

const day = 86_400_000;

export const batchSchema = z.strictObject({
  rows: z
    .array(
      z
        .strictObject({
          visit_key: z.string().min(1).max(120).optional(),
          mail_hash: z
            .string()
            .regex(/^[0-9a-f]{64}$/, 'must be 64 hexadecimal digits')
            .optional(),
          outcome: z.string().min(1).max(40),
          happened_at: z.iso.datetime({ offset: true }),
          worth: z.number().min(0).max(10_000_000),
          currency: z.string().regex(/^[A-Z]{3}$/),
          order: z.string().min(1).max(80),
        })
        .refine(
          ({ visit_key, mail_hash }) => (visit_key === undefined) !== (mail_hash === undefined),
          'must have a visit_key or a mail_hash, and not both',
        ),
    )
    .min(1)
    .max(rowsPerBatch),
});
type Row = z.infer<typeof batchSchema>['rows'][number];

export const changesSchema = z.strictObject({
  rows: z
    .array(z.strictObject({ order: z.string().min(1).max(80), worth: z.number().min(0).max(10_000_000) }))
    .min(1)
    .max(rowsPerBatch),
});
type Change = z.infer<typeof changesSchema>['rows'][number];

export interface TakenOutcome {
  /** The order, by which a repeat is recognised. */
  id: string;
  outcome: string;
  visit_key: string;
  /** Where it was told by a mail address in place of a click. */
  mail_hash?: string | undefined;
  happened_at: string;
  worth: number;
  currency: string;
  taken_at: string;
  /** Click day in the account's zone. */
  day: string;
  /** When its worth was last changed; missing where it never was. */
  changed_at?: string;
}
interface KnownOutcome {
  id: string;
  made_at: string;
}
export interface Call {
  id: string;
  at: string;
  rows: number;
  answers: Record<string, number>;
}
export type Intake = ReturnType<typeof makeIntake>;

/** Takes outcomes that advertisers tell, row by row, and reports them by its own rules. */
export function makeIntake(store: Store, clicks: Clicks) {
  const taken: Rows<TakenOutcome> = store.rows('outcomes');
  const known: Rows<KnownOutcome> = store.rows('known outcomes');
  const settings: Rows<{ id: string; hours: number }> = store.rows('settings');
  const habits: Rows<{ id: string; forgets: boolean }> = store.rows('habits');
  const calls: Rows<Call> = store.rows('calls');

  const waitHours = () => settings.get('wait')?.hours ?? 3;

  const forgetsRepeats = () => habits.get('repeats')?.forgets ?? false;

  /** @param isTest true to store nothing */
  function answer(row: Row, isTest: boolean): { answer: string; day?: string } {
    const before = forgetsRepeats() ? undefined : taken.get(row.order);
    if (before) return { answer: 'told before', day: before.day };
    if (!known.get(row.outcome)) return { answer: 'no such outcome' };
    const happenedAt = Date.parse(row.happened_at);
    const click =
      row.mail_hash === undefined ? clicks.get(row.visit_key ?? '') : clicks.ofPerson(row.mail_hash, happenedAt);
    if (!click) return { answer: 'no such click' };
    const clickedAt = Date.parse(click.at);
    if (happenedAt < clickedAt) return { answer: 'happened before the click' };
    if (happenedAt - clickedAt > clickDays * day) return { answer: 'click too old' };
    if (nowMs() - happenedAt > tellWithinDays * day) return { answer: 'told too late' };
    const { order, ...rest } = row;
    const bookedOn = dayIn(account.timeZone, clickedAt);
    const id = taken.get(order) ? `${order}, again at ${taken.all().length}` : order;
    if (!isTest) taken.put({ ...rest, visit_key: click.id, id, taken_at: isoNow(), day: bookedOn });
    return { answer: 'taken', day: bookedOn };
  }

  /** Sets the worth of every row that was taken under an order. */
  function change({ order, worth }: Change): string {
    const rows = taken.all().filter(({ id }) => id === order || id.startsWith(`${order}, again at `));
    if (rows.length === 0) return 'no such order';
    if (nowMs() - Date.parse(rows[0]!.taken_at) > changeWithinDays * day) return 'changed too late';
    for (const row of rows) taken.put({ ...row, worth, changed_at: isoNow() });
    return 'changed';
  }

  function note(answers: { answer: string }[]): void {
    const count: Record<string, number> = {};
    for (const { answer } of answers) count[answer] = (count[answer] ?? 0) + 1;
    calls.put({ id: `call ${calls.all().length + 1}`, at: isoNow(), rows: answers.length, answers: count });
  }

  return {
    waitHours,
    forgetsRepeats,
    /** While it forgets repeats, a row that is told again is taken again. */
    forgetRepeats: (forgets: boolean) => habits.put({ id: 'repeats', forgets }),
    setWait: (hours: number) => settings.put({ id: 'wait', hours }),
    makeOutcome: (code: string) => (known.get(code) ? undefined : known.put({ id: code, made_at: isoNow() })),
    outcomes: () => known.all(),
    newest: (count: number) => taken.all().slice(-count).reverse(),
    newestCalls: (count: number) => calls.all().slice(-count).reverse(),

    /**
     * @param choosy true to refuse every third row, as if its click were unknown
     * @param isTest true to answer as always and to count nothing
     */
    take(rows: Row[], choosy = false, isTest = false) {
      const answers = rows.map((row, i) => ({
        order: row.order,
        ...(choosy && i % 3 === 2 ? { answer: 'no such click' } : answer(row, isTest)),
      }));
      if (!isTest) note(answers);
      return answers;
    },

    /** @param choosy true to refuse every third row, as if its order were unknown */
    change(rows: Change[], choosy = false) {
      const answers = rows.map((row, i) => ({
        order: row.order,
        answer: choosy && i % 3 === 2 ? 'no such order' : change(row),
      }));
      note(answers);
      return answers;
    },

    /** Outcomes counted by click day, for days between `from` and `to`. A new outcome counts only after its wait. */
    report(from: string, to: string, replaying: boolean) {
      const counting = (code: string) => {
        const madeAt = Date.parse(known.get(code)?.made_at ?? isoNow());
        return replaying || nowMs() - madeAt >= waitHours() * 3_600_000;
      };
      const groups = new Map<
        string,
        { day: string; outcome: string; counted: number; worth: Record<string, number> }
      >();
      for (const row of taken.all()) {
        if (row.day < from || row.day > to || !counting(row.outcome)) continue;
        const key = `${row.day} ${row.outcome}`;
        const group = groups.get(key) ?? { day: row.day, outcome: row.outcome, counted: 0, worth: {} };
        group.worth[row.currency] = Math.round(((group.worth[row.currency] ?? 0) + row.worth) * 100) / 100;
        groups.set(key, { ...group, counted: group.counted + 1 });
      }
      return [...groups.values()].sort((a, b) => b.day.localeCompare(a.day));
    },
  };
}
