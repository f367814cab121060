import type { Reason } from '../reasons/codes';
import type { HopRow, HopState } from '../strands/types';
import type { ReportBackState } from './decide';

/** What Told and Confirmed need to know of a report-back. Times in ms. */
export interface ReportBackView {
  state: ReportBackState;
  reason: Reason | null;
  platform: string;
  answeredAt: number | null;
  confirmedAt: number | null;
  /** False where the platform has no report, so that its answer is all that confirms a row. */
  hasReport: boolean;
}

type Told = Pick<HopRow, 'state' | 'reason' | 'evidence' | 'at'>;

/**
 * The hops Told and Confirmed of one counted outcome. Told: an attempt that the platform answered. Confirmed: the row
 * was taken and the platform's own report holds it; where it has none, that it was taken. Without any platform to tell, the
 * strand stops quietly.
 */
export function tellingHops(
  key: Pick<HopRow, 'strand' | 'wayIn' | 'subject' | 'outcome' | 'release'>,
  reportBacks: ReportBackView[],
): HopRow[] {
  const row = (hop: 'told' | 'confirmed', rest: Told): HopRow => ({ ...key, hop, ...rest });
  // What somebody took out is told by another, or by none.
  const first = reportBacks.find(({ state }) => state !== 'withdrawn') ?? reportBacks[0];
  if (!first)
    return [row('told', { state: 'left', reason: { code: 'no_platform_to_tell' }, evidence: 'none', at: null })];
  const answered = reportBacks.filter((r) => r.answeredAt !== null && r.state !== 'withdrawn');
  if (answered.length === 0) {
    const state: HopState =
      first.state === 'withdrawn' ? 'left' : first.state === 'held' ? heldState(first.reason) : 'waiting';
    return [row('told', { state, reason: first.reason ?? { code: 'not_due' }, evidence: 'none', at: null })];
  }
  const told = row('told', {
    state: 'made_it',
    reason: null,
    evidence: 'answer',
    at: Math.min(...answered.map((r) => r.answeredAt!)),
  });
  // Where there is no report that could confirm it, that it was taken is enough.
  const confirmed = answered.find((r) => r.state === 'confirmed' || (r.state === 'told' && !r.hasReport));
  if (confirmed)
    return [
      told,
      row('confirmed', {
        state: 'made_it',
        reason: null,
        evidence: confirmed.hasReport ? 'platform_report' : 'answer',
        at: confirmed.confirmedAt ?? confirmed.answeredAt,
      }),
    ];
  const refused = answered.every((r) => r.state === 'refused');
  return [
    told,
    row('confirmed', {
      state: refused ? 'lost' : 'waiting',
      reason: refused ? answered[0]!.reason : { code: 'not_in_report', platform: answered[0]!.platform },
      evidence: refused ? 'answer' : 'platform_report',
      at: null,
    }),
  ];
}

/** A report-back held for its age can never be told: that is a loss. Any other one waits for its mend. */
function heldState(reason: Reason | null): HopState {
  return reason?.code === 'click_too_old' || reason?.code === 'told_too_late' ? 'lost' : 'waiting';
}

/** Rows taken, or perhaps taken, by the click day the platform books them on. */
export interface TakenRow {
  id: string;
  outcome: string;
  day: string;
  confirmed: boolean;
  /** No answer came for it. */
  unsure: boolean;
}

/**
 * Which taken rows the platform's report confirms: all of an outcome and click day, once the report holds at least as
 * many as were taken; where it holds fewer, all of that day's rows go on waiting. Rows that are unsure are confirmed
 * only where the report holds enough for them as well.
 *
 * @returns IDs of the rows to confirm
 */
export function confirmedBy(taken: TakenRow[], report: { day: string; outcome: string; counted: number }[]): string[] {
  const counted = new Map(report.map((r) => [`${r.day} ${r.outcome}`, r.counted]));
  const groups = new Map<string, TakenRow[]>();
  for (const row of taken) {
    const key = `${row.day} ${row.outcome}`;
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return [...groups].flatMap(([key, rows]) => {
    const held = counted.get(key) ?? 0;
    const certain = rows.filter((row) => !row.unsure);
    const covered = held >= rows.length ? rows : held >= certain.length ? certain : [];
    return covered.filter((row) => !row.confirmed).map((row) => row.id);
  });
}
