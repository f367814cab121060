import { campaignValues, decodePart, splitAddress, splitReferrer } from '../capture';
import type { FillReport, Hit, Reading } from '../capture/schema';
import { followedValues, type CrmRecord, type CrmRule, type FollowedValue } from '../leads/schema';
import { hops, type Hop, type Strand } from './types';

/** How a value stands at a hop. `how` says in words what changed. */
export interface TracedValue {
  state: 'first' | 'same' | 'changed' | 'empty' | 'not_seen' | 'none';
  value: string;
  how: string;
}

export interface TraceRow {
  value: FollowedValue;
  cells: Record<Hop, TracedValue>;
}

export interface TraceInput {
  strand: Strand;
  /** The hit that brought the strand, null for an enquiry without one. */
  arrival: Hit | null;
  /** The newest hit up to the sending, whose cookie state was in force. */
  keptHit: Hit | null;
  fills: FillReport[] | null;
  record: CrmRecord | null;
  crm: CrmRule;
  /** The click ID the platform was told, '' while none was. */
  toldClickId: string;
  confirmed: boolean;
  utmLowerCase: boolean;
}

const readings: Record<FollowedValue, Reading> = {
  click_id: 'click_id',
  source: 'last_source',
  medium: 'last_medium',
  campaign: 'last_campaign',
  content: 'last_content',
  first_referrer: 'first_referrer',
};

/**
 * The values of one strand or enquiry at each hop, compared with the hop before where they were last seen. Only the
 * click ID goes on to the platform; the other values end at the CRM.
 */
export function traceValues(input: TraceInput): TraceRow[] {
  return followedValues
    .map((value) => ({ value, cells: traceOne(value, input) }))
    .filter((row) => hops.some((hop) => row.cells[hop].value !== ''));
}

function traceOne(value: FollowedValue, input: TraceInput): Record<Hop, TracedValue> {
  const landed = landedValue(value, input);
  const seen: Record<Hop, string | null> = {
    clicked: input.strand.clickId && value !== 'first_referrer' ? landed : null,
    landed,
    kept: keptValue(value, input),
    form_sent: sentValue(value, input.fills),
    in_crm: crmValue(value, input),
    qualified: null,
    told: value === 'click_id' && input.toldClickId ? input.toldClickId : null,
    confirmed: value === 'click_id' && input.confirmed ? input.toldClickId : null,
  };
  const cells = {} as Record<Hop, TracedValue>;
  let before: string | null = null;
  for (const hop of hops) {
    cells[hop] = compare(before, seen[hop]);
    if (seen[hop]) before = seen[hop];
  }
  return cells;
}

function compare(before: string | null, now: string | null): TracedValue {
  if (now === null) return { state: 'not_seen', value: '', how: '' };
  if (now === '') return { state: before ? 'empty' : 'none', value: '', how: '' };
  if (before === null) return { state: 'first', value: now, how: '' };
  if (before === now) return { state: 'same', value: now, how: '' };
  return { state: 'changed', value: now, how: howChanged(before, now) };
}

/** What happened to a value between two hops, as far as the two values show it. */
export function howChanged(before: string, now: string): string {
  if (before.startsWith(now)) return `cut at ${now.length} characters`;
  if (before.toLowerCase() === now.toLowerCase()) return 'upper and lower case changed';
  if (decodePart(before) === decodePart(now)) return 'encoded differently';
  return 'another value';
}

function landedValue(value: FollowedValue, { arrival, strand, utmLowerCase, keptHit }: TraceInput): string | null {
  if (!arrival) return null;
  if (value === 'click_id') return strand.clickId;
  if (value === 'first_referrer') {
    const from = splitReferrer(arrival.referrer);
    return (keptHit ?? arrival).kept.first?.referrer || (from ? from.host + from.path : '');
  }
  const address = splitAddress(arrival.address);
  return address ? campaignValues(address, utmLowerCase)[value] || strand[value] : null;
}

function keptValue(value: FollowedValue, { strand, keptHit }: TraceInput): string | null {
  if (!keptHit) return null;
  const { kept } = keptHit;
  if (value === 'click_id')
    return strand.clickId ? (kept.clicks.findLast((c) => c.platform === strand.platform)?.clickId ?? '') : null;
  if (value === 'first_referrer') return kept.first?.referrer ?? '';
  return kept.last?.[value] ?? '';
}

/** What the CRM's record holds; null without a record, or where no CRM field is meant for this value. */
function crmValue(value: FollowedValue, { record, crm }: TraceInput): string | null {
  const field = crm.fields[value];
  return record && field ? (record.fields[field] ?? '') : null;
}

function sentValue(value: FollowedValue, fills: FillReport[] | null): string | null {
  if (!fills) return null;
  const lines = fills.filter((line) => line.reading === readings[value]);
  if (lines.length === 0) return null;
  return lines.find((line) => line.state === 'filled' || line.state === 'had_value')?.value ?? '';
}
