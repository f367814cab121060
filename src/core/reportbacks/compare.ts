import type { WireRule } from '../events/schema';
import type { TellingRule } from '../outcomes/schema';

/** What told to which account is compared with what another way told: an outcome by its code, or an event by its name. */
export const comparedKey = ({ outcome, account }: Pick<TellingRule, 'outcome' | 'account'>): string =>
  `${outcome} ${account}`;

/** How a telling or a wire says that an account is told. */
type ToldHow = Pick<TellingRule | WireRule, 'how' | 'from'>;

/** Whether a telling or a wire is, or was until a stated moment, only worked out. */
export const isCompared = ({ how, from }: ToldHow): boolean => how === 'worked out' || from !== '';

/** Whether what happened then is worked out and told to nobody: another way of telling tells it. @param happenedAt ms */
export const isOnlyWorkedOut = ({ how, from }: ToldHow, happenedAt: number): boolean =>
  how === 'worked out' || (from !== '' && happenedAt < Date.parse(from));

/** One conversion as one of the two ways tells it. `at` in ms, `minor` in minor units; an event has no currency. */
export interface ToldRow {
  id: string;
  clickId: string;
  at: number;
  minor: number;
  currency: string;
}

/** A conversion that both ways tell alike, that they tell otherwise, or that one of them tells alone. */
export type Compared =
  | { kind: 'same' | 'worth'; ours: ToldRow; old: ToldRow }
  | { kind: 'only ours'; ours: ToldRow; old: null }
  | { kind: 'only old'; ours: null; old: ToldRow };

/**
 * What two ways of telling have in common. A row belongs to the row of the other way with the same click; of several of one
 * click, the first to the first, in the order of time. Each row is in exactly one pair.
 */
export function compareTold(ours: readonly ToldRow[], old: readonly ToldRow[]): Compared[] {
  const byTime = (rows: readonly ToldRow[]) => [...rows].sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1));
  const waiting = new Map<string, ToldRow[]>();
  for (const row of byTime(old)) waiting.set(row.clickId, [...(waiting.get(row.clickId) ?? []), row]);
  const pairs = byTime(ours).map((row): Compared => {
    const twin = waiting.get(row.clickId)?.shift();
    if (!twin) return { kind: 'only ours', ours: row, old: null };
    // An event has no worth of its own.
    const isSame = row.currency === '' || (twin.minor === row.minor && twin.currency === row.currency);
    return { kind: isSame ? 'same' : 'worth', ours: row, old: twin };
  });
  const left = [...waiting.values()].flat();
  return [...pairs, ...left.map((row): Compared => ({ kind: 'only old', ours: null, old: row }))].sort(
    (a, b) => timeOf(b) - timeOf(a),
  );
}

/** When (ms) what is compared happened, as we know it where we do. */
export const timeOf = ({ ours, old }: Compared): number => (ours ?? old!).at;

/** What two ways tell of one day, each pair on the day of its time. */
export interface ComparedDay {
  day: string;
  ours: number;
  old: number;
  same: number;
}

/** @param dayOf the day of an instant (ms) in the account's zone */
export function compareDays(compared: readonly Compared[], dayOf: (at: number) => string): ComparedDay[] {
  const days = new Map<string, ComparedDay>();
  for (const one of compared) {
    const day = dayOf(timeOf(one));
    const known = days.get(day) ?? { day, ours: 0, old: 0, same: 0 };
    days.set(day, {
      day,
      ours: known.ours + (one.ours ? 1 : 0),
      old: known.old + (one.old ? 1 : 0),
      same: known.same + (one.kind === 'same' ? 1 : 0),
    });
  }
  return [...days.values()].sort((a, b) => (a.day < b.day ? 1 : -1));
}

/**
 * The days of a platform's own report beside ours, the newest first; what it counts on a day and Avrix told is left out.
 *
 * @param ours how many Avrix would tell, by day
 * @param booked how many of those that Avrix told the platform booked, by day
 */
export function reportedDays(
  report: readonly { day: string; counted: number }[],
  ours: ReadonlyMap<string, number>,
  booked: ReadonlyMap<string, number>,
): ComparedDay[] {
  const counts = new Map(report.map(({ day, counted }) => [day, counted]));
  return [...new Set([...counts.keys(), ...ours.keys()])]
    .map((day) => {
      const [mine, theirs] = [ours.get(day) ?? 0, Math.max(0, (counts.get(day) ?? 0) - (booked.get(day) ?? 0))];
      return { day, ours: mine, old: theirs, same: Math.min(mine, theirs) };
    })
    .filter(({ ours: mine, old }) => mine + old > 0)
    .sort((a, b) => (a.day < b.day ? 1 : -1));
}

/** How many there are on each day. @param times how many at a time, on its day */
export function timesByDay(times: readonly { day: string; times: number }[]): Map<string, number> {
  const days = new Map<string, number>();
  for (const one of times) days.set(one.day, (days.get(one.day) ?? 0) + one.times);
  return days;
}

/** All days together. */
export const sumsOf = (days: readonly ComparedDay[]): Omit<ComparedDay, 'day'> =>
  days.reduce((sum, one) => ({ ours: sum.ours + one.ours, old: sum.old + one.old, same: sum.same + one.same }), {
    ours: 0,
    old: 0,
    same: 0,
  });
