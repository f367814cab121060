import type { OutcomeRule } from '../outcomes/schema';
import type { Reason } from '../reasons/codes';
import { isAlone, nilId, noOutcome, type EnquiryWayIn, type HopRow, type Strand } from '../strands/types';
import type { Deal } from './deals';
import type { CrmRecord, CrmRule } from './schema';

const hour = 3_600_000;
const day = 24 * hour;

export interface EnquiryState {
  id: string;
  /** ms; for an enquiry without a form hit, when the CRM made its record. */
  sentAt: number;
  strand: Strand;
  /** The form's name, '' without a form hit. */
  form: string;
  /** The hidden field that carried the click ID or source, '' where none did. */
  sentField: string;
  /** The value that the form carried in it. */
  sentValue: string;
  release: number;
  wayIn: EnquiryWayIn;
  /** Of a lead that a platform's own form took; null for every other. */
  sentOn: SentOn | null;
  /** What it was where somebody said that it was no enquiry; '' for every other. */
  wasNone: string;
}

/** A lead of a platform's own form: when (ms) it was fetched there, null where the platform kept it no longer. */
export interface SentOn {
  platform: string;
  keptDays: number;
  fetchedAt: number | null;
}

/**
 * The hops In CRM and Qualified of one enquiry. Form sent → In CRM is lost after 24 hours without a record, and made where
 * one of its records holds the value; it is left there where somebody says that it was no enquiry; a platform's lead was sent and fetched there before. In CRM → Qualified is left when the deal was ended, deleted or merged into another,
 * and lost once the click is too old for the outcome.
 *
 * @param deals in the order of their progress
 * @param outcome the one that is *Qualified*, null where no outcome is
 * @param reachedAt when (ms) it was reached, null while it was not
 * @returns the rows, and when (ms) time alone would change one of them
 */
export function enquiryHops(
  enquiry: EnquiryState,
  deals: readonly Deal[],
  crm: CrmRule | null,
  outcome: OutcomeRule | null,
  reachedAt: number | null,
  now: number,
): { hops: HopRow[]; again: number | null } {
  const common = {
    strand: enquiry.strand.id,
    wayIn: enquiry.wayIn,
    subject: enquiry.id,
    release: enquiry.release,
  } as const;
  const hops: HopRow[] = [
    ...(isAlone(enquiry.strand) ? unknownHops(enquiry) : []),
    ...platformHops(enquiry),
    ...calledHops(enquiry),
    ...importedHops(enquiry),
  ];
  if (enquiry.sentOn?.fetchedAt === null) return { hops, again: null };
  if (enquiry.wasNone !== '') {
    const left = { state: 'left', reason: { code: 'no_enquiry', what: enquiry.wasNone }, evidence: 'none' } as const;
    hops.push({ ...common, outcome: noOutcome, hop: 'in_crm', ...left, at: null });
    return { hops, again: null };
  }
  const [furthest] = deals;
  if (!furthest && !crm) {
    const waiting = { state: 'waiting', reason: { code: 'no_crm' }, evidence: 'none', at: null } as const;
    hops.push({ ...common, outcome: noOutcome, hop: 'in_crm', ...waiting });
    return { hops, again: null };
  }
  if (!furthest) {
    const until = enquiry.sentAt + day;
    const never = until <= now;
    hops.push({
      ...common,
      outcome: noOutcome,
      hop: 'in_crm',
      state: never ? 'lost' : 'waiting',
      reason: { code: never ? 'crm_never' : 'crm_not_yet' },
      evidence: 'none',
      at: null,
    });
    return { hops, again: never ? null : until };
  }
  const faults = deals.map(({ record }) => crmFault(enquiry, record, crm));
  const fault = faults.includes(null) ? null : faults[0]!;
  hops.push({
    ...common,
    outcome: noOutcome,
    hop: 'in_crm',
    state: fault ? 'lost' : 'made_it',
    reason: fault,
    evidence: 'crm_record',
    at: Math.min(...deals.map(({ record }) => record.madeAt)),
  });
  if (!outcome) return { hops, again: null };
  const { state, reason, at, again } = standToward(
    enquiry.strand.kind === 'click' ? enquiry.strand.firstAt : null,
    furthest.record.stage,
    dealEnd(furthest, crm),
    outcome.clickDays,
    reachedAt,
    now,
  );
  hops.push({ ...common, outcome: outcome.code, hop: 'qualified', state, reason, evidence: 'outcome', at });
  return { hops, again };
}

/** The hops of a lead on the platform whose form took it. */
function platformHops({ id, strand, sentAt, sentOn, wayIn, release }: EnquiryState): HopRow[] {
  if (!sentOn) return [];
  const { platform, keptDays, fetchedAt } = sentOn;
  const row = {
    strand: strand.id,
    wayIn,
    subject: id,
    outcome: noOutcome,
    evidence: 'platform_list',
    release,
  } as const;
  return [
    { ...row, hop: 'sent_there', state: 'made_it', reason: null, at: sentAt },
    fetchedAt === null
      ? { ...row, hop: 'fetched', state: 'lost', reason: { code: 'gone_there', platform, days: keptDays }, at: null }
      : { ...row, hop: 'fetched', state: 'made_it', reason: null, at: fetchedAt },
  ];
}

