import type { ArrivedHit } from '../capture/schema';
import type { Reason } from '../reasons/codes';
import { nilId, noOutcome, onward, type HopRow, type Strand } from './types';
import type { DerivedOrder } from './visitor-orders';
import type { DerivedEnquiry } from './visitor';

/** The hops that one arrival proves: Clicked, Landed and Kept. */
export function arrivalHops(strand: Strand, hit: ArrivedHit, at: number): HopRow[] {
  const common = {
    strand: strand.id,
    wayIn: 'none',
    subject: nilId,
    outcome: noOutcome,
    release: hit.release,
  } as const;
  const fault = keptFault(strand, hit);
  return [
    strand.clickId
      ? { ...common, hop: 'clicked', state: 'made_it', reason: null, evidence: 'click_id_arrived', at }
      : { ...common, hop: 'clicked', state: 'unknown', reason: null, evidence: 'none', at: null },
    { ...common, hop: 'landed', state: 'made_it', reason: null, evidence: 'hit', at },
    { ...common, hop: 'kept', state: fault ? 'lost' : 'made_it', reason: fault, evidence: 'cookie_state', at },
  ];
}

/** Why the value was not kept, read from the cookie state that the page reported; null when it was. */
function keptFault(strand: Strand, hit: ArrivedHit): Reason | null {
  if (!hit.kept.works) return { code: 'cookies_blocked' };
  if (strand.kind === 'landing') {
    const { last } = hit.kept;
    if (!last) return { code: 'not_kept' };
    return last.source === strand.source && last.campaign === strand.campaign ? null : { code: 'kept_changed' };
  }
  const ofPlatform = hit.kept.clicks.filter((c) => c.platform === strand.platform);
  if (ofPlatform.some((c) => c.clickId === strand.clickId)) return null;
  return { code: ofPlatform.length > 0 ? 'kept_changed' : 'not_kept' };
}

/** Form sent, from the fill report of the form's hit. */
export function formSentHop(strand: Strand, enquiry: DerivedEnquiry): HopRow {
  const reason = fillFault(strand, enquiry);
  return {
    strand: strand.id,
    wayIn: 'form',
    subject: enquiry.id,
    outcome: noOutcome,
    hop: 'form_sent',
    state: reason ? 'lost' : 'made_it',
    reason,
    evidence: 'fill_report',
    at: enquiry.sentAt,
    release: enquiry.release,
  };
}

/** Why the form did not carry the strand's value, from its fill report; null when it did. */
function fillFault(strand: Strand, { form, fills }: DerivedEnquiry): Reason | null {
  const [reading, wanted] = strand.kind === 'click' ? ['click_id', strand.clickId] : ['last_source', strand.source];
  const lines = fills.filter((line) => line.reading === reading);
  if (lines.some((line) => line.state === 'filled' && line.value === wanted)) return null;
  const near = lines.find((line) => line.state === 'near');
  if (near) return { code: 'form_field_near', form, field: near.field, near: near.near };
  const missing = lines.find((line) => line.state === 'not_found');
  if (missing) return { code: 'form_field_missing', form, field: missing.field };
  if (lines[0]) return { code: 'form_value_differs', form, field: lines[0].field };
  return { code: 'form_no_rule', form };
}

/** Ordered, from the page that said the order. */
export const orderedHop = (strand: Strand, order: Pick<DerivedOrder, 'id' | 'at' | 'release'>): HopRow => ({
  strand: strand.id,
  wayIn: 'order',
  subject: order.id,
  outcome: noOutcome,
  hop: 'ordered',
  state: 'made_it',
  reason: null,
  evidence: 'hit',
  at: order.at,
  release: order.release,
});

/** What became of a strand of which nothing came in: waiting while its visit goes on, left once it is over. */
export function onwardHop(strand: Strand, release: number, ended: boolean): HopRow {
  return {
    strand: strand.id,
    wayIn: 'none',
    subject: nilId,
    outcome: noOutcome,
    hop: onward,
    state: ended ? 'left' : 'waiting',
    reason: { code: ended ? 'visit_ended' : 'visit_running' },
    evidence: 'hit',
    at: null,
    release,
  };
}