/** The hop of a call: that it came is all that there is to it. */
function calledHops({ id, strand, sentAt, wayIn, release }: EnquiryState): HopRow[] {
  if (wayIn !== 'call') return [];
  const row = { strand: strand.id, wayIn, subject: id, outcome: noOutcome, release } as const;
  return [{ ...row, hop: 'called', state: 'made_it', reason: null, evidence: 'call_list', at: sentAt }];
}

/** The hop of a lead that somebody brought in. */
function importedHops({ id, strand, sentAt, wayIn, release }: EnquiryState): HopRow[] {
  if (wayIn !== 'import') return [];
  const row = { strand: strand.id, wayIn, subject: id, outcome: noOutcome, release } as const;
  return [{ ...row, hop: 'imported', state: 'made_it', reason: null, evidence: 'import_list', at: sentAt }];
}

function unknownHops(enquiry: EnquiryState): HopRow[] {
  const row = {
    strand: enquiry.strand.id,
    outcome: noOutcome,
    state: 'unknown',
    reason: null,
    evidence: 'none',
    at: null,
    release: enquiry.release,
  } as const;
  const before = (['clicked', 'landed', 'kept'] as const).map((hop): HopRow => ({
    ...row,
    hop,
    wayIn: 'none',
    subject: nilId,
  }));
  if (enquiry.wayIn === 'call') return before;
  const form: HopRow = {
    ...row,
    hop: 'form_sent',
    wayIn: 'form',
    subject: enquiry.id,
    ...(enquiry.form ? { state: 'made_it', evidence: 'fill_report', at: enquiry.sentAt } : {}),
  };
  return [...before, form];
}

/** Why the CRM's record does not carry the strand's value; null when it does. */
function crmFault(enquiry: EnquiryState, record: CrmRecord, crm: CrmRule | null): Reason | null {
  const { strand } = enquiry;
  if (isAlone(strand)) return null;
  const [value, wanted] =
    strand.kind === 'click' ? (['click_id', strand.clickId] as const) : (['source', strand.source] as const);
  const read = crm?.fields[value] ?? '';
  const found = record.fields[read] ?? '';
  if (found === wanted) return null;
  if (found !== '') return { code: 'crm_value_changed', read };
  if (enquiry.sentField && enquiry.sentField !== read)
    return { code: 'crm_field_differs', form: enquiry.form, sent: enquiry.sentField, read };
  return { code: 'crm_value_empty', read };
}

/** Why and when (ms) a deal goes on no more; null while it does. */
export type DealEnd = Pick<HopRow, 'reason' | 'at'>;

function dealEnd({ record, goneAt, mergedInto }: Deal, crm: CrmRule | null): DealEnd | null {
  if (goneAt !== null)
    return mergedInto
      ? { reason: { code: 'deal_merged', deal: record.deal, into: mergedInto }, at: goneAt }
      : { reason: { code: 'deal_deleted' }, at: goneAt };
  if (!crm?.stages.ended.includes(record.stage)) return null;
  const moves = record.stageChanges.filter(({ stage }) => stage === record.stage);
  const at = moves.length > 0 ? Math.max(...moves.map((move) => move.at)) : null;
  return { reason: { code: 'disqualified', stage: record.stage }, at };
}

/**
 * How an enquiry that is in the CRM stands toward an outcome. Times in ms.
 *
 * @param clickedAt null without a click, whose age then does not matter
 * @param stage where its deal is
 * @param ended that its deal goes on no more; null while it does
 * @param clickDays how old the click may be
 * @param reachedAt null while it was not reached
 * @returns with when time alone would change it
 */
export function standToward(
  clickedAt: number | null,
  stage: string,
  ended: DealEnd | null,
  clickDays: number,
  reachedAt: number | null,
  now: number,
): Pick<HopRow, 'state' | 'reason' | 'at'> & { again: number | null } {
  const tooOldAt = clickedAt === null ? Infinity : clickedAt + clickDays * day;
  const tooOld = (at: number): Reason => ({
    code: 'click_too_old',
    days: Math.floor((at - clickedAt!) / day),
    limit: clickDays,
  });
  if (reachedAt !== null && reachedAt >= tooOldAt)
    return { state: 'lost', reason: tooOld(reachedAt), at: reachedAt, again: null };
  if (reachedAt !== null) return { state: 'made_it', reason: null, at: reachedAt, again: null };
  if (ended) return { state: 'left', ...ended, again: null };
  if (tooOldAt <= now) return { state: 'lost', reason: tooOld(now), at: null, again: null };
  return {
    state: 'waiting',
    reason: { code: 'not_qualified_yet', stage },
    at: null,
    again: clickedAt === null ? null : tooOldAt,
  };
}
